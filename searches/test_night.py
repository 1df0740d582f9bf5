"""A night of random hands at the real interface: the schedule log, the tape and the clips agree with the engine.

JOLLY_ACTIONS: how many (300); JOLLY_SEED: which, so that a night can be had again.
"""

import os
import random
from collections import Counter
from typing import Any

from playwright.sync_api import Response

from lattice.clips import Heard, Tape, keep_over
from lattice.document import Score, read
from lattice.render import Window, render
from tests.browser.conftest import Musician

BAR = 53760
ACTIONS = int(os.environ.get("JOLLY_ACTIONS", "300"))
QUIET_EVERY = (
    25  # actions; then hands rest, and what is heard must be what the engine says of the score as it stands
)

STEADY: dict[str, Any] = {
    "name": "Thud",
    "voice": "thud",
    "source": {"kind": "euclidean", "hits": 4, "steps": 16},
}
LANES: list[dict[str, Any]] = [
    STEADY,
    {
        "name": "Bell",
        "voice": "bell",
        "source": {"kind": "euclidean", "hits": 5, "steps": 12},
        "control_strips": [{"controller": 74, "values": [10, None, 90, 60], "spread": {"by": 9}}],
    },
    {
        "name": "Hiss",
        "voice": "hiss",
        "source": {"kind": "euclidean", "hits": 7, "steps": 16},
        "chance_percent": 70,
        "ratchet_strip": {"values": [1, 3, 1, 2], "free": {}, "climb": 2, "fade_to": 40},
    },
    {
        "name": "Clink",
        "voice": "clink",
        "source": {"kind": "thrown", "hits": 6, "steps": 13, "throw": 3},
        "humanise": {"ms": 8, "velocity": 6},
        "nudge_strip": {"values": [0, 20, -30]},
        "length_strip": {"values": [150, 0, 60], "free": {}},
    },
    {"name": "Shell", "voice": "shell", "source": {"kind": "echo", "of": "lane-3", "shift": 2}},
    {
        "name": "Reed",
        "voice": "low-reed",
        "source": {"kind": "euclidean", "hits": 5, "steps": 8},
        "arpeggio": {"pool": {"kind": "typed", "notes": [50, 53, 57]}, "order": "shuffled", "octaves": 2},
    },
]
PATTERNS = [
    {
        "id": name,
        "name": name.upper(),
        "dice": 10 + at,
        "lanes": [lane | {"id": f"lane-{number}"} for number, lane in enumerate(LANES[: 6 - 2 * at])],
    }
    for at, name in enumerate(("a", "b"))
]
PIECE = {"name": "A long night", "tempo": 400, "swing": {"percent": 58}, "patterns": PATTERNS}
KEYS = {
    "m": 14,
    "s": 14,
    "ArrowDown": 14,
    "ArrowUp": 8,
    "+": 5,
    "-": 5,
    "t": 5,
    "Shift+T": 2,
    "a": 3,
    "ArrowRight": 5,
    "Enter": 5,
    "d": 1,
    "Shift+Delete": 1,
    "Control+z": 6,
    "Control+Shift+Z": 3,
    "1": 2,
    "2": 2,
}
OTHERS = {"keep": 10, "paint": 6, "stop and play": 2, "record": 3, "hold a detour": 3}


