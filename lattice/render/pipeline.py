"""score x dice x window -> events: the one function behind picture, sound, tape, take and file."""

from collections.abc import Hashable
from dataclasses import replace

import numpy as np

from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.memory import MEGABYTE, remembered
from lattice.pitch.scales import folded
from lattice.pitch.tune import tune_of
from lattice.render.events import Events, resolve_overlaps
from lattice.render.feel import Feel, feel_of
from lattice.render.kept import kept_longest, kept_notes
from lattice.render.notes import note_of, silent_lanes
from lattice.render.played import Played, moves_pitch, play, reach
from lattice.render.size import check_notes, check_work
from lattice.render.window import Window
from lattice.rhythm.lane_line import LaneLine, lines_of, remember_line

__all__ = ["events_of", "play_all", "play_lane", "render"]


def render(score: Score, dice: int, window: Window) -> Events:
    """Return the notes of *score* that start in *window*, with their whole lengths.

    Pure: the same question has the same answer, on every machine. Joining the answers of adjoining
    windows gives the answer of the whole.
    Raises DocumentError if the window holds too many notes.
    """
    return events_of(score, window, play_all(score, dice, window))


def play_all(score: Score, dice: int, window: Window) -> list[tuple[LaneLine, Played]]:
    """Return what each lane plays from the window's first tick until its notes can be cut by none after.

    Notes that begin after the window may still cut one of their pitch that begins in it, so each lane is played for
    as long after the window's end as the longest of those lasts.
    Raises DocumentError if that is more than is rendered at once: see `lattice.render.size`.
    """
    first, end = window.ticks(score.meter.bar_ticks)
    lines = lines_of(score, dice)
    feels = [feel_of(lane, score) for lane in score.lanes]
    check_notes(score, lines, first, end)
    groups = _of_one_pitch(score)
    longest: dict[Hashable, int] = {}
    for line, feel, group in zip(lines, feels, groups, strict=True):
        lasts = kept_longest(line.lane.clip) if line.lane.clip else reach(line, feel, end)
        longest[group] = max(longest.get(group, 0), lasts)
    # As far as a power of two, so that what is known of the other lanes stays known while one lane's steps are moved.
    ends = [end + (1 << longest[group].bit_length()) for group in groups]
    check_work(score, lines, first, ends)
    for line in lines:
        remember_line(line)
    return [
        (line, play_lane(line, feel, score, dice, first, its))
        for line, feel, its in zip(lines, feels, ends, strict=True)
    ]


def play_lane(line: LaneLine, feel: Feel, score: Score, dice: int, first_tick: int, end_tick: int) -> Played:
    """Return what one lane of *score* plays: as `play`, but the notes of its clip if one plays in its place."""
    played = play(line, feel, tune_of(line.lane, score, dice), first_tick, end_tick)
    if line.lane.clip is None:
        return played
    return _in_its_place(played, line, note_of(line.lane, score)[1], first_tick, end_tick)


# The same object for the same question, as with all that is played: pictures are remembered by it.
@remembered(16 * MEGABYTE)
def _in_its_place(played: Played, line: LaneLine, note: int, first: int, end: int) -> Played:
    clip = line.lane.clip
    return played if clip is None else replace(played, notes=kept_notes(clip, note, first, end))


def _of_one_pitch(score: Score) -> list[Hashable]:
    """Return a group for each lane: notes of lanes of different groups are never of one pitch and channel."""
    wandering = {note_of(lane, score)[0] for lane in score.lanes if lane.clip or moves_pitch(lane)}
    played = [note_of(lane, score) for lane in score.lanes]
    return [channel if channel in wandering else (channel, note) for channel, note in played]


def events_of(score: Score, window: Window, played: list[tuple[LaneLine, Played]]) -> Events:
    """Return the notes that start in *window* of what `play_all` returned, overlaps resolved."""
    _, end = window.ticks(score.meter.bar_ticks)
    silent = silent_lanes(score.lanes)
    parts = [
        _lane_events(index, line.lane, score, steps)
        for index, (line, steps) in enumerate(played)
        if line.lane.id not in silent
    ]
    resolved = resolve_overlaps(Events.join(parts))
    return resolved.take(resolved.starts < end)


def _lane_events(index: int, lane: Lane, score: Score, played: Played) -> Events:
    channel, note = note_of(lane, score)
    notes = played.notes
    return Events(
        lanes=np.full(notes.starts.size, index),
        starts=notes.starts,
        lengths=notes.ends - notes.starts,
        pitches=folded(note + notes.climbs),
        velocities=notes.velocities,
        tunes=notes.tunes,
        channels=np.full(notes.starts.size, channel),
        straights=notes.straights,
    )
