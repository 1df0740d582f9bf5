"""When hits begin and end: grid, swing, nudge, humanise, ratchets, ties; each time rounded once, to a tick.

Inside, positions are whole numbers of a small part of a tick, counted from the bar line before the step, so that they
are exact and never large.
"""

from fractions import Fraction
from functools import cached_property
from math import lcm
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.document.strip import LENGTH, NUDGE, RATCHET, TIED
from lattice.luck.draws import DRAW_BITS, Purpose
from lattice.memory import MEGABYTE, remembered
from lattice.render.feel import Feel
from lattice.steps.groove import SWING_PARTS, swing_unit, swung
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.moving import greatest_of
from lattice.steps.step_window import StepWindow
from lattice.steps.strip_values import extent, values_at, values_or, with_spread
from lattice.units import TICKS_PER_QUARTER, Ticks, exact_ticks, half_up, ticks

__all__ = [
    "MAX_TIE_BARS",
    "NoteTimes",
    "Placing",
    "earliest_and_latest",
    "lengths_of",
    "longest_note",
    "may_tie",
    "note_times",
    "ratchets_of",
]

MAX_TIE_BARS = 64  # a note that is tied to a hit further off ends there

_PERCENT = 100
_FURTHEST_STEPS = 100
_SAFE = 1 << 62
_CUT = 2  # spreads: nothing strays further


def earliest_and_latest(line: LaneSteps, feel: Feel) -> tuple[int, int]:
    """Return by how many ticks at most a note of the lane begins before, and after, its step's straight time."""
    return _furthest(line.laid, feel)


@remembered(8 * MEGABYTE)
def _furthest(line: LaneSteps, feel: Feel) -> tuple[int, int]:
    lane, step = line.lane, line.clock.step
    nudge = extent(lane.nudge_strip, NUDGE, 0)
    strays = Fraction(0)
    if lane.humanise and feel.quarters_per_minute:
        strays = Fraction(_CUT * lane.humanise.ms, 60_000) * feel.quarters_per_minute
    swing = (swing_unit(step, feel.swing) or Fraction(0)) / 2
    ratchets = step + swing if lane.ratchet_strip else Fraction(0)
    early = step * max(0, -nudge.low) / _PERCENT + strays
    late = step * max(0, nudge.high) / _PERCENT + strays
    return _ticks_up(early), _ticks_up(late + swing + ratchets)


def longest_note(line: LaneSteps, feel: Feel) -> int:
    """Return the length that no note of the lane exceeds, in ticks; notes that are tied apart."""
    lane, step = line.lane, line.clock.step
    strip = lane.length_strip
    own = max([lane.length_percent, *greatest_of(lane, "length_percent")])
    most = extent(strip, LENGTH, own).high
    if strip:  # a note longer than the strip's own range stays as long as it is, whatever its spread
        most = max([_PERCENT, most, *(value for value in strip.values if value is not None)])
    swung_step = step + (swing_unit(step, feel.swing) or Fraction(0)) / 2
    bar = line.frame.meter.bar_quarters
    longest_burst = max(
        (end - start for start, end in (burst.quarters(bar) for burst in lane.bursts)), default=Fraction(0)
    )
    burst = longest_burst / min(line.frame.rate, Fraction(1))
    return ticks(max(swung_step * most, burst * lane.length_percent) / _PERCENT) + 2


def may_tie(line: LaneSteps) -> bool:
    """Return whether a note of the lane may last until the next hit."""
    return line.lane.length_strip is not None and TIED in line.lane.length_strip.values


def lengths_of(step_window: StepWindow) -> Ticks:
    """Return how long the note of each step is, in % of a step; TIED where it lasts until the next hit."""
    lane = step_window.line.lane
    values = values_or(lane.length_strip, LENGTH, step_window, step_window.own("length_percent"))
    is_tied = (values == TIED) | (values > LENGTH.high)
    return np.where(is_tied, values, with_spread(values, lane.length_strip, LENGTH, step_window))


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
        clock = step_window.line.clock
        self.bar_ticks = step_window.line.frame.meter.bar_ticks
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
        strip = self.step_window.line.lane.nudge_strip
        return with_spread(values_at(strip, NUDGE, self.step_window, 0), strip, NUDGE, self.step_window)

    @cached_property
    def _strays(self) -> Ticks | None:
        humanise = self.step_window.line.lane.humanise
        if humanise is None or humanise.ms == 0:
            return None
        return self.step_window.deviations(Purpose.DEVIATION_IN_TIME)

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
        period = self.step_window.line.clock.period_ticks
        if not period:
            return np.zeros(which.size, bool)
        left = (self.step_window.runs[which] + 1) * period - self.bars[which] * self.bar_ticks
        # No step is longer: what lies further off cuts nothing, and the numbers stay small.
        left = np.minimum(left, self.bar_ticks + 2 * ticks(self.step_window.line.clock.step) + 2)
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
        lines = self.bars[which] * self.bar_ticks
        unit = self.unit
        humanise = self.step_window.line.lane.humanise
        if self._strays is not None and humanise is not None:
            # Milliseconds in ticks by the exact tempo; beyond 64 bits, so in Python's own whole numbers.
            spread = Fraction(humanise.ms, 60_000) * self.feel.quarters_per_minute * TICKS_PER_QUARTER
            parts = spread.denominator << DRAW_BITS
            strays = self._strays[which].astype(object) * (spread.numerator * unit)
            positions, unit = positions.astype(object) * parts + strays, unit * parts
        return exact_ticks(lines, positions, unit) if self.exactly else lines + half_up(positions, unit)


def ratchets_of(step_window: StepWindow) -> Ticks:
    """Return into how many notes each step is divided, if it is a hit."""
    strip = step_window.line.lane.ratchet_strip
    return with_spread(values_at(strip, RATCHET, step_window, 1), strip, RATCHET, step_window)


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
        longest = MAX_TIE_BARS * step_window.line.frame.meter.bar_ticks
        ends[lasts[tied]] = np.minimum(until, starts[lasts[tied]] + longest)
    ends = np.maximum(ends, starts + 1)
    return NoteTimes(of, steps, numbers, starts, ends, firsts, lasts, counts, lengths)


def _next_starts(placing: Placing, steps: Ticks, starts: Ticks) -> Ticks:
    """Return when the next hit after each begins; where a pass ends that is played once, its end."""
    step_window, line = placing.step_window, placing.step_window.line
    clock = line.clock
    following = line.next_hit(step_window.end)
    counts = step_window.counts[steps]
    if following is None:  # tied to nothing
        after = np.array([counts[-1] + 1])
        last = starts[-1:] + 2 * MAX_TIE_BARS * line.frame.meter.bar_ticks  # which is longer than one may
    else:
        one = StepWindow(line, following, following + 1)
        after = np.array([following])
        none = np.zeros(1, np.int64)
        last = Placing(one, placing.feel, np.ones(1, np.int64), exactly=placing.exactly).starts(none, none)
    result: Ticks = np.append(starts[1:], np.maximum(last, 0))
    if clock.once:
        runs, _ = clock.run_and_index(counts)
        next_runs, _ = clock.run_and_index(np.append(counts[1:], after))
        result = np.where(next_runs > runs, (runs + 1) * clock.period_ticks, result)
    return result


def _ticks_up(quarters: Fraction) -> int:
    return -int(-quarters * TICKS_PER_QUARTER // 1) + (1 if quarters else 0)
