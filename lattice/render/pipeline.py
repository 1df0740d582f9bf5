"""score x dice x window -> events: the one function behind picture, sound, tape, take and file."""

import numpy as np

from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.document.problems import DocumentError
from lattice.render.events import Events, resolve_overlaps
from lattice.render.played import Played, note_ticks, play, step_count
from lattice.render.window import Window
from lattice.rhythm.lane_line import LaneLine, lines_of

__all__ = ["MAX_STEPS_AT_ONCE", "events_of", "play_all", "render", "silent_lanes"]

MAX_STEPS_AT_ONCE = 1_000_000


def render(score: Score, dice: int, window: Window) -> Events:
    """Return the notes of *score* that start in *window*, with their whole lengths.

    Pure: the same question has the same answer, on every machine. Joining the answers of adjoining
    windows gives the answer of the whole.
    Raises DocumentError if the window holds too many steps.
    """
    return events_of(score, window, play_all(score, dice, window))


def silent_lanes(lanes: tuple[Lane, ...]) -> frozenset[str]:
    """Return the ids of the lanes that are muted, or not among the soloed ones where there are any."""
    any_solo = any(lane.solo for lane in lanes)
    return frozenset(lane.id for lane in lanes if lane.mute or (any_solo and not lane.solo))


def play_all(score: Score, dice: int, window: Window) -> list[tuple[LaneLine, Played]]:
    """Return what each lane plays from the window's first tick until its notes can be cut by none after.

    Notes that begin after the window may still cut one that begins in it, so each lane is played for as
    long after the window's end as the longest note lasts.
    Raises DocumentError if all lanes together have more than MAX_STEPS_AT_ONCE steps there.
    """
    first, end = window.ticks(score.meter.bar_ticks)
    lines = lines_of(score, dice)
    longest = max((note_ticks(line.lane, line.course) for line in lines), default=0)
    # As far as a power of two, so that what is known of the other lanes stays known while one lane's steps are moved.
    end += 1 << longest.bit_length()
    steps = [step_count(line.course, first, end) for line in lines]
    if sum(steps) > MAX_STEPS_AT_ONCE:
        busiest = lines[steps.index(max(steps))].leader.lane.name
        said = f"{sum(steps):,} steps in this window, {MAX_STEPS_AT_ONCE:,} is the most"
        raise DocumentError.of("step_value", said, lane=busiest)
    return [(line, play(line, first, end)) for line in lines]


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
    voice = score.kit.voice(lane.voice)
    if voice is None:  # a Score checks this when it is made
        raise KeyError(lane.voice)
    starts = played.starts[played.sound]
    return Events(
        lanes=np.full(starts.size, index),
        starts=starts,
        lengths=played.ends[played.sound] - starts,
        pitches=np.full(starts.size, voice.pitch),
        velocities=np.full(starts.size, lane.velocity),
        channels=np.full(starts.size, score.kit.channel),
    )
