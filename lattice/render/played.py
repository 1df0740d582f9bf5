"""One lane in a stretch of time: the steps it plays, its hits, and the notes that they make."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from lattice.clock.direction import LUCKY
from lattice.clock.ticks import Ticks
from lattice.document.lane import Lane
from lattice.document.strip import CONTROL, RATCHET, TIED
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
from lattice.strips.places import strips_of
from lattice.strips.values import strayed, values_at

__all__ = [
    "REMEMBERED_STEPS",
    "Hits",
    "LaidOut",
    "Played",
    "is_moved_by_luck",
    "moves_pitch",
    "play",
    "reach",
    "sounding_in",
]

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
class LaidOut:
    """What a lane would play if every hit sounded, bursts apart: the same for all dice, unless luck moves it.

    *stretch*: the steps that were looked at; *starts*: when they begin after swing, in ticks; *chances*: of each;
    *may_sound*: which of them neither a burst nor an empty pool silences. *notes*: those that begin in *ticks*, from
    the first to before the second; *of*: the step, by its index, that each is of.
    """

    stretch: Stretch
    feel: Feel
    tune: Tune | None
    ticks: tuple[int, int]
    starts: Ticks
    chances: Ticks
    may_sound: NDArray[np.bool_]
    hits: Hits
    of: Ticks
    notes: Notes

    @property
    def weighs(self) -> int:
        """About how many bytes it takes."""
        return self.stretch.weighs + 200 * self.hits.steps.size + 60 * self.of.size


@dataclass(frozen=True, eq=False)
class Played:
    """What a lane plays by some dice. *laid*: what it was laid out as; *stretch*, *hits*: as there, by these dice."""

    laid: LaidOut
    stretch: Stretch
    hits: Hits
    bursts: BurstNotes
    notes: Notes

    @property
    def tune(self) -> Tune | None:
        """Where its pitches come from."""
        return self.laid.tune

    @property
    def starts(self) -> Ticks:
        """When the steps begin after swing, in ticks."""
        return self.laid.starts

    @property
    def weighs(self) -> int:
        """About how many bytes it takes beside what it was laid out as."""
        return 1000 + 30 * self.hits.steps.size + 60 * (self.notes.starts.size + self.bursts.starts.size)


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
    """Return what a lane plays: all notes that begin at or after *first_tick* and before *end_tick*, and a few earlier.

    *tune*: where a melodic lane's pitches come from; None for a voice of the kit.
    Costs the same wherever the stretch lies: positions are computed, never stepped up to.
    """
    early, late = earliest_and_latest(line, feel)
    first, end = line.course.first_at(first_tick - late), line.course.first_at(end_tick + early)
    asked = (line, feel, tune, first, end, first_tick, end_tick)
    return _remembered(*asked) if end - first <= REMEMBERED_STEPS else _throw(line, _lay_out(*asked))


@remembered(64 * MEGABYTE)
def _remembered(line: LaneLine, feel: Feel, tune: Tune | None, *stretch: int) -> Played:
    by_luck = is_moved_by_luck(line) or (tune is not None and tune.source is not None)
    return _throw(line, _laid_out(line if by_luck else line.laid, feel, tune, *stretch))


@remembered(64 * MEGABYTE)
def _laid_out(line: LaneLine, feel: Feel, tune: Tune | None, *stretch: int) -> LaidOut:
    return _lay_out(line, feel, tune, *stretch)


def is_moved_by_luck(line: LaneLine) -> bool:
    """Return whether dice have a say in a lane's hits, times, velocities or pitches, not only in which sound."""
    lane = line.lane
    strips = [at.strip for at in strips_of(lane) if at.strip and at.kind != CONTROL]
    return (
        line.is_lucky
        or lane.humanise is not None
        or any(strip.spread or (strip.free and strip.free.direction in LUCKY) for strip in strips)
        or (lane.is_melodic and lane.arpeggio is not None and lane.arpeggio.order in ("random", "shuffled"))
    )


def _lay_out(
    line: LaneLine, feel: Feel, tune: Tune | None, first: int, end: int, first_tick: int, end_tick: int
) -> LaidOut:
    stretch = Stretch(line, first, end)
    if line.lane.links:
        stretch = stretch.whole_cycles()  # linked steps need all of their cycle: once is enough
    steps = np.flatnonzero(stretch.hit)
    ratchets = _ratchets(stretch)
    placing = Placing(stretch, feel, ratchets)
    lengths = lengths_of(stretch)[steps]
    chances = chances_of(stretch)
    silent = covered(stretch)
    may_sound = ~silent
    pitches = pitched(stretch, steps, tune, sounding_in) if tune else unpitched(stretch, steps)
    may_sound[steps] &= pitches.counts > 0  # an empty pool rests

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
        sound=may_sound[steps],
        ratchets=counts,
        nudges=placing.nudges[steps],
        lengths=lengths,
        accented=accents_of(stretch)[steps],
        octaves=octaves_of(stretch)[steps],
        letters=letters_of(stretch)[steps],
        covered=silent[steps],
        pitches=_by_hit(pitches) if tune else (),
    )
    inside = ((starts >= first_tick) & (starts < end_tick))[row]
    rows = row[inside]
    notes = Notes(
        starts=starts[rows],
        ends=ends[rows],
        velocities=velocities[inside],
        climbs=climbs[inside],
        tunes=tunes[inside],
        straights=line.course.starts(stretch.counts[which[rows]]),
    )
    return LaidOut(
        stretch,
        feel,
        tune,
        (first_tick, end_tick),
        placing.grid,
        chances,
        may_sound,
        hits,
        which[rows],
        notes,
    )


def _throw(line: LaneLine, laid: LaidOut) -> Played:
    """Return what is left of it by the line's dice and its cycle rules, and its bursts."""
    stretch = laid.stretch.of(line)
    sound = sounding(stretch, laid.chances) & laid.may_sound
    notes = laid.notes.take(sound[laid.of])
    bursts = burst_notes(line, laid.feel, *laid.ticks)
    if bursts.starts.size:
        notes = notes.and_those(_notes_of(bursts, line, laid.tune))
    hits = replace(laid.hits, sound=sound[laid.hits.steps])
    return Played(laid, stretch, hits, bursts, notes)


def _notes_of(bursts: BurstNotes, line: LaneLine, tune: Tune | None) -> Notes:
    climbs, there = np.zeros(bursts.starts.size, np.int64), bursts.sound
    if tune:
        pitches, has_pitch = burst_pitches(line, bursts.starts, tune, sounding_in)
        climbs, there = pitches - tune.note, bursts.sound & has_pitch
    none = np.zeros_like(climbs)
    return Notes(bursts.starts, bursts.ends, bursts.velocities, climbs, none, bursts.starts).take(there)


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
