from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.rhythm.thrown import thrown

throws = st.integers(1, 999_999)


@given(st.integers(1, 128).flatmap(lambda steps: st.tuples(st.integers(0, steps), st.just(steps))), throws)
def test_a_throw_has_its_hits_on_its_steps(count, throw):
    hits, steps = count
    placed = thrown(hits, steps, throw, "bell")
    assert (len(placed), list(placed)) == (hits, sorted(set(placed)))
    assert all(0 <= step < steps for step in placed)


@given(throws)
def test_a_throw_stays_as_it_is(throw):
    assert thrown(5, 16, throw, "bell") == thrown(5, 16, throw, "bell")


def test_another_throw_and_another_lane_fall_otherwise():
    assert len({thrown(8, 16, throw, "bell") for throw in range(1, 50)}) > 45
    assert thrown(8, 16, 1, "bell") != thrown(8, 16, 1, "rope")


def test_every_step_is_hit_about_as_often():
    falls = Counter(step for throw in range(1, 4001) for step in thrown(4, 16, throw, "gull"))
    assert (
        sum((falls[step] - 1000) ** 2 / 1000 for step in range(16)) < 45
    )  # chi squared, 15 degrees: one in 10,000


def test_more_hits_than_steps_are_refused():
    with pytest.raises(ValueError, match="hits=6, steps=5"):
        thrown(6, 5, 1, "bell")
