"""Bursts: even notes in place of what a lane does for a while."""

from fractions import Fraction
from typing import Annotated

from pydantic import Field

from lattice.document.base import Document
from lattice.document.step_value import StepValue
from lattice.document.timing import MAX_BARS_OF_A_PATTERN, MAX_OFFSET_NOTES

__all__ = ["MAX_BURSTS", "MAX_BURST_NOTES", "Burst"]

MAX_BURSTS = 32  # of a lane
MAX_BURST_NOTES = 64


class Burst(Document):
    """*notes* even notes from *bars* bars and *count* note values on, for as long as *length* of them, once a pass.

    *fade_from*, *fade_to*: velocity of the first and last, in % of the lane's. *chance_percent*: of all together.
    One that goes beyond the pattern's end lies dormant.
    """

    bars: Annotated[int, Field(ge=0, lt=MAX_BARS_OF_A_PATTERN)] = 0
    count: Annotated[int, Field(ge=0, le=MAX_OFFSET_NOTES)] = 0
    value: StepValue = StepValue()
    length: Annotated[int, Field(ge=1, le=MAX_OFFSET_NOTES)] = 4
    notes: Annotated[int, Field(ge=1, le=MAX_BURST_NOTES)] = 5
    fade_from: Annotated[int, Field(ge=1, le=200, description="%")] = 100
    fade_to: Annotated[int, Field(ge=1, le=200, description="%")] = 100
    chance_percent: Annotated[int, Field(ge=0, le=100)] = 100

    def quarters(self, bar_quarters: Fraction) -> tuple[Fraction, Fraction]:
        """Return when it begins and ends in a pass, in quarter notes, where a bar lasts *bar_quarters*."""
        start = self.bars * bar_quarters + self.count * self.value.quarters
        return start, start + self.length * self.value.quarters

    def fits(self, bar_quarters: Fraction, pass_quarters: Fraction) -> bool:
        """Return whether it lies within a pass of that length; otherwise it lies dormant."""
        return self.quarters(bar_quarters)[1] <= pass_quarters
