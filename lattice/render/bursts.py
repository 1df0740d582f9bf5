"""Bursts: even notes in place of what a lane does for a while, once in each pass."""

from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.clock.groove import SWING_PARTS, swings, swung
from lattice.clock.ticks import TICKS_PER_QUARTER, Ticks, ticks
from lattice.document.burst import Burst
from lattice.document.lane import Lane
from lattice.luck.chance import sounds
from lattice.luck.draws import PLACES, Purpose, draws
from lattice.render.feel import Feel
from lattice.render.strokes import HIGHEST, LOWEST
from lattice.rhythm.lane_line import Frame, LaneLine
from lattice.rhythm.stretch import Stretch

__all__ = ["BurstNotes", "awake", "burst_notes", "burst_ticks", "covered"]


class BurstNotes(NamedTuple):
    """Notes of bursts in columns. *bursts*: which of the lane's each belongs to; *sound*: whether the dice let it."""

    bursts: Ticks
    starts: Ticks
    ends: Ticks
    velocities: Ticks
    sound: NDArray[np.bool_]


def awake(lane: Lane, frame: Frame) -> list[tuple[int, Burst]]:
    """Return the lane's bursts that lie within a pass, with their places among all of them."""
    bar = frame.meter.bar_quarters
    return [(place, burst) for place, burst in enumerate(lane.bursts) if burst.fits(bar, frame.pass_quarters)]


def burst_ticks(burst: Burst, frame: Frame) -> int:
    """Return the length of a burst in ticks, rounded."""
    start, end = burst.quarters(frame.meter.bar_quarters)
    return ticks(end - start)


def covered(stretch: Stretch) -> NDArray[np.bool_]:
    """Return which steps begin, by their straight time, where a burst plays instead."""
    line = stretch.line
    silent = np.zeros(stretch.counts.size, bool)
    bursts = awake(line.lane, line.frame)
    if not bursts:
        return silent
    exact, denominator = line.course.exact(stretch.counts)
    into = exact % (int(line.frame.pass_quarters * TICKS_PER_QUARTER) * denominator)
    for _, burst in bursts:
        start, end = (
            time * TICKS_PER_QUARTER * denominator for time in burst.quarters(line.frame.meter.bar_quarters)
        )
        silent |= (into * start.denominator >= start.numerator) & (into * end.denominator < end.numerator)
    return silent


def burst_notes(line: LaneLine, feel: Feel, first_tick: int, end_tick: int) -> BurstNotes:
    """Return the notes of a lane's bursts that begin at or after *first_tick* and before *end_tick*."""
    lane, frame = line.lane, line.frame
    pass_ticks = int(frame.pass_quarters * TICKS_PER_QUARTER)
    passes = np.arange(max(0, first_tick // pass_ticks), max(0, -(-end_tick // pass_ticks)), dtype=np.int64)
    parts = [_nothing()]
    for place, burst in awake(lane, frame):
        starts, ends = _times(burst, lane.length_percent, frame, feel)
        begun = passes * pass_ticks
        heard = np.repeat(_heard(line, burst, begun), starts.size)
        parts.append(
            BurstNotes(
                bursts=np.full(heard.size, place),
                starts=(begun[:, None] + starts).ravel(),
                ends=(begun[:, None] + ends).ravel(),
                velocities=np.tile(_velocities(burst, lane.velocity), begun.size),
                sound=heard,
            )
        )
    joined = BurstNotes._make(np.concatenate(columns) for columns in zip(*parts, strict=True))
    inside = (joined.starts >= first_tick) & (joined.starts < end_tick)
    return BurstNotes._make(column[inside] for column in joined)


def _nothing() -> BurstNotes:
    none = np.empty(0, np.int64)
    return BurstNotes(none, none, none, none, np.empty(0, bool))


@lru_cache(maxsize=256)
def _times(burst: Burst, percent: int, frame: Frame, feel: Feel) -> tuple[Ticks, Ticks]:
    """Return when the notes of a burst begin and end in a pass: even between its ends, which swing as its values do."""
    bar_ticks = frame.meter.bar_ticks
    start, end = (
        _swung(time * TICKS_PER_QUARTER, bar_ticks, feel)
        if swings(burst.value.quarters, feel.swing)
        else time * TICKS_PER_QUARTER
        for time in burst.quarters(frame.meter.bar_quarters)
    )
    share = (end - start) / burst.notes
    begins = [start + note * share for note in range(burst.notes)]
    starts = np.array([ticks(begin / TICKS_PER_QUARTER) for begin in begins], np.int64)
    ends = np.array(
        [ticks((begin + share * percent / 100) / TICKS_PER_QUARTER) for begin in begins], np.int64
    )
    return starts, np.maximum(ends, starts + 1)


def _swung(tick: Fraction, bar_ticks: int, feel: Feel) -> Fraction:
    bars, into = divmod(tick, bar_ticks)
    moved = swung(np.array([into.numerator]), into.denominator, feel.swing, bar_ticks)
    return bars * bar_ticks + Fraction(int(moved[0]), into.denominator * SWING_PARTS)


def _velocities(burst: Burst, velocity: int) -> Ticks:
    notes = np.arange(burst.notes)
    last = max(1, burst.notes - 1)
    shares = burst.fade_from * last + (burst.fade_to - burst.fade_from) * notes
    rounded = (2 * velocity * shares + 100 * last) // (200 * last)
    return np.clip(rounded, LOWEST, HIGHEST).astype(np.int64)


def _heard(line: LaneLine, burst: Burst, begun: Ticks) -> NDArray[np.bool_]:
    """Return in which passes, that began at those ticks, a burst sounds: one draw in each for all of its notes."""
    if burst.chance_percent in (0, 100):
        return np.full(begun.size, burst.chance_percent == 100)
    frame, lane = line.frame, line.lane
    at = ticks(burst.quarters(frame.meter.bar_quarters)[0])
    if lane.luck_bars:
        numbers = (begun + at) % (lane.luck_bars * frame.meter.bar_ticks)
    else:
        numbers = begun // int(frame.pass_quarters * TICKS_PER_QUARTER)
    keys = numbers // PLACES, numbers % PLACES
    drawn = draws(frame.dice, lane.id, Purpose.BURST.of(at), *keys)
    return sounds(np.full(begun.size, burst.chance_percent * 100), drawn)
