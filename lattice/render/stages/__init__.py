"""The order of operations: `STAGES`, each of which owns its facts, and what is folded over them.

Each declares beside its rule what others need to know of it (`lattice.render.stages.stage`); whoever needs a bound, a
size or whether luck matters asks here.
"""

from fractions import Fraction

from lattice.cache import MEGABYTE, cached
from lattice.document.lane import Lane
from lattice.render.feel import Feel
from lattice.render.stages.bursts import BURST_STAGE
from lattice.render.stages.chance import CHANCE_STAGE
from lattice.render.stages.controls import CONTROL_STAGE
from lattice.render.stages.hits import HITS_STAGE
from lattice.render.stages.humanise import HUMANISE_STAGE
from lattice.render.stages.length import LENGTH_STAGE
from lattice.render.stages.nudge import NUDGE_STAGE
from lattice.render.stages.pitch import PITCH_STAGE
from lattice.render.stages.ratchet import RATCHET_STAGE
from lattice.render.stages.stage import Stage
from lattice.render.stages.standing import SOUND_STAGE, STANDING_STAGE
from lattice.render.stages.swing import SWING_STAGE
from lattice.render.stages.velocity import ACCENT_STAGE, BEAT_WEIGHT_STAGE, EVENING_STAGE, VELOCITY_STAGE
from lattice.steps.lane_steps import LaneSteps
from lattice.units import TICKS_PER_QUARTER, ticks

__all__ = [
    "STAGES",
    "Stage",
    "earliest_and_latest",
    "is_decided_by_luck",
    "is_moved_by_luck",
    "longest_note",
    "of_the_sound",
    "taken_by_step",
]

STAGES = (
    HITS_STAGE,
    CHANCE_STAGE,
    PITCH_STAGE,
    SWING_STAGE,
    NUDGE_STAGE,
    HUMANISE_STAGE,
    RATCHET_STAGE,
    LENGTH_STAGE,
    VELOCITY_STAGE,
    ACCENT_STAGE,
    BEAT_WEIGHT_STAGE,
    EVENING_STAGE,
    BURST_STAGE,
    CONTROL_STAGE,
    SOUND_STAGE,
    STANDING_STAGE,
)


def earliest_and_latest(lane_steps: LaneSteps, feel: Feel) -> tuple[int, int]:
    """Return by how many ticks at most a note of the lane begins before, and after, its step's straight time."""
    return _furthest(lane_steps.laid, feel)


@cached(8 * MEGABYTE)
def _furthest(lane_steps: LaneSteps, feel: Feel) -> tuple[int, int]:
    early = sum((stage.early(lane_steps, feel) for stage in STAGES), Fraction(0))
    late = sum((stage.late(lane_steps, feel) for stage in STAGES), Fraction(0))
    return _ticks_up(early), _ticks_up(late)


def longest_note(lane_steps: LaneSteps, feel: Feel) -> int:
    """Return the length that no note of the lane exceeds, in ticks; notes that are tied apart."""
    return ticks(max(stage.lasts(lane_steps, feel) for stage in STAGES)) + 2  # both its ends are rounded


def is_moved_by_luck(lane_steps: LaneSteps) -> bool:
    """Return whether dice have a say in a lane's hits, times, velocities or pitches, not only in which sound."""
    return any(stage.is_moved_by_luck(lane_steps) for stage in STAGES)


def is_decided_by_luck(lane_steps: LaneSteps) -> bool:
    """Return whether dice have a say in what a lane plays, or sends."""
    return is_moved_by_luck(lane_steps) or any(stage.is_silenced_by_luck(lane_steps) for stage in STAGES)


def of_the_sound() -> frozenset[str]:
    """Return the controls that, moved, change nothing of which note begins when."""
    return frozenset().union(*(stage.of_the_sound for stage in STAGES))


def taken_by_step(lane: Lane) -> frozenset[str]:
    """Return the controls of which each step takes its own value; none where bursts, which are no steps, need them."""
    return frozenset() if lane.bursts else frozenset().union(*(stage.taken_by_step(lane) for stage in STAGES))


def _ticks_up(quarters: Fraction) -> int:
    return -int(-quarters * TICKS_PER_QUARTER // 1) + (1 if quarters else 0)
