"""The hits of a run in which luck has no part: however long, they repeat, so any stretch is at hand at once.

A count along the run (every 3rd hit) repeats every several cycles, which a line holds all of. What does not come
round within MAX_LINE steps is refused.
"""

from dataclasses import dataclass
from functools import cached_property
from math import gcd
from typing import Self

import numpy as np
from numpy.typing import NDArray

from lattice.document.turns import Edit, Thin
from lattice.steps import along

__all__ = ["MAX_LINE", "HitCycle", "TooLongError"]

MAX_LINE = 2**22


class TooLongError(ValueError):
    """Hits repeat too late to be held all at once."""


@dataclass(frozen=True)
class HitCycle:
    """*hits* of the first steps of a run: after *lead* of them the others repeat for ever.

    *cycle*: played steps in a cycle; what repeats is a whole number of cycles, and so is *lead*.
    *per_run*: how many steps the run has; None if endless.
    """

    hits: NDArray[np.bool_]
    cycle: int
    per_run: int | None = None
    lead: int = 0

    @property
    def period(self) -> int:
        """After how many steps the hits repeat."""
        return len(self.hits) - self.lead

    @cached_property
    def period_hits(self) -> int:
        """How many hits there are in what repeats."""
        return int(self.hits[self.lead :].sum())

    @cached_property
    def _counted(self) -> NDArray[np.int64]:
        """How many hits come before each step, and before the end."""
        return np.concatenate([[0], np.cumsum(self.hits)])

    def before(self, indices: NDArray[np.int64]) -> NDArray[np.int64]:
        """Return how many hits of the run come before the steps of those numbers in it."""
        rounds, into = np.divmod(np.maximum(indices - self.lead, 0), self.period)
        result: NDArray[np.int64] = (
            self._counted[np.minimum(indices, self.lead) + into] + rounds * self.period_hits
        )
        return result

    def at(self, indices: NDArray[np.int64]) -> NDArray[np.bool_]:
        """Return whether the steps of those numbers in the run are hits."""
        if self.lead == 0:
            return self.hits[indices % len(self.hits)]
        return self.hits[
            np.where(indices < self.lead, indices, self.lead + (indices - self.lead) % self.period)
        ]

    def rests(self) -> Self:
        """Return the line with hits and rests changed."""
        return self._with(~self.hits, self.lead)

    def later(self, by: int) -> Self:
        """Return the line *by* steps later; nothing comes in before its start, or after its end if it has one."""
        if by == 0:
            return self
        if by > 0:
            lead = self._whole_cycles(self.lead + by)
            known = self._first(lead + self.period)
            return self._with(along.later(known, np.zeros(len(known), np.int64), by), lead)
        length = self._length(len(self.hits))
        known = self._first(length if length == self.per_run else length - by)
        return self._closed(along.later(known, np.zeros(len(known), np.int64), by), length)

    def replies(self, every: int) -> Self:
        """Return what replies to each *every*-th hit of the line: see `lattice.steps.along.replies`."""
        rounds = self._rounds(every)
        lead = self.lead + self.period  # a reply just after the lead may answer a hit within it
        length = self._length(lead + self.period * rounds)
        known = self._first(length + self.period)  # at least up to the next hit
        if self.per_run is not None and length == self.per_run:
            known = known[:length]  # the run ends: what comes after is another one's
        zeros = np.zeros(len(known), np.int64)
        answered = along.replies(known, zeros, along.hits_before(known, zeros), every)
        return self._closed(answered, length, lead)

    def thinned(self, thin: Thin) -> Self:
        """Return the line thinned, its hits counted along the run or anew in each cycle."""
        if thin.each_cycle:
            groups = np.arange(len(self.hits)) // self.cycle
            return self._with(along.thinned(self.hits, along.hits_before(self.hits, groups), thin), self.lead)
        hits = self._first(self.lead + self.period * self._rounds(thin.every))
        before = along.hits_before(hits, np.zeros(len(hits), np.int64))
        return self._with(along.thinned(hits, before, thin), self.lead)

    def edited(self, edits: tuple[Edit, ...], numbers: NDArray[np.int64]) -> Self:
        """Return the line with single steps forced; *numbers*: the step number of each place of a cycle."""
        if not edits:
            return self
        repeated = numbers[np.arange(len(self.hits)) % self.cycle]
        return self._with(along.edited(self.hits, repeated, edits), self.lead)

    def _first(self, length: int) -> NDArray[np.bool_]:
        return self.at(np.arange(length))

    def _rounds(self, every: int) -> int:
        """After how many times round a count to *every* begins at the same hit; no more than the run has."""
        rounds = every // gcd(every, self.period_hits or every)
        if self.per_run is not None:
            rounds = min(rounds, -(-self.per_run // self.period) + 1)
        if (steps := self.lead + rounds * self.period) > MAX_LINE:
            raise TooLongError(
                f"it repeats only after {steps:,} steps, {MAX_LINE:,} is the most: count to less"
            )
        return rounds

    def _whole_cycles(self, steps: int) -> int:
        return -(-steps // self.cycle) * self.cycle

    def _length(self, endless: int) -> int:
        """How much of the line to look at where its end counts: all of the run, if it has an end that is in reach."""
        return endless if self.per_run is None or self.per_run > MAX_LINE else self.per_run

    def _closed(self, hits: NDArray[np.bool_], length: int, lead: int | None = None) -> Self:
        """Return *length* steps of *hits* as a line; a run looked at as a whole needs to repeat no more."""
        if length != self.per_run:
            return self._with(hits[:length], self.lead if lead is None else lead)
        whole = np.zeros(self._whole_cycles(length), bool)
        whole[:length] = hits[:length]
        return self._with(whole, 0)

    def _with(self, hits: NDArray[np.bool_], lead: int) -> Self:
        return type(self)(hits, self.cycle, self.per_run, lead)
