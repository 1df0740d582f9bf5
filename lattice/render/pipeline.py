"""score x dice x window -> events: the one function behind picture, sound, tape, take and file.

Of each lane `layout` is the order of operations: steps, hits, chance, pitch, time, velocity, each in the module of its
name. `with_luck` throws the dice: unless luck moves it, the layout is the same for all dice, and is made once.
`events_of` resolves what overlaps.
"""

from collections.abc import Hashable
from dataclasses import replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.cache import MEGABYTE, Cache, cached
from lattice.document.piece import Score
from lattice.render.feel import STRAIGHT_ON, Feel, feel_of
from lattice.render.kept_clip import kept_longest, kept_notes
from lattice.render.lane import (
    Layout,
    Played,
    PlayedPart,
    Span,
    moves_pitch,
    reach,
)
from lattice.render.movements import extremes, is_cut, reading, stretches
from lattice.render.notes import Notes, note_of
from lattice.render.overlaps import alone
from lattice.render.pitch_context import PitchContext, SourceLane, pitch_context_of
from lattice.render.size import LaneSpan, check_detours, check_movements, check_notes, check_work
from lattice.render.stages import earliest_and_latest, is_moved_by_luck, longest_note
from lattice.render.stages.bursts import BurstNotes, burst_notes, covered
from lattice.render.stages.chance import chances_of, sounding
from lattice.render.stages.length import MAX_TIE_BARS, may_tie
from lattice.render.stages.pitch import (
    burst_pitches,
    in_ratchets,
    pitched,
    single_pitches,
    unpitched,
)
from lattice.render.stages.ratchet import ratchets_of
from lattice.render.stages.times import Placing, note_times
from lattice.render.stages.velocity import note_velocities
from lattice.render.window import Window
from lattice.steps.lane_steps import LaneSteps, steps_of_lanes
from lattice.steps.step_window import StepWindow
from lattice.theory.scales import folded
from lattice.units import Ticks, exact_ticks

__all__ = [
    "REMEMBERED_STEPS",
    "lane_spans",
    "layout",
    "of_one_pitch",
    "play",
    "play_all",
    "play_lane",
    "sounding_in",
    "timing_bounds",
    "with_luck",
]

REMEMBERED_STEPS = 2048  # of a lane on a screen; longer stretches would take too much memory to keep


@cached(8 * MEGABYTE)  # a page asks for what is drawn and what is heard of one window
def play_all(score: Score, dice: int, window: Window) -> list[tuple[LaneSteps, Played]]:
    """Return what each lane plays from the window's first tick until its notes can be cut by none after.

    Notes that begin after the window may still cut one of their pitch that begins in it, so each lane is played for
    as long after the window's end as the longest of those lasts.
    Raises DocumentError if that is more than is rendered at once: see `lattice.render.size`.
    """
    first, end = window.ticks(score.meter.bar_ticks)
    all_lane_steps = steps_of_lanes(score, dice)
    feels = [feel_of(lane, score) for lane in score.lanes]
    check_detours(score, first, end)
    check_movements(score, first, end)
    parts = [lane_spans(lane_steps, score, dice, first, end) for lane_steps in all_lane_steps]
    check_notes(score, [one for part in parts for one in part])
    groups = of_one_pitch(score)
    longest: dict[Hashable, int] = {}
    for part, lane_steps, group in zip(parts, all_lane_steps, groups, strict=True):
        lasts = kept_longest(lane_steps.lane.clip) if lane_steps.lane.clip else _lasts(part, end)
        longest[group] = max(longest.get(group, 0), lasts)
    # As far as a power of two, so that what is known of the other lanes stays known while one lane's steps are moved.
    ends = [end + (1 << longest[group].bit_length()) for group in groups]
    check_work(score, [one for part, its in zip(parts, ends, strict=True) for one in _up_to(part, its)])
    # Those that read others first: what they ask of a lane reaches further back than the lane itself.
    in_turn = sorted(range(len(all_lane_steps)), key=lambda at: -len(reading(score, all_lane_steps[at].lane)))
    played = {at: play_lane(all_lane_steps[at], feels[at], score, dice, first, ends[at]) for at in in_turn}
    return [(lane_steps, played[at]) for at, lane_steps in enumerate(all_lane_steps)]


