"""Bursts: even notes in place of what a lane does for a while, in each pass, every so many bars, or in each cycle."""

from fractions import Fraction
from math import lcm
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.document.burst import Burst, EveryCycle
from lattice.document.feel import LaneSwing
from lattice.luck.chance import sounds
from lattice.luck.draws import PLACES, Purpose, draws
from lattice.render.feel import Feel
from lattice.render.stages.stage import Round, Stage
from lattice.render.stages.velocity import HIGHEST, LOWEST
from lattice.steps.groove import SWING_PARTS, swing_unit, swung
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.step_window import StepWindow
from lattice.units import TICKS_PER_QUARTER, Ticks, exact_ticks, half_up, ticks

__all__ = ["BURST_STAGE", "BurstNotes", "awake", "burst_notes", "burst_ticks", "covered", "fits", "round_of"]

_PERCENT = 100


class BurstNotes(NamedTuple):
    """Notes of bursts in columns. *bursts*: which of the lane's each belongs to; *sound*: whether the dice let it.

    *rounds*: the index of the pass, bars or cycle in which the burst plays.
    *exact_starts*, *exact_ends*: Fractions of ticks, where they are asked for; otherwise as the rounded ones.
    """

    bursts: Ticks
    rounds: Ticks
    starts: Ticks
    ends: Ticks
    velocities: Ticks
    sound: NDArray[np.bool_]
    exact_starts: Ticks
    exact_ends: Ticks


class _Begins(NamedTuple):
    """When bursts begin to be counted: *numerators* / *denominator* ticks. *numbers*: which of all each is, from 0.

    *ends*: ticks at which the lane begins again, so that no note of the burst begins there or later; none without.
    """

    numerators: Ticks
    denominator: int
    numbers: Ticks
    ends: Ticks | None = None


def round_of(burst: Burst, lane_steps: LaneSteps) -> Fraction:
    """Return the time from one burst to the next, in quarters: a pass, a number of bars, or the lane's cycle."""
    frame = lane_steps.frame
    return burst.round_quarters(
        frame.meter.bar_quarters, frame.pass_quarters, lane_steps.clock.cycle_quarters
    )


def reaches(burst: Burst, lane_steps: LaneSteps) -> tuple[Fraction, Fraction]:
    """Return the start and end of a burst within its pass, bars or cycle, in quarters, at the lane's pace."""
    start, end = burst.quarters(lane_steps.frame.meter.bar_quarters)
    rate = lane_steps.frame.rate if isinstance(burst.comes, EveryCycle) else 1
    return start / rate, end / rate


def fits(burst: Burst, lane_steps: LaneSteps) -> bool:
    """Return whether a burst ends within its pass, bars or cycle; otherwise it lies dormant."""
    return reaches(burst, lane_steps)[1] <= round_of(burst, lane_steps)


def awake(lane_steps: LaneSteps) -> list[tuple[int, Burst]]:
    """Return the lane's bursts that are not dormant, with their places among all of them."""
    return [(place, burst) for place, burst in enumerate(lane_steps.lane.bursts) if fits(burst, lane_steps)]


def burst_ticks(burst: Burst, lane_steps: LaneSteps) -> int:
    """Return the length of a burst in ticks, rounded."""
    start, end = reaches(burst, lane_steps)
    return ticks(end - start)


def covered(step_window: StepWindow) -> NDArray[np.bool_]:
    """Return which steps begin, by their straight time, where a burst plays instead."""
    lane_steps = step_window.lane_steps
    silent = np.zeros(step_window.counts.size, bool)
    bursts = awake(lane_steps)
    if not bursts:
        return silent
    exact, denominator = lane_steps.clock.exact(step_window.counts)
    for _, burst in bursts:
        if isinstance(burst.comes, EveryCycle):
            into = exact - lane_steps.clock.exact(lane_steps.clock.first_of_cycle(step_window.cycles))[0]
        else:
            into = exact % (int(round_of(burst, lane_steps) * TICKS_PER_QUARTER) * denominator)
        start, end = (time * TICKS_PER_QUARTER * denominator for time in reaches(burst, lane_steps))
        silent |= (into * start.denominator >= start.numerator) & (into * end.denominator < end.numerator)
    return silent


def burst_notes(
    lane_steps: LaneSteps, feel: Feel, first_tick: int, end_tick: int, *, exactly: bool = False
) -> BurstNotes:
    """Return the notes of a lane's bursts that begin at or after *first_tick* and before *end_tick*."""
    if not lane_steps.lane.bursts:
        return _nothing()
    parts = [_nothing()]
    for place, burst in awake(lane_steps):
        begins = _begins(burst, lane_steps, first_tick, end_tick)
        times = _times(burst, lane_steps, feel, begins, exactly=exactly)
        heard = np.repeat(_heard(lane_steps, burst, begins), burst.notes)[times.kept]
        parts.append(
            BurstNotes(
                bursts=np.full(heard.size, place),
                rounds=np.repeat(begins.numbers, burst.notes)[times.kept],
                starts=times.starts,
                ends=times.ends,
                velocities=np.tile(_velocities(burst, lane_steps.lane.velocity), begins.numbers.size)[
                    times.kept
                ],
                sound=heard,
                exact_starts=times.exact_starts,
                exact_ends=times.exact_ends,
            )
        )
    joined = BurstNotes._make(np.concatenate(columns) for columns in zip(*parts, strict=True))
    inside = (joined.starts >= first_tick) & (joined.starts < end_tick)
    return BurstNotes._make(column[inside] for column in joined)


def _nothing() -> BurstNotes:
    none = np.empty(0, np.int64)
    return BurstNotes(none, none, none, none, none, np.empty(0, bool), none, none)


