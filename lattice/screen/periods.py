"""After how long what a lane plays repeats, in words."""

from fractions import Fraction
from math import gcd
from typing import Any, NamedTuple

from lattice.document.arpeggio import HeldPool, LanePool
from lattice.document.movement import CONTROLS
from lattice.document.piece import Score
from lattice.document.pitched import WHOLE_KIT
from lattice.render.arpeggio import hits_of_order, rounds_at
from lattice.render.feel import Feel
from lattice.render.movements import moves_of
from lattice.render.note_orders import Row
from lattice.render.periods import hits_repeat_after, moved_period, period_of
from lattice.render.pipeline import sounding_in
from lattice.render.pitch_context import PitchContext
from lattice.render.stages.stage import NeverRepeatsError
from lattice.sentence.lengths import say_bars, say_every
from lattice.steps.lane_steps import LaneSteps
from lattice.theory.names import note_name
from lattice.units import TICKS_PER_QUARTER

__all__ = ["PoolRound", "length_of", "pool_round", "repeats_every"]


class PoolRound(NamedTuple):
    """*says*: what an arpeggio reads, and after how long it and the hits repeat together; '' for no arpeggio.

    *fits*: the fields that make it begin again with each cycle; None where it repeats with that already.
    """

    says: str
    fits: dict[str, Any] | None


def repeats_every(
    lane_steps: LaneSteps, feel: Feel, context: PitchContext | None, score: Score, tick: int
) -> str:
    """Say after how long all that a lane plays repeats, before chance, with the keys that are held at *tick*."""
    if lane_steps.lane.clip:
        return f"repeats {say_every(*length_of(Fraction(lane_steps.lane.clip.length_ticks, TICKS_PER_QUARTER), score))}"
    is_moved = bool(moves_of(score, lane_steps.lane))
    try:
        period = period_of(lane_steps, feel, context, tick)
        if (control := _moved_once(lane_steps, score)) is not None:
            return f"never repeats: {control} is moved, once through"
        arpeggio = lane_steps.lane.arpeggio if context else None
        if arpeggio and isinstance(arpeggio.pool, LanePool):
            return f"repeats together with {score.lane(arpeggio.pool.of).name}, whose notes it plays"
        if is_moved:
            period = moved_period(lane_steps, score, tick)
    except NeverRepeatsError as error:
        return f"never repeats: {error}"
    return f"repeats {say_every(*length_of(period, score))}"


def _moved_once(lane_steps: LaneSteps, score: Score) -> str | None:
    """Return the name of a control that a movement moves once through, so that it never repeats; None if none does."""
    for one in moves_of(score, lane_steps.lane):
        is_still = len(one.points) == 1 and one.points[0].tick == 0
        if one.loop_bars is None and not is_still:
            return CONTROLS[one.control].name
    return None


def pool_round(lane_steps: LaneSteps, context: PitchContext | None, score: Score, tick: int) -> PoolRound:
    """Return what is to be said of an arpeggio's pool as it is at *tick*."""
    arpeggio = lane_steps.lane.arpeggio
    if context is None or arpeggio is None:
        return PoolRound("", None)
    rounds = rounds_at(arpeggio, context, tick, sounding_in)
    sizes = [len(row) for row in rounds]
    if not any(sizes):
        hint = "hold keys to fill it" if isinstance(arpeggio.pool, HeldPool) else "it rests"
        return PoolRound(f"an empty pool: {hint}", None)
    hits = (
        int(lane_steps.hit_cycle.period_hits * lane_steps.clock.cycle // lane_steps.hit_cycle.period)
        if not lane_steps.is_random
        else 0
    )
    said = " or ".join(str(one) for one in sorted(set(sizes))) + (" note" if sizes == [1] else " notes")
    if missing := _voiceless(lane_steps, context, rounds, score):
        said += f", no voice of the kit on {', '.join(missing)}"
    if not hits or arpeggio.order in ("random", "all"):
        return PoolRound(said, None)
    said += f" on {hits} {'hit' if hits == 1 else 'hits'}"
    used = hits_of_order(arpeggio, sizes)
    if arpeggio.restart == "cycle" or hits % used == 0:
        return PoolRound(f"{said}: fits each cycle", None)
    fits = {"arpeggio": arpeggio.model_copy(update={"restart": "cycle"}).model_dump(mode="json")}
    steps, of_hits = hits_repeat_after(lane_steps)
    together = steps * lane_steps.clock.step * (used // gcd(of_hits, used))
    return PoolRound(f"{said}: together again after {say_bars(*length_of(together, score))}", fits)


def _voiceless(lane_steps: LaneSteps, context: PitchContext, rounds: list[Row], score: Score) -> list[str]:
    """Return the names of the notes in the pool of a lane of the whole kit that the kit has no voice on."""
    if lane_steps.lane.voice != WHOLE_KIT:
        return []
    known = {voice.pitch for voice in score.kit.voices}
    notes = sorted({note.pitch for row in rounds for note in row} - known)
    return [note_name(note, context.scale.root, context.scale.semitones) for note in notes]


def length_of(quarters: Fraction, score: Score) -> tuple[Fraction, Fraction, Fraction]:
    """Return a length as `say_bars` and `say_every` take it: in bars of *score*, with its tempo and their length."""
    bar = score.meter.bar_quarters
    return quarters / bar, score.quarters_per_minute, bar
