"""After how long what a lane plays comes round, before chance: steps, thinning, strips, cycle rules, pool, chords."""

from fractions import Fraction
from math import lcm
from typing import Any, NamedTuple

import numpy as np

from lattice.clock.direction import LUCKY, cycle_length
from lattice.clock.meeting import say_bars
from lattice.document.arpeggio import ChordPool, HeldPool, LanePool
from lattice.document.piece import Score
from lattice.pitch.tune import Tune
from lattice.render.arpeggio import Moments, pools_at, rounds_of
from lattice.render.played import sounding_in
from lattice.rhythm.lane_line import LaneLine
from lattice.strips.places import strips_of

__all__ = ["PoolRound", "comes_round_after", "pool_round"]

_LUCKY_ORDERS = ("shuffled", "random")


class PoolRound(NamedTuple):
    """*says*: what an arpeggio reads, and after how long it and the hits come round together; '' for no arpeggio.

    *fits*: the fields that make it begin again with each cycle; None where it comes round with that already.
    """

    says: str
    fits: dict[str, Any] | None


def comes_round_after(line: LaneLine, tune: Tune | None, score: Score, tick: int) -> str:
    """Say after how long all that a lane plays comes round, before chance, with the keys that are held at *tick*."""
    if line.is_lucky and not line.lane.luck_bars:
        return "never: luck decides its order"
    if (reason := _never(line)) is not None:
        return reason
    return _say(_period(line, tune, score, lcm(*filter(None, _order_sizes(line, tune, tick)))), score)


def pool_round(line: LaneLine, tune: Tune | None, score: Score, tick: int) -> PoolRound:
    """Return what is to be said of an arpeggio's pool as it is at *tick*."""
    arpeggio = line.lane.arpeggio
    if tune is None or arpeggio is None:
        return PoolRound("", None)
    sizes = _order_sizes(line, tune, tick)
    size = lcm(*filter(None, sizes))
    if not any(sizes):
        hint = "hold keys to fill it" if isinstance(arpeggio.pool, HeldPool) else "it rests"
        return PoolRound(f"an empty pool: {hint}", None)
    hits = int(line.line.period_hits * line.course.cycle // line.line.period) if not line.is_lucky else 0
    said = " or ".join(str(one) for one in sorted(set(sizes))) + (" note" if sizes == [1] else " notes")
    if not hits or line.is_lucky or arpeggio.order in ("random", "all"):
        return PoolRound(said, None)
    said += f" on {hits} {'hit' if hits == 1 else 'hits'}"
    if arpeggio.restart == "cycle" or hits % size == 0:
        return PoolRound(f"{said}: fits each cycle", None)
    fits = {"arpeggio": arpeggio.model_copy(update={"restart": "cycle"}).model_dump(mode="json")}
    return PoolRound(f"{said}: together again after {_say(_turns(line, size), score)}", fits)


def _turns(line: LaneLine, size: int) -> Fraction:
    """Return after how long an order of so many notes and the lane's hits come round together, in quarters."""
    hits = max(1, line.line.period_hits)
    return line.line.period * line.course.step * (lcm(hits, size) // hits)


def _order_sizes(line: LaneLine, tune: Tune | None, tick: int) -> list[int]:
    """Return how many notes a round of the arpeggio's order has: with each chord, or as its pool is at *tick*."""
    arpeggio = line.lane.arpeggio
    if tune is None or arpeggio is None:
        return []
    at = np.array([tick])
    pools = pools_at(arpeggio, tune, Moments(at, 1, at), sounding_in)
    rounds = rounds_of(arpeggio, pools)
    if isinstance(arpeggio.pool, ChordPool):
        return [len(row) for row in rounds]
    which = int(pools.which[0])
    return [len(rounds[which])] if which >= 0 else []


def _never(line: LaneLine) -> str | None:
    lane = line.lane
    if any(at.strip and at.strip.free and at.strip.free.direction in LUCKY for at in strips_of(lane)):
        return "never: luck decides the order of a strip"
    arpeggio = lane.arpeggio if lane.is_melodic else None
    if arpeggio and arpeggio.order in _LUCKY_ORDERS:
        return "never: luck decides the order of its notes"
    if arpeggio and isinstance(arpeggio.pool, LanePool):
        return "when the lane that it reads does, together with it"
    return None


def _period(line: LaneLine, tune: Tune | None, score: Score, size: int) -> Fraction:
    """Return after how many quarters all comes round, exactly; an order of *size* notes among it."""
    lane, course = line.lane, line.course
    if course.period is not None:
        whole = course.period
    elif line.is_lucky:
        whole = course.cycle_quarters
    else:
        whole = line.line.period * course.step
        hits = max(1, line.line.period_hits)
        for at in strips_of(lane):
            if at.strip and at.strip.free:
                values = cycle_length(at.strip.free.direction, len(at.strip.values))
                moved = line.line.period if at.strip.free.advance == "step" else hits
                whole = _met(whole, line.line.period * course.step * (lcm(moved, values) // moved))
        if size > 1 and lane.arpeggio and lane.arpeggio.restart == "free":
            used = size * lane.arpeggio.pedal.every if lane.arpeggio.pedal else size
            whole = _met(whole, _turns(line, used))
    for rule in (lane.cycle_rule, *(row.rule for row in lane.step_rules)):
        if rule and not course.once:
            whole = _met(whole, rule.of * course.cycle_quarters)
    if lane.luck_bars:
        whole = _met(whole, lane.luck_bars * score.meter.bar_quarters)
    if tune and tune.chords:
        whole = _met(whole, tune.chords.total)
    return whole


def _met(one: Fraction, other: Fraction) -> Fraction:
    """Return the least common multiple of two lengths."""
    common = one.denominator * other.denominator
    return Fraction(lcm(int(one * common), int(other * common)), common)


def _say(quarters: Fraction, score: Score) -> str:
    bar = score.meter.bar_quarters
    return say_bars(quarters / bar, score.quarters_per_minute, bar)
