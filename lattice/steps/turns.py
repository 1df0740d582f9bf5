"""What is done to a source's hits, always in this order: rotate, then complement."""

from collections.abc import Iterable

__all__ = ["complement", "rotate"]


def rotate(hits: Iterable[int], steps: int, by: int) -> tuple[int, ...]:
    """Return *hits* moved *by* steps later (negative: earlier) around a cycle of *steps*, ascending.

    >>> rotate((0, 3, 6), 8, 2)
    (0, 2, 5)
    """
    return tuple(sorted((hit + by) % steps for hit in hits))


def complement(hits: Iterable[int], steps: int) -> tuple[int, ...]:
    """Return the rests of a cycle: swaps hits and rests.

    >>> complement((0, 3, 6), 8)
    (1, 2, 4, 5, 7)
    """
    taken = set(hits)
    return tuple(step for step in range(steps) if step not in taken)
