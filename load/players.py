"""Players as the page is one: they edit in bursts, save every other second, ask for windows while they play."""

import json
import random
import threading
import time
from pathlib import Path
from typing import Any

from lattice.document import Euclidean, Lane, Pattern, Piece, score_of
from tests.deploy.stage import Musician

__all__ = ["Player", "piece_of"]

EDITS_A_SECOND, BURST_SECONDS, REST_SECONDS, WINDOW_SECONDS, SAVE_SECONDS = 4, 2, 6, 2, 2
# What the page leaves out of a lane, because the engine knows it by itself.
PLAIN = json.loads((Path(__file__).parent.parent / "web/src/api/plain.json").read_text())
VISIBLE, HEARD = {"first_bar": 0, "bars": 2}, {"first_bar": 0, "bars": 4}
VOICES = ("thud", "chain", "bottle", "clink", "hiss", "shell", "winch", "rope")


def piece_of(lanes: int) -> Piece:
    """Return a piece of so many lanes, each of another length."""
    pattern = Pattern(
        id="a",
        name="A",
        lanes=tuple(
            Lane(
                id=f"l{number}",
                name=f"Lane {number}",
                voice=VOICES[number % len(VOICES)],
                source=Euclidean(hits=3 + number % 5, steps=8 + number),
                chance_percent=100 - number,
            )
            for number in range(lanes)
        ),
    )
    return Piece(name="Many hands", patterns=(pattern,))


class Player(threading.Thread):
    """One of them, for as long as *end* says. *waited*: seconds for each window, while editing and while playing."""

    def __init__(self, musician: Musician, number: int, end: float, lanes: int) -> None:
        super().__init__(daemon=True)
        self.edited: list[float] = []
        self.waited: list[float] = []
        self.saved: list[float] = []
        self.wrong: list[str] = []
        self._luck = random.Random(number)
        self._end = end
        self._musician = musician
        piece = piece_of(lanes)
        self._score: dict[str, Any] = score_of(piece, piece.patterns[0]).model_dump(mode="json")
        self._score["lanes"] = [
            {field: value for field, value in lane.items() if field not in PLAIN or value != PLAIN[field]}
            for lane in self._score["lanes"]
        ]
        self._known: dict[str, str] = {}
        made = musician.ask(
            "POST", "/pieces", {"name": "Many hands", "document": piece.model_dump(mode="json")}
        )
        self.piece: dict[str, Any] = made.json()

    def _timed(self, what: list[float], method: str, path: str, body: Any) -> Any:
        began = time.perf_counter()
        reply = self._musician.ask(method, path, body)
        what.append(time.perf_counter() - began)
        if not reply.ok:
            self.wrong.append(f"{reply.status_code} {reply.text[:150]}")
        return reply

    def _edit(self, lane: dict[str, Any]) -> None:
        """Ask what an edit changes of all that is drawn, and what is heard from now on."""
        lane["velocity"] = self._luck.randint(1, 127)
        question = {"score": self._score, "dice": 1, "window": VISIBLE, "sounds": HEARD}
        reply = self._timed(
            self.edited, "POST", "/render", question | {"chosen": [lane["id"]], "known": self._known}
        )
        if reply.ok:
            self._known = reply.json()["marks"]

    def _play_on(self, bar: int) -> None:
        body = {"score": self._score, "dice": 1, "window": {"first_bar": bar, "bars": 4}}
        self._timed(self.waited, "POST", "/render/sounds", body)

    def run(self) -> None:
        time.sleep(self._luck.random() * REST_SECONDS)
        save_at = time.monotonic() + SAVE_SECONDS
        while time.monotonic() < self._end:
            burst = time.monotonic() + BURST_SECONDS
            while time.monotonic() < min(burst, self._end):
                lane = self._luck.choice(self._score["lanes"])
                began = time.monotonic()
                self._edit(lane)
                if time.monotonic() > save_at:
                    reply = self._musician.save(self.piece, lane["velocity"])
                    self.saved.append(0)
                    if reply.ok:
                        self.piece |= reply.json()
                    else:
                        self.wrong.append(f"{reply.status_code} {reply.text[:150]}")
                    save_at = time.monotonic() + SAVE_SECONDS
                time.sleep(max(0.0, 1 / EDITS_A_SECOND - (time.monotonic() - began)))
            rest = time.monotonic() + REST_SECONDS
            bar = 0
            while time.monotonic() < min(rest, self._end):
                self._play_on(bar := bar + 4)
                time.sleep(WINDOW_SECONDS)
