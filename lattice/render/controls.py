"""What control strips send: a MIDI controller's values, at steps where they change, or drawn afresh at every hit."""

from dataclasses import dataclass
from typing import NamedTuple, Self

import numpy as np
from numpy.typing import NDArray

from lattice.document.controllers import as_sent
from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.document.pitched import MAX_GLIDE_MS
from lattice.document.strip import ControlStrip
from lattice.document.strip_places import StripAt, control_strip_at
from lattice.render.kept_clip import kept_moves
from lattice.render.lane import Played
from lattice.render.notes import note_of
from lattice.render.window import Window
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.muting import silent_lanes, unmuted
from lattice.steps.step_window import StepWindow
from lattice.steps.strip_values import value_places, with_spread
from lattice.units import Ticks

__all__ = ["Controls", "Sent", "controls_of"]

_AT_ONCE = 256
_FURTHEST = 1 << 14  # steps before a window within which a value that is held is looked for


@dataclass(frozen=True)
class Controls:
    """Controller values in columns, in the order of time, then of lanes: *lanes*: index of the lane in the score."""

    lanes: Ticks
    ticks: Ticks
    controllers: Ticks
    values: Ticks
    channels: Ticks

    @classmethod
    def of(cls, rows: list[tuple[int, int, int, int, int]]) -> Self:
        """Return *rows* of (lane, tick, controller, value, channel), sorted."""
        ordered = sorted(rows, key=lambda row: (row[1], row[0], row[2]))
        return (
            cls(*(np.array(column, np.int64) for column in zip(*ordered, strict=True)))
            if rows
            else cls(*(np.empty(0, np.int64) for _ in range(5)))
        )


class Sent(NamedTuple):
    """*sends*: what is sent in a window; *held*: what each controller holds when it begins, if anything."""

    sends: Controls
    held: Controls


def controls_of(score: Score, window: Window, played: list[tuple[LaneSteps, Played]]) -> Sent:
    """Return what the control strips of unmuted lanes send in *window*, of what `play_all` returned."""
    first, end = window.ticks(score.meter.bar_ticks)
    silent = silent_lanes(score.lanes)
    sends: list[tuple[int, int, int, int, int]] = []
    held: list[tuple[int, int, int, int, int]] = []
    for index, (lane_steps, steps) in enumerate(played):
        if lane_steps.lane.id in silent:
            continue
        channel, _ = note_of(lane_steps.lane, score)
        if lane_steps.lane.clip:
            moves, earlier = kept_moves(lane_steps.lane.clip, first, end)
            sends += [(index, tick, controller, value, channel) for tick, controller, value in moves]
            held += [(index, first, controller, value, channel) for controller, value in earlier.items()]
            continue
        held += [
            (index, first, controller, value, channel) for controller, value in _gliding(lane_steps.lane)
        ]
        for place, strip in enumerate(lane_steps.lane.control_strips):
            at = control_strip_at(strip, place)
            rows, before = _in_parts(at, strip, lane_steps, steps, first, end)
            sends += [(index, tick, strip.controller, value, channel) for tick, value in rows]
            if before is not None:
                held.append((index, first, strip.controller, before, channel))
    over = score.end_tick
    return Sent(Controls.of([one for one in sends if over is None or one[1] < over]), Controls.of(held))


def _gliding(lane: Lane) -> list[tuple[int, int]]:
    """Return (controller, value) that have a lane's notes glide, where no strip of its own says it.

    Source: MIDI 1.0, portamento on 65; its time 5, here the lane's milliseconds spread over what it can say.
    """
    if not lane.glide_ms:
        return []
    own = {strip.controller for strip in lane.control_strips}
    time = max(1, as_sent(lane.glide_ms, 0, MAX_GLIDE_MS))
    return [(controller, value) for controller, value in ((5, time), (65, 127)) if controller not in own]


def _in_parts(
    at: StripAt, strip: ControlStrip, lane_steps: LaneSteps, played: Played, first: int, end: int
) -> tuple[list[tuple[int, int]], int | None]:
    """As `_sent`, in each stretch by the lane as movements make it there; what it holds then is sent as it begins."""
    if not played.parts:
        return _sent(at, strip, lane_steps, played, first, end)
    rows: list[tuple[int, int]] = []
    before, last = None, None
    for place, part in enumerate(one for one in played.parts if one.start < end and one.end > first):
        begin = max(first, part.start)
        sent, held = _sent(at, strip, part.lane_steps, part.played, begin, min(end, part.end))
        if place == 0:
            before = last = held
        elif held is not None and held != last and not (sent and sent[0][0] == begin):
            rows.append((begin, held))
        rows += sent
        last = rows[-1][1] if rows else last
    return rows, before


def _sent(
    at: StripAt, strip: ControlStrip, lane_steps: LaneSteps, played: Played, first: int, end: int
) -> tuple[list[tuple[int, int]], int | None]:
    """Return (tick, value) of all that is sent from *first* to before *end*, and the value held before that."""
    values, told = _told(at, strip, played.step_window)
    at_tick = played.starts
    earlier = np.flatnonzero(told & (at_tick < first))
    before = (
        int(values[earlier[-1]])
        if earlier.size
        else _held_before(at, strip, lane_steps, played.step_window.first)
    )
    inside = np.flatnonzero(told & (at_tick >= first) & (at_tick < end))
    rows = list(zip(at_tick[inside].tolist(), values[inside].tolist(), strict=True))
    if strip.spread:
        return rows, before
    changes, last = [], before
    for tick, value in rows:
        if value != last:
            changes.append((tick, value))
        last = value
    return changes, before


def _told(at: StripAt, strip: ControlStrip, step_window: StepWindow) -> tuple[Ticks, NDArray[np.bool_]]:
    """Return the value of each step, and at which of them the strip has a say.

    One that moves on by hit does so at the hit itself, and one that strays draws there: between hits nothing changes.
    A lane that a movement mutes sends nothing there.
    """
    row = [*strip.values] or [None]
    places = value_places(strip, at.kind, step_window)
    within = places < len(row)
    own = np.array([value is not None for value in row])[np.where(within, places, 0)] & within
    values = np.array([value or 0 for value in row], np.int64)[np.where(within, places, 0)]
    if strip.spread or (strip.free and strip.free.advance == "hit"):
        own = own & step_window.hit
    lane_steps = step_window.lane_steps
    heard = unmuted(lane_steps.lane, step_window.straights, lane_steps.frame.meter.bar_ticks)
    if heard is not None:
        own = own & heard
    return with_spread(values, strip, at.kind, step_window), own


def _held_before(at: StripAt, strip: ControlStrip, lane_steps: LaneSteps, count: int) -> int | None:
    """Return the value that was sent last before the step of that *count*; None if there is none in reach."""
    if not any(value is not None for value in strip.values):
        return None
    lowest = max(0, count - _FURTHEST)
    while count > lowest:
        begin = max(lowest, count - _AT_ONCE)
        values, told = _told(at, strip, StepWindow(lane_steps, begin, count))
        if (found := np.flatnonzero(told)).size:
            return int(values[found[-1]])
        count = begin
    return None
