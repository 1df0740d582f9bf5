"""Swing: each pair of notes is stretched in its first half. The rule is in `lattice.steps.groove`."""

from fractions import Fraction

from lattice.render.feel import Feel
from lattice.render.stages.stage import Reading, Round, Stage
from lattice.steps.groove import swing_unit
from lattice.steps.lane_steps import LaneSteps

__all__ = ["SWING_STAGE", "swung_by"]


def swung_by(lane_steps: LaneSteps, feel: Feel) -> Fraction:
    """Return by how many quarters at most swing makes a step later, or longer."""
    return (swing_unit(lane_steps.clock.step, feel.swing) or Fraction(0)) / 2


def _repeats(reading: Reading) -> Round:
    """Pairs are counted from each bar line."""
    lane_steps = reading.lane_steps
    unit = swing_unit(lane_steps.clock.step, reading.feel.swing)
    if unit is None:
        return Round()
    pair, bar = 2 * unit, lane_steps.frame.meter.bar_quarters
    return Round(bar_quarters=(bar if bar % pair else pair,))


SWING_STAGE = Stage(
    "swing", frozenset({"swing"}), late=swung_by, repeats=_repeats, widest_at_most=("swing.percent",)
)
