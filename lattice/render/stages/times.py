"""When hits begin and end: grid, swing, nudge, humanise, ratchets, ties together; each time rounded once, to a tick.

Inside, positions are whole numbers of a small part of a tick, counted from the bar line before the step, so that they
are exact and never large.
"""

from functools import cached_property
from math import lcm
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.document.strip import TIED
from lattice.luck.draws import DRAW_BITS
from lattice.render.feel import Feel
from lattice.render.stages.humanise import deviations_in_time, spread_quarters
from lattice.render.stages.length import MAX_TIE_BARS, lengths_of
from lattice.render.stages.nudge import nudges_of
from lattice.steps.groove import SWING_PARTS, swing_unit, swung
from lattice.steps.step_window import StepWindow
from lattice.units import TICKS_PER_QUARTER, Ticks, exact_ticks, half_up, ticks

__all__ = ["NoteTimes", "Placing", "note_times"]

_PERCENT = 100
_FURTHEST_STEPS = 100
_SAFE = 1 << 62


class Placing:
    """Where the steps of *step_window* lie. *ratchets*: into how many notes each is divided.

    *exactly*: starts and ends of notes are Fractions of ticks, not rounded.
    """

    def __init__(
        self, step_window: StepWindow, feel: Feel, ratchets: Ticks, *, exactly: bool = False
    ) -> None:
        self.step_window = step_window
        self.feel = feel
        self.ratchets = ratchets
        self.exactly = exactly
        clock = step_window.lane_steps.clock
        self.bar_ticks = step_window.lane_steps.frame.meter.bar_ticks
        exact, self._denominator = clock.exact(step_window.counts)
        self.bars, self._into = np.divmod(exact, self.bar_ticks * self._denominator)
        step = clock.step * TICKS_PER_QUARTER
        self._step = step.numerator * (self._denominator // step.denominator)
        self._swing_unit = swing_unit(clock.step, feel.swing)
        self._parts = lcm(1, *np.unique(ratchets).tolist())
        # Beyond 64 bits: Python's own whole numbers. No note ends further from its bar line than so many steps.
        if (self.bar_ticks + _FURTHEST_STEPS * (int(step) + 1)) * self.unit >= _SAFE:
            self._into = self._into.astype(object)

    @cached_property
    def unit(self) -> int:
        """How many parts a tick has."""
        return self._denominator * SWING_PARTS * self._parts * 2 * _PERCENT

    @cached_property
    def _grid(self) -> Ticks:
        """Where steps begin after swing, in 1/(denominator x SWING_PARTS) tick after their bar line."""
        return self._swung(self._into)

    @cached_property
    def _length(self) -> Ticks:
        """How long steps last after swing, in the same parts."""
        bar = self.bar_ticks * self._denominator
        end = self._into + self._step
        into, over = end % bar, end // bar * (bar * SWING_PARTS)
        result: Ticks = self._swung(into) + over - self._grid
        return result

    def _swung(self, into: Ticks) -> Ticks:
        if self._swing_unit is None:
            return into * SWING_PARTS
        return swung(into, self._denominator, self._swing_unit, self.feel.swing.percent, self.bar_ticks)

    @cached_property
    def grid(self) -> Ticks:
        """When steps begin after swing, in ticks."""
        return self.bars * self.bar_ticks + half_up(self._grid, self._denominator * SWING_PARTS)

    @cached_property
    def nudges(self) -> Ticks:
        """How much later each step is, in % of a straight step."""
        return nudges_of(self.step_window)

    @cached_property
    def _strays(self) -> Ticks | None:
        return deviations_in_time(self.step_window)

    def starts(self, which: Ticks, note: Ticks) -> Ticks:
        """Return when notes begin, in ticks: the *note*-th, from 0, of the step at index *which*. May be before 0."""
        return self._rounded(which, self._begin(which, note) + self._nudged(which))

    def ends(self, which: Ticks, note: Ticks, percent: Ticks) -> Ticks:
        """Return when notes end that last *percent* of their share of the step, in ticks."""
        share = self._length[which] * (self._parts // self.ratchets[which])
        lasts = share * percent * 2
        return self._rounded(which, self._begin(which, note) + lasts + self._nudged(which))

    def is_cut_off(self, which: Ticks, note: Ticks) -> NDArray[np.bool_]:
        """Return which notes would begin when the lane has begun again, or its pass is over."""
        period = self.step_window.lane_steps.clock.period_ticks
        if not period:
            return np.zeros(which.size, bool)
        left = (self.step_window.runs[which] + 1) * period - self.bars[which] * self.bar_ticks
        # No step is longer: what lies further off cuts nothing, and the numbers stay small.
        left = np.minimum(left, self.bar_ticks + 2 * ticks(self.step_window.lane_steps.clock.step) + 2)
        left = left.astype(self._into.dtype)
        late = (self._begin(which, note) >= left * self.unit).astype(bool)
        result: NDArray[np.bool_] = (note > 0) & late
        return result

    def _begin(self, which: Ticks, note: Ticks) -> Ticks:
        share = self._length[which] * (self._parts // self.ratchets[which])
        result: Ticks = (self._grid[which] * self._parts + note * share) * (2 * _PERCENT)
        return result

    def _nudged(self, which: Ticks) -> Ticks:
        nudges = self.nudges[which].astype(self._into.dtype)
        result: Ticks = self._step * nudges * (SWING_PARTS * self._parts * 2)
        return result

    def _rounded(self, which: Ticks, positions: Ticks) -> Ticks:
        bar_lines = self.bars[which] * self.bar_ticks
        unit = self.unit
        if self._strays is not None:
            # Milliseconds in ticks by the exact tempo; beyond 64 bits, so in Python's own whole numbers.
            spread = spread_quarters(self.step_window.lane_steps, self.feel) * TICKS_PER_QUARTER
            parts = spread.denominator << DRAW_BITS
            strays = self._strays[which].astype(object) * (spread.numerator * unit)
            positions, unit = positions.astype(object) * parts + strays, unit * parts
        return (
            exact_ticks(bar_lines, positions, unit) if self.exactly else bar_lines + half_up(positions, unit)
        )


class NoteTimes(NamedTuple):
    """The notes of hits, one hit after the other, in columns.

    *of*: the hit, by its place among them; *steps*: its step, by its index in the window; *numbers*: which of its
    notes, from 0; *starts*, *ends*: ticks. *firsts*, *lasts*: the places of each hit's first and last note.
    *counts*, *lengths*: hit by hit, how many notes it was divided into, and % of a step, or TIED.
    """

    of: Ticks
    steps: Ticks
    numbers: Ticks
    starts: Ticks
    ends: Ticks
    firsts: Ticks
    lasts: Ticks
    counts: Ticks
    lengths: Ticks


def note_times(placing: "Placing", hits: Ticks) -> NoteTimes:
    """Return when the notes of *hits*, steps by their index, begin and end; those that a restart cuts off are gone."""
    step_window = placing.step_window
    lengths = lengths_of(step_window)[hits]
    counts = placing.ratchets[hits]
    of = np.repeat(np.arange(hits.size), counts)
    steps = hits[of]
    numbers = np.arange(of.size) - np.repeat(np.cumsum(counts) - counts, counts)
    starts = placing.starts(steps, numbers)
    ends = placing.ends(steps, numbers, np.where(lengths[of] == TIED, _PERCENT, lengths[of]))
    kept = ~placing.is_cut_off(steps, numbers)
    of, steps, numbers, starts, ends = (column[kept] for column in (of, steps, numbers, starts, ends))
    firsts = np.flatnonzero(numbers == 0)
    lasts = np.append(firsts[1:] - 1, numbers.size - 1) if hits.size else firsts
    early = np.minimum(starts, 0)  # nothing starts before the pattern's first moment
    starts, ends = starts - early, ends - early
    if (tied := np.flatnonzero(lengths == TIED)).size:
        until = _next_starts(placing, hits, starts[firsts])[tied]
        longest = MAX_TIE_BARS * step_window.lane_steps.frame.meter.bar_ticks
        ends[lasts[tied]] = np.minimum(until, starts[lasts[tied]] + longest)
    ends = np.maximum(ends, starts + 1)
    return NoteTimes(of, steps, numbers, starts, ends, firsts, lasts, counts, lengths)


def _next_starts(placing: Placing, steps: Ticks, starts: Ticks) -> Ticks:
    """Return when the next hit after each begins; where a pass ends that is played once, its end."""
    step_window, lane_steps = placing.step_window, placing.step_window.lane_steps
    clock = lane_steps.clock
    following = lane_steps.next_hit(step_window.end)
    counts = step_window.counts[steps]
    if following is None:  # tied to nothing
        after = np.array([counts[-1] + 1])
        last = (
            starts[-1:] + 2 * MAX_TIE_BARS * lane_steps.frame.meter.bar_ticks
        )  # which is longer than one may
    else:
        one = StepWindow(lane_steps, following, following + 1)
        after = np.array([following])
        none = np.zeros(1, np.int64)
        last = Placing(one, placing.feel, np.ones(1, np.int64), exactly=placing.exactly).starts(none, none)
    result: Ticks = np.append(starts[1:], np.maximum(last, 0))
    if clock.once:
        runs, _ = clock.run_and_index(counts)
        next_runs, _ = clock.run_and_index(np.append(counts[1:], after))
        result = np.where(next_runs > runs, (runs + 1) * clock.period_ticks, result)
    return result
