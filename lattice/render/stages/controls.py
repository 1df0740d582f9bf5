"""What control strips send: the rule is in `lattice.render.controls`."""

from lattice.render.stages.stage import Stage, strip_rounds
from lattice.steps.strip_luck import is_strip_lucky

__all__ = ["CONTROL_STAGE"]

CONTROL_STAGE = Stage(
    "controls",
    frozenset({"control_strips", "glide_ms"}),
    repeats=lambda reading: strip_rounds(reading.lane_steps, *reading.lane_steps.lane.control_strips),
    is_silenced_by_luck=lambda lane_steps: any(map(is_strip_lucky, lane_steps.lane.control_strips)),
)
