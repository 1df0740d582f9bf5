"""Every note at its tick, none missing, none twice: what was scheduled, beside the engine, while hands are at work."""

import bisect
from collections import Counter
from math import ceil
from typing import Any

from demo.pieces import PIECES

from lattice.document import Pattern, Piece, Score, read, score_of
from lattice.render import Window, render
from timings.conftest import tell

QUARTER = 13440
WITHIN_MS = 0.1
# From a hand to its first note: the engine's answer, what was committed ahead, and one look of the player.
HORIZON_SECONDS = 0.25

Note = tuple[str, int, int, int]


def slack_water(tempo: float) -> tuple[Score, int]:
    piece: Piece = next(piece for piece in PIECES if piece.name == "Slack Water")
    pattern: Pattern = piece.patterns[0]
    return score_of(piece, pattern).model_copy(update={"tempo": tempo}), pattern.dice


def expected(score: Score, dice: int, first_tick: int, end_tick: int) -> Counter[Note]:
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


def check(
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
        wanted = expected(score, dice, first, last)
        assert heard - wanted == Counter(), "sounded, but is not the engine's"
        assert wanted - heard == Counter(), "the engine's, but did not sound"
        compared += sum(heard.values())
    return compared


def with_lane(score: Score, lane_id: str, **fields: Any) -> Score:
    lanes = tuple(one.model_copy(update=fields) if one.id == lane_id else one for one in score.lanes)
    return score.model_copy(update={"lanes": lanes})


def test_an_hour_of_slack_water_on_a_stepped_clock(musician: Any) -> None:
    """An hour at 200, a hand every 97 seconds: lanes muted and brought back, edited, thrown by new dice."""
    score, dice = slack_water(200.0)
    hour = 3600.0
    stages: list[tuple[float, Score, int]] = [(0.0, score, dice)]
    hands = []
    now = score
    for number, at in enumerate(range(97, int(hour), 97)):
        silenced = []
        match number % 4:
            case 0:
                now, silenced = with_lane(now, "clink", mute=True), ["clink"]
            case 1:
                now = with_lane(now, "clink", mute=False, rotate=number % 5)
            case 2:
                now = with_lane(now, "rail", velocity=40 + number % 60, chance_percent=50 + number % 50)
            case _:
                dice += 1
        stages.append((float(at), now, dice))
        playing = {"score": now.model_dump(mode="json"), "dice": dice, "patternId": "a"}
        hands.append({"at": at, "playing": playing, "silenced": silenced})
    page = musician.page
    page.set_default_timeout(240_000)
    first = {"score": score.model_dump(mode="json"), "dice": stages[0][2], "patternId": "a"}
    played = page.evaluate(
        "([first, seconds, hands]) => jolly.rehearse(first, seconds, hands)", [first, hour, hands]
    )
    # The tape forgets what is long past: the port remembers all.
    ticks_per_second = 200 / 60 * QUARTER
    furthest, notes = 0.0, []
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
    compared = check(notes, stages, hour, 200.0)
    tell(
        "an hour of Slack Water at 200, stepped clock, 37 hands",
        f"{compared:,} notes as the engine says, furthest from its tick {furthest:.6f} ms",
        f"within {WITHIN_MS} ms",
    )
    assert compared > 100_000
    assert furthest < WITHIN_MS


def test_a_real_minute_in_chromium(musician: Any) -> None:
    """A minute of Slack Water on the audio clock, while lanes are muted, edited and thrown by hand."""
    page = musician.open("Slack Water").page
    musician.type_number("Piece: tempo", "200")
    page.wait_for_timeout(2500)
    page.keyboard.press("Escape")

    def now() -> dict[str, Any]:
        return page.evaluate("({ ...jolly.score(), tick: jolly.log().at(-1)?.nowTick ?? 0 })")

    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 0")
    stages = [now() | {"tick": 0}]
    musician.choose("rail")
    acts = ["m", "m", "t", "+", "t", "-", "w", "q"]
    for number, key in enumerate(acts):
        page.wait_for_function(f"jolly.log().at(-1).nowTick > {(number + 1) * 7 * 3.3 * QUARTER}")
        begun = now()["tick"]
        before = page.evaluate("JSON.stringify(jolly.score())")
        page.keyboard.press(key)
        page.wait_for_function("before => JSON.stringify(jolly.score()) !== before", arg=before)
        stages.append(now() | {"tick": begun})
    page.wait_for_function(f"jolly.log().at(-1).nowTick > {200 * QUARTER}")
    (*_, log) = musician.log()
    page.keyboard.press("Space")
    first = log["notes"][0]
    seconds_per_tick = 60 / 200 / QUARTER
    furthest = max(
        abs((note["time"] - first["time"]) - (note["start"] - first["start"]) * seconds_per_tick)
        for note in log["notes"]
    )
    per_second = 200 / 60 * QUARTER
    compared = 0
    found = [(n["laneId"], n["start"], n["pitch"], n["velocity"]) for n in log["notes"]]
    for index, stage in enumerate(stages):
        end = stages[index + 1]["tick"] if index + 1 < len(stages) else log["nowTick"] - 0.5 * per_second
        # A hand's change is heard once the engine has answered, which takes as long as the machine is busy.
        begin = stage["tick"] + (4 * per_second if index else 0)
        heard = Counter(note for note in found if begin <= note[1] < end)
        wanted = expected(read(Score, stage["score"]), stage["dice"], ceil(begin), ceil(end))
        assert heard == wanted, (index, heard - wanted, wanted - heard)
        compared += sum(heard.values())
    assert len(found) == len(set(found)), "a note sounded twice"
    tell(
        "a real minute in Chromium, 8 hands",
        f"{compared:,} notes as the engine says, furthest from its tick {furthest * 1000:.4f} ms",
        f"within {WITHIN_MS} ms",
    )
    assert compared > 300
    assert furthest * 1000 < WITHIN_MS
