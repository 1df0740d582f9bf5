from hypothesis import given
from hypothesis import strategies as st

from lattice.steps.turns import complement, rotate
from tests.lattice.lane_fields import drawn


@given(drawn, st.integers(-127, 127), st.integers(-127, 127))
def test_turns_add_up(source, one, other):
    turned = rotate(rotate(source.hits, source.steps, one), source.steps, other)
    assert turned == rotate(source.hits, source.steps, one + other)


@given(drawn)
def test_hits_and_rests_make_the_whole_cycle(source):
    rests = complement(source.hits, source.steps)
    assert sorted([*source.hits, *rests]) == list(range(source.steps))
    assert complement(rests, source.steps) == source.hits


def test_a_hit_that_leaves_at_the_end_comes_in_at_the_front():
    assert rotate((0, 3, 6), 8, 2) == (0, 2, 5)
    assert rotate((0, 3, 6), 8, -1) == (2, 5, 7)