def _begins(burst: Burst, lane_steps: LaneSteps, first_tick: int, end_tick: int) -> _Begins:
    """Return all from which notes of a burst may begin in a stretch of time, and perhaps one before and after."""
    if not isinstance(burst.comes, EveryCycle):
        every = int(round_of(burst, lane_steps) * TICKS_PER_QUARTER)
        numbers = np.arange(max(0, first_tick // every), max(0, -(-end_tick // every)), dtype=np.int64)
        return _Begins(numbers * every, 1, numbers)
    clock = lane_steps.clock
    around = np.array([clock.first_at(max(0, first_tick)), clock.first_at(max(0, end_tick))])
    low, high = clock.cycle_and_place(around)[0].tolist()
    numbers = np.arange(max(0, low - 1), high + 2)
    counts = clock.first_of_cycle(numbers)
    ends = (clock.run_and_index(counts)[0] + 1) * clock.period_ticks if clock.period_ticks else None
    return _Begins(*clock.exact(counts), numbers, ends)


class _Times(NamedTuple):
    """When the notes of a burst begin and end, in ticks, and as `BurstNotes` has it; *kept*: which of all are there."""

    starts: Ticks
    ends: Ticks
    exact_starts: Ticks
    exact_ends: Ticks
    kept: NDArray[np.bool_]


def _times(burst: Burst, lane_steps: LaneSteps, feel: Feel, begins: _Begins, *, exactly: bool) -> _Times:
    """Return when the notes of a burst begin and end: even between its ends, which swing as its values do.

    And which of them all are there: those that begin before the lane begins again.
    """
    bar_ticks = lane_steps.frame.meter.bar_ticks
    offsets = [time * TICKS_PER_QUARTER for time in reaches(burst, lane_steps)]
    swing = feel.swing
    own = isinstance(swing, LaneSwing) and swing.own_steps
    unit = swing_unit(lane_steps.clock.step if own else burst.value.quarters, swing)
    exact = [begins.denominator, *(offset.denominator for offset in offsets)]
    parts = lcm(*exact, (unit * TICKS_PER_QUARTER).denominator if unit else 1)
    bar = bar_ticks * parts
    placed = []
    for offset in offsets:
        bars, into = np.divmod(begins.numerators * (parts // begins.denominator) + int(offset * parts), bar)
        moved = swung(into, parts, unit, swing.percent, bar_ticks) if unit else into * SWING_PARTS
        placed.append((bars, moved))
    (bars, start), (end_bars, end) = placed
    # From the bar line before the burst on, in small parts of a tick, so that the numbers stay exact and small.
    fine = parts * SWING_PARTS * burst.notes
    lasts = end + (end_bars - bars) * (bar * SWING_PARTS) - start
    at = (start * burst.notes)[:, None] + lasts[:, None] * np.arange(burst.notes)
    bar_lines = (bars * bar_ticks)[:, None]
    lasting = at * _PERCENT + (lasts * lane_steps.lane.length_percent)[:, None]
    kept = np.ones(at.size, bool)
    if begins.ends is not None:
        kept = (at < (begins.ends[:, None] - bar_lines) * fine).ravel()
    starts = (bar_lines + half_up(at, fine)).ravel()[kept]
    ends = np.maximum((bar_lines + half_up(lasting, fine * _PERCENT)).ravel()[kept], starts + 1)
    if not exactly:
        return _Times(starts, ends, starts, ends, kept)
    bar_lines = np.broadcast_to(bar_lines, at.shape).ravel()[kept]
    exact_starts = exact_ticks(bar_lines, at.ravel()[kept], fine)
    return _Times(
        starts, ends, exact_starts, exact_ticks(bar_lines, lasting.ravel()[kept], fine * _PERCENT), kept
    )


def _velocities(burst: Burst, velocity: int) -> Ticks:
    notes = np.arange(burst.notes)
    last = max(1, burst.notes - 1)
    shares = burst.fade_from * last + (burst.fade_to - burst.fade_from) * notes
    rounded = half_up(velocity * shares, 100 * last)
    return np.clip(rounded, LOWEST, HIGHEST).astype(np.int64)


def _heard(lane_steps: LaneSteps, burst: Burst, begins: _Begins) -> NDArray[np.bool_]:
    """Return which times a burst sounds: one draw each time for all of its notes."""
    if burst.chance_percent in (0, 100):
        return np.full(begins.numbers.size, burst.chance_percent == 100)
    frame, lane = lane_steps.frame, lane_steps.lane
    at = ticks(reaches(burst, lane_steps)[0])
    numbers = begins.numbers
    if lane.luck_bars:
        numbers = (begins.numerators // begins.denominator + at) % (lane.luck_bars * frame.meter.bar_ticks)
    keys = numbers // PLACES, numbers % PLACES
    drawn = draws(lane_steps.dice, lane.id, Purpose.BURST.of(at), *keys)
    return sounds(np.full(numbers.size, burst.chance_percent * 100), drawn)


def _lasts(lane_steps: LaneSteps, _feel: Feel) -> Fraction:
    """No note of a burst lasts longer than all of it, but for the lane's length."""
    bar = lane_steps.frame.meter.bar_quarters
    longest = max(
        (end - start for start, end in (one.quarters(bar) for one in lane_steps.lane.bursts)),
        default=Fraction(0),
    )
    return longest / min(lane_steps.frame.rate, Fraction(1)) * lane_steps.lane.length_percent / _PERCENT


BURST_STAGE = Stage(
    "burst",
    frozenset({"bursts"}),
    lasts=_lasts,
    repeats=lambda reading: Round(
        quarters=tuple(round_of(one, reading.lane_steps) for _, one in awake(reading.lane_steps))
    ),
    is_silenced_by_luck=lambda lane_steps: any(
        burst.chance_percent < _PERCENT for burst in lane_steps.lane.bursts
    ),
)
