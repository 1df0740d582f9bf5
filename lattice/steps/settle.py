"""Turning a computed lane into a drawn one that plays the same."""

from typing import Any

import numpy as np

from lattice.document.lane import CLOCK_FIELDS
from lattice.document.source import MAX_STEPS, Drawn, Made
from lattice.document.strip import CONTROL, STRIPS, VELOCITY, PitchStrip, Strip, VelocityStrip
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.strip_values import own_values

__all__ = ["settled"]

# What a drawn source holds once it is settled.
_PLAIN_TURNS: dict[str, Any] = {"rotate": 0, "complement": False, "busy": 0, "thin": None, "edits": []}
_PLAIN_ORDER: dict[str, Any] = {"step_range": None, "direction": "forward"}


def settled(lane_steps: LaneSteps) -> dict[str, Any]:
    """Return the fields that turn the lane into a drawn one that plays as it does before chance, turns included.

    Drawn is what is played, as long as it takes to repeat, where that fits into one drawn cycle and into the
    lane's span; else the first cycle. Where luck or a span needs the order of the steps, the order stays and the
    steps of the first cycle are drawn.
    """
    clock = _clock_of(lane_steps) if isinstance(lane_steps.lane.source, Made) else {}
    if lane_steps.is_random or (
        lane_steps.clock_lane.lane.span and lane_steps.clock.cycle != lane_steps.steps
    ):
        return _by_number(lane_steps) | _PLAIN_TURNS | clock
    lead, period = lane_steps.hit_cycle.lead, lane_steps.hit_cycle.period
    if lane_steps.clock_lane.lane.span or lane_steps.clock_lane.lane.once or period > MAX_STEPS:
        lead, period = 0, lane_steps.clock.cycle
    if period > MAX_STEPS:  # there and back
        return _by_number(lane_steps) | _PLAIN_TURNS | clock
    # What was silent only at the very start repeats from the first step on.
    hits = lane_steps.hit_cycle.at(np.arange(lead, lead + period))
    hits = np.roll(hits, lead % period)
    played = lane_steps.numbers(np.arange(period)).tolist()
    beside = _of_the_mean(lane_steps, played)
    source = {"source": _drawn(period + len(beside), np.flatnonzero(hits).tolist())}
    order = _PLAIN_ORDER | ({"step_range": {"first": 0, "last": period - 1}} if beside else {})
    return source | _by_place(lane_steps, played, beside) | _PLAIN_TURNS | clock | order


def _of_the_mean(lane_steps: LaneSteps, played: list[int]) -> list[int]:
    """Return the step numbers to add after the *played* ones so that velocities are evened towards the same mean.

    That is of all values of the velocity strip, played or not: where the played ones alone have another, all of them
    go with the drawn lane as often as the one that is played most, as far as there is room; those added take no part.
    """
    strip = lane_steps.lane.velocity_strip
    if not lane_steps.lane.evened or (strip is None and not lane_steps.ground) or (strip and strip.free):
        return []
    if lane_steps.clock_lane.lane.span:
        return []  # more steps would be shorter ones
    times = np.bincount(played, minlength=lane_steps.steps)
    beside = np.repeat(np.arange(lane_steps.steps), times.max() - times).tolist()
    return beside if len(played) + len(beside) <= MAX_STEPS else []


def _clock_of(lane_steps: LaneSteps) -> dict[str, Any]:
    clock_lane = lane_steps.clock_lane.lane.model_dump(mode="json")
    return {field: clock_lane[field] for field in CLOCK_FIELDS}


def _by_place(lane_steps: LaneSteps, played: list[int], beside: list[int]) -> dict[str, Any]:
    """Return all that belongs to step numbers, moved to the places at which they are *played*.

    *beside*: the step numbers that follow those, of which only the velocities count.
    """
    lane = lane_steps.lane
    moved: dict[str, Any] = {
        field: [
            {**row.model_dump(mode="json"), "step": place}
            for place, number in enumerate(played)
            for row in getattr(lane, field)
            if row.step == number
        ]
        for field in ("links", "step_rules")
    }
    for kind in STRIPS.values():
        strips = getattr(lane, kind.field)
        if kind is VELOCITY and lane_steps.ground:
            strips = _velocities_of_the_ground(lane_steps)
        if kind is CONTROL:
            moved[kind.field] = [_strip_by_place(strip, played) for strip in strips]
        elif strips is not None:
            moved[kind.field] = _strip_by_place(strips, [*played, *(beside if kind is VELOCITY else ())])
    return moved


def _velocities_of_the_ground(lane_steps: LaneSteps) -> VelocityStrip:
    """Return the lane's velocity strip with what its place on a ground says where it has no value of its own.

    One of its own length stays as it is: what it leaves open cannot be said step by step.
    """
    strip = lane_steps.lane.velocity_strip or VelocityStrip()
    if strip.free:
        return strip
    values = own_values(strip, lane_steps.steps, lane_steps.velocities)
    return strip.model_copy(update={"values": tuple(values.tolist())})


def _strip_by_place(strip: Strip, played: list[int]) -> dict[str, Any]:
    old = strip.model_dump(mode="json")
    values = old["values"]
    if strip.free or not values:
        return old
    moved = {"values": [values[number] if number < len(values) else None for number in played]}
    if isinstance(strip, PitchStrip) and strip.accidentals:
        moved["accidentals"] = [strip.accidental(number) for number in played]
    return old | moved


def _by_number(lane_steps: LaneSteps) -> dict[str, Any]:
    """Return the first cycle drawn with the step numbers as they are, and the velocities of a ground it stood on."""
    source = {"source": _first_cycle_by_number(lane_steps)}
    if lane_steps.ground is None:
        return source
    return source | {"velocity_strip": _velocities_of_the_ground(lane_steps).model_dump(mode="json")}


def _first_cycle_by_number(lane_steps: LaneSteps) -> dict[str, Any]:
    length = min(lane_steps.clock.cycle, lane_steps.clock.per_run or lane_steps.clock.cycle)
    numbers = lane_steps.numbers(np.arange(length))[lane_steps.hits(0, length)]
    return _drawn(lane_steps.steps, np.unique(numbers).tolist())


def _drawn(steps: int, hits: list[int]) -> dict[str, Any]:
    return Drawn(steps=steps, hits=tuple(hits)).model_dump(mode="json")
