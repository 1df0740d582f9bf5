"""The definitions taken literally: every lane walked step by step from the start. Slow, and nothing shared with the
engine but the hits of a rule, the draws, the levels of a meter, and the length of a note value."""

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise
from math import floor

import numpy as np

from lattice.document import (
    BarRestart,
    Echo,
    GroundSource,
    Lane,
    Made,
    PassRestart,
    Reply,
    Score,
    Thin,
)
from lattice.luck.draws import Purpose, draws
from lattice.steps.ground import place_on
from lattice.steps.measures import metrical_units
from lattice.steps.source_hits import source_hits


@dataclass
class Step:
    """A played step: where it is in time, what it is, whether it is a hit before chance."""

    at: Fraction
    run: int
    cycle: int
    place: int
    number: int
    hit: bool = False


def walk(score: Score, dice: int, lane: Lane, count: int) -> list[Step]:
    """Return the first *count* played steps of *lane*, or a few more."""
    clock_lane = lane
    while isinstance(clock_lane.source, Made):
        clock_lane = score.lane(clock_lane.source.of)
    steps: list[Step] = []
    for step in _clock(score, dice, clock_lane):
        steps.append(step)
        if len(steps) > count + 4000:  # far enough for what looks ahead
            break
    _fill(score, lane, steps, clock_lane)
    return steps[:count]


def _range(lane: Lane) -> list[int]:
    n = lane.source.steps
    if lane.step_range is None:
        return list(range(n))
    first, last = min(lane.step_range.first, n - 1), min(lane.step_range.last, n - 1)
    numbers = [first]
    while numbers[-1] != last:
        numbers.append((numbers[-1] + 1) % n)
    return numbers


def _clock(score: Score, dice: int, lane: Lane) -> Iterator[Step]:
    bar = score.meter.bar_quarters
    own = lane.step_value or score.step_value
    step = lane.span.quarters(bar) / lane.source.steps if lane.span else own.quarters
    period = None
    if lane.once or isinstance(lane.restart, PassRestart):
        period = score.bars * bar
    elif isinstance(lane.restart, BarRestart):
        period = lane.restart.bars * bar
    offset = lane.once.offset_quarters(bar) if lane.once else Fraction(0)
    run = cycle = begun = 0
    while True:
        at = (period or 0) * run + offset
        end = None if period is None else period * (run + 1)
        cycles_here = 0
        while (end is None or at < end) and not (lane.once and cycles_here):
            for place, number in enumerate(_order(score, dice, lane, cycle, begun, step, period, offset)):
                if end is not None and at >= end:
                    break
                yield Step(at, run, cycle, place, number)
                begun += 1
                at += step
            cycle += 1
            cycles_here += 1
        run += 1


