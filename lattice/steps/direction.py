"""In which order a cycle reads its steps."""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from lattice.document.timing import Direction
from lattice.luck.draws import DRAW_BITS, whole_numbers

__all__ = ["RANDOM_DIRECTIONS", "cycle_length", "random_order", "steady_order"]

RANDOM_DIRECTIONS: frozenset[Direction] = frozenset({"shuffled", "random", "wander"})

Orders = NDArray[np.int64]
Draws = NDArray[np.uint64]


def cycle_length(direction: Direction, steps: int) -> int:
    """Return how many steps are played in a cycle of *steps* that take part.

    To and fro is one cycle there and back, its ends played once or twice.

    >>> [cycle_length(direction, 8) for direction in ("forward", "to-and-fro", "to-and-fro-twice")]
    [8, 14, 16]
    """
    if direction == "to-and-fro":
        return max(1, 2 * steps - 2)
    return 2 * steps if direction == "to-and-fro-twice" else steps


def steady_order(direction: Direction, steps: int) -> Orders:
    """Return which of *steps* each place of a cycle plays, where luck has no part in it.

    Raises ValueError for a direction that depends on luck.

    >>> steady_order("to-and-fro", 4).tolist()
    [0, 1, 2, 3, 2, 1]
    """
    forward = np.arange(steps)
    match direction:
        case "forward":
            return forward
        case "backward":
            return forward[::-1]
        case "to-and-fro":
            return np.concatenate([forward, forward[-2:0:-1]])
        case "to-and-fro-twice":
            return np.concatenate([forward, forward[::-1]])
        case _:
            raise ValueError(f"{direction} needs draws")


def random_order(direction: Direction, draws: Draws) -> Orders:
    """Return which step each place plays, cycle by cycle.

    *draws*: one of 53 bits for each (cycle, place), as many places as steps take part; the result has the same shape.
    Raises ValueError for a direction without luck.
    """
    ways: dict[Direction, Callable[[Draws], Orders]] = {
        "shuffled": _shuffled,
        "random": _random,
        "wander": _wander,
    }
    if direction not in ways:
        raise ValueError(f"{direction} needs no draws")
    return ways[direction](draws)


def _shuffled(draws: Draws) -> Orders:
    return np.argsort(draws, axis=1, kind="stable")


def _random(draws: Draws) -> Orders:
    return whole_numbers(draws, 0, draws.shape[1] - 1)


def _wander(draws: Draws) -> Orders:
    """From the first step one up or down at each step, turning back at the ends."""
    cycles, steps = draws.shape
    order = np.zeros((cycles, steps), np.int64)
    up = (draws >> np.uint64(DRAW_BITS - 1)).astype(np.int64) * 2 - 1
    for place in range(1, steps):
        before = order[:, place - 1]
        by = np.where(before == 0, 1, np.where(before == steps - 1, -1, up[:, place]))
        order[:, place] = before + by
    return order
