import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from lattice.document import Euclidean, Lane, StepValue
from lattice.document.movement import CONTROLS, Movement
from lattice.edits.movement import smoothed, thinned, thinned_lane, with_movement
from tests.lattice.moves import BAR, movements
from tests.lattice.render.test_movements import light, moves, rows
from tests.lattice.scores import dice, lane, score, scores


@given(scores(min_lanes=1), dice, st.data())
def test_fewer_points_play_the_same_notes(asked, its_dice, data):
    drawn = data.draw(movements(CONTROLS, Lane, most=3))
    first = asked.lanes[0].model_copy(update={"movements": drawn})
    there = asked.model_copy(update={"lanes": (first, *asked.lanes[1:])})
    assume(light(there))
    fewer = first.model_copy(update={"movements": thinned_lane(there, first.id)})
    thin = there.model_copy(update={"lanes": (fewer, *asked.lanes[1:])})
    assert rows(thin, 4, its_dice=its_dice) == rows(there, 4, its_dice=its_dice)
    assert all(
        len(now.points) <= len(was.points) for now, was in zip(fewer.movements, first.movements, strict=True)
    )


def test_a_hand_that_moves_between_steps_leaves_one_point_a_step():
    fast = moves("velocity", *((at * 100, 1 + at % 100) for at in range(120)))
    hat = lane("hiss", voice="hiss", source=Euclidean(hits=1, steps=1), movements=(fast,))
    fewer = thinned(score(hat), hat, fast)
    assert [point.tick for point in fewer.points] == [0, 3300, 6700, 10000, 11900]


def test_what_says_again_what_holds_is_left_out():
    same = moves("busy", (0, 5), (BAR, 5), (2 * BAR, 6), loop_bars=4)
    thud = lane("thud", movements=(same,))
    assert [point.tick for point in thinned(score(thud), thud, same).points] == [0, 2 * BAR]


def test_smoothing_keeps_the_ends_and_leaves_words_alone():
    row = moves("chance_percent", (0, 100), (10, 0), (20, 100), (30, 0))
    assert [point.value for point in smoothed(row).points] == [100, 50, 50, 0]
    words = moves("direction", (0, "forward"), (10, "backward"))
    assert smoothed(words) == words
    steps = moves("step_value", (0, StepValue()), (10, StepValue(note=8)))
    assert smoothed(steps) == steps


@pytest.mark.parametrize("new", [None, moves("busy", (3, 3))])
def test_a_movement_is_exchanged_added_or_taken_out(new):
    known: tuple[Movement, ...] = (moves("busy", (0, 1)), moves("pan", (0, 1)))
    left = with_movement(known, "busy", new)
    assert [one.control for one in left] == (["busy", "pan"] if new else ["pan"])
    assert with_movement((), "busy", new) == ((new,) if new else ())
