"""When one pattern may give way to another, and from where that plays."""

from typing import Literal, get_args

import numpy as np

from lattice.document.piece import Score
from lattice.render.feel import feel_of
from lattice.render.notes import silent_lanes
from lattice.render.pipeline import play
from lattice.render.pitch_context import pitch_context_of
from lattice.render.window import Window
from lattice.steps.lane_steps import lines_of
from lattice.units import TICKS_PER_QUARTER

__all__ = ["SWITCHES", "SwitchAt", "SwitchTo", "begins_at", "switches"]

SwitchAt = Literal["once", "beat", "bar", "pass"]
SwitchTo = Literal["begin", "carry on"]
SWITCHES: tuple[SwitchAt, ...] = get_args(SwitchAt)


def switches(score: Score, dice: int, window: Window) -> dict[SwitchAt, list[int]]:
    """Return the ticks in *window* at which another pattern may take over, by when it was asked for.

    "once": where a step of the finest lane that is heard begins, its swing included; at beats where none is. "beat",
    "bar" and "pass": where one begins.
    """
    first, end = window.ticks(score.meter.bar_ticks)
    beat = int(score.meter.beat_quarters * TICKS_PER_QUARTER)
    every = {"beat": beat, "bar": score.meter.bar_ticks, "pass": score.bars * score.meter.bar_ticks}
    places: dict[SwitchAt, list[int]] = {"once": [], "beat": [], "bar": [], "pass": []}
    for at, unit in (("beat", beat), ("bar", every["bar"]), ("pass", every["pass"])):
        places[at] = list(range(-(-first // unit) * unit, end, unit))  # type: ignore[index]  # three of its names
    silent = silent_lanes(score.lanes)
    heard = [line for line in lines_of(score, dice) if line.lane.id not in silent]
    if not heard:
        return places | {"once": places["beat"]}
    finest = min(heard, key=lambda line: line.clock.step)
    feel, context = feel_of(finest.lane, score), pitch_context_of(finest.lane, score, dice)
    starts = np.unique(play(finest, feel, context, first, end).starts)
    return places | {"once": starts[(starts >= first) & (starts < end)].tolist()}


def begins_at(to: SwitchTo, tick: int) -> int:
    """Return from which tick on a pattern plays that takes over at *tick*, counted from when play was pressed.

    It begins at its first step, or carries on as if it had been playing since.

    >>> begins_at("begin", 53760), begins_at("carry on", 53760)
    (0, 53760)
    """
    return 0 if to == "begin" else tick
