"""How much a question asks for, told before it is answered: no score, however small, takes the engine for long."""

from math import ceil
from typing import NamedTuple

import numpy as np

from lattice.cache import MEGABYTE, cached
from lattice.document.arpeggio import MOST_AT_ONCE, Arpeggio, ChordPool, HeldPool, LanePool
from lattice.document.detour import RepeatDetour, Variation
from lattice.document.piece import Score
from lattice.document.problems import DocumentError
from lattice.render.detours import away
from lattice.render.feel import STRAIGHT_ON, Feel
from lattice.render.kept_clip import kept_count, kept_longest
from lattice.render.movements import is_cut, plays_of
from lattice.render.stages import longest_note
from lattice.render.stages.bursts import awake, round_of
from lattice.render.stages.length import MAX_TIE_BARS, may_tie
from lattice.render.stages.pitch import PITCH_STAGE
from lattice.render.stages.ratchet import RATCHET_STAGE
from lattice.steps.lane_steps import LaneSteps, steps_of_lane
from lattice.steps.strip_values import own_values
from lattice.theory.chords import QUALITIES
from lattice.units import TICKS_PER_QUARTER

__all__ = [
    "MAX_NOTES_AT_ONCE",
    "MAX_PARTS",
    "MAX_PLAYS",
    "MAX_ROW_LANES",
    "LaneSpan",
    "check_detours",
    "check_movements",
    "check_notes",
    "check_rows",
    "check_work",
    "notes_of_lane",
]

MAX_NOTES_AT_ONCE = 50_000  # in an answer
MAX_CHORDS_AT_ONCE = 10_000
MAX_PLAYS = 1_000  # times that a lane is laid out anew, each of which takes a millisecond or two
MAX_PARTS = 10_000  # pieces of time that detours put a lane's notes into
MAX_ROW_LANES = 4_000  # lanes of all rows of an order: most rows play what an earlier one has laid out
MAX_WORK = 400_000  # steps and notes that are looked at for it
MAX_LINES = 2**22  # steps after which the lanes repeat, all together
_LOOKED_AT = 4096  # steps
_LARGEST_CHORD = max(len(tones) for tones in QUALITIES.values())


class LaneSpan(NamedTuple):
    """A *lane_steps*, played with a *feel*, from tick *first* to before *end*."""

    lane_steps: LaneSteps
    feel: Feel
    first: int
    end: int


def check_notes(score: Score, asked: list[LaneSpan]) -> None:
    """Raise DocumentError if more than MAX_NOTES_AT_ONCE notes may begin in all that is *asked*."""
    long = 0
    for lane_steps in {one.lane_steps.laid: one.lane_steps for one in asked}.values():
        long += 0 if lane_steps.is_random else lane_steps.hit_cycle.hits.size
        if long > MAX_LINES:
            message = f"it repeats too late to be reckoned with the others: they have {long:,} steps by then"
            raise DocumentError.of("thin", message, lane=lane_steps.lane.name)
    notes = [notes_of_lane(lane_steps, score, first, end) for lane_steps, _, first, end in asked]
    first, end = min((one.first for one in asked), default=0), max((one.end for one in asked), default=0)
    chords = score.progression.chords if score.progression else ()
    shortest = min((one.lasts.quarters(score.meter.bar_quarters) for one in chords), default=None)
    if shortest and (end - first) * score.rate / (shortest * TICKS_PER_QUARTER) > MAX_CHORDS_AT_ONCE:
        message = f"more than {MAX_CHORDS_AT_ONCE:,} chords are asked for at once: ask for fewer bars"
        raise DocumentError.of("progression", message)
    if sum(notes) > MAX_NOTES_AT_ONCE:
        busiest = asked[notes.index(max(notes))].lane_steps.lane.name
        message = f"{sum(notes):,} notes are asked for at once, {MAX_NOTES_AT_ONCE:,} is the most: ask for fewer bars"
        raise DocumentError.of("", message, lane=busiest)


def check_work(score: Score, asked: list[LaneSpan]) -> None:
    """Raise DocumentError if what has to be looked at for all that is *asked* is more than MAX_WORK."""
    work = [_work(lane_steps, score, first, end) for lane_steps, _, first, end in asked]
    if sum(work) > MAX_WORK:
        busiest = asked[work.index(max(work))].lane_steps.lane.name
        message = f"{sum(work):,} steps have to be looked at, {MAX_WORK:,} is the most: ask for fewer bars"
        raise DocumentError.of("", message, lane=busiest)


def check_movements(score: Score, first: int, end: int) -> None:
    """Raise DocumentError if movements cut time into too many stretches from tick *first* to before *end*."""
    plays = [plays_of(score, lane, first, end) for lane in score.lanes if is_cut(score, lane)]
    if sum(plays) > MAX_PLAYS:
        message = (
            f"movements cut time into {sum(plays):,} stretches, {MAX_PLAYS:,} is the most: ask for fewer bars"
        )
        raise DocumentError.of("movements", message)


