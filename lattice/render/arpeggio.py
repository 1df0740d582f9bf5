"""Which notes of its pool each hit of an arpeggio lane plays."""

from collections.abc import Callable
from fractions import Fraction
from math import gcd, lcm
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.document.arpeggio import (
    MOST_AT_ONCE,
    Arpeggio,
    ChordPool,
    HeldPool,
    LanePool,
    Pedal,
    ScalePool,
    TypedPool,
)
from lattice.luck.draws import DRAW_BITS, Purpose, draws
from lattice.render.held_keys import held_pools
from lattice.render.note_orders import PoolNote, ordered
from lattice.render.pitch_context import PitchContext, SourceLane
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.step_window import StepWindow
from lattice.steps.thin import is_counted
from lattice.theory.scales import scale_note_below, scale_steps
from lattice.theory.voicing import voiced
from lattice.units import TICKS_PER_QUARTER, Ticks

__all__ = [
    "Heard",
    "Moments",
    "PoolsAt",
    "hits_of_order",
    "moments_of",
    "played_notes",
    "pools_at",
    "rounds_at",
    "rounds_of",
]

_ROUNDS = 1 << 20  # rounds of an order between two restarts have numbers of their own below this
Row = tuple[PoolNote, ...]


class Moments(NamedTuple):
    """Straight times: exactly, as *numerators* / *denominator* ticks, and *rounded* to whole ones."""

    numerators: Ticks
    denominator: int
    rounded: Ticks


class PoolsAt(NamedTuple):
    """*pools*: those that are met; *which*: the index of one for each moment, -1 for none."""

    pools: list[Row]
    which: Ticks


# Asks what a lane plays from one tick to before another: starts, ends, pitches, velocities of all that sounds there.
Heard = Callable[[SourceLane, int, int], tuple[Ticks, Ticks, Ticks, Ticks]]


def moments_of(lane_steps: LaneSteps, counts: Ticks) -> Moments:
    """Return the straight times of steps."""
    return Moments(*lane_steps.clock.exact(counts), lane_steps.clock.starts(counts))


