"""What a screen draws of movements, and of a lane whose time they cut."""

from collections.abc import Sequence
from math import log

import numpy as np

from lattice.document.lane import Lane
from lattice.document.movement import (
    CONTROLS,
    Movement,
    MovementControl,
    Value,
    control_limits,
)
from lattice.document.step_value import StepValue
from lattice.screen.pictures import LanePicture, MovementPicture, Option
from lattice.sentence import say_value, step_rates
from lattice.steps.moving import changes, held

__all__ = ["joined", "movement_pictures"]


def movement_pictures(lane: Lane, first: int, end: int, bar_ticks: int) -> list[MovementPicture]:
    """Return the movements of *lane* from tick *first* to before *end*."""
    return [_movement_picture(movement, lane, first, end, bar_ticks) for movement in lane.movements]


def _movement_picture(
    movement: Movement, lane: Lane, first: int, end: int, bar_ticks: int
) -> MovementPicture:
    control = CONTROLS[movement.control]
    ticks = [first, *changes(movement, first, end, bar_ticks)]
    places = held(movement, np.array(ticks), bar_ticks).tolist()
    values = [movement.points[place].value if place >= 0 else _value_of(lane, control) for place in places]
    options = _options(control, movement)
    low, high = (0, len(options) - 1) if options else control_limits(control, Lane)
    return MovementPicture(
        control=movement.control,
        name=control.name,
        off=movement.off,
        places=places,
        ticks=ticks,
        shares=[_share(value, low, high, options) for value in values],
        says=["" if value is None else say_value(value, movement.control) for value in values],
        low=low,
        high=high,
        options=[Option(value=value, says=say_value(value, movement.control)) for value in options],
    )


def _value_of(lane: Lane, control: MovementControl) -> Value | None:
    """Return what the document holds; None where it has nothing of the kind, or its pattern has the say."""
    head, _, rest = control.field.partition(".")
    part = getattr(lane, head)
    value = getattr(part, rest, None) if rest else part
    if isinstance(value, bool):
        return control.words[int(value)]
    return value if isinstance(value, int | str | StepValue) else None


def _options(control: MovementControl, movement: Movement) -> list[StepValue | str]:
    if control.is_step_value:
        moved = {point.value for point in movement.points if isinstance(point.value, StepValue)}
        rates: list[StepValue] = sorted({*step_rates(), *moved}, key=lambda value: -value.quarters)
        return [*rates]
    return list(control.words)


def _share(value: Value | None, low: int, high: int, options: Sequence[StepValue | str]) -> float:
    if value is None:
        return 0.5
    if options:
        place = options.index(value) if value in options else _nearest(value, options)
        return place / max(1, high)
    return (int(value) - low) / (high - low) if isinstance(value, int) else 0.5


def _nearest(value: Value, options: Sequence[StepValue | str]) -> int:
    """Return the place of the step value whose length is nearest to *value*'s."""
    if not isinstance(value, StepValue):
        return 0
    lengths = [one.quarters if isinstance(one, StepValue) else value.quarters for one in options]
    return min(range(len(lengths)), key=lambda at: abs(log(lengths[at] / value.quarters)))


# Columns with an entry for each hit, and what stands where one of the parts has nothing since all of it is plain.
_HITS = ("sounds", "velocities", "lengths", "chances", "pitches", "degrees")
_HITS_UNLESS_PLAIN = {"ratchets": 1, "accents": 0, "ties": 0, "octaves": 0, "letters": "", "covered": 0}
_STEPS = ("starts", "numbers")
_CYCLES = ("cycle_starts", "cycle_ends", "bursts")


def joined(whole: LanePicture, parts: Sequence[LanePicture]) -> LanePicture:
    """Return the picture of a lane that is another in each stretch: the steps of *parts*, the rest of the *whole*.

    Parts follow each other in time: each holds the steps that begin in its stretch.
    """
    columns: dict[str, object] = {}
    for name in (*_HITS, *_STEPS, *_CYCLES):
        columns[name] = [one for part in parts for one in getattr(part, name)]
    for name, plain in _HITS_UNLESS_PLAIN.items():
        columns[name] = _together([(getattr(part, name), [plain] * len(part.hits)) for part in parts])
    columns["onsets"] = _together([(part.onsets, [part.starts[hit] for hit in part.hits]) for part in parts])
    columns["values"] = _together([(part.values, [0] * len(part.starts)) for part in parts])
    befores = np.cumsum([0, *(len(part.starts) for part in parts)]).tolist()
    columns["hits"] = [
        hit + before for part, before in zip(parts, befores, strict=False) for hit in part.hits
    ]
    return whole.model_copy(update=columns)


def _together(rows: Sequence[tuple[Sequence[object], Sequence[object]]]) -> list[object]:
    """Return rows one after the other, the plain one for each that is empty; nothing where all are."""
    if not any(row for row, _ in rows):
        return []
    return [one for row, plain in rows for one in (row or plain)]
