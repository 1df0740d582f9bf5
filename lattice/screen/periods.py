"""After how long what a lane plays comes round, before chance: all that counts steps, hits, cycles, bars or chords."""

from fractions import Fraction
from functools import reduce
from math import gcd, lcm
from typing import Any, NamedTuple

import numpy as np

from lattice.document.arpeggio import Arpeggio, ChordPool, HeldPool, LanePool
from lattice.document.chance import CycleRule
from lattice.document.movement import CONTROLS
from lattice.document.piece import Score
from lattice.document.pitched import WHOLE_KIT
from lattice.document.strip_places import strips_of
from lattice.render.arpeggio import Moments, pools_at, rounds_of
from lattice.render.feel import Feel
from lattice.render.movements import moves_of, stretches
from lattice.render.note_orders import Row
from lattice.render.pipeline import sounding_in
from lattice.render.pitch_context import PitchContext, pitch_context_of
from lattice.render.stages import is_decided_by_luck
from lattice.render.stages.bursts import awake, round_of
from lattice.steps.direction import RANDOM_DIRECTIONS, cycle_length
from lattice.steps.groove import beat_ticks, swing_unit
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.meeting import say_bars
from lattice.theory.names import note_name
from lattice.units import TICKS_PER_QUARTER

__all__ = ["PoolRound", "comes_round_after", "period_of", "pool_round", "said_after"]


_MOST_BARS = 64  # of a round of movements are looked at
_MOST_STRETCHES = 64


class PoolRound(NamedTuple):
    """*says*: what an arpeggio reads, and after how long it and the hits come round together; '' for no arpeggio.

    *fits*: the fields that make it begin again with each cycle; None where it comes round with that already.
    """

    says: str
    fits: dict[str, Any] | None


def comes_round_after(
    line: LaneSteps, feel: Feel, context: PitchContext | None, score: Score, tick: int
) -> str:
    """Say after how long all that a lane plays comes round, before chance, with the keys that are held at *tick*."""
    if line.lane.clip:
        return (
            f"comes round after {said_after(Fraction(line.lane.clip.length_ticks, TICKS_PER_QUARTER), score)}"
        )
    if (reason := _never(line) or _moves_on(line, score)) is not None:
        return f"never comes round: {reason}"
    arpeggio = line.lane.arpeggio if context else None
    if arpeggio and isinstance(arpeggio.pool, LanePool):
        return f"comes round together with {score.lane(arpeggio.pool.of).name}, whose notes it plays"
    if moves_of(score, line.lane):
        try:
            return f"comes round after {said_after(_moved_period(line, score, tick), score)}"
        except ValueError:
            return "never comes round: luck decides some of it while it moves"
    return f"comes round after {said_after(period_of(line, feel, context, score, tick), score)}"


def _moves_on(line: LaneSteps, score: Score) -> str | None:
    """Return why a lane that is moved never comes round; None if its movements loop, or hold one value throughout."""
    for one in moves_of(score, line.lane):
        is_still = len(one.points) == 1 and one.points[0].tick == 0
        if one.loop_bars is None and not is_still:
            return f"{CONTROLS[one.control].name} is moved, once through"
    return None


def _moved_period(line: LaneSteps, score: Score, tick: int) -> Fraction:
    """Return after how long a lane comes round whose movements loop: with them, and in each stretch of a round of them.

    Raises ValueError as `period_of` does.
    """
    loops = [one.loop_bars for one in moves_of(score, line.lane) if one.loop_bars]
    bars = lcm(*loops)
    lasts = [bars * score.meter.bar_quarters] if loops else []
    # The second round: what held at the first one's end holds until the first point then.
    round_ticks = min(bars, _MOST_BARS) * score.meter.bar_ticks
    for there in stretches(score, line.dice, line.lane, round_ticks, 2 * round_ticks)[:_MOST_STRETCHES]:
        context = pitch_context_of(there.line.lane, there.score, line.dice)
        lasts.append(period_of(there.line, there.feel, context, there.score, tick))
    return reduce(_met, lasts)


