"""What is drawn agrees with what sounds."""

import pytest
from hypothesis import given

from lattice.document import Drawn, Edit, Euclidean, StepValue, Thin
from lattice.render import Window, picture, render
from tests.lattice.scores import dice, lane, score, scores


@given(scores(), dice)
def test_every_event_is_drawn_as_a_sounding_hit(score, dice):
    window = Window(first_bar=3, bars=2)
    drawn, events = picture(score, dice, window), render(score, dice, window)
    assert drawn.events.starts == events.starts.tolist()
    shown = {
        (index, one.starts[step])
        for index, one in enumerate(drawn.lanes)
        for step, sounds in zip(one.hits, one.sounds, strict=True)
        if sounds and not one.silent
    }
    assert set(zip(drawn.events.lanes, drawn.events.starts, strict=True)) <= shown


@given(scores(), dice)
def test_columns_of_a_lane_belong_together(score, dice):
    drawn = picture(score, dice, Window(first_bar=1, bars=2)).lanes
    for asked, one in zip(score.lanes, drawn, strict=True):
        assert len(one.starts) == len(one.places)
        assert {len(column) for column in (one.sounds, one.velocities, one.lengths, one.chances)} == {
            len(one.hits)
        }
        assert one.starts == sorted(one.starts)
        assert all(place < one.steps for place in one.places)
        if not asked.thin or asked.thin.each_cycle:  # otherwise each cycle has other hits
            assert {one.places[step] for step in one.hits} <= set(one.cycle_hits)
        assert one.cycle_starts == [
            start for start, place in zip(one.starts, one.places, strict=True) if place == 0
        ]


def test_the_meeting_is_given_in_bars_and_where_it_falls():
    sixteen, seven = lane("thud"), lane("bell", source=Euclidean(hits=3, steps=7))
    met = picture(score(sixteen, seven), 1, Window(bars=8)).meeting
    assert met.says == "all meet again after 7 bars"
    assert met.at == [0, 7 * 53760]


def test_one_lane_comes_round_and_none_say_nothing():
    assert picture(score(lane()), 1, Window(bars=1)).meeting.says == "comes round after 1 bar"
    assert picture(score(), 1, Window(bars=1)).meeting.says == ""


def test_a_lane_carries_its_cycle_and_its_sentence():
    turned = lane(source=Drawn(steps=5, hits=(0,)), rotate=2, step_value=StepValue(note=8))
    (one,) = picture(score(turned), 1, Window(bars=2)).lanes
    assert (one.steps, one.cycle_hits, one.cycle_ticks) == (5, [2], 5 * 6720)
    assert one.comes_round == "5/8 bar"
    assert [part.setting for part in one.sentence.parts] == ["source", "rotate", "step value"]


@given(scores())
def test_a_step_of_a_drawn_lane_says_which_drawn_step_it_shows(score):
    plain = {"thin": None, "edits": (), "complement": False}
    score = score.model_copy(update={"lanes": tuple(one.model_copy(update=plain) for one in score.lanes)})
    for one, shown in zip(score.lanes, picture(score, 1, Window(bars=1)).lanes, strict=True):
        if isinstance(one.source, Drawn):
            assert [
                step for step, drawn in enumerate(shown.draws) if drawn in one.source.hits
            ] == shown.cycle_hits
        else:
            assert shown.draws == []


@pytest.mark.parametrize(
    "turn", [{"complement": True}, {"thin": Thin()}, {"edits": (Edit(step=0, hit=True),)}], ids=str
)
def test_where_a_drawn_step_is_not_what_is_heard_a_touch_is_a_hand_edit(turn):
    turned = lane(source=Drawn(steps=5, hits=(0, 2)), **turn)
    (shown,) = picture(score(turned), 1, Window(bars=1)).lanes
    assert shown.draws == []
