"""What hands do to a movement after it was recorded: fewer points that play the same, and smoother ones."""

from itertools import pairwise

import numpy as np

from lattice.document.arpeggio import LanePool
from lattice.document.lane import Lane
from lattice.document.movement import CONTROLS, Movement, Point
from lattice.document.piece import Score
from lattice.steps.lane_steps import steps_of_lane

__all__ = ["smoothed", "thinned", "thinned_lane", "with_movement"]

# With one of these moved, steps lie elsewhere in each stretch: then every point may be one that a note hears.
_MOVES_STEPS = frozenset({"step_value", "source.steps"})


def with_movement(
    movements: tuple[Movement, ...], control: str, new: Movement | None
) -> tuple[Movement, ...]:
    """Return *movements* with that of *control* exchanged; without it, where the new one is None."""
    known = [one.control for one in movements]
    if new is not None and control not in known:
        return (*movements, new)
    exchanged = (new if one.control == control else one for one in movements)
    return tuple(one for one in exchanged if one is not None)


def smoothed(movement: Movement) -> Movement:
    """Return *movement* with each value between the first and the last nearer to its neighbours: (1, 2, 1) / 4.

    Words and lengths of steps stay: there is nothing between them.

    >>> row = Movement(control="busy", points=(Point(0, 0), Point(5, 40), Point(9, 0)))
    >>> [point.value for point in smoothed(row).points]
    [0, 20, 0]
    """
    control = CONTROLS[movement.control]
    if control.words or control.is_step_value:
        return movement
    values = [int(point.value) for point in movement.points if isinstance(point.value, int)]
    inner = [
        (before + 2 * value + after + 2) // 4
        for before, value, after in zip(values, values[1:], values[2:], strict=False)
    ]
    row = [values[0], *inner, *values[-1:]] if len(values) > 1 else values
    points = (Point(point.tick, value) for point, value in zip(movement.points, row, strict=True))
    return movement.model_copy(update={"points": tuple(points)})


def thinned_lane(score: Score, lane_id: str) -> tuple[Movement, ...]:
    """Return the movements of a lane with as few points as play the same notes, whatever the dice."""
    lane = score.lane(lane_id)
    return tuple(thinned(score, lane, movement) for movement in lane.movements)


def thinned(score: Score, lane: Lane, movement: Movement) -> Movement:
    """Return *movement* of *lane* without the points that change no note, whatever the dice.

    Those that say again what holds already; and, where nothing else can hear them, those between which and the next
    no step of the lane begins.
    """
    points = list(movement.points)
    if movement.loop_bars is None and _is_heard_at_steps_alone(score, lane):
        points = _with_steps_between(points, score, lane)
    kept = [points[0], *(later for earlier, later in pairwise(points) if later.value != earlier.value)]
    return movement.model_copy(update={"points": tuple(kept)})


def _is_heard_at_steps_alone(score: Score, lane: Lane) -> bool:
    read = any(
        one.arpeggio and isinstance(one.arpeggio.pool, LanePool) and lane.id in one.reads
        for one in score.lanes
    )
    moves_steps = any(one.control in _MOVES_STEPS for one in lane.movements)
    makes = any(lane.id in one.reads and one.movements for one in score.lanes)
    return not (read or makes or moves_steps or lane.bursts or lane.reads)


def _with_steps_between(points: list[Point], score: Score, lane: Lane) -> list[Point]:
    clock = steps_of_lane(score, 0, lane.id).clock
    # The last one holds for ever: some step begins in that.
    firsts = np.array([clock.first_at(point.tick) for point in points])
    heard = np.append(firsts[1:] > firsts[:-1], True)
    return [point for point, is_heard in zip(points, heard.tolist(), strict=True) if is_heard]
