"""How a lane's steps run through time, where they do not simply keep their step."""

from fractions import Fraction
from typing import Annotated, Literal, get_args

from pydantic import Field

from lattice.document.base import Document
from lattice.document.source import MAX_STEPS
from lattice.document.step_value import StepValue

__all__ = [
    "DIRECTIONS",
    "MAX_BARS_OF_A_PATTERN",
    "MAX_OFFSET_NOTES",
    "MAX_SPAN_BARS",
    "BarRestart",
    "BarSpan",
    "Direction",
    "NoteSpan",
    "Once",
    "PassRestart",
    "Restart",
    "Span",
    "StepRange",
]

MAX_BARS_OF_A_PATTERN = 64
MAX_SPAN_BARS = 16
MAX_OFFSET_NOTES = 255


class BarSpan(Document):
    """A cycle fills so many bars."""

    kind: Literal["bars"] = "bars"
    bars: Annotated[int, Field(ge=1, le=MAX_SPAN_BARS)] = 1

    def quarters(self, bar_quarters: Fraction) -> Fraction:
        """Return the length of the span in quarter notes, where a bar lasts *bar_quarters*."""
        return self.bars * bar_quarters


class NoteSpan(Document):
    """A cycle fills a note value."""

    kind: Literal["note"] = "note"
    value: StepValue

    def quarters(self, _bar_quarters: Fraction) -> Fraction:
        """Return the length of the span in quarter notes; bars have no part in it."""
        return self.value.quarters


Span = Annotated[BarSpan | NoteSpan, Field(discriminator="kind")]


class Once(Document):
    """One cycle in each pass of the pattern, *bars* bars and *count* notes of 1/*note* after its beginning."""

    bars: Annotated[int, Field(ge=0, lt=MAX_BARS_OF_A_PATTERN)] = 0
    count: Annotated[int, Field(ge=0, le=MAX_OFFSET_NOTES)] = 0
    note: Literal[1, 2, 4, 8, 16, 32, 64] = 4

    def offset_quarters(self, bar_quarters: Fraction) -> Fraction:
        """Return how long after the pass begins, in quarter notes, where a bar lasts *bar_quarters*."""
        return self.bars * bar_quarters + self.count * Fraction(4, self.note)


class StepRange(Document):
    """The steps that take part, from *first* to *last*; with *last* before *first*, over the cycle's end.

    A step beyond the cycle's end means its last one, until there are more steps again.
    """

    first: Annotated[int, Field(ge=0, lt=MAX_STEPS)] = 0
    last: Annotated[int, Field(ge=0, lt=MAX_STEPS)]

    def within(self, steps: int) -> tuple[int, ...]:
        """Return the step numbers that take part in a cycle of *steps*, in order.

        >>> StepRange(first=6, last=1).within(8)
        (6, 7, 0, 1)
        """
        first, last = min(self.first, steps - 1), min(self.last, steps - 1)
        return tuple((first + place) % steps for place in range((last - first) % steps + 1))


Direction = Literal["forward", "backward", "to-and-fro", "to-and-fro-twice", "shuffled", "random", "wander"]
DIRECTIONS: tuple[Direction, ...] = get_args(Direction)


class BarRestart(Document):
    """The cycle begins at its first step again every so many bars."""

    kind: Literal["bars"] = "bars"
    bars: Annotated[int, Field(ge=1, le=MAX_BARS_OF_A_PATTERN)] = 2


class PassRestart(Document):
    """The cycle begins at its first step again with each pass of the pattern."""

    kind: Literal["pass"] = "pass"


Restart = Annotated[BarRestart | PassRestart, Field(discriminator="kind")]
