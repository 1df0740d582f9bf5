"""Movements: a control moved while it plays, as a row of points in time."""

from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Any, NamedTuple, Self, get_args

from pydantic import BaseModel, Field, model_validator

from lattice.document.arpeggio import ORDERS, Arpeggio
from lattice.document.base import Document, Row
from lattice.document.feel import Accent, Humanise, LaneSwing
from lattice.document.ground import GroundSource
from lattice.document.limits import limits
from lattice.document.notes import Tick
from lattice.document.problems import lane_error
from lattice.document.source import Computed
from lattice.document.step_value import StepValue
from lattice.document.timing import MAX_BARS_OF_A_PATTERN, Direction
from lattice.document.turns import Thin

__all__ = [
    "CONTROLS",
    "MAX_MOVEMENTS",
    "MAX_POINTS",
    "PATTERN_CONTROLS",
    "Movement",
    "MovementControl",
    "Point",
    "Value",
    "check_movements",
    "check_order",
    "control_limits",
]

MAX_MOVEMENTS = 48  # of a lane: more than there are controls
MAX_POINTS = 4000  # of a movement
STEP_VALUE = "step_value"

Value = int | StepValue | str


@dataclass(frozen=True)
class MovementControl:
    """What can be moved: a *field* of a lane by its dotted path, its *name* and *unit* for people.

    *words*: what it may be, where it is no number. *controller*: what the MIDI standard knows it as; None for nothing.
    """

    field: str
    name: str
    unit: str = ""
    words: tuple[str, ...] = ()
    controller: int | None = None

    @property
    def is_step_value(self) -> bool:
        """Whether its values are lengths of a step."""
        return self.field == STEP_VALUE


def _by_field(*controls: MovementControl) -> dict[str, MovementControl]:
    return {control.field: control for control in controls}


CONTROLS = _by_field(
    MovementControl("source.hits", "hits"),
    MovementControl("source.steps", "steps"),
    MovementControl("source.x", "across the ground"),
    MovementControl("source.y", "up the ground"),
    MovementControl("rotate", "rotated"),
    MovementControl("complement", "its rests", words=("hits", "rests")),
    MovementControl("busy", "busy-ness", " %"),
    MovementControl("thin.every", "each so many hits"),
    MovementControl("thin.first", "from the hit"),
    MovementControl(STEP_VALUE, "step value"),
    MovementControl("direction", "direction", words=get_args(Direction)),
    MovementControl("degrees_up", "degrees up"),
    MovementControl("semitones_up", "semitones up"),
    MovementControl("arpeggio.order", "note order", words=ORDERS),
    MovementControl("arpeggio.octaves", "octaves"),
    MovementControl("velocity", "velocity"),
    MovementControl("accent.velocity", "accent"),
    MovementControl("accent.every", "accent on each so many hits"),
    MovementControl("accent.first", "accent from the hit"),
    MovementControl("beat_weight", "beat weight", " %"),
    MovementControl("evened", "evened out", " %"),
    MovementControl("length_percent", "length", " %"),
    MovementControl("chance_percent", "chance", " %"),
    MovementControl("swing.percent", "swing", " %"),
    MovementControl("humanise.ms", "humanise in time", " ms"),
    MovementControl("humanise.velocity", "humanise in velocity"),
    MovementControl("brightness", "brightness", " %", controller=74),
    MovementControl("attack_ms", "attack", " ms", controller=73),
    MovementControl("release_ms", "release", " ms", controller=72),
    MovementControl("level_db", "level", " dB", controller=7),
    MovementControl("pan", "pan", controller=10),
    MovementControl("room", "room", " %", controller=91),
    MovementControl("mute", "mute", words=("on", "muted")),
)
PATTERN_CONTROLS = _by_field(
    MovementControl("degrees_up", "degrees up"),
    MovementControl("semitones_up", "semitones up"),
    MovementControl("swing.percent", "swing", " %"),
)
_PARTS: dict[str, tuple[type[BaseModel], ...]] = {
    "source": (Computed, GroundSource),
    "thin": (Thin,),
    "arpeggio": (Arpeggio,),
    "accent": (Accent,),
    "swing": (LaneSwing,),
    "humanise": (Humanise,),
}


class Point(NamedTuple):
    """From a *tick* on the control has a *value*: a number, the length of a step, or one of its words."""

    tick: Tick
    value: Value


def check_order(points: tuple[Point, ...]) -> None:
    """Raise ValueError unless *points* are in the order of time, each at a tick of its own."""
    if any(later.tick <= earlier.tick for earlier, later in pairwise(points)):
        raise ValueError("the points must be in the order of time, each at a tick of its own")


class Movement(Document):
    """A *control* moved while it plays: each value holds until the next; before the first, the document's holds.

    *loop_bars*: the points of so many bars come again and again; none: they are played through once.
    """

    control: Annotated[str, Field(max_length=40)]
    points: Annotated[Row[Point], Field(min_length=1, max_length=MAX_POINTS)]
    loop_bars: Annotated[int | None, Field(ge=1, le=MAX_BARS_OF_A_PATTERN)] = None
    off: Annotated[bool, Field(description="nothing of it is played")] = False

    @model_validator(mode="after")
    def _in_the_order_of_time(self) -> Self:
        check_order(self.points)
        return self

    def higher(self, by: int) -> "Movement":
        """Return the same movement of numbers that are all higher."""
        if by == 0:
            return self
        points = (
            Point(tick, value + by) if isinstance(value, int) else Point(tick, value)
            for tick, value in self.points
        )
        return self.model_copy(update={"points": tuple(points)})


def control_limits(control: MovementControl, whole: type[BaseModel]) -> tuple[int, int]:
    """Return the least and the greatest value of a control of numbers; of a field of *whole* itself, a Lane's.

    Of words, the places of the first and the last.
    """
    if control.words:
        return 0, len(control.words) - 1
    head, _, rest = control.field.partition(".")
    if not rest:
        return limits(whole, head)
    model = next(one for one in _PARTS[head] if rest in one.model_fields)
    return limits(model, rest)


def check_movements(
    movements: tuple[Movement, ...],
    known: dict[str, MovementControl],
    whole: type[BaseModel],
    lane: str | None,
) -> None:
    """Raise a refusal that names the control, unless each is one of those *known*, there once, within its limits."""
    seen: set[str] = set()
    for place, movement in enumerate(movements):
        field = f"movements.{place + 1}"
        control = known.get(movement.control)
        if control is None:
            raise lane_error(lane, field, f"there is no control {movement.control!r} to move")
        if movement.control in seen:
            raise lane_error(lane, field, f"{control.name} is moved twice")
        seen.add(movement.control)
        for at, point in enumerate(movement.points):
            if said := _wrong(point.value, control, whole):
                raise lane_error(lane, f"{field}.points.{at + 1}", f"{control.name} {said}")


def _wrong(value: Value, control: MovementControl, whole: type[BaseModel]) -> str:
    if control.is_step_value:
        return "" if isinstance(value, StepValue) else f"takes the length of a step, got {_said(value)}"
    if control.words:
        known = ", ".join(control.words)
        return "" if value in control.words else f"is one of {known}, got {_said(value)}"
    low, high = control_limits(control, whole)
    if isinstance(value, int) and low <= value <= high:
        return ""
    return f"goes from {low} to {high}, got {_said(value)}"


def _said(value: Any) -> str:
    return repr(value) if isinstance(value, int | str) else "the length of a step"
