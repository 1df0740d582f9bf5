"""All ways to place hits on steps, each with its number."""

from collections.abc import Sequence
from math import comb

__all__ = ["number_of", "numbered", "ways"]


def ways(hits: int, steps: int) -> int:
    """Return in how many ways *hits* can be placed on *steps*.

    >>> ways(5, 16)
    4368
    """
    return comb(steps, hits)


def numbered(hits: int, steps: int, number: int) -> tuple[int, ...]:
    """Return the *number*-th way to place *hits* on *steps*, as 0-based steps, ascending.

    Numbers run from 0 in lexicographic order with the earliest hits first, and begin again after the last.
    Computed directly, by the combinatorial number system (Lehmer 1964; Knuth, TAOCP 7.2.1.3): no listing.
    Raises ValueError unless 0 <= hits <= steps and number >= 0.

    >>> [numbered(3, 5, number) for number in range(3)]
    [(0, 1, 2), (0, 1, 3), (0, 1, 4)]
    """
    if not 0 <= hits <= steps or number < 0:
        raise ValueError(f"need 0 <= hits <= steps and a number from 0, got {hits=}, {steps=}, {number=}")
    left, missing = number % ways(hits, steps), hits
    placed = []
    for step in range(steps):
        if not missing:
            break
        with_hit_here = comb(steps - step - 1, missing - 1)
        if left < with_hit_here:
            placed.append(step)
            missing -= 1
        else:
            left -= with_hit_here
    return tuple(placed)


def number_of(hits: Sequence[int], steps: int) -> int:
    """Return the number of a way to place hits: the inverse of `numbered`.

    >>> number_of((0, 1, 4), 5)
    2
    """
    number, missing, taken = 0, len(hits), set(hits)
    for step in range(steps):
        if step in taken:
            missing -= 1
        elif missing:
            number += comb(steps - step - 1, missing - 1)
    return number
