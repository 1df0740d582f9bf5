"""MIDI channels of a pattern's lanes."""

from lattice.document.piece import Score
from lattice.render.notes import note_of

__all__ = ["a_channel_each"]

_CHANNELS = 16


def a_channel_each(score: Score) -> dict[str, int | None]:
    """Return, by the ids of the lanes whose channel changes, channels 1 to 16 in their order, then round again.

    Where all have that already: back to what their voices say, those of the kit sharing its channel.
    """
    wanted = {lane.id: place % _CHANNELS + 1 for place, lane in enumerate(score.lanes)}
    changed = {lane.id: wanted[lane.id] for lane in score.lanes if note_of(lane, score)[0] != wanted[lane.id]}
    if changed:
        return dict(changed)
    return {lane.id: None for lane in score.lanes if lane.channel is not None}
