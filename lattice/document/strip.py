"""Strips: rows of values over a lane's steps."""

from typing import Annotated, Any, Literal, NamedTuple, Self

from pydantic import Field, model_validator

from lattice.document.base import Document, Row
from lattice.document.controllers import MOST_BENT, Controller, check_values
from lattice.document.source import MAX_STEPS
from lattice.document.timing import Direction

__all__ = [
    "CHANCE",
    "CHORD",
    "CONTROL",
    "LENGTH",
    "LONGEST",
    "MAX_CONTROLS",
    "MAX_SPREAD",
    "NUDGE",
    "OCTAVE",
    "PITCH",
    "RATCHET",
    "STRIPS",
    "STRIP_MODELS",
    "TIED",
    "VELOCITY",
    "ChanceStrip",
    "ChordStrip",
    "ControlStrip",
    "Free",
    "LengthStrip",
    "NudgeStrip",
    "OctaveStrip",
    "PitchStrip",
    "RatchetStrip",
    "Shape",
    "Spread",
    "Strip",
    "StripKind",
    "VelocityStrip",
]

MAX_CONTROLS = 8  # control strips of a lane
LONGEST = (
    100 * MAX_STEPS
)  # in a length strip: notes that are tied over steps may be longer than hands make others
MAX_SPREAD = MOST_BENT - 1
TIED = 0  # in a length strip: the note lasts until the next hit

Shape = Literal["even", "middle"]


class Throw(NamedTuple):
    """Between which values a strip is thrown, until a hand says otherwise, and how they are spread between them."""

    low: int
    high: int
    shape: Shape = "even"


class StripKind(NamedTuple):
    """What a kind of strip holds: values from *low* to *high*; *draw_number*: part of the key of its luck.

    *plain*: what a step without a value has; None where the lane, or nothing, decides. *explains*: what its values
    do, in a sentence. *throw*: between what it is thrown at first. *span*: up to what hands use it
    most; 0 for all of it. *beyond*: the lowest and highest value that a document may hold, where it may hold others.
    """

    field: str
    low: int
    high: int
    draw_number: int
    explains: str
    throw: Throw
    plain: int | None = None
    unit: str = ""
    span: int = 0
    beyond: tuple[int, int] | None = None

    @property
    def stored(self) -> tuple[int, int]:
        """The lowest and highest value that a document may hold."""
        return self.beyond or (self.low, self.high)

    @property
    def twice_the_middle(self) -> int:
        """Twice the value that others are brought closer to: of the range, or of the part of it that hands use."""
        return self.low + (self.span or self.high)


# The draw numbers are part of what was heard: never change or reuse one.
VELOCITY = StripKind("velocity_strip", 1, 127, 0, "How hard each step is struck", Throw(50, 115))
CHANCE = StripKind(
    "chance_strip",
    0,
    100,
    1,
    "How often each step sounds; it multiplies the lane’s chance",
    Throw(40, 100),
    100,
    " %",
)
RATCHET = StripKind("ratchet_strip", 1, 12, 2, "How many notes a step is divided into", Throw(1, 4), 1)
NUDGE = StripKind(
    "nudge_strip", -50, 50, 3, "How much earlier or later each step is", Throw(-12, 12, "middle"), 0, " %"
)
LENGTH = StripKind(
    "length_strip",
    TIED,
    1600,
    4,
    "How long each note lasts; 0 ties it to the next hit",
    Throw(25, 120),
    unit=" %",
    span=400,
    beyond=(TIED, LONGEST),
)
OCTAVE = StripKind("octave_strip", -4, 4, 5, "By how many octaves each step is higher", Throw(-1, 1), 0)
PITCH = StripKind("pitch_strip", -28, 28, 6, "How far above the lane’s note each step is", Throw(0, 7), 0)
CHORD = StripKind("chord_strip", 1, 7, 7, "How many notes each step stacks up", Throw(1, 4), 1)
# Its draw numbers go on from there: one for each controller.
CONTROL = StripKind(
    "control_strips",
    0,
    127,
    128,
    "What each step sends to a MIDI controller",
    Throw(0, 127),
    beyond=(-MOST_BENT, MAX_SPREAD),
)
STRIPS: dict[str, StripKind] = {
    "velocity": VELOCITY,
    "chance": CHANCE,
    "ratchet": RATCHET,
    "nudge": NUDGE,
    "length": LENGTH,
    "pitch": PITCH,
    "octave": OCTAVE,
    "chord": CHORD,
    "control": CONTROL,
}


# The model of each kind of strip, which each puts here as it is made.
STRIP_MODELS: "dict[StripKind, type[Strip]]" = {}


