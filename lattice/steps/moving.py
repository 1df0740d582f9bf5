"""What movements make of a lane: which value holds when, and the lane as if it had always been so."""

from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Mapping
from typing import Any

import numpy as np

from lattice.cache import MEGABYTE, cached
from lattice.document.arpeggio import MOST_AT_ONCE, Arpeggio
from lattice.document.lane import CLOCK_FIELDS, Lane
from lattice.document.movement import CONTROLS, Movement, Value
from lattice.document.source import Drawn, Made
from lattice.units import Ticks

__all__ = [
    "changes",
    "greatest_of",
    "held",
    "moved_lane",
    "moving",
    "numbers_at",
    "value_at",
]


def moving(movements: Iterable[Movement]) -> list[Movement]:
    """Return those that are not switched off."""
    return [movement for movement in movements if not movement.off]


def held(movement: Movement, ticks: Ticks, bar_ticks: int) -> Ticks:
    """Return the place of the point that holds at each of *ticks*; -1 where the document's value does."""
    begins = _begins(movement, bar_ticks)
    if movement.loop_bars is None:
        found: Ticks = np.searchsorted(begins, ticks, side="right") - 1
        return found
    rounds, into = np.divmod(ticks, movement.loop_bars * bar_ticks)
    found = np.searchsorted(begins, into, side="right") - 1
    return np.where((found < 0) & (rounds > 0), len(begins) - 1, found)


def value_at(movement: Movement, tick: int, bar_ticks: int) -> Value | None:
    """Return what the control has at *tick*; None where the document's value holds."""
    begins = _begins(movement, bar_ticks)
    rounds, into = divmod(tick, movement.loop_bars * bar_ticks) if movement.loop_bars else (0, tick)
    found = bisect_right(begins, into) - 1
    if found < 0 and rounds > 0:
        found = len(begins) - 1
    return movement.points[found].value if found >= 0 else None


def numbers_at(movement: Movement, ticks: Ticks, bar_ticks: int, document: int) -> Ticks:
    """Return the number that the control has at each of *ticks*; *document*: where that holds."""
    values = np.array([*(point.value for point in movement.points), document], np.int64)
    return values[held(movement, ticks, bar_ticks)]


def greatest_of(lane: Lane, field: str) -> list[int]:
    """Return the greatest number that a movement gives a control of *lane*; nothing where none moves it."""
    return [
        max(point.value for point in movement.points if isinstance(point.value, int))
        for movement in moving(lane.movements)
        if movement.control == field
    ]


def changes(movement: Movement, first: int, end: int, bar_ticks: int) -> list[int]:
    """Return the ticks after *first* and before *end* at which a point of *movement* begins to hold."""
    begins = _begins(movement, bar_ticks)
    if not begins:
        return []
    if movement.loop_bars is None:
        return list(begins[bisect_right(begins, first) : bisect_left(begins, end)])
    lasts = movement.loop_bars * bar_ticks
    rounds = range(first // lasts, -(-end // lasts))
    return [tick for one in rounds for at in begins if first < (tick := one * lasts + at) < end]


@cached(4 * MEGABYTE)
def _begins(movement: Movement, bar_ticks: int) -> tuple[int, ...]:
    """Return when points begin to hold; those after a loop's end never do."""
    end = movement.loop_bars * bar_ticks if movement.loop_bars else None
    return tuple(point.tick for point in movement.points if end is None or point.tick < end)


def moved_lane(lane: Lane, values: Mapping[str, Value]) -> Lane:
    """Return *lane* with each control at its value, as if it had always been so.

    What it has no place for, such as an accent's velocity where there is no accent, changes nothing.
    """
    changed: dict[str, Any] = {}
    for field, value in values.items():
        head, _, rest = field.partition(".")
        known = CONTROLS[field]
        if not rest:
            changed[head] = value == known.words[1] if len(known.words) == 2 else value
            continue
        part = changed.get(head, getattr(lane, head))
        if part is not None and isinstance(getattr(part, rest, None), int | str):
            changed[head] = _with(part, rest, value)
    for head in ("thin", "accent"):
        part = changed.get(head)
        if part is not None and part.first > part.every:
            changed[head] = part.model_copy(update={"first": part.every})
    for field in _dormant(lane):
        changed.pop(field, None)
    return lane.model_copy(update=changed) if changed else lane


def _dormant(lane: Lane) -> tuple[str, ...]:
    """Return the fields that change nothing of *lane*: another lane, or its span, decides them."""
    if isinstance(lane.source, Made):
        return (*CLOCK_FIELDS, "busy")
    return ("step_value",) if lane.span else ()


def _with(part: Any, field: str, value: Any) -> Any:
    """Return a part of a lane with one field moved, as far as the others let it."""
    if isinstance(part, Drawn):
        return part.model_copy(update={field: value, "hits": tuple(hit for hit in part.hits if hit < value)})
    if isinstance(part, Arpeggio) and field == "octaves":
        value = max(1, min(value, MOST_AT_ONCE // part.size_of(part.pool)))
    return part.model_copy(update={field: value})
