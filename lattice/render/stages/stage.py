"""What a stage of the order of operations tells others of itself, declared beside its rule."""

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from functools import reduce
from math import lcm
from typing import NamedTuple, Self

from lattice.document.lane import Lane
from lattice.document.strip import Strip
from lattice.render.arpeggio import Heard
from lattice.render.feel import Feel
from lattice.render.pitch_context import PitchContext
from lattice.steps.direction import RANDOM_DIRECTIONS, cycle_length
from lattice.steps.lane_steps import LaneSteps

__all__ = ["NeverRepeatsError", "Reading", "Round", "Stage", "strip_rounds"]


class NeverRepeatsError(ValueError):
    """Luck decides something of a lane for ever. The message says what, after "never repeats: "."""


class Reading(NamedTuple):
    """What decides after how long a lane repeats. *tick*: when held keys, and what *heard* plays, are looked at."""

    lane_steps: LaneSteps
    feel: Feel
    context: PitchContext | None
    tick: int
    heard: Heard


@dataclass(frozen=True)
class Round:
    """After what a stage repeats: the least common multiple of so many played *steps*, counted *hits* and *cycles*.

    And of lengths in *quarters*, counted from the start, and in *bar_quarters*, counted from each bar line: a lane that
    restarts at bar lines restarts these too.
    """

    steps: int = 1
    hits: int = 1
    cycles: int = 1
    quarters: tuple[Fraction, ...] = ()
    bar_quarters: tuple[Fraction, ...] = ()

    def met(self, other: Self) -> Self:
        """Return after what both repeat."""
        return type(self)(
            lcm(self.steps, other.steps),
            lcm(self.hits, other.hits),
            lcm(self.cycles, other.cycles),
            self.quarters + other.quarters,
            self.bar_quarters + other.bar_quarters,
        )


def strip_rounds(lane_steps: LaneSteps, *strips: Strip | None) -> Round:
    """Return after what strips of a lane repeat. Raises NeverRepeatsError where luck orders one, for ever."""
    return reduce(Round.met, (_strip_round(lane_steps, strip) for strip in strips), Round())


def _strip_round(lane_steps: LaneSteps, strip: Strip | None) -> Round:
    free = strip.free if strip else None
    if strip is None or free is None:
        return Round()
    if free.direction in RANDOM_DIRECTIONS and not lane_steps.lane.luck_bars:
        raise NeverRepeatsError("luck decides the order of a strip")
    if free.direction == "random":  # each step draws for itself
        return Round()
    values = cycle_length(free.direction, len(strip.values))
    return Round(steps=values) if free.advance == "step" else Round(hits=values)


Bound = Callable[[LaneSteps, Feel], Fraction]


def _nothing(_line: LaneSteps, _feel: Feel) -> Fraction:
    return Fraction(0)


def _one(_line: LaneSteps) -> int:
    return 1


def _never(_line: LaneSteps) -> bool:
    return False


def _no_controls(_lane: Lane) -> frozenset[str]:
    return frozenset()


def _always(_reading: Reading) -> Round:
    return Round()


@dataclass(frozen=True)
class Stage:
    """One stage. *fields*: those of a lane that are its own; every field is one stage's.

    *early*, *late*: by how many quarters at most it moves the start of a note. *lasts*: how many quarters a note of it
    lasts at most, ties apart. *notes*: how many notes it makes of one at most.
    *repeats*: after what it does the same again, before chance; raises NeverRepeatsError where luck orders it for ever.
    *is_moved_by_luck*: whether dice have a say in a lane's hits, times, velocities or pitches because of it;
    *is_silenced_by_luck*: whether they decide what sounds, or is sent.
    *taken_by_step*: the controls of which each step of a lane takes its own value, so that moving them cuts no time;
    *of_the_sound*: those that say how, and whether, the built-in sound is heard, and nothing of which note begins when.
    *widest_at_most*, *widest_at_least*: the controls that make its bounds widest at their greatest, or least, value.
    """

    name: str
    fields: frozenset[str]
    early: Bound = _nothing
    late: Bound = _nothing
    lasts: Bound = _nothing
    notes: Callable[[LaneSteps], int] = _one
    repeats: Callable[[Reading], Round] = _always
    is_moved_by_luck: Callable[[LaneSteps], bool] = _never
    is_silenced_by_luck: Callable[[LaneSteps], bool] = _never
    taken_by_step: Callable[[Lane], frozenset[str]] = _no_controls
    of_the_sound: frozenset[str] = frozenset()
    widest_at_most: tuple[str, ...] = ()
    widest_at_least: tuple[str, ...] = ()
