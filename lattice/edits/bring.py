"""Lanes, or what is set on them, brought from one pattern into another."""

from typing import Any, Literal, get_args

from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.document.problems import DocumentError, read
from lattice.edits.without import without_lanes
from lattice.render.pitch_context import pitch_context_of
from lattice.steps.lane_steps import steps_of_lane

__all__ = ["BROUGHT", "Brought", "bring"]

Brought = Literal["lanes", "strips", "settings"]
BROUGHT: tuple[Brought, ...] = get_args(Brought)
# What makes a lane that lane, and what only belongs where it is.
_ITS_OWN = frozenset(
    {
        "id",
        "name",
        "voice",
        "ink",
        "source",
        "edits",
        "keys",
        "clip",
        "mute",
        "solo",
        "anchored",
        "port",
        "program",
    }
)


def bring(origin: Score, there: Score, lane_ids: list[str], what: Brought) -> tuple[Lane, ...]:
    """Return the lanes of *there* after lanes of those ids, or what is set on them, were brought from *origin*.

    "lanes": each takes the place of the lane of its id, or stands after the others; what it read there and is not here
    goes on as it stood. "strips", "settings": onto the lane of its id, else of its name, else of its voice; settings
    are all but where its hits come from, its strips and its movements among them.
    Raises DocumentError if a lane has none to be brought onto, or what comes of it cannot be.
    """
    lanes = list(there.lanes)
    for lane_id in lane_ids:
        lane = origin.lane(lane_id)
        if what == "lanes":
            lanes = _placed(lanes, _by_itself(origin, lane, {*(one.id for one in lanes), *lane_ids}))
            continue
        onto = _like(lanes, lane)
        if onto is None:
            message = "there is no lane of that name or voice to bring it onto: bring the lane whole"
            raise DocumentError.of("lanes", message, lane=lane.name)
        fields = _strip_fields() if what == "strips" else set(Lane.model_fields) - _ITS_OWN
        changed = onto.model_dump(mode="json") | lane.model_dump(mode="json", include=fields)
        lanes = _placed(lanes, read(Lane, changed))
    return tuple(lanes)


def _placed(lanes: list[Lane], lane: Lane) -> list[Lane]:
    if all(one.id != lane.id for one in lanes):
        return [*lanes, lane]
    return [lane if one.id == lane.id else one for one in lanes]


def _like(lanes: list[Lane], lane: Lane) -> Lane | None:
    for same in ("id", "name", "voice"):
        found = next((one for one in lanes if getattr(one, same) == getattr(lane, same)), None)
        if found:
            return found
    return None


def _by_itself(origin: Score, lane: Lane, known: set[str]) -> Lane:
    gone = [of for of in lane.reads if of not in known]
    if not gone:
        return lane
    lane_steps = steps_of_lane(origin, 0, lane.id)
    freed: dict[str, Any] = lane.model_dump(mode="json")
    for of, fields in without_lanes(lane_steps, pitch_context_of(lane, origin, 0), origin).items():
        if of in gone:
            freed |= fields
    return read(Lane, freed)


def _strip_fields() -> set[str]:
    return {field for field in Lane.model_fields if field.endswith(("_strip", "_strips"))}
