"""What was scheduled, beside the engine, while hands are at work: every note at its tick, none missing, none twice.

On a stepped clock, faster than it sounds, and on the audio clock. Tests play a while of it, timings an hour.
"""

import bisect
from collections import Counter
from math import ceil
from typing import Any

from demo.pieces import PIECES
from playwright.sync_api import Request

from lattice.document import Pattern, Piece, Score, read, score_of
from lattice.order.rows import row_score, stands
from lattice.render import Window, render
from tests.browser.conftest import Musician

__all__ = ["QUARTER", "WITHIN_MS", "order_stepped", "played_by_hand", "stepped"]

QUARTER = 13440
WITHIN_MS = 0.1
# From a hand to its first note: the engine's answer, what was committed ahead, and one look of the player.
HORIZON_SECONDS = 0.25

Note = tuple[str, int, int, int]


def _named(name: str) -> Piece:
    return next(piece for piece in PIECES if piece.name == name)


def _slack_water(tempo: float) -> tuple[Score, int]:
    piece = _named("Slack Water")
    pattern: Pattern = piece.patterns[0]
    return score_of(piece, pattern).model_copy(update={"tempo": tempo}), pattern.dice


def _expected(score: Score, dice: int, first_tick: int, end_tick: int) -> Counter[Note]:
    """Return the notes that begin from *first_tick* to before *end_tick*: lane, start, pitch, velocity."""
    bar = score.meter.bar_ticks
    first, end = first_tick // bar, -(-end_tick // bar)
    events = render(score, dice, Window(first_bar=first, bars=max(1, end - first)))
    rows = zip(
        events.lanes.tolist(),
        events.starts.tolist(),
        events.pitches.tolist(),
        events.velocities.tolist(),
        strict=True,
    )
    return Counter(
        (score.lanes[lane].id, start, pitch, velocity)
        for lane, start, pitch, velocity in rows
        if first_tick <= start < end_tick
    )


def _check(
    notes: list[dict[str, Any]], scores: list[tuple[float, Score, int]], seconds: float, tempo: float
) -> int:
    """Compare notes with the engine between the hands at work; *scores*: from which second each holds.

    Around each hand there is a moment in which either score may be heard. Returns how many notes were compared.
    """
    per_second = tempo / 60 * QUARTER
    found = sorted((note["start"], note["laneId"], note["pitch"], note["velocity"]) for note in notes)
    starts = [note[0] for note in found]
    compared = 0
    for index, (begin, score, dice) in enumerate(scores):
        end = scores[index + 1][0] if index + 1 < len(scores) else seconds
        first = int((begin + (HORIZON_SECONDS if index else 0)) * per_second)
        last = int((end - (0.0 if index + 1 < len(scores) else HORIZON_SECONDS)) * per_second)
        here = found[bisect.bisect_left(starts, first) : bisect.bisect_left(starts, last)]
        heard = Counter((lane, start, pitch, velocity) for start, lane, pitch, velocity in here)
        wanted = _expected(score, dice, first, last)
        assert heard - wanted == Counter(), "sounded, but is not the engine's"
        assert wanted - heard == Counter(), "the engine's, but did not sound"
        compared += sum(heard.values())
    return compared


def _with_lane(score: Score, lane_id: str, **fields: Any) -> Score:
    lanes = tuple(one.model_copy(update=fields) if one.id == lane_id else one for one in score.lanes)
    return score.model_copy(update={"lanes": lanes})


def stepped(musician: Musician, seconds: float, every: int) -> tuple[int, float]:
    """Play Slack Water at 200 on a stepped clock, a hand every so many seconds: lanes muted and brought back, edited, thrown.

    Returns how many notes were compared, and how far from its tick the furthest was, in milliseconds.
    """
    score, dice = _slack_water(200.0)
    stages: list[tuple[float, Score, int]] = [(0.0, score, dice)]
    hands = []
    now = score
    for number, at in enumerate(range(every, int(seconds), every)):
        silenced = []
        match number % 4:
            case 0:
                now, silenced = _with_lane(now, "clink", mute=True), ["clink"]
            case 1:
                now = _with_lane(now, "clink", mute=False, rotate=number % 5)
            case 2:
                now = _with_lane(now, "rail", velocity=40 + number % 60, chance_percent=50 + number % 50)
            case _:
                dice += 1
        stages.append((float(at), now, dice))
        playing = {"score": now.model_dump(mode="json"), "dice": dice, "patternId": "a"}
        hands.append({"at": at, "playing": playing, "silenced": silenced})
    page = musician.page
    first = {"score": score.model_dump(mode="json"), "dice": stages[0][2], "patternId": "a"}
    played = page.evaluate(
        "([first, seconds, hands]) => jolly.rehearse(first, seconds, hands)", [first, seconds, hands]
    )
    # The tape forgets what is long past: the port remembers all.
    ticks_per_second = 200 / 60 * QUARTER
    furthest = 0.0
    notes = []
    for strike in played["struck"]:
        if strike["cutAt"] is not None and strike["cutAt"] <= strike["time"]:
            continue  # withdrawn before it began
        tick = strike["time"] * ticks_per_second
        furthest = max(furthest, abs(tick - round(tick)) / ticks_per_second * 1000)
        notes.append(
            {
                "laneId": strike["lane"],
                "start": round(tick),
                "pitch": strike["pitch"],
                "velocity": strike["velocity"],
            }
        )
    compared = _check(notes, stages, seconds, 200.0)
    return compared, furthest


