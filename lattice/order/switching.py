"""When one pattern gives way to another while it plays, and from where that plays."""

from typing import Literal, NamedTuple, get_args

from lattice.document.meter import Meter
from lattice.document.piece import Score
from lattice.render.movements import stretches
from lattice.render.pipeline import play
from lattice.render.pitch_context import pitch_context_of
from lattice.steps.muting import is_heard_at, silent_lanes
from lattice.units import TICKS_PER_QUARTER

__all__ = ["SWITCHES", "Switch", "SwitchAt", "SwitchTo", "switch"]

SwitchAt = Literal["once", "beat", "bar", "pass"]
SwitchTo = Literal["begin", "carry on"]
SWITCHES: tuple[SwitchAt, ...] = get_args(SwitchAt)


class Switch(NamedTuple):
    """*tick*: of the leaving pattern, at which it gives way. *from_tick*: from where the coming one plays."""

    tick: int
    from_tick: int


def switch(
    score: Score, dice: int, tick: int, at: SwitchAt, to: SwitchTo, began: int, coming: Meter
) -> Switch:
    """Return when *score*, which plays by *dice*, gives way at *tick* or after, and from where what comes plays.

    *at* "once" it does where the next step of the finest lane that is heard begins, its swing included, or at *tick*
    itself where none does within a beat; else where the next beat, bar or pass does. What comes, in the meter *coming*,
    *begins* at its first step, or *carries on* as if it had been playing since play was pressed, *began* ticks before
    the leaving pattern's start: after a beat from the last beat of its own before that, after a bar or a pass from the
    last bar line, so that a bar line stays one.

    >>> from lattice.document import DOCKSIDE
    >>> leaving = Score(tempo=112, kit=DOCKSIDE, bars=4)
    >>> switch(leaving, 1, 53761, "bar", "carry on", 4 * 53760, leaving.meter)
    Switch(tick=107520, from_tick=322560)
    """
    when = _at_once(score, dice, tick) if at == "once" else _next(score, tick, at)
    if to == "begin":
        return Switch(when, 0)
    unit = {"once": 1, "beat": _beat_ticks(coming)}.get(at, coming.bar_ticks)
    return Switch(when, (began + when) // unit * unit)


def _beat_ticks(meter: Meter) -> int:
    return int(meter.beat_quarters * TICKS_PER_QUARTER)


def _next(score: Score, tick: int, at: Literal["beat", "bar", "pass"]) -> int:
    bar = score.meter.bar_ticks
    unit = {"beat": _beat_ticks(score.meter), "bar": bar, "pass": score.bars * bar}[at]
    return -(-tick // unit) * unit


def _at_once(score: Score, dice: int, tick: int) -> int:
    """Return when the next step of the finest lane that is heard then begins, as movements make it; within a beat."""
    bar, until = score.meter.bar_ticks, tick + _beat_ticks(score.meter)
    silent = silent_lanes(score.lanes)
    parts = [
        stretches(score, dice, lane, tick, until)
        for lane in score.lanes
        if lane.id not in silent and is_heard_at(lane, tick, bar)
    ]
    if not parts:
        return tick
    finest = min(parts, key=lambda part: part[0].lane_steps.clock.step)
    for there in finest:
        context = pitch_context_of(there.lane_steps.lane, there.score, dice)
        played = play(there.lane_steps, there.feel, context, there.start, until)
        inside = (played.step_window.straights >= there.start) & (played.step_window.straights < there.end)
        starts = played.starts[inside & (played.starts >= tick) & (played.starts < until)]
        if starts.size:
            return int(starts.min())
    return tick