def lane_spans(lane_steps: LaneSteps, score: Score, dice: int, first: int, end: int) -> list[LaneSpan]:
    """Return what a lane is from one tick to before another: one line, or one for each stretch of its movements."""
    if not is_cut(score, lane_steps.lane):
        return [LaneSpan(lane_steps, feel_of(lane_steps.lane, score), first, end)]
    there = stretches(score, dice, lane_steps.lane, first, end)
    return [LaneSpan(one.lane_steps, one.feel, one.start, one.end) for one in there]


def _lasts(part: list[LaneSpan], end: int) -> int:
    """Return for how long after tick *end* a note may last that begins before it."""
    return max(reach(one.lane_steps, one.feel, end) for one in part)


def _up_to(part: list[LaneSpan], end: int) -> list[LaneSpan]:
    """Return the same, but that it ends at another tick."""
    return [*part[:-1], part[-1]._replace(end=end)]


def play_lane(
    lane_steps: LaneSteps,
    feel: Feel,
    score: Score,
    dice: int,
    first_tick: int,
    end_tick: int,
    *,
    exactly: bool = False,
) -> Played:
    """Return what one lane of *score* plays, as `play`, in each stretch of its movements as it is there.

    If a clip plays in its place, the notes of that. *exactly*: with times that are not rounded yet beside the others.
    """
    context = pitch_context_of(lane_steps.lane, score, dice)
    played = play(lane_steps, feel, context, first_tick, end_tick, exactly=exactly)
    if lane_steps.lane.clip is not None:
        return _in_its_place(
            played, lane_steps, note_of(lane_steps.lane, score)[1], first_tick, end_tick, exactly
        )
    if not is_cut(score, lane_steps.lane):
        return played
    return _in_stretches(played, lane_steps, score, dice, first_tick, end_tick, exactly=exactly)


def _in_stretches(
    played: Played,
    lane_steps: LaneSteps,
    score: Score,
    dice: int,
    first_tick: int,
    end_tick: int,
    *,
    exactly: bool,
) -> Played:
    """Return what a lane plays where movements cut its time: a note is of the stretch in which its step stands."""
    before, after = timing_bounds(lane_steps, score, dice)
    parts, notes = [], []
    for there in stretches(score, dice, lane_steps.lane, max(0, first_tick - after), end_tick + before):
        context = pitch_context_of(there.lane_steps.lane, there.score, dice)
        early, late = earliest_and_latest(there.lane_steps, there.feel)
        around = max(0, there.start - early), there.end + late
        mine = play(there.lane_steps, there.feel, context, *around, exactly=exactly)
        notes.append(mine.notes.take(_within(mine.notes.straights, there.start, there.end)))
        parts.append(PlayedPart(there.start, there.end, there.lane_steps, mine))
    joined = Notes.join(notes)
    inside = _within(joined.starts, first_tick, end_tick)
    return replace(played, notes=joined.take(inside), parts=tuple(parts))


def timing_bounds(lane_steps: LaneSteps, score: Score, dice: int) -> tuple[int, int]:
    """Return by how many ticks at most a note of the lane ever begins before, and after, its step's straight time."""
    if not is_cut(score, lane_steps.lane):
        return earliest_and_latest(lane_steps, feel_of(lane_steps.lane, score))
    outmost = [earliest_and_latest(*one) for one in extremes(score, dice, lane_steps.lane)]
    before, after = (max(far) for far in zip(*outmost, strict=True))
    return before, after


def _within(ticks: Ticks, first: int, end: int) -> NDArray[np.bool_]:
    result: NDArray[np.bool_] = (ticks >= first) & (ticks < end)
    return result


