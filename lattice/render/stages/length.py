"""Length: how much of its step a note lasts, or until the next hit."""

from fractions import Fraction

import numpy as np

from lattice.document.strip import LENGTH, TIED
from lattice.render.feel import Feel
from lattice.render.stages.stage import Stage, strip_rounds
from lattice.render.stages.swing import swung_by
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.moving import greatest_of
from lattice.steps.step_window import StepWindow
from lattice.steps.strip_luck import is_strip_lucky
from lattice.steps.strip_values import extent, values_or, with_spread
from lattice.units import Ticks

__all__ = ["LENGTH_STAGE", "MAX_TIE_BARS", "lengths_of", "may_tie"]

MAX_TIE_BARS = 64  # a note that is tied to a hit further off ends there

_PERCENT = 100


def lengths_of(step_window: StepWindow) -> Ticks:
    """Return how long the note of each step is, in % of a step; TIED where it lasts until the next hit."""
    lane = step_window.lane_steps.lane
    values = values_or(lane.length_strip, LENGTH, step_window, step_window.own("length_percent"))
    is_tied = (values == TIED) | (values > LENGTH.high)
    return np.where(is_tied, values, with_spread(values, lane.length_strip, LENGTH, step_window))


def may_tie(lane_steps: LaneSteps) -> bool:
    """Return whether a note of the lane may last until the next hit."""
    return lane_steps.lane.length_strip is not None and TIED in lane_steps.lane.length_strip.values


def _lasts(lane_steps: LaneSteps, feel: Feel) -> Fraction:
    lane = lane_steps.lane
    most = max([lane.length_percent, *greatest_of(lane, "length_percent")])
    if lane.length_strip:
        reached = extent(lane.length_strip, LENGTH, most).high
        # A note longer than the strip's own range stays as long as it is, whatever its spread.
        most = max([_PERCENT, reached, *(value for value in lane.length_strip.values if value is not None)])
    return (lane_steps.clock.step + swung_by(lane_steps, feel)) * most / _PERCENT


LENGTH_STAGE = Stage(
    "length",
    frozenset({"length_percent", "length_strip"}),
    lasts=_lasts,
    taken_by_step=lambda _lane: frozenset({"length_percent"}),
    repeats=lambda reading: strip_rounds(reading.lane_steps, reading.lane_steps.lane.length_strip),
    is_moved_by_luck=lambda lane_steps: is_strip_lucky(lane_steps.lane.length_strip),
)
