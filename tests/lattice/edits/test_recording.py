import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from lattice.document import Lane, StepValue
from lattice.document.movement import CONTROLS, Point
from lattice.edits.recording import HandMove, after_hand
from lattice.steps.moving import value_at
from tests.lattice.moves import BAR, movements
from tests.lattice.render.test_movements import moves


def after(lane: str | None = "thud", **hand: object) -> list[tuple[int, object]]:
    movement = after_hand(HandMove(lane=lane, **hand), BAR)
    return [tuple(point) for point in movement.points]


ticks = st.lists(st.integers(0, 6 * BAR), min_size=1, max_size=12, unique=True).map(sorted)


@given(movements({"velocity": CONTROLS["velocity"]}, Lane, most=1), ticks)
def test_what_was_recorded_is_what_plays_from_there_to_the_last_point(drawn, at):
    movement = drawn[0] if drawn else None
    points = [Point(tick, 1 + place) for place, tick in enumerate(at)]
    made = after_hand(
        HandMove(
            lane="thud", control="velocity", was=127, now=points[-1].value, movement=movement, points=points
        ),
        BAR,
    )
    rounds = (made.loop_bars or 10**6) * BAR
    for point in points:
        if point.tick > at[-1] - rounds:  # later rounds of a loop are laid over earlier ones
            assert value_at(made, point.tick + (rounds if made.loop_bars else 0), BAR) == point.value
    for other in movement.points if movement else ():
        if made.loop_bars is None and not at[0] <= other.tick <= at[-1]:
            assert value_at(made, other.tick, BAR) == other.value


def test_a_control_that_nothing_moved_begins_with_what_it_had():
    assert after(control="velocity", was=90, now=50, points=[(700, 60), (800, 50)]) == [
        (0, 90), (700, 60), (800, 50),
    ]  # fmt: skip


def test_what_is_recorded_while_a_movement_loops_is_heard_in_the_next_round():
    looped = moves("velocity", (0, 10), (BAR // 2, 20), loop_bars=1)
    hand = {"control": "velocity", "was": 90, "now": 50, "movement": looped}
    assert after(**hand, points=[(8 * BAR + 100, 50)]) == [(0, 10), (100, 50), (BAR // 2, 20)]
    # Over the end of a round: what lies before and after it is replaced.
    over = [(9 * BAR - 10, 1), (9 * BAR + 10, 2)]
    assert after(**hand, points=over) == [(10, 2), (BAR // 2, 20), (BAR - 10, 1)]


def test_a_movement_that_was_off_plays_once_it_is_recorded_over():
    off = moves("velocity", (0, 10), off=True)
    assert after_hand(
        HandMove(lane="thud", control="velocity", was=9, now=8, movement=off, points=[(5, 8)]), BAR
    ) == moves("velocity", (0, 10), (5, 8))


def test_a_movement_goes_along_with_its_control_as_far_as_that_goes():
    row = moves("chance_percent", (0, 95), (10, 5))
    assert after(control="chance_percent", was=40, now=50, movement=row) == [(0, 100), (10, 15)]
    words = moves("direction", (0, "forward"), (10, "backward"))
    assert (
        after_hand(
            HandMove(lane="thud", control="direction", was="forward", now="random", movement=words), BAR
        )
        == words
    )
    steps = moves("step_value", (0, StepValue()))
    hand = HandMove(lane="thud", control="step_value", was=StepValue(), now=StepValue(note=8), movement=steps)
    assert after_hand(hand, BAR) == steps
    assert after_hand(HandMove(lane="thud", control="velocity", was=1, now=2), BAR) is None


def test_a_hand_that_mutes_takes_over_from_the_movement():
    row = moves("mute", (0, "on"), (10, "muted"))
    hand = HandMove(lane="thud", control="mute", was="on", now="muted", movement=row)
    assert after_hand(hand, BAR) == moves("mute", (0, "on"), (10, "muted"), off=True)


def test_of_the_pattern_it_is_the_patterns_controls_that_move():
    row = moves("swing.percent", (0, 60))
    assert after(None, control="swing.percent", was=50, now=70, movement=row) == [(0, 75)]


@pytest.mark.parametrize(
    ("hand", "refusal"),
    [
        ({"control": "velocity", "was": 90, "now": 50, "points": [(5, 128)]}, "from 1 to 127, got 128"),
        ({"control": "nothing", "was": 1, "now": 2}, "no control 'nothing'"),
        (
            {"control": "velocity", "was": 1, "now": 2, "movement": moves("pan", (0, 1))},
            "the movement is of 'pan', the hand moved 'velocity'",
        ),
        ({"lane": None, "control": "velocity", "was": 1, "now": 2}, "no control 'velocity'"),
    ],
)
def test_what_a_control_cannot_have_is_refused(hand, refusal):
    with pytest.raises(ValidationError, match=refusal):
        after(**{"lane": "thud", **hand})


def test_points_out_of_order_are_refused():
    with pytest.raises(ValueError, match="order of time"):
        HandMove(lane="thud", control="velocity", was=1, now=2, points=[(5, 1), (4, 2)])
