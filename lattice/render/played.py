"""One lane in a stretch of time: the steps it plays, its hits, and the notes that they make."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from lattice.clock.ticks import Ticks
from lattice.document.lane import Lane
from lattice.document.strip import OCTAVE, RATCHET, TIED
from lattice.render.bursts import BurstNotes, burst_notes, covered
from lattice.render.feel import Feel
from lattice.render.placing import Placing, earliest_and_latest, lengths_of, longest_note, may_tie
from lattice.render.sounding import chances_of, letters_of, sounding
from lattice.render.strokes import strokes_of
from lattice.rhythm.lane_line import LaneLine
from lattice.rhythm.stretch import Stretch
from lattice.strips.values import strayed, values_at

__all__ = ["REMEMBERED_STEPS", "Hits", "Notes", "Played", "moves_pitch", "play", "reach", "step_count"]

REMEMBERED_STEPS = 2048  # of a lane on a screen; longer stretches would take too much memory to keep
MAX_TIE_BARS = 64  # a note that is tied to a hit further off ends there
_SEMITONES = 12


@dataclass(frozen=True, eq=False)
class Hits:
    """Hits in columns. *steps*: indices of theirs among the steps played; *starts*, *ends*: of their notes, in ticks.

    *velocities*: of the first note; *chances*: in 1/10,000; *sound*: whether dice and cycle rules let it sound;
    *ratchets*: notes; *nudges*, *lengths*: % of a step, TIED where it lasts until the next hit; *accented*: whether
    it is an accent; *octaves*; *letters*: place of the letter of linked ones in the alphabet, else -1; *covered*:
    whether a burst plays in its place.
    """

    steps: Ticks
    starts: Ticks
    ends: Ticks
    velocities: Ticks
    chances: Ticks
    sound: NDArray[np.bool_]
    ratchets: Ticks
    nudges: Ticks
    lengths: Ticks
    accented: NDArray[np.bool_]
    octaves: Ticks
    letters: Ticks
    covered: NDArray[np.bool_]


@dataclass(frozen=True, eq=False)
class Notes:
    """What sounds, in columns: *starts*, *ends*, *straights* in ticks; *climbs*: semitones above the lane's note."""

    starts: Ticks
    ends: Ticks
    velocities: Ticks
    climbs: Ticks
    straights: Ticks


@dataclass(frozen=True, eq=False)  # known by what it is, not by comparing its columns
class Played:
    """*stretch*: the steps that were looked at; *starts*: when they begin after swing, in ticks."""

    stretch: Stretch
    starts: Ticks
    hits: Hits
    bursts: BurstNotes
    notes: Notes


def step_count(line: LaneLine, first_tick: int, end_tick: int) -> int:
    """Return how many notes a lane may begin at or after *first_tick* and before *end_tick*, chance apart."""
    strip = line.lane.ratchet_strip
    ratchets = 1
    if strip:
        ratchets = max((value for value in strip.values if value is not None), default=1)
        ratchets = min(RATCHET.high, ratchets + (strip.spread.by if strip.spread else 0))
    return ratchets * (line.course.first_at(end_tick) - line.course.first_at(first_tick))


def reach(line: LaneLine, feel: Feel, end_tick: int) -> int:
    """Return for how long after *end_tick* a note of the lane may last that begins before, in ticks."""
    longest = longest_note(line, feel)
    if may_tie(line):
        # A note that begins before is tied to a hit before too, or to the first one after, however late that is.
        following = line.next_hit(line.course.first_at(end_tick))
        if following is not None:
            start = int(line.course.starts(np.array([following]))[0])
            tied = start + earliest_and_latest(line, feel)[1] - end_tick
            longest = max(longest, min(tied, MAX_TIE_BARS * line.frame.meter.bar_ticks))
    return longest


def moves_pitch(lane: Lane) -> bool:
    """Return whether notes of *lane* may differ in pitch."""
    return lane.octave_strip is not None or bool(lane.ratchet_strip and lane.ratchet_strip.climb)


def play(line: LaneLine, feel: Feel, first_tick: int, end_tick: int) -> Played:
    """Return what a lane plays: all notes that begin at or after *first_tick* and before *end_tick*, and a few beside.

    Costs the same wherever the stretch lies: positions are computed, never stepped up to.
    """
    early, late = earliest_and_latest(line, feel)
    first, end = line.course.first_at(first_tick - late), line.course.first_at(end_tick + early)
    if end - first <= REMEMBERED_STEPS:
        return _remembered(line, feel, first, end, first_tick, end_tick)
    return _play(line, feel, first, end, first_tick, end_tick)


@lru_cache(maxsize=256)
def _remembered(line: LaneLine, feel: Feel, *stretch: int) -> Played:
    return _play(line, feel, *stretch)


