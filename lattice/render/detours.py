"""Where the clock leads while detours hold: which stretch of which score is played when."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import pairwise
from math import ceil, floor

from lattice.around.candidates import candidate
from lattice.cache import MEGABYTE, cached
from lattice.document.detour import (
    PACES,
    Detour,
    DetourKind,
    HeldDetour,
    OnlyDetour,
    PaceDetour,
    PatternDetour,
    RepeatDetour,
    ShiftDetour,
    Variation,
)
from lattice.document.piece import Score
from lattice.document.problems import DocumentError
from lattice.units import TICKS_PER_QUARTER

__all__ = ["Away", "Segment", "away", "detour_segments", "has_detours"]


@dataclass(frozen=True)
class Away:
    """A stretch, in ticks, in which *detour* holds. *since*: from when it counts; *number*: of a variation.

    *by_hand*: a hand holds it, or did.
    """

    detour: Detour
    start: int
    end: int
    since: Fraction
    number: int
    by_hand: bool


@dataclass(frozen=True)
class Segment:
    """From tick *start* to before *end*, *score* is played from its *source* tick on, *pace* times as fast.

    *only*: the ids of the lanes that sound; None for all. *is_away*: whether any detour holds.
    """

    start: Fraction
    end: Fraction
    source: Fraction
    pace: Fraction
    score: Score
    only: frozenset[str] | None
    is_away: bool

    @property
    def source_end(self) -> Fraction:
        """Up to where of the source it is played."""
        return self.source + (self.end - self.start) * self.pace

    @property
    def is_displaced(self) -> bool:
        """Whether anything of it is heard at another time than in the source, or its edges lie between ticks."""
        edges = self.source, self.source_end
        return self.pace != 1 or self.start != self.source or any(edge.denominator > 1 for edge in edges)

    def heard_at(self, tick: Fraction) -> int:
        """Return when what is at a *tick* of the source is heard: never before the start of all."""
        return max(0, floor(self.start + (tick - self.source) / self.pace + Fraction(1, 2)))


def has_detours(score: Score) -> bool:
    """Return whether anything but the score itself may play."""
    return bool(score.detours or score.moved_detours or score.held_detours)


def away(score: Score, first: int, end: int) -> list[Away]:
    """Return what holds from tick *first* to before *end*, the pattern's own detours first, then those of hands."""
    bar = score.meter.bar_ticks
    found: list[Away] = []
    for mine in score.detours:
        every = mine.every * bar
        for count in range(first // every, -(-end // every)):
            stop = (count + 1) * every
            found.append(_of_pattern(mine, stop - mine.bars * bar, stop, count, score))
    for held in (*score.moved_detours, *score.held_detours):
        found.append(_held(held, end, score))
    return [one for one in found if one.start < end and one.end > first]


def _of_pattern(mine: PatternDetour, start: int, end: int, count: int, score: Score) -> Away:
    number = mine.detour.number if isinstance(mine.detour, Variation) else 0
    since = _since(mine.detour, start, score)
    return Away(mine.detour, ceil(since), end, since, number + (count if mine.fresh else 0), False)


def _held(held: HeldDetour, now: int, score: Score) -> Away:
    number = held.detour.number if isinstance(held.detour, Variation) else 0
    since = _since(held.detour, _awaited(held, score), score)
    return Away(held.detour, ceil(since), now if held.end is None else held.end, since, number, True)


def _awaited(held: HeldDetour, score: Score) -> int:
    """Return the tick from which a hand wants it."""
    bar = score.meter.bar_quarters
    waits = {"once": Fraction(0), "beat": score.meter.beat_quarters, "half bar": bar / 2, "bar": bar}
    unit = waits[held.at] * TICKS_PER_QUARTER
    return ceil(-(-held.start // unit) * unit) if unit else held.start


def _since(detour: Detour, pressed: int, score: Score) -> Fraction:
    """Return from when a detour holds that is asked for at a tick.

    A repeat does from a multiple of its length on, a pace from a beat, all else at once.
    """
    if isinstance(detour, RepeatDetour):
        unit = detour.length.quarters * TICKS_PER_QUARTER
    elif isinstance(detour, PaceDetour):
        unit = score.meter.beat_quarters * TICKS_PER_QUARTER
    else:
        return Fraction(pressed)
    return -(-pressed // unit) * unit


def detour_segments(score: Score, first: int, end: int) -> list[Segment]:
    """Return what is played from tick *first* to before *end*, segment by segment.

    Of each kind one detour holds at a time: those of hands before the pattern's, later ones before earlier. They are
    applied in the order pace, repeat, variation, shift, only.
    """
    known = away(score, first, end)
    edges = sorted(
        {first, end, *(tick for one in known for tick in (one.start, one.end) if first < tick < end)}
    )
    found: list[Segment] = []
    for start, stop in pairwise(edges):
        holding = {one.detour.kind: one for one in known if one.start <= start and one.end >= stop}
        found += _segments(score, holding, start, stop)
    return found


def _segments(score: Score, holding: Mapping[DetourKind, Away], start: int, end: int) -> Iterator[Segment]:
    pace, repeat = holding.get("pace"), holding.get("repeat")
    there = _variant(score, holding.get("variation"), holding.get("shift"))
    only = holding["only"].detour if "only" in holding else None
    chosen = (
        frozenset(only.lanes) & {lane.id for lane in score.lanes} if isinstance(only, OnlyDetour) else None
    )
    times = PACES[pace.detour.times] if pace and isinstance(pace.detour, PaceDetour) else Fraction(1)
    for begin, stop, source in _rounds(repeat, start, end):
        at = pace.since + (source - pace.since) * times if pace else source
        segment = Segment(begin, stop, at, times, there, chosen or None, bool(holding))
        yield from _after_the_start(segment)


def _rounds(repeat: Away | None, start: int, end: int) -> Iterator[tuple[Fraction, Fraction, Fraction]]:
    """Return (begin, end, source) of each time that what is repeated comes from *start* to before *end*."""
    if repeat is None or not isinstance(repeat.detour, RepeatDetour):
        yield Fraction(start), Fraction(end), Fraction(start)
        return
    length = repeat.detour.length.quarters * TICKS_PER_QUARTER
    count = (start - repeat.since) // length
    while (begin := repeat.since + count * length) < end:
        here = max(begin, Fraction(start))
        yield here, min(begin + length, Fraction(end)), repeat.since + (here - begin)
        count += 1


def _after_the_start(segment: Segment) -> Iterator[Segment]:
    """Return the segment as far as its source has begun: nothing is heard from before the start."""
    if segment.source_end <= 0:
        return
    late = max(Fraction(0), -segment.source)
    yield (
        replace(segment, start=segment.start + late / segment.pace, source=segment.source + late)
        if late
        else segment
    )


def _variant(score: Score, variation: Away | None, shift: Away | None) -> Score:
    changed = score
    if variation and isinstance(variation.detour, Variation):
        changed = _varied(score, variation.detour, variation.number)
    if shift and isinstance(shift.detour, ShiftDetour):
        changed = changed.transposed(shift.detour.degrees, shift.detour.semitones)
    return changed


@cached(16 * MEGABYTE)
def _varied(score: Score, asked: Variation, number: int) -> Score:
    try:
        changes = candidate(score, asked.distance, asked.ways, asked.throw, number)
    except DocumentError:  # nothing can vary: it plays as it is
        return score
    lanes = tuple(lane.model_copy(update=changes.get(lane.id, {})) for lane in score.lanes)
    return score.model_copy(update={"lanes": lanes})
