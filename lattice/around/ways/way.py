"""What a way from a lane to one beside it is, and what it goes by."""

from collections.abc import Callable
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.document.lane import Lane

__all__ = ["Fields", "Luck", "Subject", "Way"]

Fields = dict[str, Any]


class Subject(NamedTuple):
    """A lane that may change. *hits*: those of its source, ascending; *peers*: free lanes of as many steps."""

    lane: Lane
    hits: tuple[int, ...]
    steps: int
    peers: tuple[Lane, ...] = ()


class Luck:
    """A row of draws, each used once: whole numbers of 53 bits."""

    def __init__(self, drawn: NDArray[np.uint64]) -> None:
        self._drawn = drawn
        self._used = 0

    def among(self, count: int) -> int:
        """Return a number from 0 to *count* - 1, each as likely; *count* at most 2,000."""
        return (self._next() * count) >> 53

    def up_to(self, most: int) -> int:
        """Return a number from 1 to *most*."""
        return 1 + self.among(most)

    def sign(self) -> int:
        """Return 1 or -1."""
        return 1 - 2 * self.among(2)

    def large(self, count: int) -> int:
        """Return a number from 0 to *count* - 1, however large that is."""
        words = self._next() << 106 | self._next() << 53 | self._next()
        return words % count

    def _next(self) -> int:
        self._used += 1
        return int(self._drawn[self._used - 1])


class Way(NamedTuple):
    """*fits*: whether a lane may go it; *change*: the fields that change by a target of so many %, by lane id.

    No fields: it leads nowhere from there.
    """

    name: str
    explains: str
    fits: Callable[[Subject], bool]
    change: Callable[[Subject, int, Luck], dict[str, Fields]]
