"""How many steps of a lane are measured."""

from lattice.document.problems import DocumentError
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.measures import MAX_MEASURED_STEPS

__all__ = ["measured_steps"]


def measured_steps(lane_steps: LaneSteps, end: int) -> int:
    """Return how many steps of *lane_steps* begin before tick *end*.

    Raises DocumentError if they are too many to be measured.
    """
    steps = lane_steps.clock.first_at(end)
    if steps > MAX_MEASURED_STEPS:
        message = f"it has {steps:,} steps in the bars that are measured, {MAX_MEASURED_STEPS:,} is the most"
        raise DocumentError.of("", message, lane=lane_steps.lane.name)
    return steps
