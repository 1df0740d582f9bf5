"""One lane in a stretch of time: the steps it plays, and which of them sound."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from lattice.clock.course import Course
from lattice.clock.ticks import Ticks, ticks
from lattice.document.lane import Lane
from lattice.luck.chance import CERTAIN, sounds
from lattice.luck.draws import Purpose, draws
from lattice.rhythm.lane_line import LaneLine

__all__ = ["Played", "note_ticks", "play", "step_count"]

REMEMBERED_STEPS = 2048  # of a lane on a screen; longer stretches would take too much memory to keep


@dataclass(frozen=True, eq=False)  # known by what it is, not by comparing its columns
class Played:
    """Steps that begin in a stretch of time, column by column, in the order of time.

    *numbers*: each step's number in the lane; *starts*, *ends*: of its note, in ticks; *hit*: whether it is a hit;
    *chances*: how often it sounds, in 1/10,000; *sound*: whether the dice let it sound.
    """

    numbers: Ticks
    starts: Ticks
    ends: Ticks
    hit: NDArray[np.bool_]
    chances: Ticks
    sound: NDArray[np.bool_]


def note_ticks(lane: Lane, course: Course) -> int:
    """Return the length that no note of *lane* exceeds, in ticks."""
    return ticks(course.step * lane.length_percent / 100) + 1


def step_count(course: Course, first_tick: int, end_tick: int) -> int:
    """Return how many steps of a lane begin at or after *first_tick* and before *end_tick*."""
    return course.first_at(end_tick) - course.first_at(first_tick)


def play(line: LaneLine, first_tick: int, end_tick: int) -> Played:
    """Return the steps of a lane that begin at or after *first_tick* and before *end_tick*.

    Costs the same wherever the stretch lies: positions are computed, never stepped up to.
    """
    first, end = line.course.first_at(first_tick), line.course.first_at(end_tick)
    return _remembered(line, first, end) if end - first <= REMEMBERED_STEPS else _play(line, first, end)


@lru_cache(maxsize=256)
def _remembered(line: LaneLine, first: int, end: int) -> Played:
    return _play(line, first, end)


def _play(line: LaneLine, first: int, end: int) -> Played:
    lane, course = line.lane, line.course
    counts = np.arange(first, end, dtype=np.int64)
    numbers, hit = line.numbers(counts), line.hits(first, end)
    starts = course.starts(counts)
    ends = course.starts(counts, course.step * lane.length_percent / 100)
    chances = _chances(line)[numbers]
    return Played(
        numbers=numbers,
        starts=starts,
        ends=np.maximum(ends, starts + 1),
        hit=hit,
        chances=chances,
        sound=hit & _sounds(line, counts, chances),
    )


def _chances(line: LaneLine) -> Ticks:
    """Return the chance of each step number, in 1/10,000: the lane's times the step's own."""
    chances = np.full(line.steps, line.lane.chance_percent * 100)
    for chance in line.lane.step_chances:
        if chance.step < line.steps:
            chances[chance.step] = line.lane.chance_percent * chance.percent
    return chances


def _sounds(line: LaneLine, counts: Ticks, chances: Ticks) -> NDArray[np.bool_]:
    if not np.any((chances > 0) & (chances < CERTAIN)):
        return chances > 0
    keys = line.luck_keys(counts, *line.course.cycle_and_place(counts))
    return sounds(chances, draws(line.frame.dice, line.lane.id, Purpose.CHANCE, *keys))
