"""Actions on one strip of a lane: each returns the fields that it changes."""

from collections.abc import Iterable
from typing import Any

from lattice.document.controllers import controller_name, neutral
from lattice.document.problems import DocumentError, read
from lattice.document.strip import CONTROL, ControlStrip, PitchStrip, Shape, Strip
from lattice.document.strip_places import strip_at
from lattice.edits.chosen import is_hit
from lattice.edits.contours import Contour, contour
from lattice.edits.strip_operations import MOVING, OPERATIONS, Operation, thrown_values
from lattice.steps.lane_steps import LaneSteps

__all__ = ["begin_control", "change_strip", "draw_contour", "empty_strip", "throw_strip"]

_EMPTY: dict[str, Any] = {"values": (), "free": None}


def change_strip(lane_steps: LaneSteps, name: str, operation: Operation) -> dict[str, Any]:
    """Return the lane's fields after *operation* on the strip called *name*. Raises DocumentError if there is none."""
    at = strip_at(lane_steps.lane, name)
    values = OPERATIONS[operation](
        _whole(lane_steps, at.present.values, at.present.free is not None), at.kind
    )
    changed: dict[str, Any] = {"values": values}
    if isinstance(at.present, PitchStrip) and at.present.accidentals:
        row = (*at.present.accidentals, *(0,) * len(values))[: len(values)]
        if operation == "upside down":
            changed["accidentals"] = tuple(-one for one in row)
        elif operation in MOVING:
            changed["accidentals"] = OPERATIONS[operation](row, at.kind)
    return at.patch(lane_steps.lane, at.present.model_copy(update=changed))


def throw_strip(
    lane_steps: LaneSteps, name: str, low: int, high: int, shape: Shape, throw: int
) -> dict[str, Any]:
    """Return the lane's fields after a throw between *low* and *high*: plain values, that can be seen and undone.

    Raises DocumentError if there is no such strip, or it cannot have such values.
    """
    at = strip_at(lane_steps.lane, name)
    if not at.kind.low <= low <= high <= at.kind.high:
        message = (
            f"a throw lies between {at.kind.low} and {at.kind.high}, low before high, got {low} to {high}"
        )
        raise DocumentError.of(name, message, lane=lane_steps.lane.name)
    whole = _whole(lane_steps, at.present.values, at.present.free is not None)
    values = thrown_values(whole, low, high, shape, throw, lane_steps.lane.id, at.kind.draw_number)
    return at.patch(lane_steps.lane, at.present.model_copy(update={"values": values} | _naturals(at.present)))


def empty_strip(lane_steps: LaneSteps, name: str) -> dict[str, Any]:
    """Return the lane's fields with no value in the strip called *name*: all steps take the lane's. A spread stays."""
    at = strip_at(lane_steps.lane, name)
    spread = at.strip.spread if at.strip else None
    return at.patch(
        lane_steps.lane, at.present.model_copy(update=_EMPTY | _naturals(at.present)) if spread else None
    )


def begin_control(lane_steps: LaneSteps, controller: int) -> dict[str, Any]:
    """Return the lane's fields with a new strip of that MIDI controller, at every step where it changes nothing.

    Every step says it, so that what is painted beside it is taken back there. Raises DocumentError if there is one.
    """
    strips = lane_steps.lane.control_strips
    if any(strip.controller == controller for strip in strips):
        raise DocumentError.of(
            controller_name(controller), "there is such a strip already", lane=lane_steps.lane.name
        )
    begun = read(ControlStrip, {"controller": controller, "values": [neutral(controller)] * lane_steps.steps})
    return {CONTROL.field: [one.model_dump(mode="json") for one in (*strips, begun)]}


def draw_contour(
    lane_steps: LaneSteps, kind: Contour, low: int, high: int, leap: int, throw: int
) -> dict[str, Any]:
    """Return the lane's fields with a contour on its pitch strip: one value for each hit, in the order of its steps.

    A strip of its own length has one for each of its values. Raises DocumentError where the lane has no pitches, or the
    strip no such values.
    """
    at = strip_at(lane_steps.lane, "pitch")
    if not at.kind.low <= low <= high <= at.kind.high or leap < 1:
        message = (
            f"a contour lies between {at.kind.low} and {at.kind.high}, low before high, got {low} to {high}"
        )
        raise DocumentError.of("pitch", message, lane=lane_steps.lane.name)
    strip = at.present
    if strip.free:
        row = contour(kind, len(strip.values), low, high, leap, throw, lane_steps.lane.id)
        return at.patch(lane_steps.lane, strip.model_copy(update={"values": row} | _naturals(strip)))
    hits = [number for number, hit in enumerate(is_hit(lane_steps)) if hit]
    drawn = dict(zip(hits, contour(kind, len(hits), low, high, leap, throw, lane_steps.lane.id), strict=True))
    kept = _whole(lane_steps, strip.values, is_free=False)
    values = tuple(drawn.get(step, value) for step, value in enumerate(kept))
    return at.patch(lane_steps.lane, strip.model_copy(update={"values": values} | _naturals(strip, drawn)))


def _naturals(strip: Strip, drawn: Iterable[int] | None = None) -> dict[str, Any]:
    """Return what takes the accidentals of the values *drawn* anew away; of all of them if None."""
    if not isinstance(strip, PitchStrip) or not strip.accidentals:
        return {}
    gone = set(range(len(strip.accidentals)) if drawn is None else drawn)
    row = tuple(0 if place in gone else one for place, one in enumerate(strip.accidentals))
    return {"accidentals": row if any(row) else ()}


def _whole(lane_steps: LaneSteps, values: tuple[int | None, ...], is_free: bool) -> tuple[int | None, ...]:
    """Return all values of a strip; of one that goes with the lane, one for each step."""
    return values if is_free else (*values, *(None,) * lane_steps.steps)[: lane_steps.steps]
