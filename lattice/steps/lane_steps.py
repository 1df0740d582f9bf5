"""Which played steps of each lane are hits, before chance: sources, turns, and lanes made from lanes."""

from collections.abc import Callable
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cached_property
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from lattice.cache import MEGABYTE, bytes_of, cached
from lattice.document.ground import GroundSource
from lattice.document.lane import Lane
from lattice.document.piece import Rhythm
from lattice.document.problems import DocumentError
from lattice.document.source import Echo, Made, Reply
from lattice.document.timing import BarRestart, PassRestart
from lattice.luck.draws import PLACES, Purpose, draws
from lattice.steps import along
from lattice.steps.busy import metrical_ranks
from lattice.steps.direction import RANDOM_DIRECTIONS, cycle_length, random_order, steady_order
from lattice.steps.frame import Frame, frame_of
from lattice.steps.ground import GroundPlace, place_on
from lattice.steps.hit_cycle import MAX_LINE, HitCycle, TooLongError
from lattice.steps.source_hits import Rule, turned_hits
from lattice.steps.step_clock import StepClock
from lattice.steps.thin import kept_of
from lattice.units import Ticks

__all__ = ["RANDOM_REACH", "LaneSteps", "steps_as", "steps_of_lane", "steps_of_lanes"]

RANDOM_REACH = 2048  # steps within which a reply to a lane of lucky order looks for the next hit

Hits = NDArray[np.bool_]
Orders = NDArray[np.int64]


def steps_of_lanes(rhythm: Rhythm, dice: int) -> list["LaneSteps"]:
    """Return the line of each lane of *rhythm*, in its order."""
    known: dict[str, LaneSteps] = {}
    return [_steps_in(rhythm, lane, known).by(dice) for lane in rhythm.lanes]


def steps_of_lane(rhythm: Rhythm, dice: int, lane_id: str) -> "LaneSteps":
    """Return the line of one lane. Raises DocumentError if there is no lane of that id."""
    return _steps_in(rhythm, rhythm.lane(lane_id), {}).by(dice)


def steps_as(lane_steps: "LaneSteps", lane: Lane) -> "LaneSteps":
    """Return the line of *lane* where it stands in the place of the lane that *lane_steps* is of."""
    return _steps_of(lane, lane_steps.frame, lane_steps.followed.laid if lane_steps.followed else None).by(
        lane_steps.dice
    )


def _steps_in(rhythm: Rhythm, lane: Lane, known: dict[str, "LaneSteps"]) -> "LaneSteps":
    if lane.id not in known:
        source = lane.source
        made_of = rhythm.lane(source.of) if isinstance(source, Made) else None
        followed = _steps_in(rhythm, made_of, known) if made_of else None
        known[lane.id] = _steps_of(lane, frame_of(rhythm), followed)
    return known[lane.id]


# A hand moves one lane at a time: what the others play is still known. By no dice: what luck has no part in is laid out
# once, however often dice are thrown.
@cached(48 * MEGABYTE)
def _steps_of(lane: Lane, frame: Frame, followed: "LaneSteps | None") -> "LaneSteps":
    return LaneSteps(lane, frame, followed)


Value = TypeVar("Value")


class laid_out(cached_property[Value]):  # noqa: N801 - used like the one it is made from
    """What luck has no part in: worked out once for a lane as it is laid out, whatever the dice."""

    def __init__(self, work_out: Callable[["LaneSteps"], Value]) -> None:
        super().__init__(lambda lane_steps: work_out(lane_steps.laid))
        self.__doc__ = work_out.__doc__