# The same object for the same question, as with all that is played: pictures are remembered by it.
@cached(16 * MEGABYTE)
def _in_its_place(
    played: Played, lane_steps: LaneSteps, note: int, first: int, end: int, exactly: bool
) -> Played:
    clip = lane_steps.lane.clip
    return (
        played if clip is None else replace(played, notes=kept_notes(clip, note, first, end, exactly=exactly))
    )


def of_one_pitch(score: Score) -> list[Hashable]:
    """Return a group for each lane: notes of lanes of different groups are never of one pitch and channel."""
    wandering = {note_of(lane, score)[0] for lane in score.lanes if lane.clip or moves_pitch(lane)}
    played = [note_of(lane, score) for lane in score.lanes]
    return [channel if channel in wandering else (channel, note) for channel, note in played]


def play(
    lane_steps: LaneSteps,
    feel: Feel,
    context: PitchContext | None,
    first_tick: int,
    end_tick: int,
    *,
    exactly: bool = False,
) -> Played:
    """Return what a lane plays: all notes that begin at or after *first_tick* and before *end_tick*, and a few earlier.

    *context*: where a melodic lane's pitches come from; None for a voice of the kit.
    Costs the same wherever the stretch lies: positions are computed, never stepped up to.
    """
    early, late = earliest_and_latest(lane_steps, feel)
    first, end = lane_steps.clock.first_at(first_tick - late), lane_steps.clock.first_at(end_tick + early)
    asked = (lane_steps, feel, context, Span(first, end, first_tick, end_tick, exactly))
    return _remembered(*asked) if end - first <= REMEMBERED_STEPS else with_luck(lane_steps, layout(*asked))


@cached(64 * MEGABYTE)
def _remembered(lane_steps: LaneSteps, feel: Feel, context: PitchContext | None, span: Span) -> Played:
    by_luck = is_moved_by_luck(lane_steps) or (context is not None and context.source is not None)
    return with_luck(
        lane_steps, _cached_layout(lane_steps if by_luck else lane_steps.laid, feel, context, span)
    )


@cached(64 * MEGABYTE)
def _cached_layout(lane_steps: LaneSteps, feel: Feel, context: PitchContext | None, span: Span) -> Layout:
    return layout(lane_steps, feel, context, span)


def layout(lane_steps: LaneSteps, feel: Feel, context: PitchContext | None, span: Span) -> Layout:
    """Return what a lane would play if every hit sounded: the order of operations, each in the module of its name."""
    first, end, first_tick, end_tick, exactly = span
    # Which step when.
    step_window = StepWindow(lane_steps, first, end)
    if lane_steps.lane.links:
        step_window = step_window.whole_cycles()  # linked steps need all of their cycle: once is enough
    # Which of them are hits; bursts play in place of some.
    hits = np.flatnonzero(step_window.hit)
    in_burst = covered(step_window)
    # How often each sounds.
    chances = chances_of(step_window)
    # What is played.
    pitches = pitched(step_window, hits, context, sounding_in) if context else unpitched(step_window, hits)
    may_sound = ~in_burst
    may_sound[hits] &= pitches.counts > 0  # an empty pool rests
    # When: grid, swing, nudge, humanise, ratchets, ties.
    placing = Placing(step_window, feel, ratchets_of(step_window))
    times = note_times(placing, hits)
    # How hard: each pitch of each note, the first of a hit's first.
    note, pitch = single_pitches(pitches, times.of)
    velocities = note_velocities(step_window, times, note, pitches.velocities[pitch])
    ramps, tunes = in_ratchets(pitches, pitch, times.numbers[note], lane_steps.lane)
    intervals = ramps + pitches.after[times.of[note]] - (context.note if context else 0)

    inside = ((times.starts >= first_tick) & (times.starts < end_tick))[note]
    rows = note[inside]
    notes = Notes(
        starts=times.starts[rows],
        ends=times.ends[rows],
        velocities=velocities[inside],
        intervals=intervals[inside],
        tunes=tunes[inside],
        straights=lane_steps.clock.starts(step_window.counts[times.steps[rows]]),
    )
    if exactly:
        precise = note_times(Placing(step_window, feel, placing.ratchets, exactly=True), hits)
        numerators, denominator = lane_steps.clock.exact(step_window.counts[times.steps[rows]])
        notes = replace(
            notes,
            exact_starts=precise.starts[rows],
            exact_ends=precise.ends[rows],
            exact_straights=exact_ticks(np.zeros_like(rows), numerators, denominator),
        )
    return Layout(
        step_window,
        feel,
        context,
        span,
        placing.grid,
        chances,
        may_sound,
        hits,
        pitches,
        times,
        note,
        velocities,
        times.steps[rows],
        notes,
    )


