"""Bars."""

from fractions import Fraction
from typing import Annotated, Literal

from pydantic import Field

from lattice.document.base import Document
from lattice.units import TICKS_PER_QUARTER

__all__ = ["BEATS", "Meter"]

BEATS = (1, 32)  # in a bar


class Meter(Document):
    """*numerator* beats of a 1/*denominator* note in a bar."""

    numerator: Annotated[int, Field(ge=BEATS[0], le=BEATS[1])] = 4
    denominator: Literal[1, 2, 4, 8, 16, 32] = 4

    @property
    def beat_quarters(self) -> Fraction:
        """Length of a beat in quarter notes."""
        return Fraction(4, self.denominator)

    @property
    def bar_quarters(self) -> Fraction:
        """Length of a bar in quarter notes.

        >>> Meter(numerator=7, denominator=8).bar_quarters
        Fraction(7, 2)
        """
        return self.numerator * self.beat_quarters

    @property
    def bar_ticks(self) -> int:
        """Length of a bar in ticks: always whole, since 32 divides 4 x 13440.

        >>> Meter(numerator=7, denominator=8).bar_ticks
        47040
        """
        return self.numerator * (4 * TICKS_PER_QUARTER // self.denominator)
