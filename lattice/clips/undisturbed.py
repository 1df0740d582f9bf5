"""The tape of a score that plays undisturbed."""

from lattice.clips.clip import Note, Track
from lattice.clips.keep import Tape
from lattice.document.piece import Score
from lattice.render.pipeline import render
from lattice.render.window import Window

__all__ = ["undisturbed"]


def undisturbed(score: Score, dice: int, window: Window) -> Tape:
    """Return what the tape holds once *window* has been played with no hand on the score.

    Raises DocumentError if the window holds too many steps.
    """
    events = render(score, dice, window)
    first, end = window.ticks(score.meter.bar_ticks)
    tracks = []
    for index, lane in enumerate(score.lanes):
        own = events.take(events.lanes == index)
        columns = (own.starts, own.lengths, own.pitches, own.velocities)
        notes = tuple(Note(*row) for row in zip(*(column.tolist() for column in columns), strict=True))
        tracks.append(Track(lane=lane.name, ink=lane.ink, channel=score.kit.channel, notes=notes))
    return Tape(from_tick=first, now_tick=end, meter=score.meter, tracks=tuple(tracks))