def _play(line: LaneLine, feel: Feel, first: int, end: int, first_tick: int, end_tick: int) -> Played:
    stretch = Stretch(line, first, end)
    if line.lane.links:
        stretch = stretch.whole_cycles()  # linked steps need all of their cycle: once is enough
    steps = np.flatnonzero(stretch.hit)
    ratchets = _ratchets(stretch)
    placing = Placing(stretch, feel, ratchets)
    strokes = strokes_of(stretch)
    lengths = lengths_of(stretch)[steps]
    chances = chances_of(stretch)
    silent = covered(stretch)
    sound = sounding(stretch, chances) & ~silent
    octaves = strayed(
        values_at(line.lane.octave_strip, OCTAVE, stretch, 0), line.lane.octave_strip, OCTAVE, stretch
    )

    # Every hit's notes, one after the other.
    counts = ratchets[steps]
    of = np.repeat(np.arange(steps.size), counts)
    which = steps[of]
    note = np.arange(of.size) - np.repeat(np.cumsum(counts) - counts, counts)
    starts = placing.starts(which, note)
    ends = placing.ends(which, note, np.where(lengths[of] == TIED, 100, lengths[of]))
    kept = ~placing.is_cut_off(which, note)
    of, which, note, starts, ends = (column[kept] for column in (of, which, note, starts, ends))
    heads, lasts = np.flatnonzero(note == 0), np.append(np.flatnonzero(note == 0)[1:] - 1, note.size - 1)
    early = np.minimum(starts, 0)  # nothing starts before the pattern's first moment
    starts, ends = starts - early, ends - early
    if (tied := np.flatnonzero(lengths == TIED)).size:
        until = _next_starts(stretch, feel, steps, starts[heads])[tied]
        longest = MAX_TIE_BARS * line.frame.meter.bar_ticks
        ends[lasts[tied]] = np.minimum(until, starts[lasts[tied]] + longest)
    ends = np.maximum(ends, starts + 1)
    velocities = strokes.rounded(which, *_faded(stretch, counts, of, note))
    climb = line.lane.ratchet_strip.climb if line.lane.ratchet_strip else 0
    hits = Hits(
        steps=steps,
        starts=starts[heads],
        ends=ends[lasts] if steps.size else ends,
        velocities=velocities[heads],
        chances=chances[steps],
        sound=sound[steps],
        ratchets=counts,
        nudges=placing.nudges[steps],
        lengths=lengths,
        accented=strokes.accented[steps],
        octaves=octaves[steps],
        letters=letters_of(stretch)[steps],
        covered=silent[steps],
    )
    bursts = burst_notes(line, feel, first_tick, end_tick)
    heard = sound[which] & (starts >= first_tick) & (starts < end_tick)
    notes = Notes(
        starts=np.concatenate([starts[heard], bursts.starts[bursts.sound]]),
        ends=np.concatenate([ends[heard], bursts.ends[bursts.sound]]),
        velocities=np.concatenate([velocities[heard], bursts.velocities[bursts.sound]]),
        climbs=np.concatenate(
            [(octaves[which] * _SEMITONES + note * climb)[heard], np.zeros(int(bursts.sound.sum()), np.int64)]
        ),
        straights=np.concatenate(
            [line.course.starts(stretch.counts[which[heard]]), bursts.starts[bursts.sound]]
        ),
    )
    return Played(stretch, placing.grid, hits, bursts, notes)


def _ratchets(stretch: Stretch) -> Ticks:
    strip = stretch.line.lane.ratchet_strip
    return strayed(values_at(strip, RATCHET, stretch, 1), strip, RATCHET, stretch)


def _faded(stretch: Stretch, counts: Ticks, of: Ticks, note: Ticks) -> tuple[Ticks, int]:
    """Return each note's share of its step's velocity: numerators, and the denominator of all."""
    strip = stretch.line.lane.ratchet_strip
    if strip is None or strip.fade_from == strip.fade_to == 100:
        return np.ones_like(note), 1
    parts = np.maximum(counts[of] - 1, 1)
    common = int(np.lcm.reduce(np.unique(parts), initial=1))
    shares = (strip.fade_from * parts + (strip.fade_to - strip.fade_from) * note) * (common // parts)
    return shares, 100 * common


def _next_starts(stretch: Stretch, feel: Feel, steps: Ticks, starts: Ticks) -> Ticks:
    """Return when the next hit after each begins; where a pass ends that is played once, its end."""
    line, course = stretch.line, stretch.line.course
    following = line.next_hit(stretch.end)
    counts = stretch.counts[steps]
    if following is None:
        after, last = np.array([counts[-1] + 1]), starts[-1:] + 1
    else:
        one = Stretch(line, following, following + 1)
        after = np.array([following])
        last = Placing(one, feel, np.ones(1, np.int64)).starts(np.zeros(1, np.int64), np.zeros(1, np.int64))
    result: Ticks = np.append(starts[1:], np.maximum(last, 0))
    if course.once:
        runs, _ = course.run_and_index(counts)
        next_runs, _ = course.run_and_index(np.append(counts[1:], after))
        result = np.where(next_runs > runs, (runs + 1) * course.period_ticks, result)
    return result