def _order(score, dice, lane, cycle, begun, step, period, offset) -> list[int]:
    numbers = _range(lane)
    last = len(numbers) - 1
    steady = {
        "forward": numbers,
        "backward": numbers[::-1],
        "to-and-fro": numbers + numbers[-2:0:-1],
        "to-and-fro-twice": numbers + numbers[::-1],
    }
    if lane.direction in steady:
        return steady[lane.direction]
    assert not lane.luck_bars  # keys that repeat are tested by themselves
    drawn = draws(
        dice, lane.id, Purpose.ORDER, np.full(len(numbers), cycle), np.arange(len(numbers))
    ).tolist()
    if lane.direction == "shuffled":
        return [numbers[place] for place in sorted(range(len(numbers)), key=lambda place: drawn[place])]
    if lane.direction == "random":
        return [numbers[draw * len(numbers) // 2**53] for draw in drawn]
    at, order = 0, [0]
    for draw in drawn[1:]:
        up = at == 0 or (at != last and draw >= 2**52)
        at = min(last, max(0, at + (1 if up else -1)))
        order.append(at)
    return [numbers[place] for place in order]


def _fill(score: Score, lane: Lane, steps: list[Step], clock_lane: Lane) -> None:
    """Say of each step whether it is a hit in *lane*."""
    lucky = clock_lane.direction in ("shuffled", "random", "wander")
    if isinstance(lane.source, Made):
        _fill(score, score.lane(lane.source.of), steps, clock_lane)
        hits = [step.hit for step in steps]
        if isinstance(lane.source, Reply):
            hits = _replies(steps, hits, lane.source.every, lucky)
        elif isinstance(lane.source, Echo):
            hits = _later(steps, hits, lane.source.shift)
        else:
            hits = [not hit for hit in hits]
        hits = _later(steps, hits, lane.rotate)
        if lane.complement:
            hits = [not hit for hit in hits]
    else:
        n = lane.source.steps
        turned = {(hit + lane.rotate) % n for hit in source_hits(lane.source, lane.id)}
        ours = [(number in turned) != lane.complement for number in range(n)]
        _make_busy(ours, lane, score)
        hits = [ours[step.number] for step in steps]
    if lane.thin:
        own_shuffle = clock_lane.direction == "shuffled" and lane is clock_lane
        hits = _thin(steps, hits, lane.thin, lucky and not own_shuffle)
    forced = {edit.step: edit.hit for edit in lane.edits}
    for step, hit in zip(steps, hits, strict=True):
        step.hit = forced.get(step.number, hit)


def _make_busy(hits: list[bool], lane: Lane, score: Score) -> None:
    """Add rests, or leave only the most important hits, one after the other."""
    n = len(hits)
    bar = score.meter.bar_quarters
    step = lane.span.quarters(bar) / n if lane.span else (lane.step_value or score.step_value).quarters
    units = [Fraction(unit, 13440) for unit in metrical_units(score.meter, max(1, int(step * 13440)))]
    levels = [
        min((at for at, unit in enumerate(units) if i * step % unit == 0), default=99) for i in range(n)
    ]
    if isinstance(lane.source, GroundSource):
        merits = place_on(lane.source).merits
        levels = [-merits[(i - lane.rotate) % n] for i in range(n)]
    choose_from = [i for i in range(n) if hits[i] == (lane.busy < 0)]
    wanted = Fraction(len(choose_from) * (100 - abs(lane.busy) if lane.busy < 0 else lane.busy), 100)
    if lane.busy < 0:
        hits[:] = [False] * n
    for _ in range(floor(wanted + Fraction(1, 2))):

        def nearest(i: int) -> int:
            return min((abs(i - j + turn) for j in range(n) if hits[j] for turn in (-n, 0, n)), default=n)

        best = min(levels[i] for i in choose_from)
        far = max(nearest(i) for i in choose_from if levels[i] == best)
        first = min(i for i in choose_from if levels[i] == best and nearest(i) == far)
        hits[first] = True
        choose_from.remove(first)


def _later(steps: list[Step], hits: list[bool], by: int) -> list[bool]:
    def came_from(at: int) -> bool:
        return 0 <= at - by < len(steps) and steps[at - by].run == steps[at].run and hits[at - by]

    return [came_from(at) for at in range(len(steps))]


def ordinals(steps: list[Step], hits: list[bool], per_cycle: bool) -> list[int]:
    """Return of each step how many hits came before it since its run, or its cycle, began."""
    counted, before, now = [], 0, None
    for step, hit in zip(steps, hits, strict=True):
        group = (step.run, step.cycle) if per_cycle else step.run
        if group != now:
            before, now = 0, group
        counted.append(before)
        before += hit
    return counted


def _thin(steps: list[Step], hits: list[bool], thin: Thin, per_cycle: bool) -> list[bool]:
    before = ordinals(steps, hits, per_cycle or thin.each_cycle)
    counted = [(count + 1 - thin.first) % thin.every == 0 for count in before]
    return [hit and (count == (thin.keeps == "only")) for hit, count in zip(hits, counted, strict=True)]


def _replies(steps: list[Step], hits: list[bool], every: int, per_cycle: bool) -> list[bool]:
    before = ordinals(steps, hits, per_cycle)
    at = [index for index, hit in enumerate(hits) if hit]
    answered = [False] * len(steps)
    for a, b in pairwise(at):
        if steps[a].run == steps[b].run and (before[a] + 1) % every == 0 and b > a + 1:
            answered[(a + b) // 2] = True
    return answered
