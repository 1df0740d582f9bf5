"""What a stage of the order of operations tells others of itself, declared beside its rule."""

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction

from lattice.render.feel import Feel
from lattice.steps.lane_steps import LaneSteps

__all__ = ["Stage"]

Bound = Callable[[LaneSteps, Feel], Fraction]


def _nothing(_line: LaneSteps, _feel: Feel) -> Fraction:
    return Fraction(0)


def _one(_line: LaneSteps) -> int:
    return 1


def _never(_line: LaneSteps) -> bool:
    return False


@dataclass(frozen=True)
class Stage:
    """One stage. *fields*: those of a lane that are its own; every field is one stage's.

    *early*, *late*: by how many quarters at most it moves the start of a note. *lasts*: how many quarters a note of it
    lasts at most, ties apart. *notes*: how many notes it makes of one at most.
    *is_moved_by_luck*: whether dice have a say in a lane's hits, times, velocities or pitches because of it;
    *is_silenced_by_luck*: whether they decide what sounds, or is sent.
    *widest_at_most*, *widest_at_least*: the controls that make its bounds widest at their greatest, or least, value.
    """

    name: str
    fields: frozenset[str]
    early: Bound = _nothing
    late: Bound = _nothing
    lasts: Bound = _nothing
    notes: Callable[[LaneSteps], int] = _one
    is_moved_by_luck: Callable[[LaneSteps], bool] = _never
    is_silenced_by_luck: Callable[[LaneSteps], bool] = _never
    widest_at_most: tuple[str, ...] = ()
    widest_at_least: tuple[str, ...] = ()
