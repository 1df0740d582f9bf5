"""One lane in a stretch of time: the steps it plays, its hits, and the notes that they make."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lattice.clock.ticks import Ticks
from lattice.document.lane import Lane
from lattice.document.strip import RATCHET, TIED
from lattice.memory import MEGABYTE, remembered
from lattice.pitch.scales import folded
from lattice.pitch.tune import Tune, Voice
from lattice.render.bursts import BurstNotes, burst_notes, covered
from lattice.render.events import alone
from lattice.render.feel import STRAIGHT_ON, Feel
from lattice.render.kept import kept_longest, kept_notes
from lattice.render.notes import Notes
from lattice.render.pitching import (
    Pitched,
    burst_pitches,
    in_ratchets,
    octaves_of,
    pitched,
    takes_velocities,
    unpitched,
)
from lattice.render.placing import Placing, earliest_and_latest, lengths_of, longest_note, may_tie
from lattice.render.size import MAX_TIE_BARS
from lattice.render.sounding import chances_of, letters_of, sounding
from lattice.render.strokes import accents_of, strokes_of
from lattice.rhythm.lane_line import LaneLine
from lattice.rhythm.stretch import Stretch
from lattice.strips.values import strayed, values_at

__all__ = ["REMEMBERED_STEPS", "Hits", "Played", "moves_pitch", "play", "reach", "sounding_in"]

REMEMBERED_STEPS = 2048  # of a lane on a screen; longer stretches would take too much memory to keep


@dataclass(frozen=True, eq=False)
class Hits:
    """Hits in columns. *steps*: indices of theirs among the steps played; *starts*, *ends*: of their notes, in ticks.

    *velocities*: of the first note; *chances*: in 1/10,000; *sound*: whether dice and cycle rules let it sound;
    *ratchets*: notes; *nudges*, *lengths*: % of a step, TIED where it lasts until the next hit; *accented*: whether
    it is an accent; *octaves*; *letters*: place of the letter of linked ones in the alphabet, else -1; *covered*:
    whether a burst plays in its place; *pitches*: of a melodic lane, all that begin with it, before
    they are folded into what MIDI has; else nothing.
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
    pitches: tuple[tuple[int, ...], ...]


@dataclass(frozen=True, eq=False)  # known by what it is, not by comparing its columns
class Played:
    """*stretch*: the steps that were looked at; *starts*: when they begin after swing, in ticks."""

    stretch: Stretch
    tune: Tune | None
    starts: Ticks
    hits: Hits
    bursts: BurstNotes
    notes: Notes


def reach(line: LaneLine, feel: Feel, end_tick: int) -> int:
    """Return for how long after *end_tick* a note of the lane may last that begins before, in ticks."""
    longest = longest_note(line, feel)
    if may_tie(line):
        early, late = earliest_and_latest(line, feel)
        most = MAX_TIE_BARS * line.frame.meter.bar_ticks
        # The first hit whose note cannot begin before: what begins before is tied to it at the latest.
        following = line.next_hit(line.course.first_at(end_tick + early))
        if following is not None:
            most = min(most, int(line.course.starts(np.array([following]))[0]) + late - end_tick)
        longest = max(longest, most)
    return longest


def moves_pitch(lane: Lane) -> bool:
    """Return whether notes of *lane* may differ in pitch."""
    return lane.is_melodic or lane.octave_strip is not None


def play(line: LaneLine, feel: Feel, tune: Tune | None, first_tick: int, end_tick: int) -> Played:
    """Return what a lane plays: all notes that begin at or after *first_tick* and before *end_tick*, and a few beside.

    *tune*: where a melodic lane's pitches come from; None for a voice of the kit.
    Costs the same wherever the stretch lies: positions are computed, never stepped up to.
    """
    early, late = earliest_and_latest(line, feel)
    first, end = line.course.first_at(first_tick - late), line.course.first_at(end_tick + early)
    if end - first <= REMEMBERED_STEPS:
        return _remembered(line, feel, tune, first, end, first_tick, end_tick)
    return _play(line, feel, tune, first, end, first_tick, end_tick)


@remembered(64 * MEGABYTE)
def _remembered(line: LaneLine, feel: Feel, tune: Tune | None, *stretch: int) -> Played:
    return _play(line, feel, tune, *stretch)


