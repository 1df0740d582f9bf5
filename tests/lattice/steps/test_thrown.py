from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.steps.thrown import moved, thrown

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


@given(
    st.integers(1, 128).flatmap(lambda steps: st.tuples(st.sets(st.integers(0, steps - 1)), st.just(steps))),
    st.integers(0, 100),
    throws,
)
def test_a_share_of_the_hits_moves_and_their_count_stays(rhythm, percent, throw):
    hits, steps = rhythm
    placed = moved(sorted(hits), steps, percent, throw, "bell")
    assert list(placed) == sorted(set(placed))
    assert len(placed) == len(hits)
    assert all(0 <= step < steps for step in placed)
    half_up = int(percent * len(hits) / 100 + 0.5)
    assert len(hits - set(placed)) == min(half_up, steps - len(hits))


def test_a_throw_by_nothing_moves_nothing_and_by_half_moves_half():
    eight = tuple(range(0, 32, 4))
    assert moved(eight, 32, 0, 7, "bell") == eight
    assert len(set(eight) & set(moved(eight, 32, 50, 7, "bell"))) == 4


def test_every_hit_moves_about_as_often_and_to_every_rest_as_often():
    left, came = Counter(), Counter()
    for throw in range(1, 3001):
        placed = set(moved((0, 4, 8, 12), 16, 25, throw, "gull"))
        left.update({0, 4, 8, 12} - placed)
        came.update(placed - {0, 4, 8, 12})
    assert sum((left[step] - 750) ** 2 / 750 for step in (0, 4, 8, 12)) < 21  # 3 degrees: one in 10,000
    assert sum((came[step] - 250) ** 2 / 250 for step in came) < 37  # 11 degrees
    assert len(came) == 12


def test_a_percentage_beyond_100_is_refused():
    with pytest.raises(ValueError, match="got 101"):
        moved((0,), 4, 101, 1, "bell")