def played_by_hand(musician: Musician, keys: tuple[str, ...]) -> tuple[int, int, float]:
    """Play Slack Water on the audio clock, some seven seconds for each of the *keys* pressed, on the lane Rail.

    Returns how many notes were compared, how many of all came too late to sound, and how far from its tick the furthest
    was, in milliseconds.

    A hand's change is heard once the engine has answered, which takes as long as the machine is busy: what sounds
    between a hand and the answer is not compared. What was due and came too late is, as the tape says it.
    """
    page = musician.open("Slack Water").page
    musician.type_number("Piece: tempo", "200")
    page.keyboard.press("Escape")
    asked: set[Request] = set()

    def begun(one: Request) -> None:
        if "/api/render" in one.url:
            asked.add(one)

    def over(one: Request) -> None:
        asked.discard(one)

    page.on("request", begun)
    page.on("requestfinished", over)
    page.on("requestfailed", over)

    def answered() -> None:
        page.wait_for_timeout(200)
        while asked:
            page.wait_for_timeout(50)

    def now() -> dict[str, Any]:
        return page.evaluate("({ ...jolly.score(), tick: jolly.log().at(-1)?.nowTick ?? 0 })")

    per_second = 200 / 60 * QUARTER
    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 0")
    stages = [now() | {"first": 0}]
    musician.choose("rail")
    for key in keys:
        until = now()["tick"] + 6.5 * per_second
        page.wait_for_function("tick => jolly.log().at(-1).nowTick > tick", arg=until)
        stages[-1]["end"] = now()["tick"]
        before = page.evaluate("JSON.stringify(jolly.score())")
        page.keyboard.press(key)
        page.wait_for_function("before => JSON.stringify(jolly.score()) !== before", arg=before)
        answered()
        heard = now()
        stages.append(heard | {"first": heard["tick"] + per_second})
    page.wait_for_function("tick => jolly.log().at(-1).nowTick > tick", arg=now()["tick"] + 4 * per_second)
    answered()
    (*_, log) = musician.log()
    page.keyboard.press("Space")
    stages[-1]["end"] = log["nowTick"] - 0.5 * per_second
    first = log["notes"][0]
    furthest = max(
        abs((note["time"] - first["time"]) - (note["start"] - first["start"]) / per_second)
        for note in log["notes"]
    )
    compared = 0
    found = [(n["laneId"], n["start"], n["pitch"], n["velocity"]) for n in musician.due(log)]
    for number, stage in enumerate(stages):
        wanted = _expected(
            read(Score, stage["score"]), stage["dice"], ceil(stage["first"]), ceil(stage["end"])
        )
        heard = Counter(note for note in found if stage["first"] <= note[1] < stage["end"])
        assert heard == wanted, (number, heard - wanted, wanted - heard)
        compared += sum(heard.values())
    assert len(found) == len(set(found)), "a note sounded twice"
    return compared, len(log["leftOut"]), furthest * 1000


def order_stepped(musician: Musician, seconds: float) -> tuple[int, float]:
    """Play the order of Night Ferry on a stepped clock, round and round.

    Returns how many notes were compared, and how far from its tick the furthest was, in milliseconds.
    """
    piece = _named("Night Ferry")
    page = musician.open(piece.name).page
    page.wait_for_function("window.jolly?.piece()")
    piece = piece.model_copy(update={"tempo": float(page.evaluate("jolly.piece().tempo"))})
    played = page.evaluate("(seconds) => jolly.rehearseOrder(seconds)", seconds)
    per_second = piece.tempo / 60 * QUARTER
    whole = stands(piece)[-1].end
    wanted: dict[int, list[tuple[int, int]]] = {}
    once = []
    for stand in stands(piece):
        score, dice = row_score(piece, stand.place)
        events = render(score, dice, Window(bars=stand.bars))
        once += [
            (start + stand.start, pitch, velocity)
            for start, pitch, velocity in zip(
                events.starts.tolist(), events.pitches.tolist(), events.velocities.tolist(), strict=True
            )
        ]
    rounds = int(seconds * per_second // whole) + 1
    end = int((seconds - HORIZON_SECONDS) * per_second)
    for one in range(rounds):
        for start, pitch, velocity in once:
            if (tick := start + one * whole) < end:
                wanted.setdefault(tick, []).append((pitch, velocity))
    heard: dict[int, list[tuple[int, int]]] = {}
    furthest = 0.0
    for strike in played["struck"]:
        tick = strike["time"] * per_second
        if tick >= end:
            continue
        furthest = max(furthest, abs(tick - round(tick)) / per_second * 1000)
        heard.setdefault(round(tick), []).append((strike["pitch"], strike["velocity"]))
    assert {tick: sorted(notes) for tick, notes in heard.items()} == {
        tick: sorted(notes) for tick, notes in wanted.items()
    }
    return sum(map(len, heard.values())), furthest
