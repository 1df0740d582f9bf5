"""Nudge: steps earlier or later, in % of a straight step."""

from fractions import Fraction

from lattice.document.strip import NUDGE
from lattice.render.feel import Feel
from lattice.render.stages.stage import Stage, strip_rounds
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.step_window import StepWindow
from lattice.steps.strip_luck import is_strip_lucky
from lattice.steps.strip_values import extent, values_at, with_spread
from lattice.units import Ticks

__all__ = ["NUDGE_STAGE", "nudges_of"]


def nudges_of(step_window: StepWindow) -> Ticks:
    """Return how much later each step is, in % of a straight step."""
    strip = step_window.lane_steps.lane.nudge_strip
    return with_spread(values_at(strip, NUDGE, step_window, 0), strip, NUDGE, step_window)


def _early(lane_steps: LaneSteps, _feel: Feel) -> Fraction:
    return lane_steps.clock.step * max(0, -extent(lane_steps.lane.nudge_strip, NUDGE, 0).low) / 100


def _late(lane_steps: LaneSteps, _feel: Feel) -> Fraction:
    return lane_steps.clock.step * max(0, extent(lane_steps.lane.nudge_strip, NUDGE, 0).high) / 100


NUDGE_STAGE = Stage(
    "nudge",
    frozenset({"nudge_strip"}),
    early=_early,
    late=_late,
    repeats=lambda reading: strip_rounds(reading.lane_steps, reading.lane_steps.lane.nudge_strip),
    is_moved_by_luck=lambda lane_steps: is_strip_lucky(lane_steps.lane.nudge_strip),
)
