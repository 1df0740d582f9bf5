"""Movements as MIDI controllers, where the standard has one for what is moved."""

import numpy as np

from lattice.clips.clip import Clip, Control, Track
from lattice.document.lane import Lane
from lattice.document.movement import CONTROLS, Movement, control_limits
from lattice.document.piece import Score
from lattice.steps.moving import changes, held, moving

__all__ = ["controller_moves", "with_moves"]

_HIGHEST = 127


def with_moves(clip: Clip, score: Score, first_tick: int) -> Clip:
    """Return *clip*, notes of *score* from *first_tick* on, with what its lanes' movements send as controllers."""
    end = first_tick + clip.length_ticks
    by_id = {lane.id: lane for lane in score.lanes}

    def told(track: Track) -> Track:
        lane = by_id.get(track.lane_id or "")
        if lane is None:
            return track
        sent = controller_moves(lane, first_tick, end, score.meter.bar_ticks)
        controls = sorted((*track.controls, *sent), key=lambda point: point.tick)
        return track.model_copy(update={"controls": tuple(controls)}) if sent else track

    return clip.model_copy(update={"tracks": tuple(map(told, clip.tracks))})


def controller_moves(lane: Lane, first: int, end: int, bar_ticks: int) -> list[Control]:
    """Return what a lane's movements send from tick *first* to before *end*, in ticks from there.

    Level is 7, pan 10, release 72, attack 73, brightness 74; each range of the lane's is spread over 0 to 127. What
    holds already is sent first.
    Source: MIDI 1.0, control change messages; 72 to 74 as General MIDI 2 and the sound controllers name them.
    """
    sent: list[Control] = []
    for movement in moving(lane.movements):
        controller = CONTROLS[movement.control].controller
        if controller is not None:
            sent += [
                Control(tick - first, controller, value)
                for tick, value in _values(movement, lane, first, end, bar_ticks)
            ]
    return sent


def _values(movement: Movement, lane: Lane, first: int, end: int, bar_ticks: int) -> list[tuple[int, int]]:
    low, high = control_limits(CONTROLS[movement.control], Lane)
    ticks = [first, *changes(movement, first, end, bar_ticks)]
    found: list[tuple[int, int]] = []
    for tick, place in zip(ticks, held(movement, np.array(ticks), bar_ticks).tolist(), strict=True):
        value = movement.points[place].value if place >= 0 else getattr(lane, movement.control)
        if isinstance(value, int):
            span = high - low
            scaled = (2 * (value - low) * _HIGHEST + span) // (2 * span)
            if not found or found[-1][1] != scaled:
                found.append((tick, scaled))
    return found