@dataclass(frozen=True)
class LaneSteps:
    """One lane's played steps, by some *dice*. A lane made from another runs on the clock of *followed*'s lane.

    *without_dice*: the same by no dice, which all dice share what luck has no part in with; None for that itself.
    """

    lane: Lane
    frame: Frame
    followed: "LaneSteps | None"
    dice: int = 0
    without_dice: "LaneSteps | None" = field(default=None, compare=False, repr=False)

    @cached_property
    def _hash(self) -> int:
        return hash((self.lane, self.frame, self.followed, self.dice))

    def __hash__(self) -> int:
        return self._hash  # looked up often

    @property
    def laid(self) -> "LaneSteps":
        """The same line without dice."""
        return self.without_dice or self

    def by(self, dice: int) -> "LaneSteps":
        """Return the same line by other *dice*."""
        if dice == self.dice:
            return self
        followed = self.followed.by(dice) if self.followed else None
        return LaneSteps(self.lane, self.frame, followed, dice, self.laid) if dice else self.laid

    @laid_out
    def weighs(self) -> int:
        """About how many bytes it takes, all that it works out later included; without the line that it follows."""
        return bytes_of(self.lane) + (0 if self.is_random else 10 * self.hit_cycle.hits.size)

    @cached_property
    def clock_lane(self) -> "LaneSteps":
        """The line whose clock, step numbers and order this one runs on: its own, or that of the lane it follows."""
        return self.followed.clock_lane if self.followed else self

    @laid_out
    def steps(self) -> int:
        """How many step numbers there are."""
        source = self.clock_lane.lane.source
        assert isinstance(source, Rule)
        return source.steps

    @laid_out
    def range(self) -> Orders:
        """The step numbers that take part, in order."""
        chosen = self.clock_lane.lane.step_range
        return np.array(chosen.within(self.steps) if chosen else range(self.steps), np.int64)

    @laid_out
    def is_random(self) -> bool:
        """Whether luck decides in which order the steps are played."""
        return self.clock_lane.lane.direction in RANDOM_DIRECTIONS

    @laid_out
    def clock(self) -> StepClock:
        """When its steps are played."""
        return self.followed.clock if self.followed else self._own_clock()

    def _own_clock(self) -> StepClock:
        lane, bar = self.lane, self.frame.meter.bar_quarters
        if lane.span:
            step = lane.span.quarters(bar) / self.steps
        else:
            step = (lane.step_value or self.frame.step_value).quarters
        step /= self.frame.rate
        cycle = cycle_length(lane.direction, len(self.range))
        if lane.once:
            return StepClock(step, cycle, self.frame.pass_quarters, lane.once.offset_quarters(bar), once=True)
        period: Fraction | None = None
        match lane.restart:
            case BarRestart(bars=bars):
                period = bars * bar
            case PassRestart():
                period = self.frame.pass_quarters
        return StepClock(step, cycle, period)

    def numbers(self, counts: Ticks) -> Orders:
        """Return the step numbers that are played at those *counts*, ascending."""
        if self.followed:
            return self.clock_lane.numbers(counts)
        cycles, places = self.clock.cycle_and_place(counts)
        if not self.is_random:
            return self._cycle_numbers[places]
        known, where = np.unique(cycles, return_inverse=True)
        of_cycle, at_place = np.broadcast_arrays(known[:, None], np.arange(self.clock.cycle))
        keys = self.luck_keys(self.clock.first_of_cycle(of_cycle) + at_place, of_cycle, at_place)
        order = random_order(self.lane.direction, draws(self.dice, self.lane.id, Purpose.ORDER, *keys))
        return self.range[order[where, places]]

    def luck_keys(self, counts: Ticks, cycles: Ticks, places: Ticks) -> tuple[Ticks, Ticks]:
        """Return (cycle, place) under which this lane draws for the steps of those counts, cycles and places."""
        if not self.lane.luck_bars:
            return cycles, places
        begun = self.steps_since_repeat(counts)
        return begun // PLACES, begun % PLACES

    def steps_since_repeat(self, counts: Ticks) -> Ticks:
        """Return how many steps were begun between the last multiple of the bars of its luck and those *counts*."""
        every = (self.lane.luck_bars or 1) * self.frame.meter.bar_quarters
        return self.clock.since_multiple(counts.ravel(), every).reshape(counts.shape)

    def hits(self, first: int, end: int) -> Hits:
        """Return which of the steps counted from *first* up to *end* are hits, after all turns and edits."""
        if not self.is_random:
            _, indices = self.clock.run_and_index(np.arange(first, end))
            return self.hit_cycle.at(indices)
        return self._random_hits(first, end)

    def hits_before(self, first: int, end: int) -> Ticks:
        """Return how many hits came before each of the steps counted from *first* up to *end*, along its run.

        Where luck decides the order, counting begins again with each cycle, except for a shuffled lane of its own whose
        cycles have a number of hits that can be told.
        """
        _, indices = self.clock.run_and_index(np.arange(first, end))
        if not self.is_random:
            return self.hit_cycle.before(indices)
        low = self._cycle_begin(first)
        hits = self.hits(low, end)
        cycles, _ = self.clock.cycle_and_place(np.arange(low, end))
        before = along.hits_before(hits, cycles)[first - low :]
        return before + self._hits_of_cycles(indices // self.clock.cycle)

    def hit_count(self, first: int, end: int) -> int:
        """Return how many of the steps counted from *first* up to *end* are hits, or may be where luck decides."""
        if self.is_random:
            return max(0, end - first)
        runs, indices = self.clock.run_and_index(np.array([first, end]))
        of_run = int(self.hit_cycle.before(np.array([self.clock.per_run or 0]))[0])
        before = runs * of_run + self.hit_cycle.before(indices)
        return int(before[1] - before[0])

    def hits_before_at(self, counts: Ticks) -> Ticks:
        """Return how many hits came before each of the steps of those *counts*, as `hits_before` does of a stretch."""
        if not self.is_random:
            return self.hit_cycle.before(self.clock.run_and_index(counts)[1])
        known, where = np.unique(counts, return_inverse=True)
        before = [self.hits_before(count, count + 1)[0] for count in known.tolist()]
        return np.array(before, np.int64)[where]

    def count_of_hit(self, numbers: Ticks, firsts: Ticks, lasts: Ticks) -> Ticks:
        """Return the counts of the hits that so many others come before, from *firsts* up to *lasts*.

        *firsts*: the steps at which counting begins. *lasts*: returned where there is no such hit.
        """
        low, high = firsts.copy(), lasts.copy()
        while (low < high).any():
            middle = (low + high + 1) // 2
            is_before = self.hits_before_at(middle) <= numbers
            low, high = np.where(is_before, middle, low), np.where(is_before, high, middle - 1)
        return low

    @property
    def counts_each_cycle(self) -> bool:
        """Whether counts of hits begin again with each cycle."""
        lane = self.lane
        told = not self.followed and lane.direction == "shuffled" and not (lane.thin and lane.edits)
        return self.is_random and not told

    def _hits_of_cycles(self, cycles: Ticks) -> Ticks:
        """Return how many hits the first *cycles* of a run have; 0 where that depends on luck."""
        lane = self.lane
        if self.counts_each_cycle:
            return np.zeros_like(cycles)
        by_number = along.edited(self._by_number, np.arange(self.steps), lane.edits)
        of_cycle = int(by_number[self.range].sum())
        if lane.thin is None:
            return cycles * of_cycle
        if lane.thin.each_cycle:
            return cycles * kept_of(np.array(of_cycle), lane.thin)
        return kept_of(cycles * of_cycle, lane.thin)

    def next_hit(self, count: int) -> int | None:
        """Return the count of the first hit at or after *count*; None if there is none in reach."""
        furthest = count + self._hits_within
        reach = 64
        while count < furthest:
            found = np.flatnonzero(self.hits(count, min(count + reach, furthest)))
            if found.size:
                return int(count + found[0])
            count, reach = count + reach, reach * 2
        return None

    @laid_out
    def _hits_within(self) -> int:
        """Within how many steps there is a hit, if there is any: what repeats shows all of itself."""
        if self.is_random:
            return 4 * RANDOM_REACH
        rest_of_run = min(self.clock.per_run or 0, MAX_LINE)
        return rest_of_run + self.hit_cycle.lead + self.hit_cycle.period

    @laid_out
    def hit_cycle(self) -> HitCycle:
        """All of its run, where luck has no part in the order. Raises ValueError where it has.

        Raises DocumentError if it repeats too late.
        """
        lane = self.lane
        numbers = self.clock_lane._cycle_numbers
        try:
            if self.followed is None:
                hits = HitCycle(self._by_number[numbers], self.clock.cycle, self.clock.per_run)
            else:
                hits = self._made(self.followed.hit_cycle).later(lane.rotate)
                hits = hits.rests() if lane.complement else hits
            hits = hits.thinned(lane.thin) if lane.thin else hits
        except TooLongError as error:
            raise DocumentError.of("thin" if lane.thin else "source", str(error), lane=lane.name) from error
        return hits.edited(lane.edits, numbers)

    def _made(self, followed: HitCycle) -> HitCycle:
        match self.lane.source:
            case Echo(shift=shift):
                return followed.later(shift)
            case Reply(every=every):
                return followed.replies(every)
            case _:
                return followed.rests()

    def _random_hits(self, first: int, end: int) -> Hits:
        """As `hits`, where each cycle has an order of its own: every count of hits begins again with it.

        Except that a shuffled lane's own thinning counts along the run: each of its cycles has as many hits.
        """
        lane, clock = self.lane, self.clock
        whole = self._cycle_begin(first)
        back, ahead = self._reach()
        low = self._cycle_begin(max(0, whole - back))
        counts = np.arange(low, end + ahead)
        runs, indices = clock.run_and_index(counts)
        cycles, _ = clock.cycle_and_place(counts)
        numbers = self.numbers(counts)
        if self.followed is None:
            hits = self._by_number[numbers]
        else:
            hits = self.followed.hits(low, end + ahead)
            match lane.source:
                case Echo(shift=shift):
                    hits = along.later(hits, runs, shift)
                case Reply(every=every):
                    hits = along.replies(hits, runs, along.hits_before(hits, cycles), every)
                case _:
                    hits = ~hits
            hits = along.later(hits, runs, lane.rotate)
            if lane.complement:
                hits = ~hits
        if lane.thin:
            before = along.hits_before(hits, cycles)
            if self.followed is None and lane.direction == "shuffled" and not lane.thin.each_cycle:
                before += indices // clock.cycle * int(self._by_number[self.range].sum())
            hits = along.thinned(hits, before, lane.thin)
        return along.edited(hits, numbers, lane.edits)[first - low : end - low]

    def _reach(self) -> tuple[int, int]:
        """How many steps before and after a stretch have a say in its hits."""
        if self.followed is None:
            return 0, 0
        reach = RANDOM_REACH if isinstance(self.lane.source, Reply) else 0
        shift = self.lane.source.shift if isinstance(self.lane.source, Echo) else 0
        return reach + shift + max(0, self.lane.rotate), reach + max(0, -self.lane.rotate)

    def _cycle_begin(self, count: int) -> int:
        _, places = self.clock.cycle_and_place(np.array([count]))
        return int(count - places[0])

    @laid_out
    def _cycle_numbers(self) -> Orders:
        return self.range[steady_order(self.lane.direction, len(self.range))]

    @laid_out
    def rule_hits(self) -> tuple[int, ...]:
        """The step numbers that its own source hits, after all turns but thinning, ascending. Not of a made lane."""
        return turned_hits(self.lane, self.steps, self.ranks)

    @property
    def ranks(self) -> tuple[int, ...]:
        """How important each step number is, the lower the more: see `busier`."""
        if ground := self.ground:
            return tuple(-merit for merit in ground.merits)
        return metrical_ranks(self.steps, self.clock.step, self.frame.meter)

    @laid_out
    def ground(self) -> GroundPlace | None:
        """What it plays at its place on a ground, step number by step number; None if it is on none."""
        source = self.lane.source
        if not isinstance(source, GroundSource):
            return None
        place = place_on(source)
        turned = [place.merits[(step - self.lane.rotate) % self.steps] for step in range(self.steps)]
        return place._replace(merits=tuple(turned))

    @laid_out
    def velocities(self) -> NDArray[np.int64] | int:
        """How hard hits without a value in the strip are struck: each step number on a ground as hard as it says.

        There the lane's velocity is a percentage of that.
        """
        ground, own = self.ground, self.lane.velocity
        if ground is None:
            return own
        return np.array([ground.velocity(step, own) for step in range(self.steps)], np.int64)

    @laid_out
    def _by_number(self) -> Hits:
        by_number = np.zeros(self.steps, bool)
        by_number[list(self.rule_hits)] = True
        return by_number
