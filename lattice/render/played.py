"""One lane in a stretch of time: the steps it plays, and which of them sound."""

from dataclasses import dataclass
from fractions import Fraction
from math import gcd

import numpy as np
from numpy.typing import NDArray

from lattice.clock.ticks import Ticks, first_step_at, step_ticks, ticks
from lattice.document.lane import Lane
from lattice.document.piece import Rhythm
from lattice.document.source import MAX_STEPS, Drawn
from lattice.luck.chance import sounds
from lattice.rhythm.source_hits import source_hits
from lattice.rhythm.thin import is_counted
from lattice.rhythm.turns import complement, rotate

__all__ = ["Cycle", "Played", "cycle_of", "hits_at", "note_ticks", "play", "settled", "step_count"]


@dataclass(frozen=True)
class Cycle:
    """A lane's cycle, rotated and complemented: *hits* (ascending) of *steps*, each *step* quarters long."""

    steps: int
    hits: tuple[int, ...]
    step: Fraction

    @property
    def quarters(self) -> Fraction:
        """Length of the cycle in quarter notes."""
        return self.steps * self.step


@dataclass(frozen=True)
class Played:
    """Steps that begin in a stretch of time, column by column, in the order of time.

    *run*: number of the step since the start; *places*: its number in the cycle; *starts*, *ends*: of
    the step's note, in ticks; *hit*: whether it is a hit; *sound*: whether the dice let it sound.
    """

    run: Ticks
    places: Ticks
    starts: Ticks
    ends: Ticks
    hit: NDArray[np.bool_]
    sound: NDArray[np.bool_]


def cycle_of(lane: Lane, rhythm: Rhythm) -> Cycle:
    """Return the cycle of *lane* in *rhythm*: its source, rotated, then complemented; and a step's length.

    A lane keeps its step (polymeter), or spreads its steps evenly over a span (polyrhythm).
    """
    steps = lane.source.steps
    hits = rotate(source_hits(lane.source, lane.id), steps, lane.rotate)
    if lane.complement:
        hits = complement(hits, steps)
    if lane.span:
        step = lane.span.quarters(rhythm.meter.bar_quarters) / steps
    else:
        step = (lane.step_value or rhythm.step_value).quarters
    return Cycle(steps, hits, step)


def note_ticks(lane: Lane, cycle: Cycle) -> int:
    """Return the length that no note of *lane* exceeds, in ticks."""
    return ticks(cycle.step * lane.length_percent / 100) + 1


def step_count(cycle: Cycle, first_tick: int, end_tick: int) -> int:
    """Return how many steps of a lane begin at or after *first_tick* and before *end_tick*."""
    return first_step_at(end_tick, cycle.step) - first_step_at(first_tick, cycle.step)


def hits_at(lane: Lane, cycle: Cycle, run: Ticks) -> NDArray[np.bool_]:
    """Return whether each step of the *run* (since the start) is a hit, after thinning and hand edits."""
    cycles, places = np.divmod(run, cycle.steps)
    in_cycle = np.zeros(cycle.steps, bool)
    in_cycle[list(cycle.hits)] = True
    hit: NDArray[np.bool_] = in_cycle[places]
    if lane.thin:
        before_in_cycle = np.cumsum(in_cycle) - in_cycle
        before = before_in_cycle[places] + (0 if lane.thin.each_cycle else cycles * len(cycle.hits))
        counted = is_counted(before, lane.thin.every, lane.thin.first)
        hit &= counted if lane.thin.keeps == "only" else ~counted
    for edit in lane.edits:
        hit[places == edit.step] = edit.hit
    return hit


def settled(lane: Lane, cycle: Cycle) -> Drawn:
    """Return the drawn source that plays as *lane* does before chance, its turns and edits included.

    Hits thinned along the run repeat only after some cycles: all of them are drawn if they fit into one drawn
    cycle, else the first.
    """
    cycles = 1
    if lane.thin and not lane.thin.each_cycle:
        cycles = lane.thin.every // gcd(lane.thin.every, len(cycle.hits) or lane.thin.every)
    steps = cycle.steps * cycles
    if steps > MAX_STEPS:
        steps = cycle.steps
    hits = np.flatnonzero(hits_at(lane, cycle, np.arange(steps)))
    return Drawn(steps=steps, hits=tuple(hits.tolist()))


def play(lane: Lane, cycle: Cycle, dice: int, first_tick: int, end_tick: int) -> Played:
    """Return the steps of *lane* that begin at or after *first_tick* and before *end_tick*.

    Costs the same wherever the stretch lies: positions are computed, never stepped up to.
    """
    first, end = first_step_at(first_tick, cycle.step), first_step_at(end_tick, cycle.step)
    run = np.arange(first, end, dtype=np.int64)
    cycles, places = np.divmod(run, cycle.steps)
    hit = hits_at(lane, cycle, run)
    starts = step_ticks(run, cycle.step)
    ends = step_ticks(run, cycle.step, cycle.step * lane.length_percent / 100)
    return Played(
        run=run,
        places=places,
        starts=starts,
        ends=np.maximum(ends, starts + 1),
        hit=hit,
        sound=hit & sounds(lane.chance_percent, dice, lane.id, cycles, places),
    )
