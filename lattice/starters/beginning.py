"""Beginning from a starter: what it puts in place of a lane, of a pattern's lanes, or of a piece's patterns."""

from typing import Any

from lattice.document.arpeggio import ChordPool
from lattice.document.base import Id, free_id
from lattice.document.kit import Kit
from lattice.document.lane import INKS, Lane
from lattice.document.piece import Pattern, Piece
from lattice.document.problems import DocumentError, read
from lattice.document.scale import Scale
from lattice.edits.beginnings import first_progression
from lattice.starters.starter import Starter, starting_fields

__all__ = ["begun", "begun_piece"]


def begun(
    pattern: Pattern, starter: Starter, kit: Kit, lane_id: Id | None, scale: Scale | None = None
) -> Pattern:
    """Return *pattern* after it, or its lane *lane_id*, has begun from *starter*.

    A lane stays who it is, and where it sounds; one of the kit takes the voice of a melody with it. Where no lane is
    given, a starter's is added as the last one. A whole pattern brings lanes, meter, length and step value. Voices that
    *kit* has not are others of it, one after the other, but for those that play any pitch. What plays the chords of a
    progression brings two of *scale* where there is none: it would be silent.
    Raises DocumentError if there is no such lane, or what comes of it may not stand there.
    """
    stored = pattern.model_dump(mode="json")
    if starter.pattern:
        return read(Pattern, stored | _brought(starter.pattern, kit))
    if starter.lane is None:
        raise DocumentError.of("starter", f"“{starter.name}” is a whole piece: it begins no pattern alone")
    if lane_id is None:
        added = _with_voice_of(kit, starter.lane, len(pattern.lanes)).model_copy(
            update={
                "id": free_id(starter.lane.id, {lane.id for lane in pattern.lanes}),
                "ink": len(pattern.lanes) % INKS,
            }
        )
        lanes = [*stored["lanes"], added.model_dump(mode="json")]
        return read(Pattern, stored | {"lanes": lanes} | _chords_for(added, pattern, scale))
    if lane_id not in {lane.id for lane in pattern.lanes}:
        raise DocumentError.of("lane", f"there is no lane {lane_id!r} to begin from “{starter.name}”")
    fields = starting_fields(starter.lane) | _sung(pattern.lane(lane_id), starter.lane, kit)
    lanes_as_stored = [lane | fields if lane["id"] == lane_id else lane for lane in stored["lanes"]]
    return read(Pattern, stored | {"lanes": lanes_as_stored} | _chords_for(starter.lane, pattern, scale))


def begun_piece(piece: Piece, starter: Starter) -> Piece:
    """Return *piece* after it has begun from a whole piece: with its tempo, swing, scale, patterns and order.

    It keeps its name, its kit and its big controls. Raises DocumentError if *starter* is no piece.
    """
    if starter.piece is None:
        raise DocumentError.of("starter", f"“{starter.name}” is no whole piece")
    brought = starter.piece.model_dump(mode="json", include={"tempo", "swing", "scale", "order"})
    patterns = [one.model_dump(mode="json") | _brought(one, piece.kit) for one in starter.piece.patterns]
    return read(Piece, piece.model_dump(mode="json") | brought | {"patterns": patterns})


def _brought(pattern: Pattern, kit: Kit) -> dict[str, Any]:
    """Return the fields that a whole *pattern* brings."""
    brought = pattern.model_dump(mode="json", include={"meter", "bars", "step_value"})
    lanes = [_with_voice_of(kit, lane, place) for place, lane in enumerate(pattern.lanes)]
    return brought | {"lanes": [lane.model_dump(mode="json") for lane in lanes]}


def _sung(lane: Lane, begins: Lane, kit: Kit) -> dict[str, Any]:
    """Return the voice with which a *lane* of the kit sings a melody; its name too where the lane was called so."""
    if lane.is_melodic or not begins.is_melodic:
        return {}
    voice = kit.voice(lane.voice)
    is_called_so = voice is not None and voice.name == lane.name
    return {"voice": begins.voice, "note": None, **({"name": begins.name} if is_called_so else {})}


def _chords_for(lane: Lane, pattern: Pattern, scale: Scale | None) -> dict[str, Any]:
    plays_chords = lane.arpeggio is not None and isinstance(lane.arpeggio.pool, ChordPool)
    if pattern.progression or scale is None or not plays_chords:
        return {}
    return {"progression": first_progression(scale).model_dump(mode="json")}


def _with_voice_of(kit: Kit, lane: Lane, place: int) -> Lane:
    if lane.is_melodic or kit.voice(lane.voice):
        return lane
    voice = kit.voices[place % len(kit.voices)]
    return lane.model_copy(update={"voice": voice.id})