def pools_at(arpeggio: Arpeggio, context: PitchContext, at: Moments, heard: Heard) -> PoolsAt:
    """Return the pool at each moment. *heard*: plays the lane that the pool is of."""
    match arpeggio.pool:
        case HeldPool(latch=latch) if context.keys:
            held = held_pools(context.keys, latch)
            return PoolsAt(list(held.pools), held.which_at(at.numerators // at.denominator))
        case TypedPool(notes=notes):
            row = notes or (voiced(context.typed, 0, context.note) if context.typed else ())
            return _steady([PoolNote(pitch) for pitch in row], at)
        case ScalePool(low=low, high=high):
            root, degrees = context.scale.root, context.scale.semitones
            steps = np.arange(low, high + 1)
            first = scale_note_below(np.full(steps.size, context.note), root, degrees)
            return _steady([PoolNote(one) for one in scale_steps(first, steps, root, degrees).tolist()], at)
        case ChordPool() if context.chords:
            pools = [tuple(PoolNote(one) for one in row) for row in context.chords.voicings(context.note)]
            return PoolsAt(pools, context.chords.number_at(at.numerators, at.denominator) % len(pools))
        case LanePool() if context.source and at.rounded.size:
            return _sounding(
                at.rounded, heard(context.source, int(at.rounded.min()), int(at.rounded.max()) + 1)
            )
    return PoolsAt([], np.full(at.rounded.size, -1))


def _steady(pool: list[PoolNote], at: Moments) -> PoolsAt:
    return PoolsAt([tuple(pool)], np.zeros(at.rounded.size, np.int64))


def _sounding(at: Ticks, notes: tuple[Ticks, Ticks, Ticks, Ticks]) -> PoolsAt:
    """Return the notes that sound at each tick, starts included, ends excluded; of one pitch the one begun last."""
    order = np.argsort(notes[0], kind="stable")
    starts, ends, pitches, velocities = (column[order] for column in notes)
    longest = int((ends - starts).max(initial=0))
    first = np.searchsorted(starts, at - longest, side="left").tolist()
    end = np.searchsorted(starts, at, side="right").tolist()
    known: dict[Row, int] = {}
    which = np.full(at.size, -1)
    for place, (tick, low, high) in enumerate(zip(at.tolist(), first, end, strict=True)):
        pool: dict[int, PoolNote] = {}
        for one in (np.flatnonzero(ends[low:high] > tick) + low).tolist():
            pitch = int(pitches[one])
            pool.pop(pitch, None)
            pool[pitch] = PoolNote(pitch, int(velocities[one]))
        if pool:
            which[place] = known.setdefault(tuple(pool.values()), len(known))
    return PoolsAt(list(known), which)


def rounds_of(arpeggio: Arpeggio, pools: PoolsAt) -> list[Row]:
    """Return one round of the order of each pool."""
    return [ordered(pool, arpeggio.octaves, arpeggio.order) for pool in pools.pools]


def rounds_at(arpeggio: Arpeggio, context: PitchContext, tick: int, heard: Heard) -> list[Row]:
    """Return the rounds of an arpeggio's order: with each chord, or as its pool is at *tick*."""
    at = np.array([tick])
    pools = pools_at(arpeggio, context, Moments(at, 1, at), heard)
    rounds = rounds_of(arpeggio, pools)
    if isinstance(arpeggio.pool, ChordPool):
        return rounds
    which = int(pools.which[0])
    return [rounds[which]] if which >= 0 else []


def hits_of_order(arpeggio: Arpeggio, sizes: list[int]) -> int:
    """Return after how many hits an arpeggio's order and its pedal note repeat; *sizes*: of rounds of the order."""
    size = 1 if arpeggio.order in ("random", "all") else lcm(*filter(None, sizes))
    pedal = arpeggio.pedal
    if pedal is None:
        return size
    return pedal.every if pedal.again else pedal.every * (size // gcd(size, pedal.every - 1))


def played_notes(
    step_window: StepWindow,
    steps: Ticks,
    arpeggio: Arpeggio,
    context: PitchContext,
    whole: NDArray[np.bool_],
    heard: Heard,
) -> list[Row]:
    """Return the notes that each hit plays; none where the pool is empty. The pedal note comes first.

    *steps*: indices of the hits in *step_window*. *whole*: at which of them the whole pool sounds at once, its lowest
    MOST_AT_ONCE notes.
    """
    pools = pools_at(arpeggio, context, moments_of(step_window.lane_steps, step_window.counts[steps]), heard)
    rounds = rounds_of(arpeggio, pools)
    used, begun = _used(step_window, steps, arpeggio, context)
    is_pedal, ordinals = _without_pedal(used, arpeggio.pedal)

    def round_keys(here: Ticks, turns: Ticks, into: Ticks) -> Ticks:
        """Return the keys of the rounds that the hits *here* are *into*: the *turns*-th since counting began."""
        lane_steps = step_window.lane_steps
        if not lane_steps.lane.luck_bars:
            return begun[here] * _ROUNDS + turns
        firsts = _used_before(used[here], ordinals[here], into, arpeggio.pedal)
        numbers = step_window.hit_index[steps[here]] - used[here] + firsts
        begins = lane_steps.count_of_hit(numbers, begun[here], step_window.counts[steps[here]])
        return lane_steps.steps_since_repeat(begins)

    places = _places(step_window, steps, arpeggio, pools, rounds, ordinals, round_keys)
    at_once = whole | (arpeggio.order == "all")
    own = arpeggio.pedal.note if arpeggio.pedal else None
    pedal = PoolNote(context.note if own is None else own, is_pedal=True)
    found: list[Row] = []
    columns = zip(pools.which.tolist(), places.tolist(), at_once.tolist(), is_pedal.tolist(), strict=True)
    for pool, place, all_of_it, returns in columns:
        row = rounds[pool] if pool >= 0 else ()
        if all_of_it:
            row = tuple(sorted(set(row)))[:MOST_AT_ONCE]
        elif returns or not row:
            row = ()
        else:
            row = (row[place],)
        found.append((pedal, *row) if returns else row)
    return found


def _used(
    step_window: StepWindow, steps: Ticks, arpeggio: Arpeggio, context: PitchContext
) -> tuple[Ticks, Ticks]:
    """Return how many hits were used before each since the arpeggio last began, and the step where it did, counted."""
    lane_steps = step_window.lane_steps
    counts, before = step_window.counts[steps], step_window.hit_index[steps]
    first = step_window.counting_begins[steps]
    if arpeggio.restart == "cycle":
        begun = lane_steps.clock.first_of_cycle(step_window.cycles[steps])
    elif arpeggio.restart == "chord":
        begun = np.maximum(first, _last_begin(lane_steps, counts, arpeggio, context))
    else:
        return before, first
    return before - lane_steps.hits_before_at(begun), begun


def _last_begin(lane_steps: LaneSteps, counts: Ticks, arpeggio: Arpeggio, context: PitchContext) -> Ticks:
    """Return the count of the first step since held keys, or for other pools the chord, last began; 0 for none."""
    numerators, denominator = lane_steps.clock.exact(counts)
    moments: dict[int, Fraction]
    if isinstance(arpeggio.pool, HeldPool):
        begins = (
            held_pools(context.keys, arpeggio.pool.latch).begins if context.keys else np.empty(0, np.int64)
        )
        numbers = np.searchsorted(begins, numerators // denominator, side="right") - 1
        moments = {place: Fraction(tick, TICKS_PER_QUARTER) for place, tick in enumerate(begins.tolist())}
    elif context.chords:
        numbers = context.chords.number_at(numerators, denominator)
        moments = {number: context.chords.start_of(number) for number in np.unique(numbers).tolist()}
    else:
        return np.zeros_like(counts)
    known, where = np.unique(numbers, return_inverse=True)
    firsts = [
        lane_steps.clock.first_from(moments[number]) if number in moments else 0 for number in known.tolist()
    ]
    return np.array(firsts, np.int64)[where]


def _without_pedal(used: Ticks, pedal: Pedal | None) -> tuple[NDArray[np.bool_], Ticks]:
    """Return which hits play the pedal note, and how many notes of the order each other hit comes after."""
    if pedal is None:
        return np.zeros(used.size, bool), used
    is_pedal = is_counted(used, pedal.every, pedal.first)
    since = used - (pedal.first - 1)
    pedals = np.where(since > 0, (since - 1) // pedal.every + 1, 0)
    if pedal.again:
        return is_pedal, np.where(since > 0, (since - 1) % pedal.every, used)
    return is_pedal, used - pedals


def _used_before(used: Ticks, ordinals: Ticks, into: Ticks, pedal: Pedal | None) -> Ticks:
    """Return how many hits were used before the one that began the round each hit is *into*: see `_without_pedal`."""
    if pedal is None or pedal.again:
        return used - into
    first = ordinals - into
    since = first - (pedal.first - 1)
    return first + np.where(since >= 0, since // (pedal.every - 1) + 1, 0)


def _places(
    step_window: StepWindow,
    steps: Ticks,
    arpeggio: Arpeggio,
    pools: PoolsAt,
    rounds: list[Row],
    ordinals: Ticks,
    round_keys: Callable[[Ticks, Ticks, Ticks], Ticks],
) -> Ticks:
    """Return which note of its round each hit plays."""
    places = np.zeros(ordinals.size, np.int64)
    lane, dice = step_window.lane_steps.lane.id, step_window.lane_steps.dice
    lucky = step_window.draws(Purpose.NOTE_OF_POOL)[steps] if arpeggio.order == "random" else None
    for number, row in enumerate(rounds):
        here = np.flatnonzero(pools.which == number)
        if not row or not here.size:
            continue
        turns, places[here] = np.divmod(ordinals[here], len(row))
        if lucky is not None:
            places[here] = (lucky[here] * np.uint64(len(row))) >> np.uint64(DRAW_BITS)
        elif arpeggio.order == "shuffled":
            known, where = np.unique(round_keys(here, turns, places[here]), return_inverse=True)
            keys = np.broadcast_arrays(known[:, None], np.arange(len(row)))
            shuffled = np.argsort(draws(dice, lane, Purpose.NOTE_ORDER, *keys), axis=1, kind="stable")
            places[here] = shuffled[where, places[here]]
    return places
