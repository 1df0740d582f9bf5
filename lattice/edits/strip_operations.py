"""What hands do to a strip beside painting: each returns new values."""

from collections.abc import Callable, Sequence
from typing import Literal

import numpy as np

from lattice.document.strip import TIED, Shape, StripKind
from lattice.luck.draws import Purpose, draws_each, whole_numbers

__all__ = [
    "MOVING",
    "OPERATIONS",
    "Operation",
    "Values",
    "moved",
    "reversed_values",
    "rotated",
    "scaled",
    "thrown_values",
    "upside_down",
]

Values = tuple[int | None, ...]
Operation = Literal[
    "later", "earlier", "reverse", "upside down", "up", "down", "towards the middle", "away from the middle"
]
# Those that move values to other places, and change none.
MOVING: frozenset[Operation] = frozenset({"later", "earlier", "reverse"})
_SCALE = (3, 4)  # towards the middle by a quarter


def rotated(values: Sequence[int | None], by: int) -> Values:
    """Return *values* moved *by* places later, round the end.

    >>> rotated((1, 2, None), 1)
    (None, 1, 2)
    """
    count = len(values)
    return tuple(values[(place - by) % count] for place in range(count))


def reversed_values(values: Sequence[int | None]) -> Values:
    """Return *values* from the last to the first."""
    return tuple(values[::-1])


def upside_down(values: Sequence[int | None]) -> Values:
    """Return *values* mirrored between the lowest and the highest of them.

    >>> upside_down((0, 2, None, 6))
    (6, 4, None, 0)
    """
    own = [value for value in values if value is not None]
    ends = min(own, default=0) + max(own, default=0)
    return tuple(None if value is None else ends - value for value in values)


def moved(values: Sequence[int | None], kind: StripKind, by: int) -> Values:
    """Return *values* each so much higher, kept within the strip's range; a tie stays one."""
    return tuple(
        value if value is None or _is_tie(value, kind) else min(kind.high, max(kind.low, value + by))
        for value in values
    )


def scaled(values: Sequence[int | None], kind: StripKind, numerator: int, denominator: int) -> Values:
    """Return *values* with their distances from the strip's middle times a fraction, rounded half up.

    Plain values stay plain, and so does a tie.

    >>> from lattice.document.strip import CHANCE
    >>> scaled((0, 50, None, 100), CHANCE, 1, 2)
    (25, 50, None, 75)
    """
    return tuple(
        value if value is None or _is_tie(value, kind) else _scaled(value, kind, numerator, denominator)
        for value in values
    )


def _is_tie(value: int, kind: StripKind) -> bool:
    return kind.field == "length_strip" and (value == TIED or value > kind.high)


def _scaled(value: int, kind: StripKind, numerator: int, denominator: int) -> int:
    # Twice the middle is whole.
    middle = kind.twice_the_middle
    twice = middle * denominator + (2 * value - middle) * numerator
    return min(kind.high, max(kind.low, (twice + denominator) // (2 * denominator)))


def thrown_values(
    values: Sequence[int | None], low: int, high: int, shape: Shape, throw: int, lane_id: str, strip: int
) -> Values:
    """Return as many values drawn between *low* and *high* by the throw of that number; *strip*: its draw number.

    Raises ValueError if *low* is above *high*.
    """
    if low > high:
        raise ValueError(f"nothing lies between {low} and {high}")
    places = np.arange(len(values))
    drawn = whole_numbers(
        draws_each(throw, lane_id, Purpose.THROW_STRIP.of(strip), places // 256, places % 256, 2), low, high
    )
    picked = drawn[:, 0] if shape == "even" else (drawn[:, 0] + drawn[:, 1] + 1) // 2
    return tuple(picked.tolist())


OPERATIONS: dict[Operation, Callable[[Sequence[int | None], StripKind], Values]] = {
    "later": lambda values, _: rotated(values, 1),
    "earlier": lambda values, _: rotated(values, -1),
    "reverse": lambda values, _: reversed_values(values),
    "upside down": lambda values, _: upside_down(values),
    "up": lambda values, kind: moved(values, kind, 1),
    "down": lambda values, kind: moved(values, kind, -1),
    "towards the middle": lambda values, kind: scaled(values, kind, *_SCALE),
    "away from the middle": lambda values, kind: scaled(values, kind, *_SCALE[::-1]),
}
