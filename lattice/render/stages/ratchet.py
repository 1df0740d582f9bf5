"""Ratchets: a step divided into equal notes."""

from fractions import Fraction

from lattice.document.strip import RATCHET
from lattice.render.feel import Feel
from lattice.render.stages.stage import Stage, strip_rounds
from lattice.render.stages.swing import swung_by
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.step_window import StepWindow
from lattice.steps.strip_luck import is_strip_lucky
from lattice.steps.strip_values import extent, values_at, with_spread
from lattice.units import Ticks

__all__ = ["RATCHET_STAGE", "ratchets_of"]


def ratchets_of(step_window: StepWindow) -> Ticks:
    """Return into how many notes each step is divided, if it is a hit."""
    strip = step_window.lane_steps.lane.ratchet_strip
    return with_spread(values_at(strip, RATCHET, step_window, 1), strip, RATCHET, step_window)


def _most(lane_steps: LaneSteps) -> int:
    return extent(lane_steps.lane.ratchet_strip, RATCHET, 1).high


def _late(lane_steps: LaneSteps, feel: Feel) -> Fraction:
    """The last note begins before the swung step ends."""
    return lane_steps.clock.step + swung_by(lane_steps, feel) if _most(lane_steps) > 1 else Fraction(0)


RATCHET_STAGE = Stage(
    "ratchet",
    frozenset({"ratchet_strip"}),
    late=_late,
    notes=_most,
    repeats=lambda reading: strip_rounds(reading.lane_steps, reading.lane_steps.lane.ratchet_strip),
    is_moved_by_luck=lambda lane_steps: is_strip_lucky(lane_steps.lane.ratchet_strip),
)
