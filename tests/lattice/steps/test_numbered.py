from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.steps.numbered import number_of, numbered, ways

counts = st.integers(1, 128).flatmap(lambda steps: st.tuples(st.integers(0, steps), st.just(steps)))


@pytest.mark.parametrize(("hits", "steps"), [(0, 4), (1, 1), (3, 5), (4, 8), (7, 7)])
def test_numbers_run_through_all_ways_in_lexicographic_order(hits, steps):
    listed = list(combinations(range(steps), hits))
    assert [numbered(hits, steps, number) for number in range(ways(hits, steps))] == listed


@given(counts, st.integers(0, 10**39))
def test_a_number_and_its_rhythm_find_each_other(count, number):
    hits, steps = count
    placed = numbered(hits, steps, number)
    assert len(placed) == hits
    assert number_of(placed, steps) == number % ways(hits, steps)


def test_after_the_last_the_first_comes_again():
    assert numbered(5, 16, 4368) == numbered(5, 16, 0) == (0, 1, 2, 3, 4)
    assert numbered(5, 16, 4367) == (11, 12, 13, 14, 15)


@pytest.mark.parametrize(("hits", "steps", "number"), [(6, 5, 0), (-1, 5, 0), (2, 5, -1)])
def test_what_cannot_be_is_refused_with_its_values(hits, steps, number):
    with pytest.raises(ValueError, match=f"hits={hits}, steps={steps}, number={number}"):
        numbered(hits, steps, number)
