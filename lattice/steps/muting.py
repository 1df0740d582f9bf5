"""Which lanes are silent, and when: muted, not among the soloed ones, or muted by a movement."""

import numpy as np
from numpy.typing import NDArray

from lattice.document.lane import Lane
from lattice.document.movement import Movement
from lattice.steps.moving import held, moving
from lattice.units import Ticks

__all__ = ["is_heard_at", "silent_lanes", "unmuted"]


def silent_lanes(lanes: tuple[Lane, ...]) -> frozenset[str]:
    """Return the ids of the lanes that are muted, or not among the soloed ones where there are any.

    One whose muting is moved is heard at times: see `unmuted`.
    """
    any_solo = any(lane.solo for lane in lanes)
    return frozenset(
        lane.id for lane in lanes if (lane.mute and _muting(lane) is None) or (any_solo and not lane.solo)
    )


def unmuted(lane: Lane, straights: Ticks, bar_ticks: int) -> NDArray[np.bool_] | None:
    """Return which notes, by their straight times, no movement mutes; None if there is no such movement."""
    movement = _muting(lane)
    if movement is None:
        return None
    values = np.array([*(point.value == "muted" for point in movement.points), lane.mute])
    result: NDArray[np.bool_] = ~values[held(movement, straights, bar_ticks)]
    return result


def is_heard_at(lane: Lane, tick: int, bar_ticks: int) -> bool:
    """Return whether no muting, moved or not, silences the lane at *tick*; soloed lanes apart."""
    heard = unmuted(lane, np.array([tick]), bar_ticks)
    return not lane.mute if heard is None else bool(heard[0])


def _muting(lane: Lane) -> Movement | None:
    return next((one for one in moving(lane.movements) if one.control == "mute"), None)
