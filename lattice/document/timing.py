"""How a lane's steps run through time, where they do not simply keep their step."""

from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from lattice.document.base import Document
from lattice.document.step_value import StepValue

__all__ = ["MAX_SPAN_BARS", "BarSpan", "NoteSpan", "Span"]

MAX_SPAN_BARS = 16


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
