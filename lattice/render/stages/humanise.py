"""Humanise: steps stray in time, and in velocity (see `lattice.render.stages.velocity`)."""

from fractions import Fraction

from lattice.luck.draws import Purpose
from lattice.render.feel import Feel
from lattice.render.stages.stage import Stage
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.step_window import StepWindow
from lattice.units import Ticks

__all__ = ["HUMANISE_STAGE", "deviations_in_time", "spread_quarters"]

_CUT = 2  # spreads: nothing strays further


def deviations_in_time(step_window: StepWindow) -> Ticks | None:
    """Return by how many spreads each step strays, in 1/2**53; None where none does."""
    humanise = step_window.lane_steps.lane.humanise
    return step_window.deviations(Purpose.DEVIATION_IN_TIME) if humanise and humanise.ms else None


def spread_quarters(lane_steps: LaneSteps, feel: Feel) -> Fraction:
    """Return one spread of time in quarters, by the exact tempo."""
    humanise = lane_steps.lane.humanise
    return Fraction(humanise.ms, 60_000) * feel.quarters_per_minute if humanise else Fraction(0)


def _strays(lane_steps: LaneSteps, feel: Feel) -> Fraction:
    return _CUT * spread_quarters(lane_steps, feel)


HUMANISE_STAGE = Stage(
    "humanise",
    frozenset({"humanise"}),
    early=_strays,
    late=_strays,
    is_moved_by_luck=lambda lane_steps: lane_steps.lane.humanise is not None,
    widest_at_most=("humanise.ms",),
)
