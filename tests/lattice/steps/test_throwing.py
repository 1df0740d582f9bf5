import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import DocumentError, Drawn, Euclidean, Lane, Rests, Thrown, read
from lattice.steps.source_hits import source_hits
from lattice.steps.throwing import throw_all, throw_lane
from tests.lattice.scores import lane, lanes_called, score

throws = st.integers(1, 999_999)


def thrown(lane: Lane, percent: int, throw: int) -> Lane:
    source = throw_lane(lane, percent, throw)
    return read(Lane, lane.model_dump(mode="json") | {"source": source.model_dump(mode="json")})


@given(lanes_called("bell"), st.integers(0, 100), throws)
def test_a_throw_keeps_the_count_of_hits(lane, percent, throw):
    lane = lane.model_copy(update={"anchored": False})
    before, after = (source_hits(one.source, "bell") for one in (lane, thrown(lane, percent, throw)))
    assert len(after) == len(before)
    half_up = (2 * percent * len(before) + 100) // 200
    assert len(set(before) - set(after)) == min(half_up, lane.source.steps - len(before))


def test_a_computed_lane_becomes_thrown_and_knows_the_way_back():
    five = lane(source=Euclidean(hits=5, steps=16))
    once = thrown(five, 40, 7)
    assert isinstance(once.source, Thrown)
    assert once.source.was == five.source
    twice = thrown(once, 40, 8)
    assert twice.source.was == five.source
    assert twice.source.moved.of.hits == source_hits(once.source, "thud")


def test_a_drawn_lane_stays_drawn():
    assert isinstance(throw_lane(lane(source=Drawn(steps=8, hits=(0, 4))), 100, 3), Drawn)


def test_a_partial_throw_lies_dormant_while_it_does_not_fit():
    once = thrown(lane(source=Euclidean(hits=5, steps=16)), 40, 7).source
    six = once.model_copy(update={"hits": 6})
    assert len(source_hits(six, "thud")) == 6
    assert source_hits(six.model_copy(update={"hits": 5}), "thud") == source_hits(once, "thud")


def test_an_anchored_lane_is_not_thrown():
    with pytest.raises(DocumentError, match="lane “Thud”, anchored: it is anchored"):
        throw_lane(lane(anchored=True), 50, 1)


def test_a_follower_is_not_thrown_but_follows():
    follower = lane("bottle", source=Rests(of="thud"))
    with pytest.raises(DocumentError, match="lane “Bottle”, source: it follows another lane"):
        throw_lane(follower, 50, 1)


def test_all_lanes_are_thrown_but_the_anchored_and_those_that_follow():
    lanes = (
        lane("thud"),
        lane("chain", anchored=True),
        lane("bottle", source=Rests(of="thud")),
        lane("bell"),
    )
    sources = throw_all(score(*lanes), 100, 5)
    assert set(sources) == {"thud", "bell"}
    assert source_hits(sources["thud"], "thud") != source_hits(sources["bell"], "bell")


@pytest.mark.parametrize(
    ("hits", "percent", "leave"), [(2, 25, 1), (2, 24, 0), (7, 50, 4), (7, 20, 1), (5, 30, 2)]
)
def test_a_half_of_a_hit_moves_and_less_does_not(hits, percent, leave):
    before = tuple(range(hits))
    after = source_hits(throw_lane(lane(source=Drawn(steps=16, hits=before)), percent, 11), "thud")
    assert len(set(before) - set(after)) == leave
