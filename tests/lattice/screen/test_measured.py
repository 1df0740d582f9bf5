import pytest
from hypothesis import given

from lattice.document import DocumentError, Drawn, Euclidean
from lattice.screen import Measures, measures
from lattice.steps.measures import MAX_MEASURED_STEPS
from tests.lattice.scores import dice, lane, score, scores


def test_a_lane_is_measured_by_its_hits_before_chance():
    told = measures(score(lane(chance_percent=10)), 1, "thud", score(lane()), 1)
    assert told.hits_a_bar == 4
    assert (told.syncopation, told.evenness, told.distance, told.pattern_distance) == (0, 1, 0, 0)


def test_the_distance_is_from_where_it_was():
    before = score(lane("thud"), lane("bell", source=Drawn(steps=16, hits=(0,))))
    after = score(lane("thud"), lane("bell", source=Drawn(steps=16, hits=(1,))))
    told = measures(after, 1, "bell", before, 1)
    assert told.distance == pytest.approx(2 / 16)
    assert told.pattern_distance == pytest.approx(2 / 32)


def test_a_lane_that_was_not_there_differs_by_all_its_hits():
    told = measures(score(lane("thud"), lane("bell")), 1, "bell", score(lane("thud")), 1)
    assert told.distance == pytest.approx(4 / 16)


def test_a_drifting_lane_is_measured_over_the_bars_of_a_pass():
    told = measures(score(lane(source=Euclidean(hits=3, steps=7)), bars=7), 1, "thud", score(), 1)
    assert told.hits_a_bar == pytest.approx(48 / 7)


@given(scores(min_lanes=1), scores(), dice)
def test_every_measure_lies_in_its_range(here, there, dice):
    for one in here.lanes:
        if isinstance(told := measures_or_refusal(here, dice, one.id, there), Measures):
            assert told.hits_a_bar >= 0
            for share in (told.syncopation, told.evenness, told.distance, told.pattern_distance):
                assert 0 <= share <= 1
        else:
            assert f"{MAX_MEASURED_STEPS:,} is the most" in told


def measures_or_refusal(here, dice, lane_id, there):
    try:
        return measures(here, dice, lane_id, there, dice)
    except DocumentError as error:
        return str(error)
