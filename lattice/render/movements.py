"""A lane in stretches of time: in each it plays as if what movements make of it had always been so."""

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise
from typing import NamedTuple

from lattice.document.lane import Lane
from lattice.document.movement import Movement, Value
from lattice.document.piece import Score
from lattice.document.step_value import StepValue
from lattice.render.feel import Feel, feel_of
from lattice.render.stages import STAGES, of_the_sound, taken_by_step
from lattice.steps.lane_steps import LaneSteps, steps_of_lane
from lattice.steps.moving import changes, moved_lane, moving, value_at

__all__ = ["Stretch", "cuts", "extremes", "is_cut", "moves_of", "plays_of", "reading", "stretches"]


@dataclass(frozen=True)
class Stretch:
    """From tick *start* to before *end* a lane plays as it does in *score*, by its *lane_steps* and *feel* there."""

    start: int
    end: int
    score: Score
    lane_steps: LaneSteps
    feel: Feel


class Read(NamedTuple):
    """A lane that has a say in what another plays. *heard*: its notes do, not only its hits."""

    lane: Lane
    heard: bool


def is_cut(score: Score, lane: Lane) -> bool:
    """Return whether movements cut the time of *lane*: its own, of the lanes that it reads, or of the pattern."""
    if not score.movements and not any(one.lane.movements for one in reading(score, lane)):
        return False
    return bool(_cutting(score, lane))


def reading(score: Score, lane: Lane) -> list[Read]:
    """Return *lane* and all that it reads, directly or through others, each once."""
    found = [Read(lane, False)]
    for one in found:
        for of in one.lane.reads:
            if all(of != known.lane.id for known in found):
                found.append(Read(score.lane(of), one.heard or one.lane.reading(of) == "arpeggio"))
    return found


def moves_of(score: Score, lane: Lane) -> list[Movement]:
    """Return all movements that have a say in what *lane* plays, and how it sounds."""
    own = [movement for one in reading(score, lane) for movement in moving(one.lane.movements)]
    return [*own, *moving(score.movements)]


def stretches(score: Score, dice: int, lane: Lane, first: int, end: int) -> list[Stretch]:
    """Return what *lane* plays as from tick *first* to before *end*, stretch by stretch, in order."""
    found: list[Stretch] = []
    for start, stop in pairwise(_edges(score, lane, first, end)):
        there = _score_at(score, lane, start)
        lane_steps = steps_of_lane(there, dice, lane.id)
        found.append(Stretch(start, stop, there, lane_steps, feel_of(lane_steps.lane, there)))
    return found


def plays_of(score: Score, lane: Lane, first: int, end: int) -> int:
    """Return how often lanes are laid out for what *lane* plays from tick *first* to before *end*.

    Once in each stretch, and there each lane whose notes it plays as well.
    """
    heard = sum(one.heard for one in reading(score, lane))
    return (len(_edges(score, lane, first, end)) - 1) * (1 + heard)


def _edges(score: Score, lane: Lane, first: int, end: int) -> list[int]:
    """Return where the stretches of *lane* begin, and *end*."""
    bar = score.meter.bar_ticks
    cutting = _cutting(score, lane)
    return sorted({first, end, *(tick for one in cutting for tick in changes(one, first, end, bar))})


def extremes(score: Score, dice: int, lane: Lane) -> list[tuple[LaneSteps, Feel]]:
    """Return lanes of which one at least strays as far, and lasts as long, as *lane* ever does while it is moved.

    With each length of step that it is given, and the other controls where the stages say that their bounds are widest.
    """
    lanes_read = [one.lane for one in reading(score, lane)]
    steps = {
        point.value
        for one in lanes_read
        for movement in moving(one.movements)
        for point in movement.points
        if isinstance(point.value, StepValue)
    }
    pattern = _widest(score.movements)
    swing = {"swing": score.swing.model_copy(update={"percent": pattern["swing.percent"]})} if pattern else {}
    extreme_lanes = []
    for step in [None, *sorted(steps, key=lambda value: value.quarters)]:
        lanes = {one.id: _widest_lane(one, step) for one in lanes_read}
        there = score.model_copy(
            update={**swing, "lanes": tuple(lanes.get(one.id, one) for one in score.lanes)}
        )
        lane_steps = steps_of_lane(there, dice, lane.id)
        extreme_lanes.append((lane_steps, feel_of(lane_steps.lane, there)))
    return extreme_lanes


def _widest(movements: Iterable[Movement]) -> dict[str, int]:
    """Return the values that movements give controls at which the bounds of stages are widest."""
    found: dict[str, int] = {}
    for movement in moving(movements):
        values = [point.value for point in movement.points if isinstance(point.value, int)]
        if any(movement.control in stage.widest_at_most for stage in STAGES):
            found[movement.control] = max(values)
        elif any(movement.control in stage.widest_at_least for stage in STAGES):
            found[movement.control] = min(values)
    return found


def _widest_lane(lane: Lane, step: StepValue | None) -> Lane:
    values: dict[str, Value] = {**_widest(lane.movements)}
    if not lane.span:  # only of a span fewer steps are longer
        values.pop("source.steps", None)
    if step and any(movement.control == "step_value" for movement in moving(lane.movements)):
        values["step_value"] = step
    return moved_lane(lane, values)


def cuts(movement: Movement, lane: Lane, *, heard: bool = False) -> bool:
    """Return whether *movement* cuts the time of *lane*: whether the lane is another before and after a point.

    *heard*: for a lane that plays its notes, it is another by each of them.
    """
    if movement.control in of_the_sound():
        return False
    return heard or movement.control not in taken_by_step(lane)


def _cutting(score: Score, lane: Lane) -> list[Movement]:
    """Return the movements that cut the time of *lane*."""
    read = reading(score, lane)
    own = [
        movement
        for one in read
        for movement in moving(one.lane.movements)
        if cuts(movement, one.lane, heard=one.heard)
    ]
    reads_notes = any(one.heard for one in read)
    return own + [
        movement
        for movement in moving(score.movements)
        if (lane.swing is None if movement.control == "swing.percent" else reads_notes)
    ]


def _score_at(score: Score, lane: Lane, tick: int) -> Score:
    """Return the score in which *lane* plays at *tick*: it and the lanes that it reads are as they are then."""
    bar = score.meter.bar_ticks
    read = reading(score, lane)
    lanes = {one.lane.id: _played_as(one.lane, tick, bar, heard=one.heard) for one in read}
    changed: dict[str, object] = {"lanes": tuple(lanes.get(one.id, one) for one in score.lanes)}
    values = {
        movement.control: value
        for movement in moving(score.movements)
        if (value := value_at(movement, tick, bar)) is not None
    }
    if "swing.percent" in values:
        changed["swing"] = score.swing.model_copy(update={"percent": values.pop("swing.percent")})
    if any(one.heard for one in read):
        changed |= {**values, "movements": ()}
    return score.model_copy(update=changed)


def _played_as(lane: Lane, tick: int, bar_ticks: int, *, heard: bool = False) -> Lane:
    """Return what *lane* is at *tick* as far as movements cut time; those that do not go on moving."""
    cutting = {movement.control for movement in moving(lane.movements) if cuts(movement, lane, heard=heard)}
    if not cutting:
        return lane
    values = {
        movement.control: value
        for movement in lane.movements
        if movement.control in cutting and (value := value_at(movement, tick, bar_ticks)) is not None
    }
    left = tuple(movement for movement in moving(lane.movements) if movement.control not in cutting)
    return moved_lane(lane, values).model_copy(update={"movements": left})
