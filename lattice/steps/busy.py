"""Busier and sparser: which rests of a cycle become hits first, and which hits stay longest."""

from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache

from lattice.document.meter import Meter
from lattice.steps.measures import metrical_units
from lattice.units import TICKS_PER_QUARTER

__all__ = ["busier", "metrical_ranks"]


@lru_cache(maxsize=1024)
def metrical_ranks(steps: int, step: Fraction, meter: Meter) -> tuple[int, ...]:
    """Return how strong each step of a cycle is that begins on a bar line: 0 on the bar line, higher is weaker.

    *step*: length of a step in quarters. The ranks are the levels of the measure of syncopation.

    >>> metrical_ranks(8, Fraction(1, 2), Meter())
    (0, 3, 2, 3, 1, 3, 2, 3)
    """
    step_ticks = step * TICKS_PER_QUARTER
    units = metrical_units(meter, max(1, int(step_ticks)))
    return tuple(
        next((level for level, unit in enumerate(units) if number * step_ticks % unit == 0), len(units))
        for number in range(steps)
    )


def busier(hits: Sequence[int], ranks: Sequence[int], busy: int) -> tuple[int, ...]:
    """Return *hits* of a cycle with some taken away (*busy* from -100 %), or with some rests made hits (to +100 %).

    *ranks*: of each step; the lower, the sooner it comes and the longer it stays. Of equals the one that is farthest,
    round the cycle, from the nearest hit that is there by then, and then the earlier. So more never takes a hit away,
    less never adds one; -100 is silence, +100 every step. Halves are rounded up.
    Raises ValueError unless -100 <= busy <= 100.

    >>> ranks = metrical_ranks(8, Fraction(1, 2), Meter())
    >>> busier((2, 6), ranks, 50), busier((0, 2, 6), ranks, -67), busier((2, 6), ranks, 0)
    ((0, 1, 2, 4, 6), (0,), (2, 6))
    """
    if not -100 <= busy <= 100:
        raise ValueError(f"need a percentage from -100 to 100, got {busy}")
    if busy < 0:
        return tuple(sorted(_in_turn([], hits, ranks, _share(len(hits), 100 + busy))))
    rests = [step for step in range(len(ranks)) if step not in set(hits)]
    return tuple(sorted([*hits, *_in_turn(hits, rests, ranks, _share(len(rests), busy))]))


def _share(count: int, percent: int) -> int:
    return (2 * count * percent + 100) // 200


def _in_turn(there: Sequence[int], coming: Sequence[int], ranks: Sequence[int], count: int) -> list[int]:
    """Return the first *count* of the steps *coming*, as they come one by one to those that are *there*."""
    steps = len(ranks)
    near = [min((_apart(step, hit, steps) for hit in there), default=steps) for step in range(steps)]
    left, came = sorted(coming), list[int]()
    while len(came) < count:
        step = min(left, key=lambda step: (ranks[step], -near[step], step))
        left.remove(step)
        came.append(step)
        near = [min(known, _apart(other, step, steps)) for other, known in enumerate(near)]
    return came


def _apart(step: int, other: int, steps: int) -> int:
    return min((step - other) % steps, (other - step) % steps)