def _play(
    line: LaneLine, feel: Feel, tune: Tune | None, first: int, end: int, first_tick: int, end_tick: int
) -> Played:
    stretch = Stretch(line, first, end)
    if line.lane.links:
        stretch = stretch.whole_cycles()  # linked steps need all of their cycle: once is enough
    steps = np.flatnonzero(stretch.hit)
    ratchets = _ratchets(stretch)
    placing = Placing(stretch, feel, ratchets)
    lengths = lengths_of(stretch)[steps]
    chances = chances_of(stretch)
    silent = covered(stretch)
    sound = sounding(stretch, chances) & ~silent
    pitches = pitched(stretch, steps, tune, sounding_in) if tune else unpitched(stretch, steps)
    sound[steps] &= pitches.counts > 0  # an empty pool rests

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
    shares = _faded(stretch, counts, of, note)
    # Every note of a chord beside the first of a hit's, which is what the picture shows.
    row, pitch_at = _spread(pitches, of)
    velocities = _velocities(stretch, which[row], shares[0][row], shares[1], pitches.velocities[pitch_at])
    heads_in_row = np.flatnonzero(np.diff(row, prepend=-1) != 0)
    first_velocities = np.ones(of.size, np.int64)
    first_velocities[row[heads_in_row]] = velocities[heads_in_row]
    climbs, tunes = in_ratchets(pitches, pitch_at, note[row], line.lane)
    climbs = climbs + pitches.after[of[row]] - (tune.note if tune else 0)
    hits = Hits(
        steps=steps,
        starts=starts[heads],
        ends=ends[lasts] if steps.size else ends,
        velocities=first_velocities[heads],
        chances=chances[steps],
        sound=sound[steps],
        ratchets=counts,
        nudges=placing.nudges[steps],
        lengths=lengths,
        accented=accents_of(stretch)[steps],
        octaves=octaves_of(stretch)[steps],
        letters=letters_of(stretch)[steps],
        covered=silent[steps],
        pitches=_by_hit(pitches) if tune else (),
    )
    bursts = burst_notes(line, feel, first_tick, end_tick)
    burst_climbs, there = np.zeros(bursts.starts.size, np.int64), bursts.sound
    if tune:
        burst_climbs, has_pitch = burst_pitches(line, bursts.starts, tune, sounding_in)
        burst_climbs, there = burst_climbs - tune.note, bursts.sound & has_pitch
    heard = (sound[which] & (starts >= first_tick) & (starts < end_tick))[row]
    rows = row[heard]
    notes = Notes(
        starts=np.concatenate([starts[rows], bursts.starts[there]]),
        ends=np.concatenate([ends[rows], bursts.ends[there]]),
        velocities=np.concatenate([velocities[heard], bursts.velocities[there]]),
        climbs=np.concatenate([climbs[heard], burst_climbs[there]]),
        tunes=np.concatenate([tunes[heard], np.zeros_like(burst_climbs[there])]),
        straights=np.concatenate([line.course.starts(stretch.counts[which[rows]]), bursts.starts[there]]),
    )
    return Played(stretch, tune, placing.grid, hits, bursts, notes)


def sounding_in(voice: Voice, first_tick: int, end_tick: int) -> tuple[Ticks, Ticks, Ticks, Ticks]:
    """Return starts, ends, pitches and velocities of all notes of a lane that sound from one tick to before another.

    As they sound by themselves: of one pitch the earlier ends where the later begins.
    """
    line, clip = voice.line, voice.line.lane.clip
    if clip:
        notes = kept_notes(clip, voice.note, max(0, first_tick - kept_longest(clip)), end_tick)
    else:
        lasts = longest_note(line, STRAIGHT_ON)
        if may_tie(line):
            lasts = max(lasts, MAX_TIE_BARS * line.frame.meter.bar_ticks)
        notes = play(line, STRAIGHT_ON, voice.tune, max(0, first_tick - lasts), end_tick).notes
    sounding = alone(notes.starts, notes.ends, folded(voice.note + notes.climbs), notes.velocities)
    return sounding.starts, sounding.starts + sounding.lengths, sounding.pitches, sounding.velocities


def _spread(pitches: Pitched, of: Ticks) -> tuple[Ticks, Ticks]:
    """Return, for each single pitch, the index of the note in time that it sounds in, and its own among *pitches*."""
    each = pitches.counts[of]
    row = np.repeat(np.arange(of.size), each)
    within = np.arange(row.size) - np.repeat(np.cumsum(each) - each, each)
    return row, pitches.firsts[of[row]] + within


def _velocities(stretch: Stretch, which: Ticks, numerators: Ticks, denominator: int, given: Ticks) -> Ticks:
    """Return how hard each single pitch of the steps *which* is struck: by the lane, or by keys, as hard as *given*."""
    if not takes_velocities(stretch.line.lane):
        return strokes_of(stretch).rounded(which, numerators, denominator)
    result = np.empty(which.size, np.int64)
    for velocity in np.unique(given).tolist():
        here = given == velocity
        strokes = strokes_of(stretch, int(velocity) or None)
        result[here] = strokes.rounded(which[here], numerators[here], denominator)
    return result


def _by_hit(pitches: Pitched) -> tuple[tuple[int, ...], ...]:
    each = np.arange(int(pitches.counts.sum()))
    moved = (pitches.raised(each, np.zeros_like(each)) + np.repeat(pitches.after, pitches.counts)).tolist()
    ends = (pitches.firsts + pitches.counts).tolist()
    return tuple(tuple(moved[first:end]) for first, end in zip(pitches.firsts.tolist(), ends, strict=True))


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
    if following is None:  # tied to nothing
        after = np.array([counts[-1] + 1])
        last = starts[-1:] + 2 * MAX_TIE_BARS * line.frame.meter.bar_ticks  # which is longer than one may
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
