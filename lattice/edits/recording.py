"""What a hand leaves in the movement of a control: recorded as it plays, or moved along with the control."""

from typing import Annotated, Self

from pydantic import BaseModel, Field, model_validator

from lattice.document.base import Document, Id, Row
from lattice.document.lane import Lane
from lattice.document.movement import (
    CONTROLS,
    MAX_POINTS,
    PATTERN_CONTROLS,
    Movement,
    MovementControl,
    Point,
    Value,
    check_movements,
    check_order,
    control_limits,
)
from lattice.document.piece import Score

__all__ = ["HandMove", "after_hand", "moved_along", "recorded"]


class HandMove(Document):
    """A hand took a *control* of a *lane* (None: of the pattern) from the value that it *was* to what it is *now*.

    *movement*: what moved the control before; None: nothing did. *points*: what the hand recorded, ascending, in ticks
    of the pattern as it plays; none: nothing was recorded.
    """

    lane: Id | None = None
    control: Annotated[str, Field(max_length=40)]
    was: Value
    now: Value
    movement: Movement | None = None
    points: Annotated[Row[Point], Field(max_length=MAX_POINTS)] = ()

    @model_validator(mode="after")
    def _can_be_moved(self) -> Self:
        check_order(self.points)
        rows = [(Point(0, self.was),), (Point(0, self.now),), self.points]
        movements = [self._of(*row) for row in rows if row]
        for movement in (*movements, *([self.movement] if self.movement else [])):
            check_movements((movement,), self._controls, self._whole, self.lane)
        if self.movement and self.movement.control != self.control:
            raise ValueError(f"the movement is of {self.movement.control!r}, the hand moved {self.control!r}")
        return self

    def _of(self, *points: Point) -> Movement:
        return Movement(control=self.control, points=points)

    @property
    def _controls(self) -> dict[str, MovementControl]:
        return PATTERN_CONTROLS if self.lane is None else CONTROLS

    @property
    def _whole(self) -> type[BaseModel]:
        return Score if self.lane is None else Lane

    @property
    def limits(self) -> tuple[int, int] | None:
        """The least and the greatest number that the control may have; None: it has words, or lengths of a step."""
        control = self._controls[self.control]
        return None if control.words or control.is_step_value else control_limits(control, self._whole)


def after_hand(move: HandMove, bar_ticks: int) -> Movement | None:
    """Return what moves the control after the hand; None where nothing does.

    A hand that mutes a lane, or unmutes it, has its way: the movement that did so until then is off.
    """
    if move.points:
        before = move.movement or Movement(control=move.control, points=(Point(0, move.was),))
        return recorded(before, move.points, bar_ticks)
    if move.movement and move.control == "mute":
        return move.movement.model_copy(update={"off": True})
    return move.movement and moved_along(move.movement, move.was, move.now, move.limits)


def recorded(movement: Movement, points: tuple[Point, ...], bar_ticks: int) -> Movement:
    """Return *movement* with recorded *points*, which replace what was there from the first of them to the last.

    Where the movement loops, they lie where its round was when they were recorded; of several rounds the last counts.

    >>> row = Movement(control="busy", points=(Point(0, 1), Point(30, 2), Point(70, 3)))
    >>> [tuple(point) for point in recorded(row, (Point(20, 5), Point(40, 6)), 100).points]
    [(0, 1), (20, 5), (40, 6), (70, 3)]
    >>> looped = row.model_copy(update={"loop_bars": 1})
    >>> [tuple(point) for point in recorded(looped, (Point(260, 5), Point(310, 6)), 100).points]
    [(10, 6), (30, 2), (60, 5)]
    """
    first, last = points[0].tick, points[-1].tick
    length = movement.loop_bars * bar_ticks if movement.loop_bars else None
    if length is None:
        others = [point for point in movement.points if not first <= point.tick <= last]
        replacing = list(points)
    else:
        # Points after the loop's end are never played; they stay, as nothing is recorded over them.
        others = [
            point
            for point in movement.points
            if point.tick >= length or (point.tick - first) % length > last - first
        ]
        replacing = [
            Point(point.tick % length, point.value) for point in points if point.tick > last - length
        ]
    values = {point.tick: point.value for point in (*others, *replacing)}
    row = tuple(Point(tick, values[tick]) for tick in sorted(values))
    return movement.model_copy(update={"points": row, "off": False})


def moved_along(movement: Movement, was: Value, now: Value, limits: tuple[int, int] | None) -> Movement:
    """Return *movement* with every number as much higher as its control is *now*, within its least and greatest value.

    Words and lengths of steps stay: *limits* is None for them.

    >>> row = Movement(control="busy", points=(Point(0, 80), Point(30, -20)))
    >>> [point.value for point in moved_along(row, 0, 30, (-100, 100)).points]
    [100, 10]
    """
    if limits is None or not isinstance(was, int) or not isinstance(now, int):
        return movement
    low, high = limits
    points = (
        Point(tick, max(low, min(high, value + now - was)) if isinstance(value, int) else value)
        for tick, value in movement.points
    )
    return movement.model_copy(update={"points": tuple(points)})
