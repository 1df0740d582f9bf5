"""Bursts: even notes in place of what a lane does for a while."""

from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from lattice.document.base import Document
from lattice.document.step_value import StepValue
from lattice.document.timing import MAX_BARS_OF_A_PATTERN, MAX_OFFSET_NOTES

__all__ = ["MAX_BURSTS", "MAX_BURST_NOTES", "Burst", "EveryBars", "EveryCycle"]

MAX_BURSTS = 32  # of a lane
MAX_BURST_NOTES = 64


class EveryBars(Document):
    """Once every *bars* bars, counted from the pattern's start."""

    kind: Literal["bars"] = "bars"
    bars: Annotated[int, Field(ge=1, le=MAX_BARS_OF_A_PATTERN)] = 4


class EveryCycle(Document):
    """It comes in each cycle of its lane."""

    kind: Literal["cycle"] = "cycle"


class Burst(Document):
    """*notes* even notes from *bars* bars and *count* note values on, for as long as *length* of them.

    *comes*: in what it comes once, and from whose beginning it is counted. *fade_from*, *fade_to*: velocity of the
    first and last, in % of the lane's. *chance_percent*: of all together. One that goes beyond the end of what it comes
    once in lies dormant.
    """

    bars: Annotated[int, Field(ge=0, lt=MAX_BARS_OF_A_PATTERN)] = 0
    count: Annotated[int, Field(ge=0, le=MAX_OFFSET_NOTES)] = 0
    value: StepValue = StepValue()
    length: Annotated[int, Field(ge=1, le=MAX_OFFSET_NOTES)] = 4
    notes: Annotated[int, Field(ge=1, le=MAX_BURST_NOTES)] = 5
    comes: Annotated[
        Annotated[EveryBars | EveryCycle, Field(discriminator="kind")] | None,
        Field(description="none: once in each pass of the pattern"),
    ] = None
    fade_from: Annotated[int, Field(ge=1, le=200, description="%")] = 100
    fade_to: Annotated[int, Field(ge=1, le=200, description="%")] = 100
    chance_percent: Annotated[int, Field(ge=0, le=100)] = 100

    def quarters(self, bar_quarters: Fraction) -> tuple[Fraction, Fraction]:
        """Return its start and end within its pass, bars or cycle, in quarters; a bar lasts *bar_quarters*."""
        start = self.bars * bar_quarters + self.count * self.value.quarters
        return start, start + self.length * self.value.quarters

    def round_quarters(
        self, bar_quarters: Fraction, pass_quarters: Fraction, cycle_quarters: Fraction
    ) -> Fraction:
        """Return the time from one burst to the next, given how long a bar, a pass and the lane's cycle last."""
        match self.comes:
            case EveryBars(bars=bars):
                return bars * bar_quarters
            case EveryCycle():
                return cycle_quarters
        return pass_quarters
