"""Putting a lane on a ground, and taking it off again: each returns the fields that it changes."""

from collections.abc import Sequence
from typing import Any

from lattice.document.ground import BEFORE_FIELDS, Before, GroundSource
from lattice.document.kit import Kit
from lattice.document.lane import Lane
from lattice.document.piece import Rhythm, Score
from lattice.document.problems import DocumentError, read
from lattice.document.step_value import StepValue
from lattice.steps.ground import ground_step
from lattice.theory.grounds import GroundId, Part, ground_text, part_of_note

__all__ = ["free_parts", "put_all_on_ground", "put_on_ground", "take_off_ground"]


def put_on_ground(
    rhythm: Rhythm,
    kit: Kit,
    lane_id: str,
    ground: GroundId,
    part: Part | None,
    x: int | None = None,
    y: int | None = None,
) -> dict[str, Any]:
    """Return the fields that put a lane on *ground* at (x, y), where it remembers what it was.

    *x*, *y*: none for where the first lane stands that is on it already, or else its middle.

    *part*: none for that of its voice, or else the first that no other lane plays.
    Raises DocumentError if there is no such lane, or another one plays that part.
    """
    lane = rhythm.lane(lane_id)
    others = (one.source for one in rhythm.lanes if isinstance(one.source, GroundSource))
    part = _part_for(rhythm, kit, lane, ground, part)
    there = next((one for one in others if one.ground == ground), GroundSource(ground=ground, part=part))
    source = GroundSource(
        ground=ground, part=part, x=there.x if x is None else x, y=there.y if y is None else y
    )
    now = lane.source
    if isinstance(now, GroundSource):
        return {"source": source.model_copy(update={"was": now.was}).model_dump(mode="json")} | _step(
            rhythm, ground
        )
    was = Before.model_validate({field: getattr(lane, field) for field in BEFORE_FIELDS})
    plain = {field: Lane.model_fields[field].default for field in BEFORE_FIELDS if field != "source"}
    on_it = source.model_copy(update={"was": was}).model_dump(mode="json")
    return plain | {"source": on_it, "edits": []} | _step(rhythm, ground)


def put_all_on_ground(
    score: Score,
    lane_ids: Sequence[str],
    ground: GroundId,
    part: Part | None,
    x: int | None = None,
    y: int | None = None,
) -> dict[str, dict[str, Any]]:
    """Return the fields, by lane id, that put lanes on *ground* one after the other. Raises as `put_on_ground`."""
    patches: dict[str, dict[str, Any]] = {}
    for lane_id in lane_ids:
        patches[lane_id] = put_on_ground(score, score.kit, lane_id, ground, part, x, y)
        lanes = tuple(
            read(Lane, lane.model_dump(mode="json") | patches[lane_id]) if lane.id == lane_id else lane
            for lane in score.lanes
        )
        score = score.model_copy(update={"lanes": lanes})
    return patches


def take_off_ground(lane: Lane) -> dict[str, Any]:
    """Return the fields that make *lane* what it was before it was put on a ground.

    Raises DocumentError if it is on none, or was never anything else.
    """
    source = lane.source
    if not isinstance(source, GroundSource):
        raise DocumentError.of("source", "it is on no ground", lane=lane.name)
    if source.was is None:
        message = "it began on its ground and was nothing before: draw it as it stands instead"
        raise DocumentError.of("source", message, lane=lane.name)
    return source.was.model_dump(mode="json")


def free_parts(rhythm: Rhythm, ground: GroundId, lane_id: str) -> list[Part]:
    """Return the parts of *ground* that no lane but that one plays."""
    taken = _taken(rhythm, ground, lane_id)
    return [part for part in ground_text(ground).parts if part not in taken]


def _taken(rhythm: Rhythm, ground: GroundId, lane_id: str) -> dict[Part, str]:
    return {
        lane.source.part: lane.name
        for lane in rhythm.lanes
        if lane.id != lane_id and isinstance(lane.source, GroundSource) and lane.source.ground == ground
    }


def _part_for(rhythm: Rhythm, kit: Kit, lane: Lane, ground: GroundId, part: Part | None) -> Part:
    name = ground_text(ground).name
    free = free_parts(rhythm, ground, lane.id)
    if part:
        if other := _taken(rhythm, ground, lane.id).get(part):
            message = f"{other} plays the {part} of {name} already: choose another part, or take {other} off"
            raise DocumentError.of("source.part", message, lane=lane.name)
        return part
    if not free:
        message = f"every part of {name} is played: take a lane off it first"
        raise DocumentError.of("source.part", message, lane=lane.name)
    voice = kit.voice(lane.voice)
    own = part_of_note(voice.pitch) if voice else None
    return own if own in free else free[0]


def _step(rhythm: Rhythm, ground: GroundId) -> dict[str, Any]:
    """Return what a lane needs for the ground's own steps."""
    text = ground_text(ground)
    if rhythm.step_value.quarters == ground_step(text):
        return {"step_value": None, "span": None}
    return {"step_value": StepValue.model_validate({"note": text.step}).model_dump(mode="json"), "span": None}
