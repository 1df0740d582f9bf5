"""What sounds in a window: the notes of all lanes, by the detours that hold, overlaps resolved."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction
from math import ceil, floor

import numpy as np
from numpy.typing import NDArray

from lattice.document.detour import PACES
from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.render.detours import Segment, detour_segments, has_detours
from lattice.render.feel import feel_of
from lattice.render.lane import Played
from lattice.render.notes import Notes, note_of
from lattice.render.overlaps import Events, heard_lanes, resolve_overlaps
from lattice.render.pipeline import lane_spans, of_one_pitch, play_all, play_lane, timing_bounds
from lattice.render.size import check_detours, check_movements, check_notes, check_work
from lattice.render.sounding import port_of
from lattice.render.window import Window
from lattice.steps.lane_steps import LaneSteps, steps_of_lanes
from lattice.steps.muting import silent_lanes, unmuted
from lattice.theory.scales import folded

__all__ = ["away_notes", "events_of", "furthest_from_steps", "louder_lanes", "render"]


def render(score: Score, dice: int, window: Window) -> Events:
    """Return the notes of *score* that start in *window*, with their whole lengths.

    Pure: the same question has the same answer, on every machine. Joining the answers of adjoining
    windows gives the answer of the whole.
    Raises DocumentError if the window holds too many notes.
    """
    return events_of(score, dice, window, [] if has_detours(score) else play_all(score, dice, window))


def events_of(score: Score, dice: int, window: Window, played: list[tuple[LaneSteps, Played]]) -> Events:
    """Return the notes that start in *window*, overlaps resolved.

    *played*: what `play_all` returned for it, which counts where there are no detours.
    """
    first, end = window.ticks(score.meter.bar_ticks)
    if has_detours(score):
        begun = _on_all_segments(score, dice, first, end)
        # What begins later may still cut what begins in the window, for as long as that lasts.
        lasts = int(begun.lengths.max(initial=0))
        notes = Events.join([begun, _on_all_segments(score, dice, end, end + lasts)]) if lasts else begun
    else:
        notes = Events.join(_sounding(score, played))
    resolved = resolve_overlaps(notes, [port_of(lane, score.kit) for lane in score.lanes])
    return _until_the_end(score, resolved.take(resolved.starts < end))


def louder_lanes(score: Score, played: list[tuple[LaneSteps, Played]]) -> list[dict[int, int]]:
    """Return, for each lane, which other lane is heard at the ticks where its own notes are not.

    Two lanes that hit one voice at the same moment make one note, the louder. *played*: what `play_all` returned.
    """
    silenced: list[dict[int, int]] = [{} for _ in score.lanes]
    groups = of_one_pitch(score)
    counts = Counter(groups)
    notes = Events.join(_sounding(score, played, [counts[group] > 1 for group in groups]))
    heard = heard_lanes(notes, [port_of(lane, score.kit) for lane in score.lanes])
    lost = heard != notes.lanes
    for lane, start, other in zip(
        notes.lanes[lost].tolist(), notes.starts[lost].tolist(), heard[lost].tolist(), strict=True
    ):
        silenced[lane][start] = other
    return silenced


def _until_the_end(score: Score, events: Events) -> Events:
    """Return *events* as far as the score goes on: notes are cut at its end."""
    end = score.end_tick
    if end is None:
        return events
    begun = events.take(events.starts < end)
    return begun.with_lengths(np.minimum(begun.lengths, end - begun.starts))


def _sounding(
    score: Score, played: list[tuple[LaneSteps, Played]], wanted: Sequence[bool] | None = None
) -> list[Events]:
    """Return what sounds of each lane that is not silent; *wanted*: of which, by their places."""
    silent = silent_lanes(score.lanes)
    return [
        _lane_events(index, lane_steps.lane, score, _heard(lane_steps.lane, steps.notes, score))
        for index, (lane_steps, steps) in enumerate(played)
        if lane_steps.lane.id not in silent and (wanted is None or wanted[index])
    ]


def _heard(lane: Lane, notes: Notes, score: Score) -> Notes:
    """Return the *notes* that no moved muting silences."""
    heard = unmuted(lane, notes.straights, score.meter.bar_ticks)
    return notes if heard is None else notes.take(heard)


def _lane_events(index: int, lane: Lane, score: Score, notes: Notes) -> Events:
    channel, note = note_of(lane, score)
    return Events(
        lanes=np.full(notes.starts.size, index),
        starts=notes.starts,
        lengths=notes.ends - notes.starts,
        pitches=folded(note + notes.intervals),
        velocities=notes.velocities,
        tunes=notes.tunes,
        channels=np.full(notes.starts.size, channel),
        straights=notes.straights,
    )


# ---- Detours ----


def away_notes(score: Score, dice: int, window: Window) -> Events:
    """Return the notes of detours that start in *window*, muted lanes included, before overlaps are resolved."""
    first, end = window.ticks(score.meter.bar_ticks)
    return _on_all_segments(score, dice, first, end, with_silent=True, only_away=True)


def _on_all_segments(
    score: Score, dice: int, first: int, end: int, *, with_silent: bool = False, only_away: bool = False
) -> Events:
    """Return all notes that start from tick *first* to before *end*, each by the segment in which its step stands."""
    _, around = _segments_around(score, dice, first, end)
    silent = frozenset[str]() if with_silent else silent_lanes(score.lanes)
    asked = [segment for segment in around if segment.is_away or not only_away]
    parts = [
        part
        for there in _scores(asked)
        for stretch in _stretches([segment for segment in asked if segment.score is there])
        for part in _on_stretch(there, stretch, dice, silent)
    ]
    joined = Events.join(parts)
    return joined.take((joined.starts >= first) & (joined.starts < end))


def furthest_from_steps(score: Score, dice: int, first: int, end: int) -> int:
    """Return by how many ticks at most a note is heard before or after its step, from tick *first* to before *end*."""
    if has_detours(score):
        return _segments_around(score, dice, first, end)[0]
    return max(
        (max(timing_bounds(lane_steps, score, dice)) for lane_steps in steps_of_lanes(score, dice)), default=0
    )


def _segments_around(score: Score, dice: int, first: int, end: int) -> tuple[int, list[Segment]]:
    """Return how far from its step a note is heard at most, and the segments of all that is heard in a stretch."""
    furthest = 0
    check_detours(score, first, end)
    while True:
        around = detour_segments(score, max(0, first - furthest), end + furthest)
        wanted = max((_strays(there, dice) for there in _scores(around)), default=0)
        if wanted <= furthest:
            return furthest, around
        furthest = wanted


def _scores(of: Sequence[Segment]) -> list[Score]:
    """Return the scores that are played, each once."""
    return list({id(segment.score): segment.score for segment in of}.values())


def _strays(score: Score, dice: int) -> int:
    """Return by how many ticks at most a note is heard before or after its step, at the slowest pace."""
    furthest = max(
        (max(timing_bounds(lane_steps, score, dice)) for lane_steps in steps_of_lanes(score, dice)), default=0
    )
    return ceil(furthest / min(PACES.values())) + 1


def _stretches(of: Sequence[Segment]) -> list[list[Segment]]:
    """Return detour_segments of one score in groups whose sources lie together: each group is played once."""
    groups: list[list[Segment]] = []
    reached = Fraction(0)
    for segment in sorted(of, key=lambda segment: segment.source):
        near = segment.score.meter.bar_ticks
        if groups and segment.source <= reached + near:
            groups[-1].append(segment)
        else:
            groups.append([segment])
        reached = max(reached, segment.source_end)
    return groups


def _on_stretch(score: Score, stretch: Sequence[Segment], dice: int, silent: frozenset[str]) -> list[Events]:
    all_lane_steps = steps_of_lanes(score, dice)
    first, end = (
        ceil(min(segment.source for segment in stretch)),
        ceil(max(segment.source_end for segment in stretch)),
    )
    check_movements(score, first, end)
    asked = [one for lane_steps in all_lane_steps for one in lane_spans(lane_steps, score, dice, first, end)]
    check_notes(score, asked)
    check_work(score, asked)
    exactly = any(segment.is_displaced for segment in stretch)
    parts = []
    for index, lane_steps in enumerate(all_lane_steps):
        if lane_steps.lane.id in silent:
            continue
        feel = feel_of(lane_steps.lane, score)
        early, late = timing_bounds(lane_steps, score, dice)
        around = max(0, first - early), end + late
        notes = _heard(
            lane_steps.lane, play_lane(lane_steps, feel, score, dice, *around, exactly=exactly).notes, score
        )
        chosen: dict[tuple[Fraction, Fraction], Notes] = {}  # what is repeated is picked once
        displaced = []
        for segment in stretch:
            if segment.only is None or lane_steps.lane.id in segment.only:
                source = segment.source, segment.source_end
                if source not in chosen:
                    chosen[source] = notes.take(_begin_in(segment, notes))
                displaced.append(_displaced(segment, chosen[source]))
        if displaced:
            parts.append(_lane_events(index, lane_steps.lane, score, Notes.join(displaced)))
    return parts


def _begin_in(segment: Segment, notes: Notes) -> NDArray[np.bool_]:
    """Return which *notes* belong to the source of a segment: those whose steps stand in it, by their exact times."""
    straights, exact = notes.straights, notes.exact_straights
    inside: NDArray[np.bool_] = (straights >= ceil(segment.source)) & (straights < ceil(segment.source_end))
    if exact is None:
        return inside
    # A rounded time lies within half a tick of the exact one.
    edges = np.array([floor(segment.source), floor(segment.source_end)])
    near = np.flatnonzero((np.abs(straights[:, None] - edges) <= 1).any(axis=1))
    inside[near] = [segment.source <= straight < segment.source_end for straight in exact[near]]
    return inside


def _displaced(segment: Segment, notes: Notes) -> Notes:
    """Return *notes* of a segment's source as they are heard, each time rounded once."""
    if (
        not segment.is_displaced
        or notes.exact_starts is None
        or notes.exact_ends is None
        or notes.exact_straights is None
    ):
        return notes
    starts, ends, straights = (
        np.array([segment.heard_at(tick) for tick in column], np.int64)
        for column in (notes.exact_starts, notes.exact_ends, notes.exact_straights)
    )
    return replace(notes, starts=starts, ends=np.maximum(ends, starts + 1), straights=straights)
