"""The measures of many patterns beside one, over the first bars of a pass."""

from collections import defaultdict
from collections.abc import Hashable, Mapping, Sequence
from dataclasses import replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.around.ways import Fields
from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.document.source import Made
from lattice.steps.lane_steps import LaneSteps, steps_of_lanes
from lattice.steps.measured_steps import measured_steps
from lattice.steps.measures import MEASURED_BARS, evenness_of_rows, syncopation_of_rows
from lattice.steps.muting import silent_lanes
from lattice.steps.source_hits import turned_hits
from lattice.steps.strip_values import own_values
from lattice.units import TICKS_PER_QUARTER, Ticks

__all__ = ["Measured", "measured"]

Hits = NDArray[np.bool_]
Shares = NDArray[np.float64]


class Measured(NamedTuple):
    """A column an entry a pattern. *heard*: the same for patterns that are heard as the same.

    *hits_a_bar*; *syncopation* and *evenness* (0-1), means over the lanes weighted by their hits; *distance*: hits a
    bar that moved, came or went.
    """

    hits_a_bar: Shares
    syncopation: Shares
    evenness: Shares
    distance: Shares
    heard: list[Hashable]


class _Lane(NamedTuple):
    """What one lane adds to each of many patterns."""

    hits: Ticks
    syncopation: Shares
    evenness: Shares
    differing: Ticks
    heard: list[Hashable]


def measured(score: Score, changes: Sequence[Mapping[str, Fields]]) -> Measured:
    """Return the measures of *score* after each of *changes*: the fields that change, by lane id.

    Hits are onsets before chance, by no dice. Raises DocumentError if a lane has too many steps.
    """
    bars = min(score.bars, MEASURED_BARS)
    end = bars * score.meter.bar_ticks
    made = _MadeLines(score, changes)
    lanes = [_lane(score, lane_steps, changes, end, made) for lane_steps in steps_of_lanes(score, 0)]
    none = np.zeros(len(changes))
    hits = sum((lane.hits for lane in lanes), none)
    over = np.maximum(hits, 1)
    return Measured(
        hits_a_bar=hits / bars,
        syncopation=sum((lane.hits * lane.syncopation for lane in lanes), none) / over,
        evenness=np.where(hits > 0, sum((lane.hits * lane.evenness for lane in lanes), none) / over, 1.0),
        distance=sum((lane.differing for lane in lanes), none) / bars,
        heard=list(zip(*(lane.heard for lane in lanes), strict=True)),
    )


class _MadeLines:
    """The played steps of all lanes in each of many patterns; lanes made from others share theirs."""

    def __init__(self, score: Score, changes: Sequence[Mapping[str, Fields]]) -> None:
        self._score = score
        self._changes = changes
        self._known: dict[int, dict[str, LaneSteps]] = {}

    def lane_steps(self, at: int, lane_id: str) -> LaneSteps:
        """Return the played steps of a lane in the pattern at *place*."""
        if at not in self._known:
            change = self._changes[at]
            lanes = tuple(
                lane.model_copy(update=dict(change[lane.id])) if lane.id in change else lane
                for lane in self._score.lanes
            )
            all_lane_steps = steps_of_lanes(self._score.model_copy(update={"lanes": lanes}), 0)
            self._known[at] = {lane_steps.lane.id: lane_steps for lane_steps in all_lane_steps}
        return self._known[at][lane_id]


def _lane(
    score: Score, lane_steps: LaneSteps, changes: Sequence[Mapping[str, Fields]], end: int, made: _MadeLines
) -> _Lane:
    """Return what the lane of *lane_steps* adds, worked out once for all patterns in which it is the same."""
    which, variants = _variants(score, lane_steps, changes, made)
    is_unheard = _is_unheard(score, lane_steps.lane)
    start = _onsets(lane_steps, end)
    hits = np.zeros(len(variants), np.int64)
    differing = np.zeros(len(variants), np.int64)
    syncopation, evenness = np.zeros(len(variants)), np.ones(len(variants))
    heard: list[Hashable] = [None] * len(variants)
    for members in _by_clock(variants).values():
        first = variants[members[0]]
        counts, cycle = _counts(first, end)
        within = first.clock.first_at(end)
        starts = first.clock.starts(counts[:within])
        rows = _played([variants[one] for one in members], counts)
        here = rows[:, :within]
        at = np.array(members)
        hits[at] = here.sum(axis=1)
        both = here[:, np.isin(starts, start)].sum(axis=1)
        differing[at] = np.maximum(hits[at], start.size) - both
        smallest = max(1, int(first.clock.step * TICKS_PER_QUARTER))
        syncopation[at] = syncopation_of_rows(here, starts, end, score.meter, smallest)
        evenness[at] = evenness_of_rows(rows[:, :cycle])
        if is_unheard:
            continue
        numbers = first.numbers(counts[:within])
        for one, row, packed in zip(members, here, np.packbits(here, axis=1), strict=True):
            heard[one] = _heard(variants[one], numbers[row], packed.tobytes())
    return _Lane(
        hits[which], syncopation[which], evenness[which], differing[which], [heard[one] for one in which]
    )


