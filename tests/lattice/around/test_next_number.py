from itertools import combinations

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from lattice.around.next_number import next_number
from lattice.document import Meter
from lattice.steps.measures import evenness, syncopation
from lattice.steps.numbered import numbered

STEP = 3360


def measured(hits, steps, aim):
    if aim == "more even":
        return round(evenness(hits, steps), 9)
    return round(syncopation(np.array(hits) * STEP, steps * STEP, Meter(), STEP), 9)


@given(
    counts=st.integers(2, 9).flatmap(lambda steps: st.tuples(st.integers(1, steps), st.just(steps))),
    number=st.integers(0, 10**6),
    aim=st.sampled_from(["more even", "more syncopated"]),
)
def test_it_is_the_least_bit_more_of_all_that_have_one_hit_elsewhere(counts, number, aim):
    count, steps = counts
    hits = numbered(count, steps, number)
    now = measured(hits, steps, aim)
    near = [one for one in combinations(range(steps), count) if len(set(one) - set(hits)) == 1]
    more = [
        (measured(one, steps, aim), place)
        for place, one in enumerate(near)
        if measured(one, steps, aim) > now
    ]
    found = next_number(hits, steps, aim, Meter(), STEP)
    if not more:
        assert found is None
    else:
        # Listed in the order of their numbers: of equals the first.
        assert numbered(count, steps, found) == near[min(more)[1]]


def test_among_any_number_of_rhythms_it_is_found_at_once():
    hits = numbered(64, 128, 10**30)
    found = next_number(hits, 128, "more even", Meter(), 420)
    assert found is not None
    assert evenness(numbered(64, 128, found), 128) > evenness(hits, 128)


def test_as_even_as_can_be_has_no_next():
    assert next_number((0, 4, 8, 12), 16, "more even", Meter(), STEP) is None
    assert next_number((), 16, "more even", Meter(), STEP) is None
