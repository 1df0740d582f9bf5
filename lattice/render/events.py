"""What sounds in a window: the notes of all lanes, by the detours that hold, overlaps resolved."""

from math import ceil

import numpy as np

from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.render.detours import Leg, has_detours, legs
from lattice.render.feel import feel_of
from lattice.render.lane import Played
from lattice.render.notes import Notes, note_of, silent_lanes
from lattice.render.overlaps import Events, resolve_overlaps
from lattice.render.pipeline import play_all, play_lane
from lattice.render.size import check_notes, check_work
from lattice.render.timing import earliest_and_latest
from lattice.render.window import Window
from lattice.steps.lane_steps import LaneSteps, lines_of
from lattice.theory.scales import folded

__all__ = ["away_notes", "events_of", "render"]


def render(score: Score, dice: int, window: Window) -> Events:
    """Return the notes of *score* that start in *window*, with their whole lengths.

    Pure: the same question has the same answer, on every machine. Joining the answers of adjoining
    windows gives the answer of the whole.
    Raises DocumentError if the window holds too many notes.
    """
    return events_of(score, dice, window, play_all(score, dice, window))


def events_of(score: Score, dice: int, window: Window, played: list[tuple[LaneSteps, Played]]) -> Events:
    """Return the notes that start in *window*, overlaps resolved. *played*: what `play_all` returned for it."""
    first, end = window.ticks(score.meter.bar_ticks)
    if has_detours(score):
        begun = _on_all_legs(score, dice, first, end)
        # What begins later may still cut what begins in the window, for as long as that lasts.
        lasts = int(begun.lengths.max(initial=0))
        notes = _on_all_legs(score, dice, first, end + lasts) if lasts else begun
    else:
        notes = Events.join(_sounding(score, played))
    resolved = resolve_overlaps(notes)
    return resolved.take(resolved.starts < end)


def _sounding(score: Score, played: list[tuple[LaneSteps, Played]]) -> list[Events]:
    silent = silent_lanes(score.lanes)
    return [
        _lane_events(index, line.lane, score, steps.notes)
        for index, (line, steps) in enumerate(played)
        if line.lane.id not in silent
    ]


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
    return _on_all_legs(score, dice, first, end, with_silent=True, only_away=True)


def _on_all_legs(
    score: Score, dice: int, first: int, end: int, *, with_silent: bool = False, only_away: bool = False
) -> Events:
    """Return all notes that start from tick *first* to before *end*, each by the leg in which its step stands."""
    strays = 0
    while True:
        around = legs(score, max(0, first - strays), end + strays)
        furthest = max((_strays(leg, dice) for leg in around), default=0)
        if furthest <= strays:
            break
        strays = furthest
    silent = frozenset[str]() if with_silent else silent_lanes(score.lanes)
    parts = [part for leg in around if leg.is_away or not only_away for part in _on_leg(leg, dice, silent)]
    joined = Events.join(parts)
    return joined.take((joined.starts >= first) & (joined.starts < end))


def _strays(leg: Leg, dice: int) -> int:
    """Return by how many ticks at most a note on a leg is heard before or after its step."""
    lines = lines_of(leg.score, dice)
    furthest = max((max(earliest_and_latest(one, feel_of(one.lane, leg.score))) for one in lines), default=0)
    return ceil(furthest / leg.pace) + 1


def _on_leg(leg: Leg, dice: int, silent: frozenset[str]) -> list[Events]:
    lines = lines_of(leg.score, dice)
    first, end = ceil(leg.source), ceil(leg.source_end)
    check_notes(leg.score, lines, first, end)
    check_work(leg.score, lines, first, [end] * len(lines))
    parts = []
    for index, line in enumerate(lines):
        lane = line.lane
        if lane.id in silent or (leg.only is not None and lane.id not in leg.only):
            continue
        feel = feel_of(lane, leg.score)
        early, late = earliest_and_latest(line, feel)
        notes = play_lane(line, feel, leg.score, dice, max(0, first - early), end + late).notes
        notes = notes.take((notes.straights >= first) & (notes.straights < end))
        parts.append(_heard(leg, _lane_events(index, lane, leg.score, notes)))
    return parts


def _heard(leg: Leg, events: Events) -> Events:
    """Return *events* of a leg's source as they are heard, each time rounded once."""
    if leg.pace == 1 and leg.start == leg.source:
        return events

    def heard(ticks: np.ndarray[tuple[int], np.dtype[np.int64]]) -> list[int]:
        return [leg.heard_at(tick) for tick in ticks.tolist()]

    starts, ends, straights = (
        np.array(heard(column), np.int64)
        for column in (events.starts, events.starts + events.lengths, events.straights)
    )
    return Events(
        events.lanes,
        starts,
        np.maximum(ends - starts, 1),
        events.pitches,
        events.velocities,
        events.tunes,
        events.channels,
        straights,
    )
