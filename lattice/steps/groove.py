"""Where steps lie between the straight places of a bar: swing, and the weight of a place in its beat.

Positions are whole numbers of 1/*denominator* tick, counted from a bar line, so that they stay small and exact wherever
the bar lies.
"""

from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from lattice.document.feel import STRAIGHT, LaneSwing, Swing
from lattice.document.meter import Meter
from lattice.units import TICKS_PER_QUARTER, Ticks

__all__ = ["SWING_PARTS", "beat_ticks", "beat_weights", "swing_unit", "swung"]

SWING_PARTS = 50  # a swung position is a whole number of fiftieths of what a straight one is
_COMPOUND = (6, 9, 12)
_WHOLE_WEIGHT = 400


def swing_unit(step: Fraction, swing: Swing) -> Fraction | None:
    """Return how long one note of a swung pair is for a lane of such steps, in quarters; None where it stays straight.

    Triplets, sevenths and their kin do, unless the lane's own steps swing.

    >>> swing_unit(Fraction(1, 4), Swing(percent=60)), swing_unit(Fraction(1, 6), Swing(percent=60))
    (Fraction(1, 4), None)
    """
    if swing.percent == STRAIGHT:
        return None
    if isinstance(swing, LaneSwing) and swing.own_steps:
        return step
    parts = (step / swing.unit.quarters).denominator
    return swing.unit.quarters if parts & (parts - 1) == 0 else None


def swung(positions: Ticks, denominator: int, unit: Fraction, percent: int, bar_ticks: int) -> Ticks:
    """Return straight *positions* after swing, in 1/(*denominator* x SWING_PARTS) tick.

    Each pair of notes of *unit* quarters is stretched in its first half, which takes *percent* of it, and pressed
    together in its second, in straight lines. Pairs are counted from the bar line; a note without a partner at the
    bar's end stays straight. *positions*: 0 to less than a bar. The unit is a whole number of 1/*denominator* tick.
    """
    unit_parts = int(unit * TICKS_PER_QUARTER * denominator)
    into = positions % (2 * unit_parts)
    first = into * percent
    second = unit_parts * 2 * percent - unit_parts * 100 + into * (100 - percent)
    moved = np.where(into < unit_parts, first, second)
    result = (positions - into) * SWING_PARTS + moved
    paired = bar_ticks * denominator // (2 * unit_parts) * (2 * unit_parts)
    straight: Ticks = np.where(positions < paired, result, positions * SWING_PARTS)
    return straight


def beat_ticks(meter: Meter) -> int:
    """Return the length of a beat in ticks: dotted in 6, 9 and 12 over 8 or less.

    >>> beat_ticks(Meter()), beat_ticks(Meter(numerator=6, denominator=8))
    (13440, 20160)
    """
    beat = int(meter.beat_quarters * TICKS_PER_QUARTER)
    return 3 * beat if meter.numerator in _COMPOUND and meter.denominator <= 8 else beat


def beat_weights(positions: Ticks, denominator: int, meter: Meter, depth: int | Ticks) -> NDArray[np.int64]:
    """Return the weight of straight *positions* in their beat, in 1/400, where *depth* is 0-100 %.

    On the beat 1, exactly half-way 1 - depth / 4, elsewhere 1 - depth / 2.
    """
    beat = beat_ticks(meter) * denominator
    into = positions % beat
    halfway = np.where(2 * into == beat, _WHOLE_WEIGHT - depth, _WHOLE_WEIGHT - 2 * depth)
    return np.where(into == 0, _WHOLE_WEIGHT, halfway)
