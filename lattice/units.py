"""Exact quarters become whole ticks, once, here and nowhere else."""

from fractions import Fraction
from typing import overload

import numpy as np
from numpy.typing import NDArray

__all__ = ["TICKS_PER_QUARTER", "Ticks", "exact_ticks", "first_step_at", "half_up", "step_ticks", "ticks"]

TICKS_PER_QUARTER = 13440
Ticks = NDArray[np.int64]


def ticks(quarters: Fraction) -> int:
    """Return a position in ticks: floor(ticks + 1/2) of its absolute value in *quarters*.

    >>> ticks(Fraction(4, 11))
    4887
    """
    exact = quarters * TICKS_PER_QUARTER
    return half_up(exact.numerator, exact.denominator)


@overload
def half_up(numerators: int, denominator: int) -> int: ...
@overload
def half_up(numerators: Ticks, denominator: int) -> Ticks: ...
def half_up(numerators: int | Ticks, denominator: int) -> int | Ticks:
    """Return *numerators* / *denominator* rounded to whole numbers, halves upwards: of one number, or of many.

    Exact for numbers of any size, in arrays of Python's own integers too.

    >>> half_up(7, 2), half_up(np.array([-3, 1, 2, 3]), 2).tolist()
    (4, [-1, 1, 1, 2])
    """
    rounded = (2 * numerators + denominator) // (2 * denominator)
    return rounded.astype(np.int64) if isinstance(rounded, np.ndarray) else rounded


def exact_ticks(whole: Ticks, numerators: Ticks, denominator: int) -> Ticks:
    """Return *whole* + *numerators* / *denominator* ticks as Fractions: for times that are rounded once, later.

    >>> exact_ticks(np.array([10]), np.array([5]), 2).tolist()
    [Fraction(25, 2)]
    """
    rows = zip(whole.tolist(), numerators.tolist(), strict=True)
    result = np.empty(whole.size, object)
    result[:] = [one + Fraction(numerator, denominator) for one, numerator in rows]
    return result


def step_ticks(numbers: Ticks, step: Fraction, later: Fraction = Fraction(0)) -> Ticks:
    """Return `ticks(number * step + later)` for every step number at once, exactly.

    *numbers*: whole, from 0. *step*, *later*: quarters. The values stay below 2**63 for every step
    value and every position up to `lattice.render.window.MAX_BARS`.
    """
    exact_step, exact_later = step * TICKS_PER_QUARTER, later * TICKS_PER_QUARTER
    common = np.lcm(exact_step.denominator, exact_later.denominator).item()
    per_step = exact_step.numerator * (common // exact_step.denominator)
    offset = exact_later.numerator * (common // exact_later.denominator)
    result: Ticks = half_up(numbers * per_step + offset, common)
    return result


def first_step_at(tick: int, step: Fraction) -> int:
    """Return the first step number >= 0 whose start, rounded to a tick, is not before *tick*.

    >>> first_step_at(4887, Fraction(4, 11))
    1
    """
    exact = step * TICKS_PER_QUARTER
    return max(0, -(-(2 * tick - 1) * exact.denominator // (2 * exact.numerator)))
