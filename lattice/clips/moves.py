"""Movements as MIDI controllers, where the standard has one for what is moved."""

from math import log10

import numpy as np

from lattice.clips.clip import Clip, Control, Track
from lattice.document.controllers import as_sent
from lattice.document.lane import Lane
from lattice.document.limits import limits
from lattice.document.movement import CONTROLS, Movement, control_limits
from lattice.document.piece import Score
from lattice.document.sounding import TrackSound
from lattice.steps.moving import changes, held, moving

__all__ = ["standing_still", "with_moves", "with_moving_sound", "without_moves"]

_HIGHEST = 127
_MIDDLE = 64
# What the built-in sounds answer to as the lanes' own settings are meant: a clip has it, so that it is heard again.
_HEARD = frozenset({"level_db", "pan"})
_FIELDS = {controller: field for field in sorted(_HEARD) if (controller := CONTROLS[field].controller)}


def with_moving_sound(track: Track, score: Score, first_tick: int, length: int) -> Track:
    """Return *track*, notes of *score* from *first_tick* on, with the moves of level and pan that were heard.

    Its own level is then the highest there is, and controller 7 says how far below it is; its own pan is in the middle.
    """
    lane = next((lane for lane in score.lanes if lane.id == track.lane_id), None)
    sent = _moves(lane, _HEARD, first_tick, length, score.meter.bar_ticks) if lane else []
    if not sent or track.sound is None:
        return track
    controllers = frozenset(point.controller for point in sent)
    controls = sorted((*track.controls, *sent), key=lambda point: point.tick)
    return track.model_copy(
        update={
            "sound": _beneath(track.sound, controllers),
            "controls": tuple(controls),
            "moved": tuple(sorted(controllers)),
        }
    )


def standing_still(track: Track, moved: frozenset[int]) -> Track:
    """Return *track* with the steady values of controllers that are *moved* in other tracks, but not in this one."""
    sound = track.sound
    missing = moved - set(track.moved)
    if not missing or sound is None:
        return track
    plain = tuple(
        Control(0, controller, _as_sent(getattr(sound, field), field))
        for controller, field in _FIELDS.items()
        if controller in missing
    )
    return track.model_copy(
        update={
            "sound": _beneath(sound, missing),
            "controls": (*plain, *track.controls),
            "moved": tuple(sorted(moved | set(track.moved))),
        }
    )


def _beneath(sound: TrackSound, controllers: frozenset[int]) -> TrackSound:
    """Return a sound that stands as *controllers* take it to stand."""
    plain = {"level_db": limits(Lane, "level_db")[1], "pan": 0}
    return sound.model_copy(
        update={field: plain[field] for controller, field in _FIELDS.items() if controller in controllers}
    )


def with_moves(clip: Clip, score: Score, first_tick: int) -> Clip:
    """Return *clip*, notes of *score* from *first_tick* on, with all that its lanes' movements send as controllers."""
    by_id = {lane.id: lane for lane in score.lanes}

    def told(track: Track) -> Track:
        lane = by_id.get(track.lane_id or "")
        if lane is None:
            return track
        fields = frozenset(one.field for one in CONTROLS.values() if one.controller) - _HEARD
        sent = _moves(lane, fields, first_tick, clip.length_ticks, score.meter.bar_ticks)
        controls = sorted((*track.controls, *sent), key=lambda point: point.tick)
        return track.model_copy(update={"controls": tuple(controls)}) if sent else track

    return clip.model_copy(update={"tracks": tuple(map(told, clip.tracks))})


def without_moves(clip: Clip) -> Clip:
    """Return *clip* without what movements send: it was not asked for."""
    tracks = (
        track.model_copy(
            update={"controls": tuple(one for one in track.controls if one.controller not in track.moved)}
        )
        for track in clip.tracks
    )
    return clip.model_copy(update={"tracks": tuple(tracks)})


def _moves(lane: Lane, fields: frozenset[str], first: int, length: int, bar_ticks: int) -> list[Control]:
    """Return what movements of *fields* send: what holds already first.

    Level is 7, pan 10, release 72, attack 73, brightness 74.
    Source: MIDI 1.0, control change messages; 72 to 74 as General MIDI 2 and the sound controllers name them.
    """
    sent: list[Control] = []
    for movement in moving(lane.movements):
        controller = CONTROLS[movement.control].controller
        if controller is not None and movement.control in fields:
            sent += [
                Control(tick - first, controller, value)
                for tick, value in _values(movement, lane, first, first + length, bar_ticks)
            ]
    return sent


def _values(movement: Movement, lane: Lane, first: int, end: int, bar_ticks: int) -> list[tuple[int, int]]:
    ticks = [first, *changes(movement, first, end, bar_ticks)]
    found: list[tuple[int, int]] = []
    for tick, place in zip(ticks, held(movement, np.array(ticks), bar_ticks).tolist(), strict=True):
        value = movement.points[place].value if place >= 0 else getattr(lane, movement.control)
        if isinstance(value, int):
            sent = _as_sent(value, movement.control)
            if not found or found[-1][1] != sent:
                found.append((tick, sent))
    return found


def _as_sent(value: int, field: str) -> int:
    """Return what a controller is sent for a lane's number.

    Level by the curve of General MIDI 2, 40 x log10(value / 127) dB below the highest; pan around the middle; all else
    its range spread over 0 to 127.

    >>> [_as_sent(level, "level_db") for level in (6, 0, -48)], [_as_sent(pan, "pan") for pan in (-100, 0, 100)]
    ([127, 90, 6], [0, 64, 127])
    """
    low, high = control_limits(CONTROLS[field], Lane)
    if field == "level_db":
        return round(10 ** (log10(_HIGHEST) + (value - high) / 40))
    if field == "pan":
        return min(_HIGHEST, _MIDDLE + round(value * _MIDDLE / 100))
    return as_sent(value, low, high)
