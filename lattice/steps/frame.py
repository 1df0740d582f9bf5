"""What a lane plays in, beside other lanes: the meter, the bars of a pass, how long a plain step is, at which rate."""

from fractions import Fraction
from typing import NamedTuple

from lattice.document.meter import Meter
from lattice.document.piece import Rhythm, Score
from lattice.document.step_value import StepValue

__all__ = ["Frame", "frame_of"]


class Frame(NamedTuple):
    """What a lane plays in, beside other lanes. *rate*: how many times as fast its steps and spans go by."""

    meter: Meter
    bars: int
    step_value: StepValue
    rate: Fraction = Fraction(1)

    @property
    def pass_quarters(self) -> Fraction:
        """Length of one pass of the pattern in quarter notes."""
        return self.bars * self.meter.bar_quarters


def frame_of(rhythm: Rhythm) -> Frame:
    """Return what the lanes of *rhythm* play in."""
    rate = rhythm.rate if isinstance(rhythm, Score) else Fraction(1)
    return Frame(rhythm.meter, rhythm.bars, rhythm.step_value, rate)