def check_detours(score: Score, first: int, end: int) -> None:
    """Raise DocumentError if detours play too many variations, or begin too often, in a stretch of ticks."""
    known = away(score, first, end)
    variations = {(one.detour, one.number) for one in known if isinstance(one.detour, Variation)}
    plays = len(score.lanes) * len(variations)
    if plays > MAX_PLAYS:
        message = (
            f"{len(variations):,} variations of {len(score.lanes)} lanes are asked for: ask for fewer bars"
        )
        raise DocumentError.of("detours", message)
    times = len(known) + sum(
        int((min(end, one.end) - max(first, one.start)) // (one.detour.length.quarters * TICKS_PER_QUARTER))
        for one in known
        if isinstance(one.detour, RepeatDetour)
    )
    if times * len(score.lanes) > MAX_PARTS:
        message = f"detours begin {times:,} times for {len(score.lanes)} lanes: ask for fewer bars"
        raise DocumentError.of("detours", message)


def check_rows(lanes: int) -> None:
    """Raise DocumentError if the rows of an order that are asked for have too many *lanes* together."""
    if lanes > MAX_ROW_LANES:
        message = f"the rows have {lanes:,} lanes together, {MAX_ROW_LANES:,} is the most at once: ask for fewer bars"
        raise DocumentError.of("order", message)


def notes_of_lane(lane_steps: LaneSteps, score: Score, first: int, end: int) -> int:
    """Return how many notes of a lane may begin from tick *first* to before *end*, chance apart."""
    _, hits, bursts = _counts(_without_dice(lane_steps), first, end)
    return hits * (1 if lane_steps.lane.clip else _notes_of_a_hit(lane_steps, score)) + bursts


def _without_dice(lane_steps: LaneSteps) -> LaneSteps:
    return lane_steps if lane_steps.is_random else lane_steps.laid


# An edit moves one lane, and new dice none: what is counted of the others stays the same.
@cached(16 * MEGABYTE)
def _counts(lane_steps: LaneSteps, first: int, end: int) -> tuple[int, int, int]:
    """Return how many steps begin from tick *first* to before *end*, and how many notes of hits and of bursts."""
    begin, last = lane_steps.clock.first_at(first), lane_steps.clock.first_at(end)
    if lane_steps.lane.clip:
        return last - begin, kept_count(lane_steps.lane.clip, first, end), 0
    bursts = sum(
        burst.notes * ((end - first) // max(1, int(round_of(burst, lane_steps) * TICKS_PER_QUARTER)) + 2)
        for _, burst in awake(lane_steps)
    )
    return last - begin, ceil(lane_steps.hit_count(begin, last) * _ratchets(lane_steps)), bursts


def _work(lane_steps: LaneSteps, score: Score, first: int, end: int) -> int:
    """Return how many steps and notes are looked at for a lane, those of the lanes that it reads included."""
    steps, _, _ = _counts(_without_dice(lane_steps), first, end)
    own = steps * (1 + len(lane_steps.lane.control_strips)) + notes_of_lane(lane_steps, score, first, end)
    pool = lane_steps.lane.arpeggio.pool if lane_steps.lane.is_melodic and lane_steps.lane.arpeggio else None
    if not isinstance(pool, LanePool) or own > MAX_WORK:
        return own
    source = steps_of_lane(score, lane_steps.dice, pool.of)
    return own + _work(source, score, max(0, first - _lasts(source)), end)


def _lasts(lane_steps: LaneSteps) -> int:
    """Return for how long a note of the lane may sound, in ticks."""
    if lane_steps.lane.clip:
        return kept_longest(lane_steps.lane.clip)
    tie = MAX_TIE_BARS * lane_steps.frame.meter.bar_ticks if may_tie(lane_steps) else 0
    return max(longest_note(lane_steps, STRAIGHT_ON), tie)


def _ratchets(lane_steps: LaneSteps) -> float:
    """Return into how many notes hits are divided on the average; at most, where luck or a free strip has a say."""
    strip = lane_steps.lane.ratchet_strip
    if strip is None or strip.free or strip.spread or lane_steps.is_random:
        return RATCHET_STAGE.notes(lane_steps)
    steps = min(lane_steps.hit_cycle.hits.size, _LOOKED_AT)
    numbers = lane_steps.numbers(np.arange(steps))[lane_steps.hit_cycle.hits[:steps]]
    values = own_values(strip, lane_steps.steps, 1)[numbers]
    return float(values.mean()) if values.size else 1


def _notes_of_a_hit(lane_steps: LaneSteps, score: Score) -> int:
    lane, stack = lane_steps.lane, PITCH_STAGE.notes(lane_steps)
    if not lane.is_melodic or lane.arpeggio is None:
        return stack
    if lane.arpeggio.order != "all" and stack == 1:
        return 1
    return min(MOST_AT_ONCE, _pool_size(lane.arpeggio, lane_steps, score) * lane.arpeggio.octaves) + 1


def _pool_size(arpeggio: Arpeggio, lane_steps: LaneSteps, score: Score) -> int:
    match arpeggio.pool:
        case HeldPool():
            return min(MOST_AT_ONCE, len(lane_steps.lane.keys.held))
        case ChordPool():
            return _LARGEST_CHORD
        case LanePool(of=of):
            source = steps_of_lane(score, lane_steps.dice, of)
            together = _lasts(source) // max(1, int(source.clock.step * TICKS_PER_QUARTER)) + 2
            return min(MOST_AT_ONCE, together * _notes_of_a_hit(source, score))
        case pool:
            return max(_LARGEST_CHORD, Arpeggio.size_of(pool))
