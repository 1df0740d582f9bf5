"""Where a lane's strips are: one of each kind, and one for each controller."""

from typing import Any, NamedTuple

from lattice.document.controllers import control_range, controller_name, neutral
from lattice.document.lane import Lane
from lattice.document.problems import DocumentError
from lattice.document.strip import (
    CHORD,
    CONTROL,
    PITCH,
    STRIP_MODELS,
    STRIPS,
    ControlStrip,
    Strip,
    StripKind,
    Throw,
)

__all__ = ["StripAt", "control_strip_at", "plain_value", "strip_at", "strips_of"]


class StripAt(NamedTuple):
    """One strip of a lane. *name*: what people call it; *path*: where it lies; *strip*: None while plain."""

    name: str
    kind: StripKind
    path: str
    strip: Strip | None

    @property
    def present(self) -> Strip:
        """The strip; an empty one while it is plain."""
        if self.strip is not None:
            return self.strip
        return STRIP_MODELS[self.kind]()

    def patch(self, lane: Lane, strip: Strip | None) -> dict[str, Any]:
        """Return the fields that put *strip* in its place in *lane*, or take it away."""
        said = strip.model_dump(mode="json") if strip else None
        if self.kind.field != CONTROL.field:
            return {self.kind.field: said}
        controller = getattr(self.strip, "controller", None)
        rows = [one.model_dump(mode="json") for one in lane.control_strips]
        changed = [said if row["controller"] == controller else row for row in rows]
        return {CONTROL.field: [row for row in changed if row is not None]}


def control_strip_at(strip: ControlStrip, place: int) -> StripAt:
    """Return the place of the *place*-th control strip of a lane. Each controller has luck of its own."""
    low, high = control_range(strip.controller)
    draw_number = CONTROL.draw_number + strip.controller
    kind = CONTROL._replace(draw_number=draw_number, low=low, high=high, throw=Throw(low, high))
    return StripAt(controller_name(strip.controller), kind, f"{CONTROL.field}.{place}", strip)


def strips_of(lane: Lane) -> list[StripAt]:
    """Return all strips of *lane*, plain or not; control strips only as many as there are.

    Those of pitch lie dormant, and are not among them, while the voice is one of the kit.
    """
    fixed = [
        StripAt(name, kind, kind.field, getattr(lane, kind.field))
        for name, kind in STRIPS.items()
        if kind is not CONTROL and (lane.is_melodic or kind not in (PITCH, CHORD))
    ]
    return fixed + [control_strip_at(strip, place) for place, strip in enumerate(lane.control_strips)]


def strip_at(lane: Lane, name: str) -> StripAt:
    """Return the strip of *lane* that is called *name*. Raises DocumentError if there is none."""
    for at in strips_of(lane):
        if at.name == name:
            return at
    raise DocumentError.of(name, "there is no such strip", lane=lane.name)


def plain_value(at: StripAt, lane: Lane) -> int:
    """Return what a step has that the strip says nothing of."""
    if isinstance(at.strip, ControlStrip):
        return neutral(at.strip.controller)
    if at.kind.plain is not None:
        return at.kind.plain
    return {"velocity": lane.velocity, "length": lane.length_percent}.get(at.name, 0)
