import pytest

from lattice.document import DocumentError, StepValue
from lattice.steps.lane_steps import steps_of_lane
from lattice.steps.measured_steps import measured_steps
from tests.lattice.scores import lane, score

QUARTER = 13440
SHORT = score(lane("clink", step_value=StepValue(note=64, divisor=10)))  # 160 steps a quarter


def test_every_step_that_begins_before_the_end_is_measured():
    assert measured_steps(steps_of_lane(SHORT, 1, "clink"), 625 * QUARTER) == 100_000


def test_a_lane_of_too_many_steps_is_refused_with_how_many():
    with pytest.raises(DocumentError, match=r"lane “Clink”: it has 100,001 steps .* 100,000 is the most"):
        measured_steps(steps_of_lane(SHORT, 1, "clink"), 625 * QUARTER + 1)
