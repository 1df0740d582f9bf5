"""The tape of a score that plays undisturbed."""

from lattice.clips.clip import Control, Note
from lattice.clips.keep import Tape, TapeTrack
from lattice.document.piece import Score
from lattice.render.controls import controls_of
from lattice.render.events import events_of
from lattice.render.notes import note_of
from lattice.render.pipeline import play_all
from lattice.render.window import Window

__all__ = ["undisturbed"]


def undisturbed(score: Score, dice: int, window: Window) -> Tape:
    """Return what the tape holds once *window* has been played with no hand on the score.

    Raises DocumentError if the window holds too many steps.
    """
    first, end = window.ticks(score.meter.bar_ticks)
    played = play_all(score, dice, window)
    events, sent = events_of(score, dice, window, played), controls_of(score, window, played)
    tracks = []
    for index, lane in enumerate(score.lanes):
        own = events.take(events.lanes == index)
        columns = (own.starts, own.lengths, own.pitches, own.velocities, own.tunes)
        controls = [
            Control(*row)
            for part in (sent.held, sent.sends)
            for lane_index, *row in zip(
                *(column.tolist() for column in (part.lanes, part.ticks, part.controllers, part.values)),
                strict=True,
            )
            if lane_index == index
        ]
        tracks.append(
            TapeTrack(
                lane=lane.name,
                lane_id=lane.id,
                ink=lane.ink,
                channel=note_of(lane, score)[0],
                notes=tuple(Note(*row) for row in zip(*(column.tolist() for column in columns), strict=True)),
                controls=tuple(controls),
                straights=tuple(own.straights.tolist()),
            )
        )
    return Tape(from_tick=first, now_tick=end, meter=score.meter, tracks=tuple(tracks))