def with_luck(lane_steps: LaneSteps, planned: Layout) -> Played:
    """Return what sounds of a layout, by the line's dice and its cycle rules; and its bursts."""
    step_window = planned.step_window.of(lane_steps)
    sound = sounding(step_window, planned.chances) & planned.may_sound
    notes = planned.notes.take(sound[planned.of])
    span = planned.span
    bursts = burst_notes(lane_steps, planned.feel, span.first_tick, span.end_tick, exactly=span.exactly)
    if bursts.starts.size:
        notes = notes.and_those(_notes_of(bursts, lane_steps, planned.context, exactly=span.exactly))
    return Played(planned, step_window, sound, bursts, notes)


def _notes_of(
    bursts: BurstNotes, lane_steps: LaneSteps, context: PitchContext | None, *, exactly: bool
) -> Notes:
    intervals, there = np.zeros(bursts.starts.size, np.int64), bursts.sound
    if context:
        pitches, has_pitch = burst_pitches(lane_steps, bursts.starts, context, sounding_in)
        intervals, there = pitches - context.note, bursts.sound & has_pitch
    none = np.zeros_like(intervals)
    notes = Notes(bursts.starts, bursts.ends, bursts.velocities, intervals, none, bursts.starts)
    if exactly:
        starts, ends = bursts.exact_starts, bursts.exact_ends
        notes = replace(notes, exact_starts=starts, exact_ends=ends, exact_straights=starts)
    return notes.take(there)


class _Sounding(NamedTuple):
    """All notes of a lane that sound from tick *first* to before *end*: columns, in the order of *starts*."""

    first: int
    end: int
    starts: Ticks
    ends: Ticks
    pitches: Ticks
    velocities: Ticks


_SOUNDING: Cache[SourceLane, _Sounding] = Cache(16 * MEGABYTE)


def sounding_in(voice: SourceLane, first_tick: int, end_tick: int) -> tuple[Ticks, Ticks, Ticks, Ticks]:
    """Return starts, ends, pitches and velocities of all notes of a lane that sound from one tick to before another.

    As they sound by themselves: of one pitch the earlier ends where the later begins.
    """
    known = _SOUNDING.get(voice)
    if known is None or first_tick < known.first or end_tick > known.end:
        known = _SOUNDING.put(voice, _sounding_from(voice, first_tick, end_tick), replace=True)
    inside = (known.starts < end_tick) & (known.ends > first_tick)
    return known.starts[inside], known.ends[inside], known.pitches[inside], known.velocities[inside]


def _sounding_from(voice: SourceLane, first_tick: int, end_tick: int) -> _Sounding:
    lane_steps, clip = voice.lane_steps, voice.lane_steps.lane.clip
    if clip:
        notes = kept_notes(clip, voice.note, max(0, first_tick - kept_longest(clip)), end_tick)
    else:
        lasts = longest_note(lane_steps, STRAIGHT_ON)
        if may_tie(lane_steps):
            lasts = max(lasts, MAX_TIE_BARS * lane_steps.frame.meter.bar_ticks)
        notes = play(lane_steps, STRAIGHT_ON, voice.context, max(0, first_tick - lasts), end_tick).notes
    heard = alone(notes.starts, notes.ends, folded(voice.note + notes.intervals), notes.velocities)
    return _Sounding(
        first_tick, end_tick, heard.starts, heard.starts + heard.lengths, heard.pitches, heard.velocities
    )
