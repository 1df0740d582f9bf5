"""Beginning from a starter: what it puts in place of a lane, or of a pattern's lanes."""

from lattice.document.base import Id
from lattice.document.kit import Kit
from lattice.document.lane import Lane
from lattice.document.piece import Pattern
from lattice.document.problems import DocumentError, read
from lattice.starters.starter import Starter, starting_fields

__all__ = ["begun"]


def begun(pattern: Pattern, starter: Starter, kit: Kit, lane_id: Id | None) -> Pattern:
    """Return *pattern* after it, or its lane *lane_id*, has begun from *starter*.

    A lane stays who it is, and where it sounds. A whole pattern brings lanes, meter, length and step value; voices that
    *kit* has not are others of it, one after the other, but for those that play any pitch.
    Raises DocumentError if there is no such lane, or what comes of it may not stand there.
    """
    stored = pattern.model_dump(mode="json")
    if starter.pattern:
        lanes = [_with_voice_of(kit, lane, place) for place, lane in enumerate(starter.pattern.lanes)]
        brought = starter.pattern.model_dump(mode="json", include={"meter", "bars", "step_value"})
        return read(Pattern, stored | brought | {"lanes": [lane.model_dump(mode="json") for lane in lanes]})
    if starter.lane is None or lane_id not in {lane.id for lane in pattern.lanes}:
        raise DocumentError.of("lane", f"there is no lane {lane_id!r} to begin from “{starter.name}”")
    fields = starting_fields(starter.lane)
    lanes_as_stored = [lane | fields if lane["id"] == lane_id else lane for lane in stored["lanes"]]
    return read(Pattern, stored | {"lanes": lanes_as_stored})


def _with_voice_of(kit: Kit, lane: Lane, place: int) -> Lane:
    if lane.is_melodic or kit.voice(lane.voice):
        return lane
    return lane.model_copy(update={"voice": kit.voices[place % len(kit.voices)].id})
