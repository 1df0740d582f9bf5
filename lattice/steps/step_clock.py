"""When the played steps of a lane begin: counted from the start, over restarts and passes."""

from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

import numpy as np

from lattice.units import TICKS_PER_QUARTER, Ticks, first_step_at, step_ticks

__all__ = ["StepClock"]


@dataclass(frozen=True)
class StepClock:
    """A lane's played steps in time, in *runs*: from the start, or from a restart, to the next one.

    *step*: length of a step in quarters. *cycle*: played steps once round. *period*: quarters from the beginning of
    one run to the next; None for one endless run. *offset*: quarters into each run at which its first step begins.
    *once*: whether each run is one cycle and then silence.

    Steps are counted over all runs: the *count* of a step is its number since the start, its *place* the one in its
    cycle. *per_run*: how many steps a run has; None if endless.
    """

    step: Fraction
    cycle: int
    period: Fraction | None = None
    offset: Fraction = Fraction(0)
    once: bool = False

    @cached_property
    def per_run(self) -> int | None:
        """How many steps begin in a run: those that begin before the next one does."""
        if self.period is None:
            return None
        fitting = -(-(self.period - self.offset) // self.step)
        return min(fitting, self.cycle) if self.once else fitting

    @cached_property
    def cycles_per_run(self) -> int | None:
        """How many cycles begin in a run."""
        return None if self.per_run is None else -(-self.per_run // self.cycle)

    @cached_property
    def cycle_quarters(self) -> Fraction:
        """Length of a whole cycle in quarter notes."""
        return self.cycle * self.step

    @cached_property
    def period_ticks(self) -> int:
        """Length of a run in ticks, always whole: runs begin at bar lines. 0 if endless."""
        return int((self.period or 0) * TICKS_PER_QUARTER)

    @cached_property
    def offset_ticks(self) -> int:
        """`offset` in ticks, always whole: offsets are bars and plain note values."""
        return int(self.offset * TICKS_PER_QUARTER)

    def run_and_index(self, counts: Ticks) -> tuple[Ticks, Ticks]:
        """Return the number of the run of each step, and the number of the step in that run."""
        if self.per_run is None:
            return np.zeros_like(counts), counts
        runs, indices = np.divmod(counts, self.per_run)
        return runs, indices

    def cycle_and_place(self, counts: Ticks) -> tuple[Ticks, Ticks]:
        """Return the running number of the cycle of each step, which a restart begins anew, and its place there."""
        if self.cycles_per_run is None:
            cycles, places = np.divmod(counts, self.cycle)
            return cycles, places
        runs, indices = self.run_and_index(counts)
        cycles, places = np.divmod(indices, self.cycle)
        return runs * self.cycles_per_run + cycles, places

    def starts(self, counts: Ticks, later: Fraction = Fraction(0)) -> Ticks:
        """Return when steps begin, *later* quarters later, in ticks, each rounded once from its exact time."""
        if self.per_run is None:
            return step_ticks(counts, self.step, later)
        runs, indices = self.run_and_index(counts)
        result: Ticks = runs * self.period_ticks + self.offset_ticks + step_ticks(indices, self.step, later)
        return result

    def exact(self, counts: Ticks) -> tuple[Ticks, int]:
        """Return when steps begin, exactly: ticks as numerators, and their denominator."""
        runs, indices = self.run_and_index(counts)
        step = self.step * TICKS_PER_QUARTER
        numerators: Ticks = (
            runs * self.period_ticks + self.offset_ticks
        ) * step.denominator + indices * step.numerator
        return numerators, step.denominator

    def first_at(self, tick: int) -> int:
        """Return the count of the first step that begins, rounded to a tick, at or after *tick*."""
        if self.per_run is None or self.period is None:
            return first_step_at(tick, self.step)
        run = max(0, tick // self.period_ticks)
        # A last step may round up to the tick at which the next run begins.
        for this in (run - 1, run):
            index = first_step_at(tick - this * self.period_ticks - self.offset_ticks, self.step)
            if this >= 0 and index < self.per_run:
                return this * self.per_run + index
        return (run + 1) * self.per_run

    def since_multiple(self, counts: Ticks, quarters: Fraction) -> Ticks:
        """Return how many steps began between the last multiple of *quarters* and each step; exactly, not in ticks."""
        exact, denominator = self.exact(counts)
        every = int(quarters * TICKS_PER_QUARTER)
        multiples = exact // (every * denominator)
        wanted, where = np.unique(multiples, return_inverse=True)
        firsts = np.array(
            [self._first_not_before(multiple * every) for multiple in wanted.tolist()], np.int64
        )
        result: Ticks = counts - firsts[where]
        return result

    def first_of_cycle(self, cycles: Ticks) -> Ticks:
        """Return the count of the first step of cycles, by their running numbers."""
        if self.per_run is None or self.cycles_per_run is None:
            return cycles * self.cycle
        runs, within = np.divmod(cycles, self.cycles_per_run)
        counts: Ticks = runs * self.per_run + within * self.cycle
        return counts

    def cycles_from(self, first: int, end: int) -> tuple[Ticks, Ticks]:
        """Return when the cycles begin whose first steps are counted from *first* up to *end*, and when they end.

        A cycle ends with its last step, or where a restart or the pass's end cuts it off. In ticks.
        """
        if end <= first:
            return np.empty(0, np.int64), np.empty(0, np.int64)
        (low, high), (place, _) = self.cycle_and_place(np.array([first, end - 1]))
        counts = self.first_of_cycle(np.arange(low + (place > 0), high + 1))
        starts, ends = self.starts(counts), self.starts(counts, self.cycle_quarters)
        if self.period_ticks:
            runs, _ = self.run_and_index(counts)
            ends = np.minimum(ends, (runs + 1) * self.period_ticks)
        return starts, ends

    def first_from(self, quarters: Fraction) -> int:
        """Return the count of the first step that begins at or after *quarters*, exactly."""
        return self._first_not_before(quarters * TICKS_PER_QUARTER)

    def _first_not_before(self, tick: int | Fraction) -> int:
        step = self.step * TICKS_PER_QUARTER
        if self.per_run is None:
            return max(0, -(-tick * step.denominator // step.numerator))
        run, into = divmod(tick, self.period_ticks)
        index = max(0, -(-(into - self.offset_ticks) * step.denominator // step.numerator))
        return run * self.per_run + min(index, self.per_run)
