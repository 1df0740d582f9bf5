"""What the whole lattice may show of every step in place of beads."""

import numpy as np

from lattice.clock.ticks import Ticks
from lattice.document.strip import CHANCE, STRIPS
from lattice.render.pictures import Property, PropertyName
from lattice.rhythm.lane_line import LaneLine
from lattice.rhythm.stretch import Stretch
from lattice.strips.places import plain_value, strip_at
from lattice.strips.values import own_values, values_at

__all__ = ["all_in_the_strip", "property_of", "shown_values"]


def shown_values(stretch: Stretch, shown: PropertyName) -> Ticks:
    """Return the value that each step played has, what the lane and its strip make together."""
    lane = stretch.line.lane
    if shown == "pitch" and not lane.is_melodic:
        return np.zeros(stretch.counts.size, np.int64)
    at = strip_at(lane, shown)
    values = values_at(at.strip, at.kind, stretch, plain_value(at, lane))
    return _times(values, lane.chance_percent) if shown == "chance" else values


def _times(values: Ticks, percent: int) -> Ticks:
    return (values * percent + 50) // 100


def all_in_the_strip(line: LaneLine) -> dict[str, object] | None:
    """Return the fields with which a lane's chance lies in its strip alone; None where it does."""
    lane, at = line.lane, strip_at(line.lane, "chance")
    if lane.chance_percent == 100:
        return None
    count = max(line.steps, len(at.present.values))
    values = _times(own_values(at.strip, count, CHANCE.plain or 100), lane.chance_percent)
    strip = at.present.model_copy(update={"values": tuple(values.tolist())})
    return {"chance_percent": 100, **at.patch(lane, strip)}


def property_of(shown: PropertyName) -> Property:
    """Return what is known of a property beside its values."""
    kind = STRIPS[shown]
    return Property(name=shown, path=kind.field, low=kind.low, high=kind.high, unit=kind.unit)
