"""Movements for tests: any that a lane or a pattern may have, and what they mean, taken literally."""

from typing import Any

from hypothesis import strategies as st

from lattice.document import Lane, Score, StepValue
from lattice.document.movement import (
    CONTROLS,
    PATTERN_CONTROLS,
    Movement,
    MovementControl,
    Point,
    control_limits,
)

BAR = 53760
step_lengths = st.sampled_from(
    [
        StepValue(note=16),
        StepValue(note=8),
        StepValue(note=8, kind="triplet"),
        StepValue(note=16, kind="dotted"),
        StepValue(note=2, divisor=7),
    ]
)


def values_of(control: MovementControl, whole: type) -> st.SearchStrategy[Any]:
    if control.is_step_value:
        return step_lengths
    if control.words:
        return st.sampled_from(control.words)
    return st.integers(*control_limits(control, whole))


def movement(control: MovementControl, whole: type, end: int = 6 * BAR) -> st.SearchStrategy[Movement]:
    """Any movement of a control, with a few points before tick *end*."""
    ticks = st.lists(
        st.integers(0, end) | st.integers(0, 48).map(lambda beat: beat * BAR // 8),
        min_size=1,
        max_size=4,
        unique=True,
    )
    return st.builds(
        lambda at, values, loop: Movement(
            control=control.field,
            points=tuple(Point(tick, value) for tick, value in zip(sorted(at), values, strict=False)),
            loop_bars=loop,
        ),
        ticks,
        st.lists(values_of(control, whole), min_size=4, max_size=4),
        st.none() | st.integers(1, 3),
    )


def movements(
    known: dict[str, MovementControl], whole: type, most: int = 2, end: int = 6 * BAR
) -> st.SearchStrategy[tuple[Movement, ...]]:
    return st.lists(st.sampled_from(list(known)), max_size=most, unique=True).flatmap(
        lambda fields: st.tuples(*(movement(known[field], whole, end) for field in fields))
    )


@st.composite
def moved(draw: st.DrawFn, asked: Score) -> Score:
    """Return *asked* with any movements of its lanes and of all of it."""
    lanes = tuple(
        one.model_copy(update={"movements": draw(movements(CONTROLS, Lane))}) if draw(st.booleans()) else one
        for one in asked.lanes
    )
    return asked.model_copy(
        update={"lanes": lanes, "movements": draw(movements(PATTERN_CONTROLS, Score, most=1))}
    )


# ---- The definition, taken literally ----


def value_at(movement: Movement, tick: int, bar: int) -> Any:
    """Return what holds at *tick*; None: the document's value."""
    if movement.off:
        return None
    lasts = movement.loop_bars * bar if movement.loop_bars else None
    value = None
    for begin, there in movement.points:
        if lasts is not None and begin >= lasts:
            continue
        at = begin + (tick // lasts) * lasts if lasts else begin
        if at <= tick:
            value = there
    if value is None and lasts and tick >= lasts:  # what held at the end of the round before
        inside = [there for begin, there in movement.points if begin < lasts]
        return inside[-1] if inside else None
    return value


def edges(movement: Movement, bar: int, end: int) -> set[int]:
    if not movement.loop_bars:
        return {point.tick for point in movement.points}
    lasts = movement.loop_bars * bar
    inside = [point.tick for point in movement.points if point.tick < lasts]
    return {one * lasts + tick for one in range(end // lasts + 1) for tick in inside}


def as_if(asked: Score, tick: int) -> Score:
    """Return the score in which nothing moves and all is as it is at *tick*."""
    bar = asked.meter.bar_ticks
    whole = asked.model_dump(mode="json")
    for number, lane in enumerate(asked.lanes):
        mine = whole["lanes"][number]
        mine["movements"] = []
        for movement in lane.movements:
            value = value_at(movement, tick, bar)
            is_made = mine["source"]["kind"] in ("rests", "echo", "reply")
            if value is not None and not (
                is_made and movement.control in ("busy", "step_value", "direction")
            ):
                _set(mine, movement.control, value)
        if mine["span"]:
            mine["step_value"] = None
    whole["movements"] = []
    for movement in asked.movements:
        value = value_at(movement, tick, bar)
        if value is not None:
            _set(whole, movement.control, value)
    return Score.model_validate(whole)


def _set(mine: dict[str, Any], path: str, value: Any) -> None:
    head, _, rest = path.partition(".")
    if not rest:
        words = CONTROLS[path].words if path in CONTROLS else ()
        if path in ("mute", "complement"):
            value = value == words[1]
        mine[head] = value.model_dump(mode="json") if isinstance(value, StepValue) else value
        return
    part = mine[head]
    if part is None or not isinstance(part.get(rest), int | str):
        return
    part[rest] = value
    if head == "source" and part["kind"] == "drawn":
        part["hits"] = [hit for hit in part["hits"] if hit < value]
    if head in ("thin", "accent"):
        part["first"] = min(part["first"], part["every"])
    if path == "arpeggio.octaves":
        pool = part["pool"]
        size = {"typed": len(pool.get("notes") or [0]), "scale": pool.get("high", 0) - pool.get("low", 0) + 1}
        part["octaves"] = max(1, min(value, 64 // size.get(pool["kind"], 1)))
