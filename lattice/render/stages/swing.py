"""Swing: each pair of notes is stretched in its first half. The rule is in `lattice.steps.groove`."""

from fractions import Fraction

from lattice.render.feel import Feel
from lattice.render.stages.stage import Stage
from lattice.steps.groove import swing_unit
from lattice.steps.lane_steps import LaneSteps

__all__ = ["SWING_STAGE", "swung_by"]


def swung_by(line: LaneSteps, feel: Feel) -> Fraction:
    """Return by how many quarters at most swing makes a step later, or longer."""
    return (swing_unit(line.clock.step, feel.swing) or Fraction(0)) / 2


SWING_STAGE = Stage("swing", frozenset({"swing"}), late=swung_by, widest_at_most=("swing.percent",))
