from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import Drawn, Edit, Euclidean, Lane, Meter, Rests, Thin, read
from lattice.document.problems import DocumentError
from lattice.steps.busy import busier, metrical_ranks
from lattice.steps.lane_steps import steps_of_lanes
from tests.lattice.scores import lane, meters, score

SIXTEENTHS = metrical_ranks(16, Fraction(1, 4), Meter())
BACKBEAT = (4, 12)


@st.composite
def cycles(draw: st.DrawFn) -> tuple[tuple[int, ...], tuple[int, ...]]:
    """Any hits of a cycle, and how strong its steps are."""
    steps = draw(st.integers(1, 32))
    hits = tuple(sorted(draw(st.sets(st.integers(0, steps - 1)))))
    step = draw(st.fractions("1/16", 2, max_denominator=16))
    return hits, metrical_ranks(steps, step, draw(meters))


@given(cycle=cycles(), less=st.integers(-100, 100), more=st.integers(-100, 100))
def test_more_takes_no_hit_away_and_less_adds_none(cycle, less, more):
    hits, ranks = cycle
    less, more = sorted((less, more))
    assert set(busier(hits, ranks, less)) <= set(busier(hits, ranks, more))


@given(cycle=cycles(), busy=st.integers(-100, 100))
def test_as_many_stay_or_come_as_asked_for(cycle, busy):
    hits, ranks = cycle
    rests = len(ranks) - len(hits)
    stay = len(hits) * Fraction(100 + busy, 100) if busy < 0 else len(hits)
    come = max(0, rests * Fraction(busy, 100))
    assert len(busier(hits, ranks, busy)) == (2 * stay + 1) // 2 + (2 * come + 1) // 2


@given(cycle=cycles())
def test_all_the_way_down_is_silence_all_the_way_up_every_step_and_the_middle_as_it_was(cycle):
    hits, ranks = cycle
    assert busier(hits, ranks, -100) == ()
    assert busier(hits, ranks, 100) == tuple(range(len(ranks)))
    assert busier(hits, ranks, 0) == hits


def test_a_backbeat_is_filled_from_the_strong_places_to_the_weak():
    assert busier(BACKBEAT, SIXTEENTHS, 7) == (0, 4, 12)  # one of 14 rests: the bar line
    assert busier(BACKBEAT, SIXTEENTHS, 14) == (0, 4, 8, 12)
    assert busier(BACKBEAT, SIXTEENTHS, 42) == (0, 2, 4, 6, 8, 10, 12, 14)
    assert busier(BACKBEAT, SIXTEENTHS, -50) == (4,)  # of two quarters as strong the earlier


def test_of_places_as_strong_the_one_furthest_from_what_is_there_comes_first():
    # All are as strong: beside steps 1 and 2 the middle of the rest.
    assert busier((0, 1), (0,) * 8, 17) == (0, 1, 4)


@pytest.mark.parametrize("busy", [-101, 101])
def test_more_than_all_is_refused(busy):
    with pytest.raises(ValueError, match="-100 to 100"):
        busier((0,), (0,), busy)


@given(
    turns=st.fixed_dictionaries({"rotate": st.integers(-8, 8), "complement": st.booleans()}),
    busy=st.integers(-100, 100),
)
def test_it_follows_the_complement_and_comes_before_hand_edits(turns, busy):
    source = Euclidean(hits=5, steps=16)
    plain = steps_of_lanes(score(lane(source=source, **turns)), 1)[0].rule_hits
    edited = lane(source=source, **turns, busy=busy, edits=(Edit(step=3, hit=True),))
    lane_steps = steps_of_lanes(score(edited), 1)[0]
    assert lane_steps.rule_hits == busier(plain, SIXTEENTHS, busy)
    assert lane_steps.hits(0, 16)[3]


def test_thinning_counts_the_hits_that_it_leaves():
    busy = lane(source=Drawn(steps=16, hits=BACKBEAT), busy=14, thin=Thin(every=2, first=1))
    assert steps_of_lanes(score(busy), 1)[0].hits(0, 16).nonzero()[0].tolist() == [0, 8]


def test_a_lane_made_from_another_follows_and_has_none_of_its_own():
    thud = lane("thud", source=Drawn(steps=16, hits=BACKBEAT), busy=14)
    rests = lane("bell", source=Rests(of="thud"))
    assert steps_of_lanes(score(thud, rests), 1)[1].hits(0, 16).sum() == 12
    with pytest.raises(DocumentError, match=r"Bell.*busy.*make that busier"):
        read(Lane, rests.model_dump(mode="json") | {"busy": 1})
