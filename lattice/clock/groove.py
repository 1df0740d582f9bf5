"""Where steps lie between the straight places of a bar: swing, and the weight of a place in its beat.

Positions are whole numbers of 1/*denominator* tick, counted from a bar line, so that they stay small and exact wherever
the bar lies.
"""

from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from lattice.clock.ticks import TICKS_PER_QUARTER, Ticks
from lattice.document.feel import STRAIGHT, Swing
from lattice.document.meter import Meter

__all__ = ["SWING_PARTS", "beat_ticks", "beat_weights", "swings", "swung"]

SWING_PARTS = 50  # a swung position is a whole number of fiftieths of what a straight one is
_COMPOUND = (6, 9, 12)
_WHOLE_WEIGHT = 400


def swings(step: Fraction, swing: Swing) -> bool:
    """Return whether steps of *step* quarters are moved by *swing*: triplets, sevenths and their kin are not.

    >>> swings(Fraction(1, 4), Swing(percent=60)), swings(Fraction(1, 6), Swing(percent=60))
    (True, False)
    """
    parts = (step / swing.unit.quarters).denominator
    return swing.percent != STRAIGHT and parts & (parts - 1) == 0


def swung(positions: Ticks, denominator: int, swing: Swing, bar_ticks: int) -> Ticks:
    """Return straight *positions* after swing, in 1/(*denominator* x SWING_PARTS) tick.

    Each pair of the swing's units is stretched in its first half and pressed together in its second, in straight lines.
    Pairs are counted from the bar line; a unit without a partner at the bar's end stays straight. *positions*: 0 to
    less than a bar.
    """
    unit = int(swing.unit.quarters * TICKS_PER_QUARTER) * denominator
    into = positions % (2 * unit)
    first = into * swing.percent
    second = unit * 2 * swing.percent - unit * 100 + into * (100 - swing.percent)
    moved = np.where(into < unit, first, second)
    result = (positions - into) * SWING_PARTS + moved
    paired = bar_ticks * denominator // (2 * unit) * (2 * unit)
    straight: Ticks = np.where(positions < paired, result, positions * SWING_PARTS)
    return straight


def beat_ticks(meter: Meter) -> int:
    """Return the length of a beat in ticks: dotted in 6, 9 and 12 over 8 or less.

    >>> beat_ticks(Meter()), beat_ticks(Meter(numerator=6, denominator=8))
    (13440, 20160)
    """
    beat = int(meter.beat_quarters * TICKS_PER_QUARTER)
    return 3 * beat if meter.numerator in _COMPOUND and meter.denominator <= 8 else beat


def beat_weights(positions: Ticks, denominator: int, meter: Meter, depth: int) -> NDArray[np.int64]:
    """Return the weight of straight *positions* in their beat, in 1/400, where *depth* is 0-100 %.

    On the beat 1, exactly half-way 1 - depth / 4, elsewhere 1 - depth / 2.
    """
    beat = beat_ticks(meter) * denominator
    into = positions % beat
    halfway = np.where(2 * into == beat, _WHOLE_WEIGHT - depth, _WHOLE_WEIGHT - 2 * depth)
    return np.where(into == 0, _WHOLE_WEIGHT, halfway)
