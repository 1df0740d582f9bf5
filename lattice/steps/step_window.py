"""A stretch of a lane's played steps, column by column, each worked out when it is first asked for."""

from copy import copy
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from lattice.luck.draws import DEVIATION_DRAWS, deviations, draws, draws_each
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.moving import numbers_at
from lattice.units import Ticks

__all__ = ["StepWindow"]


class StepWindow:
    """The steps of *lane_steps* counted from *first* up to *end*: one entry of every column for each of them."""

    def __init__(self, lane_steps: LaneSteps, first: int, end: int) -> None:
        self.lane_steps = lane_steps
        self.first = first
        self.end = end

    @property
    def weighs(self) -> int:
        """About how many bytes all its columns take."""
        return 400 + 120 * (self.end - self.first)

    @cached_property
    def counts(self) -> Ticks:
        """Their numbers since the start."""
        return np.arange(self.first, self.end, dtype=np.int64)

    @cached_property
    def numbers(self) -> Ticks:
        """Which step of the lane each plays."""
        return self.lane_steps.numbers(self.counts)

    @cached_property
    def hit(self) -> NDArray[np.bool_]:
        """Whether each is a hit, before chance."""
        return self.lane_steps.hits(self.first, self.end)

    @cached_property
    def hit_index(self) -> Ticks:
        """How many hits came before each since its run began."""
        return self.lane_steps.hits_before(self.first, self.end)

    @cached_property
    def counting_begins(self) -> Ticks:
        """The count of the step at which `hit_index` of each began: with its run, or its cycle."""
        if self.lane_steps.counts_each_cycle:
            return self.lane_steps.clock.first_of_cycle(self.cycles)
        return self.counts - self.indices

    @cached_property
    def _runs_and_indices(self) -> tuple[Ticks, Ticks]:
        return self.lane_steps.clock.run_and_index(self.counts)

    @property
    def runs(self) -> Ticks:
        """The run that each belongs to."""
        return self._runs_and_indices[0]

    @property
    def indices(self) -> Ticks:
        """The number of each in its run."""
        return self._runs_and_indices[1]

    @cached_property
    def _cycles_and_places(self) -> tuple[Ticks, Ticks]:
        return self.lane_steps.clock.cycle_and_place(self.counts)

    @property
    def cycles(self) -> Ticks:
        """The running number of the cycle of each, which no restart sets back."""
        return self._cycles_and_places[0]

    @property
    def places(self) -> Ticks:
        """The place of each in its cycle, as played."""
        return self._cycles_and_places[1]

    @cached_property
    def keys(self) -> tuple[Ticks, Ticks]:
        """Under which (cycle, place) each draws."""
        return self.lane_steps.luck_keys(self.counts, self.cycles, self.places)

    def draws(self, purpose: int) -> NDArray[np.uint64]:
        """Return a draw for each."""
        return draws(self.lane_steps.dice, self.lane_steps.lane.id, purpose, *self.keys)

    def draws_each(self, purpose: int, count: int) -> NDArray[np.uint64]:
        """Return *count* draws for each, along a last axis."""
        return draws_each(self.lane_steps.dice, self.lane_steps.lane.id, purpose, *self.keys, count)

    def deviations(self, purpose: int) -> Ticks:
        """Return by how many spreads each deviates, in 1/2**53: see `lattice.luck.draws.deviations`."""
        return deviations(self.draws_each(purpose, DEVIATION_DRAWS))

    @cached_property
    def straights(self) -> Ticks:
        """When each begins before swing, in ticks."""
        return self.lane_steps.clock.starts(self.counts)

    def moved(self, field: str) -> Ticks | None:
        """Return the lane's number *field* at each step where a movement moves it; None where none does.

        Movements that cut time are none of the lane's: see `lattice.render.movements`.
        """
        lane = self.lane_steps.lane
        for movement in lane.movements:
            if movement.control == field and not movement.off:
                bar_ticks = self.lane_steps.frame.meter.bar_ticks
                return numbers_at(movement, self.straights, bar_ticks, getattr(lane, field))
        return None

    def own(self, field: str) -> int | Ticks:
        """Return the lane's number *field*: the same for all steps, or one for each where a movement moves it."""
        moved = self.moved(field)
        if moved is not None:
            return moved
        own: int = getattr(self.lane_steps.lane, field)
        return own

    def of(self, lane_steps: LaneSteps) -> "StepWindow":
        """Return the same steps by the dice of *lane_steps*, which do not decide their order."""
        if lane_steps is self.lane_steps:
            return self
        other = copy(self)
        other.lane_steps = lane_steps
        return other

    def whole_cycles(self) -> "StepWindow":
        """Return the stretch of all cycles of which this one has a part."""
        if not self.counts.size:
            return self
        first, end = self.lane_steps.clock.first_of_cycle(
            np.array([self.cycles[0], self.cycles[-1] + 1])
        ).tolist()
        return self if (first, end) == (self.first, self.end) else StepWindow(self.lane_steps, first, end)