class Free(Document):
    """How a strip of its own length is read, from its first value on since the lane last began."""

    direction: Direction = "forward"
    advance: Annotated[Literal["step", "hit"], Field(description="with every played step, or every hit")] = (
        "step"
    )


class Spread(Document):
    """A fresh draw at every hit: the value plus or minus *by*, kept between *low* and *high*.

    *low*, *high*: none for the strip's own range. *shape*: every value as likely, or those in the middle more so.
    """

    by: Annotated[int, Field(ge=1, le=MAX_SPREAD)]
    low: Annotated[int | None, Field(ge=-MOST_BENT, le=MAX_SPREAD)] = None
    high: Annotated[int | None, Field(ge=-MOST_BENT, le=MAX_SPREAD)] = None
    shape: Shape = "even"

    @model_validator(mode="after")
    def _low_is_lower(self) -> Self:
        if self.low is not None and self.high is not None and self.low > self.high:
            raise ValueError(f"a spread from {self.low} to {self.high} has nothing between its ends")
        return self


class Strip(Document):
    """Base of all strips. `values`: none where the step is plain; steps beyond the last value are plain too.

    It goes with the lane, one value for each step number, unless it is *free*: then it has its own length, which is
    that of `values`, and moves on at every played step or hit.

    A subclass is of a *kind*, whose limits its values have.
    """

    values: Row[int | None] = ()
    free: Annotated[Free | None, Field(description="none: it goes with the lane")] = None
    spread: Annotated[Spread | None, Field(description="none: the values as they are")] = None

    def __init_subclass__(cls, *, kind: StripKind, **options: Any) -> None:
        # Before pydantic reads the annotations: limits are said once, in the table.
        low, high = kind.stored
        value = Annotated[int, Field(ge=low, le=high)] | None
        cls.__annotations__["values"] = Annotated[Row[value], Field(max_length=MAX_STEPS)]
        cls.values = ()
        STRIP_MODELS[kind] = cls
        super().__init_subclass__(**options)

    @model_validator(mode="after")
    def _a_free_strip_has_a_length(self) -> Self:
        if self.free and not self.values:
            raise ValueError("a strip of its own length needs at least one value")
        return self


class VelocityStrip(Strip, kind=VELOCITY):
    """How hard each step is struck, in place of the lane's velocity."""


class ChanceStrip(Strip, kind=CHANCE):
    """How often each step sounds, in %; it multiplies the lane's chance."""


class RatchetStrip(Strip, kind=RATCHET):
    """How many notes there are in a step.

    *fade_from*, *fade_to*: velocity of the first and last of them, in % of the step's, in a straight line between;
    *climb*: semitones, or on a melodic lane perhaps degrees, by which each is higher than the one before.
    """

    fade_from: Annotated[int, Field(ge=1, le=200, description="%")] = 100
    fade_to: Annotated[int, Field(ge=1, le=200, description="%")] = 100
    climb: Annotated[int, Field(ge=-12, le=12)] = 0
    climb_unit: Literal["semitones", "degrees"] = "semitones"


class NudgeStrip(Strip, kind=NUDGE):
    """How much later (negative: earlier) each step begins, in % of a step."""


class LengthStrip(Strip, kind=LENGTH):
    """How long each note lasts, in % of a step; 0: tied, until the lane's next hit.

    Beyond LENGTH.high: tied over so many steps.
    """


class OctaveStrip(Strip, kind=OCTAVE):
    """By how many octaves each step is higher."""


class PitchStrip(Strip, kind=PITCH):
    """How much higher than the lane's note each step is. *unit*: degrees of the scale, or semitones.

    *accidentals*: value by value, by how many semitones that degree alone is raised; they lie dormant with semitones.
    """

    unit: Literal["degrees", "semitones"] = "degrees"
    accidentals: Annotated[Row[Annotated[int, Field(ge=-11, le=11)]], Field(max_length=MAX_STEPS)] = ()

    def accidental(self, place: int) -> int:
        """Return the accidental of the value at that place; 0 where there is none."""
        if place >= len(self.accidentals) or place >= len(self.values) or self.values[place] is None:
            return 0
        return self.accidentals[place]


class ChordStrip(Strip, kind=CHORD):
    """How many notes each step stacks up: of an arpeggio its whole pool at once, else every second degree."""


class ControlStrip(Strip, kind=CONTROL):
    """What is sent to a MIDI controller with each step; 128 is the channel's pressure, 129 its pitch bend."""

    controller: Controller

    @model_validator(mode="after")
    def _within_its_range(self) -> Self:
        check_values(self.controller, (value for value in self.values if value is not None))
        return self
