"""Detours: what plays in place of a pattern for a while, as its clock goes on beneath."""

from fractions import Fraction
from typing import Annotated, Literal, Self, get_args

from pydantic import Field, model_validator

from lattice.document.base import Document, Id, Row
from lattice.document.notes import Tick
from lattice.document.source import MAX_THROW
from lattice.document.step_value import StepValue
from lattice.document.timing import MAX_BARS_OF_A_PATTERN

__all__ = [
    "DETOURS",
    "MAX_DETOURS",
    "MAX_HELD_DETOURS",
    "MAX_NUMBER",
    "PACES",
    "WAY_NAMES",
    "Detour",
    "DetourKind",
    "HeldAt",
    "HeldDetour",
    "OnlyDetour",
    "PaceDetour",
    "PatternDetour",
    "RepeatDetour",
    "ShiftDetour",
    "Variation",
    "WayName",
]

MAX_DETOURS = 16
MAX_HELD_DETOURS = 1000
MAX_NUMBER = 999_999
SHORTEST_REPEAT = Fraction(1, 24)  # of a quarter: a triplet 64th

WayName = Literal["beside", "throw", "busier or sparser", "turn", "count", "exchange", "accents"]
WAY_NAMES: tuple[WayName, ...] = get_args(WayName)
PaceName = Literal["2", "3/2", "1/2"]
PACES: dict[PaceName, Fraction] = {name: Fraction(name) for name in get_args(PaceName)}


class Variation(Document):
    """A candidate near the pattern: *number*, from 0, of those within *distance* % by *ways* that a *throw* finds."""

    kind: Literal["variation"] = "variation"
    distance: Annotated[int, Field(ge=1, le=100)] = 30
    ways: Annotated[Row[WayName], Field(min_length=1, max_length=len(WAY_NAMES))] = WAY_NAMES
    throw: Annotated[int, Field(ge=1, le=MAX_THROW)] = 1
    number: Annotated[int, Field(ge=0, le=MAX_NUMBER)] = 0


class RepeatDetour(Document):
    """The events of a *length*, from its next multiple on, again and again."""

    kind: Literal["repeat"] = "repeat"
    length: StepValue = StepValue(note=8)

    @model_validator(mode="after")
    def _long_enough(self) -> Self:
        if self.length.quarters < SHORTEST_REPEAT:
            raise ValueError("what is repeated lasts at least a triplet 64th")
        return self


class ShiftDetour(Document):
    """Melodic lanes move by *degrees* of the scale and by *semitones*."""

    kind: Literal["shift"] = "shift"
    degrees: Annotated[int, Field(ge=-28, le=28)] = 0
    semitones: Annotated[int, Field(ge=-48, le=48)] = 0


class PaceDetour(Document):
    """So many times as fast, from the next beat on."""

    kind: Literal["pace"] = "pace"
    times: PaceName = "2"


class OnlyDetour(Document):
    """Only the *lanes* of those ids sound, as far as they are not muted; if none of them is there, all do."""

    kind: Literal["only"] = "only"
    lanes: Annotated[Row[Id], Field(min_length=1, max_length=64)]


DetourKind = Literal["pace", "repeat", "variation", "shift", "only"]
HeldAt = Literal["once", "beat", "half bar", "bar"]
Detour = Annotated[
    Variation | RepeatDetour | ShiftDetour | PaceDetour | OnlyDetour, Field(discriminator="kind")
]
# In the order in which they are applied.
DETOURS: tuple[DetourKind, ...] = get_args(DetourKind)


class PatternDetour(Document):
    """A detour of the pattern: over the last *bars* of every so many.

    *fresh*: a variation's number goes up by one each time; else it is always the same.
    """

    detour: Detour
    bars: Annotated[int, Field(ge=1, le=MAX_BARS_OF_A_PATTERN)] = 1
    every: Annotated[int, Field(ge=1, le=MAX_BARS_OF_A_PATTERN)] = 8
    fresh: bool = False

    @model_validator(mode="after")
    def _within(self) -> Self:
        if self.bars > self.every:
            raise ValueError(f"the last {self.bars} of every {self.every} bars are more than there are")
        return self


class HeldDetour(Document):
    """A detour held by hand from a tick on to before another; *end*: none while it is held.

    *at*: whether it waits for the next beat, half bar or bar line.
    """

    detour: Detour
    start: Tick
    at: HeldAt = "once"
    end: Tick | None = None
