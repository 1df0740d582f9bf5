"""Contours: rows of values that rise, fall, go round or wander between two ends, with leaps no larger than wanted."""

from collections.abc import Callable
from fractions import Fraction
from typing import Literal

import numpy as np

from lattice.luck.draws import Purpose, draws, whole_numbers

__all__ = ["CONTOURS", "Contour", "contour"]

Contour = Literal["rise", "fall", "arch", "wave", "wander", "throw"]


def contour(
    kind: Contour, count: int, low: int, high: int, leap: int, throw: int, lane_id: str
) -> tuple[int, ...]:
    """Return *count* values between *low* and *high*, each at most *leap* from the one before.

    Rise, fall: in a straight line. Arch: up and down again. Wave: from the middle up, down, and back to it. Wander:
    each a step or two from the one before. Throw: anywhere within the leap. The last two by the throw of that number.
    What would go too far in one leap goes as far as it may. Raises ValueError if *low* is above *high*, or *leap* below
    1.

    >>> contour("arch", 5, 0, 4, 7, 1, "reed"), contour("rise", 3, 0, 7, 2, 1, "reed")
    ((0, 2, 4, 2, 0), (0, 2, 4))
    """
    if low > high or leap < 1:
        raise ValueError(
            f"a contour goes from low to high by leaps of 1 at least, got {low=}, {high=}, {leap=}"
        )
    if kind in _SHAPES:
        shape = _SHAPES[kind]
        aims = [
            _half_up(low + (high - low) * shape(Fraction(place, max(1, count - 1)))) for place in range(count)
        ]
    else:
        places = np.arange(count)
        drawn = draws(throw, lane_id, Purpose.CONTOUR, places // 256, places % 256)
        return _drawn(kind, drawn, low, high, leap)
    row: list[int] = []
    for aim in aims:
        row.append(aim if not row else max(row[-1] - leap, min(row[-1] + leap, aim)))
    return tuple(row)


def _drawn(
    kind: Contour, drawn: "np.ndarray[tuple[int], np.dtype[np.uint64]]", low: int, high: int, leap: int
) -> tuple[int, ...]:
    row: list[int] = []
    for place in range(drawn.size):
        if not row:
            first, last = ((low + high) // 2,) * 2 if kind == "wander" else (low, high)
        else:
            reach = min(leap, 2) if kind == "wander" else leap
            first, last = max(low, row[-1] - reach), min(high, row[-1] + reach)
        row.append(int(whole_numbers(drawn[place : place + 1], first, last)[0]))
    return tuple(row)


def _half_up(value: Fraction) -> int:
    return (value + Fraction(1, 2)).__floor__()


def _wave(along: Fraction) -> Fraction:
    quarter = along * 4
    up = quarter if quarter <= 1 else 2 - quarter if quarter <= 3 else quarter - 4
    return (1 + up) / 2


_SHAPES: dict[Contour, Callable[[Fraction], Fraction]] = {
    "rise": lambda along: along,
    "fall": lambda along: 1 - along,
    "arch": lambda along: 1 - abs(1 - 2 * along),
    "wave": _wave,
}
CONTOURS: tuple[Contour, ...] = (*_SHAPES, "wander", "throw")
