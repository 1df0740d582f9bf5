from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.steps.euclidean import euclidean

counts = st.integers(1, 128).flatmap(lambda steps: st.tuples(st.integers(1, steps), st.just(steps)))


def text(hits: int, steps: int) -> str:
    taken = euclidean(hits, steps)
    return "".join("x" if step in taken else "." for step in range(steps))


# Toussaint, "The Euclidean Algorithm Generates Traditional Musical Rhythms" (2005), section 4.
@pytest.mark.parametrize(
    "published",
    [
        "x.",
        "x.x",
        "x.x..",
        "x.xx",
        "x.x.x",
        "x.x.x..",
        "x..x..x.",
        "x.x.x.x",
        "x.x.x.x..",
        "x..x..x..x.",
        "x.xxxx",
        "x.xx.xx",
        "x.xx.xx.",
        "x.x.x.x.x",
        "x.x.x.x.x..",
        "x..x.x..x.x.",
        "x..x..x..x..x...",
        "x.xxxxxx",
        "x.xx.x.xx.x.",
        "x..x.x.x..x.x.x.",
        "x.xx.x.x.xx.x.x.",
        "x..x.x.x.x.x..x.x.x.x.x.",
        "x.xx.x.x.x.x.xx.x.x.x.x.",
    ],
)
def test_published_rhythms(published):
    assert text(published.count("x"), len(published)) == published


@pytest.mark.parametrize(
    ("hits", "steps", "expected"), [(5, 6, "x.xxxx"), (6, 8, "x.xxx.xx"), (2, 5, "x.x..")]
)
def test_dealing_stops_when_one_remainder_group_is_left(hits, steps, expected):
    assert text(hits, steps) == expected


@given(counts)
def test_all_hits_are_dealt_the_first_on_the_first_step(count):
    hits, steps = count
    dealt = euclidean(hits, steps)
    assert (len(dealt), dealt[0], list(dealt)) == (hits, 0, sorted(set(dealt)))


@given(counts)
def test_gaps_between_hits_are_as_even_as_they_can_be(count):
    hits, steps = count
    dealt = euclidean(hits, steps)
    gaps = {later - earlier for earlier, later in pairwise([*dealt, dealt[0] + steps])}
    assert gaps <= {steps // hits, -(-steps // hits)}


def test_no_hits_are_silence():
    assert euclidean(0, 5) == ()


@pytest.mark.parametrize(("hits", "steps"), [(6, 5), (-1, 5), (0, 0)])
def test_what_cannot_be_dealt_is_refused_with_its_values(hits, steps):
    with pytest.raises(ValueError, match=f"hits={hits}, steps={steps}"):
        euclidean(hits, steps)
