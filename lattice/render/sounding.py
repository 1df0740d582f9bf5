"""How the built-in sounds play the notes of lanes."""

from lattice.document.kit import Kit, Voice
from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.document.pitched import PITCHED, WHOLE_KIT
from lattice.document.port import BUILT_IN
from lattice.document.sounding import TrackSound
from lattice.render.notes import note_of

__all__ = ["lane_sound", "port_of"]


def lane_sound(lane: Lane, score: Score) -> TrackSound | None:
    """Return how a lane's notes sound; None where its voice is in no kit."""
    voice = _voice_of(lane, score.kit)
    if voice is None:
        return None
    _, note = note_of(lane, score)
    kit = score.kit.voices if lane.voice == WHOLE_KIT else ()
    return TrackSound(
        voice=voice,
        note=note,
        tone=lane.tone,
        kit=kit,
        level_db=lane.level_db,
        pan=lane.pan,
        room=lane.room,
    )


def port_of(lane: Lane, kit: Kit) -> str:
    """Return the name of the port that a lane's notes go to: its own, or the kit's if it plays that."""
    of_the_kit = not lane.is_melodic or lane.voice == WHOLE_KIT
    return lane.port or (kit.port if of_the_kit else None) or BUILT_IN


def _voice_of(lane: Lane, kit: Kit) -> Voice | None:
    if lane.is_melodic:
        return Voice(id=lane.voice, name=PITCHED[lane.voice].name, pitch=PITCHED[lane.voice].home)
    return kit.voice(lane.voice)