class Night:
    """One musician whose hands are led by luck, and all that was kept."""

    def __init__(self, musician: Musician, luck: random.Random) -> None:
        self.musician, self.page, self.luck = musician, musician.page, luck
        self.done: Counter[str] = Counter()
        self.keeps: list[Response] = []
        self.refusals: list[str] = []
        self.compared = self.switches = 0
        self.page.on("response", self._hear)

    def _hear(self, response: Response) -> None:
        if response.request.method == "POST" and response.url.split("?")[0].endswith("/api/clips"):
            self.keeps.append(response)
        elif response.status >= 400:
            self.refusals.append(f"{response.status} {response.text()}")

    def act(self) -> None:
        """Do one thing."""
        weights = KEYS | OTHERS
        (what,) = self.luck.choices(list(weights), list(weights.values()))
        self.done[what] += 1
        if what in KEYS:
            self.page.keyboard.press(what)
        elif what == "keep":
            self.keep()
        elif what == "paint":
            self.paint()
        elif what == "record":
            self.page.get_by_role("button", name="Record moves").click()
        elif what == "hold a detour":
            self.page.keyboard.down("x")
            self.page.wait_for_timeout(self.luck.choice([30, 200, 600]))
            self.page.keyboard.up("x")
        else:
            self.page.keyboard.press("Space")
            self.page.wait_for_timeout(self.luck.choice([0, 150]))
            self.page.keyboard.press("Space")
        self.page.wait_for_timeout(self.luck.choice([0, 0, 20, 80, 200]))

    def paint(self) -> None:
        """Paint over some strip of the chosen lane, where one is on show."""
        tabs = self.page.get_by_role("tab").all()
        if tabs:
            self.luck.choice(tabs).dispatch_event("click")
        bars = self.page.get_by_role("slider", name="of each").first
        if not bars.count():
            return
        box = bars.bounding_box()
        if box is None:
            return
        points = [
            (box["x"] + self.luck.random() * box["width"], box["y"] + self.luck.random() * box["height"])
            for _ in range(2)
        ]
        self.page.mouse.move(*points[0])
        self.page.mouse.down()
        self.page.mouse.move(*points[1], steps=3)
        self.page.mouse.up()
        self.page.keyboard.press("Escape")

    def keep(self) -> None:
        """Keep some of the last bars, and see that the clip holds what the log and the tape hold."""
        if not self.page.evaluate(
            f"jolly.log().some((one) => Math.floor(one.nowTick / {BAR}) > Math.ceil(one.fromTick / {BAR}))"
        ):
            return
        before = len(self.keeps)
        self.page.keyboard.press("k")
        self.page.keyboard.press(self.luck.choice("12480"))
        for _ in range(200):
            if len(self.keeps) > before:
                break
            self.page.wait_for_timeout(50)
        assert len(self.keeps) == before + 1, f"{len(self.keeps) - before} answers to one press of keep"
        response = self.keeps[-1]
        assert response.status == 201, response.text()
        self.compare(self.musician.log(), response.request.post_data_json, response.json()["id"])

    def compare(self, log: list[dict[str, Any]], asked: dict[str, Any], clip_id: int) -> None:
        """Compare a clip with the stretches of the tape that were sent for it, and those with the log."""
        opened = self.page.request.get(f"{self.musician.address}/api/clips/{clip_id}").json()
        sent = [*asked["before"], asked]
        if not asked["before"]:
            self.compare_single(opened["document"], asked["tape"])
        stretches = [
            Heard(one["pattern"], read(Tape, one["tape"]), read(Score, one["score"]), one["dice"])
            for one in sent
        ]
        clip = keep_over(stretches, asked["piece"], asked["bars"]).clip
        assert [track["notes"] for track in opened["document"]["tracks"]] == [
            [list(note) for note in track.notes] for track in clip.tracks
        ], "the clip is not what its stretches are together"
        for stretch in stretches:
            assert any(self.is_same(one, stretch.tape) for one in log), (
                f"the tape up to {stretch.tape.now_tick} is not what the log held"
            )
        self.switches += len(stretches) - 1
        self.compared += sum(len(track.notes) for track in clip.tracks)

    def compare_single(self, clip: dict[str, Any], tape: dict[str, Any]) -> None:
        """Compare a clip with the one stretch that it was kept from."""
        end = tape["now_tick"] // BAR * BAR  # the last bar line passed
        first = end - clip["length_ticks"]
        expected = {}
        for track in tape["tracks"]:
            rows = [
                (max(0, start - first), *rest)
                for (start, *rest), straight in zip(track["notes"], track["straights"], strict=True)
                if first <= straight < end
            ]
            if rows:
                expected[track["lane_id"]] = rows
        kept = {
            track["lane_id"]: [tuple(note) for note in track["notes"]]
            for track in clip["tracks"]
            if track["notes"]
        }
        assert kept == expected, "the clip is not what the tape held"

    @staticmethod
    def is_same(stretch: dict[str, Any], tape: Tape) -> bool:
        """Return whether a stretch of the log holds what *tape* does, as far as that had come."""
        logged = Counter(
            (note["laneId"], note["start"], note["pitch"], note["velocity"])
            for note in stretch["notes"]
            if note["start"] < tape.now_tick
        )
        taped = Counter(
            (track.lane_id, note.start, note.pitch, note.velocity)
            for track in tape.tracks
            for note in track.notes
        )
        return logged == taped

    def rest(self) -> None:
        """Take the hands away for some bars: what is heard is what the engine says."""
        page = self.page
        if page.get_by_role("button", name="Play", exact=False).count() and not page.evaluate(
            "jolly.log().length"
        ):
            page.keyboard.press("Space")
        page.wait_for_timeout(300)
        stretches, begun = page.evaluate("[jolly.log().length, jolly.now()]")
        if not begun:
            page.keyboard.press("Space")
        for _ in range(100):
            page.wait_for_timeout(100)
            newest = page.evaluate("jolly.log().at(-1)?.nowTick ?? 0")
            if page.evaluate("jolly.log().length") != stretches:
                stretches, begun = page.evaluate("[jolly.log().length, jolly.now()]")
            elif newest > (begun // BAR + 4) * BAR:
                break
        bar = int(begun // BAR) + 2
        held = page.evaluate("JSON.parse(JSON.stringify(jolly.score()))")  # as the server has it: -0 is 0
        score: Score = read(Score, held["score"])
        (*_, stretch) = self.musician.log()
        events = render(score, held["dice"], Window(first_bar=bar, bars=1))
        said = sorted(
            (score.lanes[lane].id, start, pitch, velocity)
            for lane, start, pitch, velocity in zip(
                events.lanes.tolist(),
                events.starts.tolist(),
                events.pitches.tolist(),
                events.velocities.tolist(),
                strict=True,
            )
        )
        heard = sorted(
            (note["laneId"], note["start"], note["pitch"], note["velocity"])
            for note in (*stretch["notes"], *stretch["leftOut"])
            if bar * BAR <= note["start"] < (bar + 1) * BAR
        )
        assert heard == said, (
            f"bar {bar + 1} is not what the engine says: without {sorted(set(said) - set(heard))},"
            f" with {sorted(set(heard) - set(said))}; "
            f"{[(lane.id, lane.name, lane.mute, lane.movements) for lane in score.lanes]}; {stretch['nowTick']}"
        )
        self.compared += len(said)


def test_a_night_of_random_hands(musician: Musician, complaints: list[str]) -> None:
    seed = int(os.environ.get("JOLLY_SEED", random.randrange(10**6)))
    page = musician.page
    token = next(cookie["value"] for cookie in page.context.cookies() if cookie["name"] == "csrftoken")
    made = page.request.post(
        f"{musician.address}/api/pieces", data={"document": PIECE}, headers={"X-CSRFToken": token}
    )
    assert made.status == 201, made.text()
    page.goto(f"{musician.address}/lattice/{made.json()['id']}?latency=0.1")
    page.locator(".thread").first.wait_for()
    night = Night(musician, random.Random(seed))
    page.keyboard.press("Space")
    musician.wait_for_bars(2)
    for number in range(ACTIONS):
        try:
            night.act()
            if number % QUIET_EVERY == QUIET_EVERY - 1:
                night.rest()
        except BaseException:
            print(f"\nSeed {seed}, action {number}, {dict(night.done)}")
            raise
    print(
        f"\nFIGURE  a night of {ACTIONS:,} random actions (seed {seed}): {len(night.keeps)} keeps,"
        f" {night.switches} switches in them, 0 failed;"
        f" {night.compared:,} notes compared: log = tape = clip = engine"
    )
    # What a hand may not do (throw an anchored lane, make the last lane's circle) is refused in a sentence.
    assert [told for told in night.refusals if not told.startswith("422") or "Input should" in told] == []
    assert len(complaints) == len(night.refusals), complaints
    complaints.clear()