def _variants(
    score: Score, lane_steps: LaneSteps, changes: Sequence[Mapping[str, Fields]], made: _MadeLines
) -> tuple[Ticks, list[LaneSteps]]:
    """Return the variants of a lane, each once, and which of them it is in each pattern."""
    known: dict[Hashable, int] = {}
    variants: list[LaneSteps] = []
    which = np.zeros(len(changes), np.int64)
    followed = _followed(score, lane_steps.lane)
    for at, change in enumerate(changes):
        changed = tuple(tuple(change[one.id].items()) if one.id in change else () for one in followed)
        if changed not in known:
            known[changed] = len(variants)
            if len(followed) > 1:
                variants.append(made.lane_steps(at, lane_steps.lane.id))
            else:
                fields = dict(changed[0])
                lane = lane_steps.lane.model_copy(update=fields)
                variants.append(
                    replace(lane_steps.laid, lane=lane).by(lane_steps.dice) if fields else lane_steps
                )
        which[at] = known[changed]
    return which, variants


def _followed(score: Score, lane: Lane) -> tuple[Lane, ...]:
    """Return the lane, and those from which it is made, one from the other."""
    if not isinstance(lane.source, Made):
        return (lane,)
    return (lane, *_followed(score, score.lane(lane.source.of)))


def _by_clock(variants: Sequence[LaneSteps]) -> dict[int, list[int]]:
    """Return the places of the variants, by how many steps they have: those run on the same clock."""
    groups: dict[int, list[int]] = defaultdict(list)
    for at, variant in enumerate(variants):
        groups[variant.steps].append(at)
    return groups


def _counts(lane_steps: LaneSteps, end: int) -> tuple[Ticks, int]:
    """Return the counts of the steps up to *end*, and of the first cycle at least; and how many that has."""
    within = measured_steps(lane_steps, end)
    cycle = min(lane_steps.clock.cycle, lane_steps.clock.per_run or lane_steps.clock.cycle)
    return np.arange(max(within, cycle)), cycle


def _onsets(lane_steps: LaneSteps, end: int) -> Ticks:
    counts = np.arange(_counts(lane_steps, end)[0].size)
    hits = lane_steps.hits(0, counts.size)[: lane_steps.clock.first_at(end)]
    return lane_steps.clock.starts(np.flatnonzero(hits))


def _played(variants: Sequence[LaneSteps], counts: Ticks) -> Hits:
    """Return which steps of those counts are hits, a row a variant; all of them run on the same clock."""
    first = variants[0].lane
    if isinstance(first.source, Made) or first.thin:
        return np.array([variant.hits(0, counts.size) for variant in variants])
    by_number = np.zeros((len(variants), variants[0].steps), bool)
    for row, variant in zip(by_number, variants, strict=True):
        row[list(turned_hits(variant.lane, variant.steps, variant.ranks if variant.lane.busy else ()))] = True
    for edit in first.edits:  # no way touches them
        if edit.step < by_number.shape[1]:
            by_number[:, edit.step] = edit.hit
    return by_number[:, variants[0].numbers(counts)]


def _heard(lane_steps: LaneSteps, struck: Ticks, hits: bytes) -> Hashable:
    """Return what is the same for variants of a lane that sound alike: steps, hits, how hard they are struck.

    *struck*: the step numbers of its hits, in the order of time.
    """
    lane, strip = lane_steps.lane, lane_steps.lane.velocity_strip
    if strip and strip.free:
        velocities = strip.values
    else:
        plain = np.broadcast_to(lane_steps.velocities, lane_steps.steps)
        velocities = tuple(own_values(strip, lane_steps.steps, plain)[struck].tolist())
    is_accented = lane.accent is not None and set(velocities) - {lane.accent.velocity}
    return lane_steps.steps, hits, velocities, lane.accent if is_accented else None


def _is_unheard(score: Score, lane: Lane) -> bool:
    """Return whether nothing that the lane plays is heard, by itself or through a lane that plays its notes."""
    return lane.id in silent_lanes(score.lanes) and not any(
        lane.id in one.reads and one.reading(lane.id) == "arpeggio" for one in score.lanes
    )