def pool_round(line: LaneSteps, context: PitchContext | None, score: Score, tick: int) -> PoolRound:
    """Return what is to be said of an arpeggio's pool as it is at *tick*."""
    arpeggio = line.lane.arpeggio
    if context is None or arpeggio is None:
        return PoolRound("", None)
    sizes = _order_sizes(line, context, tick)
    used = _hits_of_order(arpeggio, sizes)
    if not any(sizes):
        hint = "hold keys to fill it" if isinstance(arpeggio.pool, HeldPool) else "it rests"
        return PoolRound(f"an empty pool: {hint}", None)
    hits = int(line.line.period_hits * line.clock.cycle // line.line.period) if not line.is_random else 0
    said = " or ".join(str(one) for one in sorted(set(sizes))) + (" note" if sizes == [1] else " notes")
    if missing := _voiceless(line, context, score, tick):
        said += f", no voice of the kit on {', '.join(missing)}"
    if not hits or line.is_random or arpeggio.order in ("random", "all"):
        return PoolRound(said, None)
    said += f" on {hits} {'hit' if hits == 1 else 'hits'}"
    if arpeggio.restart == "cycle" or hits % used == 0:
        return PoolRound(f"{said}: fits each cycle", None)
    fits = {"arpeggio": arpeggio.model_copy(update={"restart": "cycle"}).model_dump(mode="json")}
    return PoolRound(f"{said}: together again after {said_after(_turns(line, used), score)}", fits)


def _voiceless(line: LaneSteps, context: PitchContext, score: Score, tick: int) -> list[str]:
    """Return the names of the notes in the pool of a lane of the whole kit that the kit has no voice on."""
    arpeggio = line.lane.arpeggio
    if arpeggio is None or line.lane.voice != WHOLE_KIT:
        return []
    known = {voice.pitch for voice in score.kit.voices}
    scale = context.scale
    notes = sorted({note.pitch for row in _rounds(arpeggio, context, tick) for note in row} - known)
    return [note_name(note, scale.root, scale.semitones) for note in notes]


def _turns(line: LaneSteps, used: int) -> Fraction:
    """Return after how long what takes so many hits and the lane's hits come round together, in quarters."""
    steps, hits = _coming_round(line)
    return steps * line.clock.step * (used // gcd(hits, used) if hits else 1)


def _coming_round(line: LaneSteps) -> tuple[int, int]:
    """Return after how many steps a lane's hits come round, and how many hits those have that are counted on."""
    if not line.is_random:
        return line.line.period, line.line.period_hits
    if line.counts_each_cycle:
        return line.clock.cycle, 0
    cycles = line.lane.thin.every if line.lane.thin else 1
    hits = [
        int(line.hits_before_at(line.clock.first_of_cycle(np.array([one])))[0]) for one in (1, 1 + cycles)
    ]
    return line.clock.cycle * cycles, hits[1] - hits[0]


def _hits_of_order(arpeggio: Arpeggio, sizes: list[int]) -> int:
    """Return after how many hits an arpeggio's order and its pedal note come round; *sizes*: of rounds of the order."""
    size = 1 if arpeggio.order in ("random", "all") else lcm(*filter(None, sizes))
    pedal = arpeggio.pedal
    if pedal is None:
        return size
    return pedal.every if pedal.again else pedal.every * (size // gcd(size, pedal.every - 1))


def _order_sizes(line: LaneSteps, context: PitchContext | None, tick: int) -> list[int]:
    """Return how many notes a round of the arpeggio's order has: with each chord, or as its pool is at *tick*."""
    arpeggio = line.lane.arpeggio
    if context is None or arpeggio is None:
        return []
    return [len(row) for row in _rounds(arpeggio, context, tick)]


def _rounds(arpeggio: Arpeggio, context: PitchContext, tick: int) -> list[Row]:
    """Return the rounds of an arpeggio's order: with each chord, or as its pool is at *tick*."""
    at = np.array([tick])
    pools = pools_at(arpeggio, context, Moments(at, 1, at), sounding_in)
    rounds = rounds_of(arpeggio, pools)
    if isinstance(arpeggio.pool, ChordPool):
        return rounds
    which = int(pools.which[0])
    return [rounds[which]] if which >= 0 else []


def _never(line: LaneSteps) -> str | None:
    """Return why what a lane plays never comes round; None if it does."""
    lane = line.lane
    if lane.luck_bars:
        return None
    if line.is_random:
        return "luck decides its order"
    if any(
        at.strip and at.strip.free and at.strip.free.direction in RANDOM_DIRECTIONS for at in strips_of(lane)
    ):
        return "luck decides the order of a strip"
    if lane.is_melodic and lane.arpeggio and lane.arpeggio.order in ("shuffled", "random"):
        return "luck decides the order of its notes"
    return None


def period_of(line: LaneSteps, feel: Feel, context: PitchContext | None, score: Score, tick: int) -> Fraction:
    """Return after how many quarters all that a lane plays comes round, exactly; before chance.

    *tick*: when the held keys are looked at. What luck decides comes round with it where that repeats, and else is left
    out. Raises ValueError for a lane whose order is luck that never repeats.
    """
    lane, bar = line.lane, score.meter.bar_quarters
    lasts = [
        _runs(line) if line.clock.period is not None else _endless(line, context, tick),
        _pairs(line, feel),
    ]
    if lane.luck_bars and is_decided_by_luck(line):
        lasts.append(lane.luck_bars * bar)
    if lane.beat_weight and line.clock.period is None:
        lasts.append(Fraction(beat_ticks(score.meter), TICKS_PER_QUARTER))
    lasts += [round_of(burst, line) for _, burst in awake(line)]
    if context and context.chords:
        lasts.append(context.chords.total)
    return reduce(_met, filter(None, lasts))


def _runs(line: LaneSteps) -> Fraction:
    """Return after how long runs come round, which only cycle rules tell from each other."""
    clock = line.clock
    assert clock.period is not None
    assert clock.cycles_per_run is not None
    runs = [rule.of // gcd(rule.of, clock.cycles_per_run) for rule in _rules(line)]
    return lcm(*runs) * clock.period


def _endless(line: LaneSteps, context: PitchContext | None, tick: int) -> Fraction:
    """Return after how long an endless run comes round: hits, and all that counts steps, hits or cycles."""
    lane, clock = line.lane, line.clock
    steps, hits = _coming_round(line)
    counted = [lane.accent.every] if lane.accent else []
    stepped = [rule.of * clock.cycle for rule in _rules(line)]
    for at in strips_of(lane):
        if at.strip and at.strip.free and at.strip.free.direction != "random":
            values = cycle_length(at.strip.free.direction, len(at.strip.values))
            (stepped if at.strip.free.advance == "step" else counted).append(values)
    arpeggio = lane.arpeggio if context else None
    if arpeggio and context and (arpeggio.restart == "free" or not _restarts_with_chords(arpeggio, context)):
        counted.append(_hits_of_order(arpeggio, _order_sizes(line, context, tick)))
    rounds = [number // gcd(hits, number) for number in counted if hits]
    return lcm(steps * lcm(*rounds), *stepped) * clock.step


def _restarts_with_chords(arpeggio: Arpeggio, context: PitchContext) -> bool:
    """Return whether an arpeggio begins again for ever, if it does not run free: with each cycle, or with chords."""
    return arpeggio.restart == "cycle" or (
        context.chords is not None and not isinstance(arpeggio.pool, HeldPool)
    )


def _rules(line: LaneSteps) -> list[CycleRule]:
    lane = line.lane
    own = [lane.cycle_rule] if lane.cycle_rule else []
    return own + [row.rule for row in lane.step_rules if row.step in line.range]


def _pairs(line: LaneSteps, feel: Feel) -> Fraction | None:
    """Return after how long swing comes round; None where it moves nothing, or all lies within a run's bars."""
    unit = swing_unit(line.clock.step, feel.swing)
    if line.clock.period is not None or unit is None:
        return None
    pair, bar = 2 * unit, line.frame.meter.bar_quarters
    if bar % pair:
        return bar
    return None if line.clock.step % pair == 0 else pair


def _met(one: Fraction, other: Fraction) -> Fraction:
    """Return the least common multiple of two lengths."""
    common = one.denominator * other.denominator
    return Fraction(lcm(int(one * common), int(other * common)), common)


def said_after(quarters: Fraction, score: Score) -> str:
    """Say after how many bars of *score*, and how much time, so many quarters have gone by."""
    bar = score.meter.bar_quarters
    return say_bars(quarters / bar, score.quarters_per_minute, bar)
