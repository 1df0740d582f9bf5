"""What the whole lattice may show of every step in place of beads."""

import numpy as np

from lattice.document.strip import CHANCE, STRIPS
from lattice.document.strip_places import strip_at
from lattice.screen.pictures import Property, PropertyName
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.step_window import StepWindow
from lattice.steps.strip_values import own_values, plain_of, values_at
from lattice.units import Ticks

__all__ = ["all_in_the_strip", "property_of", "shown_values"]


def shown_values(step_window: StepWindow, shown: PropertyName) -> Ticks:
    """Return the value that each step played has, what the lane and its strip make together."""
    lane = step_window.lane_steps.lane
    if shown == "pitch" and not lane.is_melodic:
        return np.zeros(step_window.counts.size, np.int64)
    at = strip_at(lane, shown)
    values = values_at(at.strip, at.kind, step_window, plain_of(at, step_window.lane_steps))
    return _times(values, lane.chance_percent) if shown == "chance" else values


def _times(values: Ticks, percent: int) -> Ticks:
    return (values * percent + 50) // 100


def all_in_the_strip(lane_steps: LaneSteps) -> dict[str, object] | None:
    """Return the fields with which a lane's chance lies in its strip alone; None where it does."""
    lane, at = lane_steps.lane, strip_at(lane_steps.lane, "chance")
    if lane.chance_percent == 100:
        return None
    count = max(lane_steps.steps, len(at.present.values))
    values = _times(own_values(at.strip, count, CHANCE.plain or 100), lane.chance_percent)
    strip = at.present.model_copy(update={"values": tuple(values.tolist())})
    return {"chance_percent": 100, **at.patch(lane, strip)}


def property_of(shown: PropertyName) -> Property:
    """Return what is known of a property beside its values."""
    kind = STRIPS[shown]
    return Property(name=shown, path=kind.field, low=kind.low, high=kind.high, unit=kind.unit)
