"""Grounds as a musician writes them: grooves of one feel, each a cycle for up to eight parts.

A file a ground, beside this one:

    ground   Engine room
    meter    4/4
    step     1/16
    # a remark

    stand    Idle
    low      X...X...X...X...
    hat      o...o...o...o...

`X` is a strong hit, `o` a plain one, `-` a ghost, `.` a rest. A part that a stand does not name rests.
"""

from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Literal, get_args

__all__ = [
    "GROUNDS",
    "PARTS",
    "PART_NOTES",
    "GroundId",
    "GroundText",
    "Part",
    "Stand",
    "ground_text",
    "part_of_note",
    "read_ground",
]

Part = Literal["low", "back", "hat", "open", "high", "mid", "wood", "bell"]
PARTS: tuple[Part, ...] = get_args(Part)
GroundId = Literal["engine-room", "quayside", "gangway", "night-watch", "swell", "crosswind"]
GROUNDS: tuple[GroundId, ...] = get_args(GroundId)

# Notes of the General MIDI 1.0 percussion map on which a part is usually played, likeliest first.
PART_NOTES: dict[Part, tuple[int, ...]] = {
    "low": (36, 35),
    "back": (38, 40, 39),
    "hat": (42, 44, 69),
    "open": (46, 49, 57),
    "high": (50, 48, 47, 70),
    "mid": (45, 43, 41),
    "wood": (37, 76, 77, 75),
    "bell": (51, 56, 53),
}
_STRENGTHS = ".-oX"
_STANDS = (9, 16)
_HERE = Path(__file__).parent


@dataclass(frozen=True)
class Stand:
    """One groove: its *parts* with a strength from 0 (rest) to 3 (strong) at each step."""

    name: str
    parts: dict[Part, tuple[int, ...]]

    def strengths(self, part: Part, steps: int) -> tuple[int, ...]:
        """Return the strengths of *part*; of one that rests, so many zeros."""
        return self.parts.get(part, (0,) * steps)


@dataclass(frozen=True)
class GroundText:
    """A ground as it is written: its *meter* as (beats, their note value); *step*: the note value of a step."""

    name: str
    meter: tuple[int, int]
    step: int
    stands: tuple[Stand, ...]

    @property
    def steps(self) -> int:
        """How many steps its cycle has."""
        return len(next(iter(self.stands[0].parts.values())))

    @property
    def parts(self) -> tuple[Part, ...]:
        """The parts that play in any of its stands, in their order."""
        return tuple(part for part in PARTS if any(part in stand.parts for stand in self.stands))


@cache
def ground_text(ground: GroundId) -> GroundText:
    """Return the ground of that id, as it is written."""
    return read_ground((_HERE / f"{ground}.txt").read_text())


def part_of_note(note: int) -> Part | None:
    """Return the part that is usually played on a note of the percussion map; None if none is."""
    return next((part for part, notes in PART_NOTES.items() if note in notes), None)


def read_ground(text: str) -> GroundText:
    """Return the ground that *text* writes. Raises ValueError that names the line which cannot be read."""
    head: dict[str, str] = {}
    stands: list[Stand] = []
    for number, line in enumerate(text.splitlines(), 1):
        word, _, rest = line.partition("#")[0].strip().partition(" ")
        rest = rest.strip()
        try:
            if not word:
                continue
            if word == "stand":
                stands.append(Stand(rest, {}))
            elif stands:
                _add(stands, word, rest)
            elif word in ("ground", "meter", "step"):
                head[word] = rest
            else:
                raise ValueError(f"expected ground, meter, step or stand, got {word!r}")
        except ValueError as refusal:
            raise ValueError(f"line {number}: {refusal}") from None
    if missing := {"ground", "meter", "step"} - head.keys():
        raise ValueError(f"the ground has no {' and no '.join(sorted(missing))}")
    if not _STANDS[0] <= len(stands) <= _STANDS[1] or not all(stand.parts for stand in stands):
        raise ValueError(f"a ground has {_STANDS[0]}-{_STANDS[1]} stands that play, got {len(stands)}")
    beats, of = head["meter"].split("/")
    return GroundText(
        head["ground"], (int(beats), int(of)), int(head["step"].removeprefix("1/")), tuple(stands)
    )


def _add(stands: list[Stand], word: str, row: str) -> None:
    parts = stands[-1].parts
    part = next((one for one in PARTS if one == word), None)
    if part is None:
        raise ValueError(f"there is no part {word!r}: the parts are {', '.join(PARTS)}")
    if part in parts:
        raise ValueError(f"{word} is there twice in {stands[-1].name}")
    if unknown := set(row) - set(_STRENGTHS):
        raise ValueError(f"{word} has {sorted(unknown)}: a step is one of {' '.join(_STRENGTHS)}")
    steps = len(next(iter(stands[0].parts.values()), row))
    if len(row) != steps:
        raise ValueError(f"{word} has {len(row)} steps where the ground has {steps}")
    parts[part] = tuple(map(_STRENGTHS.index, row))
