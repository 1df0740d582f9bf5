from hypothesis import assume, given
from hypothesis import strategies as st

from lattice.document import Euclidean, Meter, StepValue, Swing
from lattice.document.movement import Movement, Point
from lattice.order.switching import SWITCHES, switch
from lattice.render import Window, render
from tests.lattice.scores import dice, is_light, lane, score, scores

BAR, BEAT, SIXTEENTH = 53760, 13440, 3360
FOUR = Meter()
NAMES = ("starts", "lengths", "pitches", "velocities")


@given(scores(), dice, st.integers(0, 40 * BAR), st.sampled_from(SWITCHES), st.integers(0, 9 * BAR))
def test_a_switch_is_never_before_it_was_asked_for_and_soon_after(asked, its_dice, tick, at, began):
    place = switch(asked, its_dice, tick, at, "carry on", began, FOUR)
    longest = {"beat": asked.meter.beat_quarters * BEAT, "bar": asked.meter.bar_ticks}
    longest |= {"pass": asked.bars * asked.meter.bar_ticks, "once": 2 * asked.meter.bar_ticks}
    assert tick <= place.tick <= tick + longest[at]
    unit = {"once": 1, "beat": BEAT}.get(at, BAR)
    assert place.from_tick % unit == 0
    assert 0 <= began + place.tick - place.from_tick < unit  # never from before play was pressed
    assert switch(asked, its_dice, tick, at, "begin", began, FOUR).from_tick == 0


def test_at_once_is_the_next_step_of_the_finest_lane_with_its_swing():
    hat = lane("hiss", voice="hiss", source=Euclidean(hits=1, steps=5))
    slow = lane("thud", step_value=StepValue(note=4))
    swung = score(slow, hat, swing=Swing(percent=75))
    assert switch(swung, 1, 1, "once", "begin", 0, FOUR).tick == SIXTEENTH * 3 // 2
    muted = score(slow, hat.model_copy(update={"mute": True}))
    assert switch(muted, 1, 1, "once", "begin", 0, FOUR).tick == BEAT
    assert switch(score(), 1, 1, "once", "begin", 0, FOUR).tick == 1


def test_at_once_goes_by_lanes_as_movements_make_them_then():
    """Beside a lane that is moved from 64ths to four bars, the next half note comes first; without it, nothing near does."""
    points = (Point(tick=0, value=StepValue(note=1, multiplier=4)),)
    slowed = lane(
        "thud", step_value=StepValue(note=64), movements=(Movement(control="step_value", points=points),)
    )
    halves = lane("bell", step_value=StepValue(note=2))
    assert switch(score(slowed, halves), 1, BEAT + 1, "once", "begin", 0, FOUR).tick == 2 * BEAT
    assert switch(score(slowed), 1, BEAT + 1, "once", "begin", 0, FOUR).tick == BEAT + 1
    muting = Movement(control="mute", points=(Point(tick=0, value="muted"),))
    muted = lane("hiss", step_value=StepValue(note=32), movements=(muting,))
    assert switch(score(muted, halves), 1, BEAT + 1, "once", "begin", 0, FOUR).tick == 2 * BEAT


def test_beats_bars_and_passes_are_the_leaving_pattern_s():
    sevens = score(lane("thud"), meter=Meter(numerator=7, denominator=8), bars=3)
    found = {at: switch(sevens, 1, 1, at, "begin", 0, FOUR).tick for at in SWITCHES}
    assert found == {"once": SIXTEENTH, "beat": BEAT // 2, "bar": 7 * BEAT // 2, "pass": 21 * BEAT // 2}


def test_a_bar_line_stays_one_where_what_plays_was_begun_in_the_middle_of_a_bar():
    began = 2 * BAR + 3 * SIXTEENTH
    places = {at: switch(score(), 1, BAR - 1, at, "carry on", began, FOUR) for at in SWITCHES}
    assert places["bar"] == (BAR, 3 * BAR)
    assert places["beat"] == (BAR, 3 * BAR)
    assert places["once"] == (BAR - 1, 3 * BAR + 3 * SIXTEENTH - 1)
    sevens = Meter(numerator=7, denominator=8)
    assert switch(score(), 1, 1, "bar", "carry on", 0, sevens) == (BAR, sevens.bar_ticks)


@given(scores(min_lanes=1), dice, st.sampled_from(SWITCHES), st.integers(0, 2 * BAR))
def test_carrying_on_is_never_having_switched_for_what_is_the_same(asked, its_dice, at, tick):
    assume(is_light(asked, bars=40))
    other = asked.model_copy(update={"lanes": (*asked.lanes, lane("newcomer", channel=16))})
    place = switch(asked, its_dice, tick, at, "carry on", 0, asked.meter)
    assume(place.tick < 4 * asked.meter.bar_ticks)

    def rows(one, first: int, end: int) -> list[tuple[int, ...]]:
        events = render(one, its_dice, Window(bars=5))
        mine = events.take(
            (events.starts >= first) & (events.starts < end) & (events.lanes < len(asked.lanes))
        )
        return list(zip(*(getattr(mine, name).tolist() for name in NAMES), strict=True))

    assume(not any(one.solo for one in asked.lanes))
    end = 5 * asked.meter.bar_ticks
    assert rows(asked, 0, place.tick) + rows(other, place.from_tick, end) == rows(asked, 0, end)
