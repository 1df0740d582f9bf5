"""What control strips send: at steps where the value changes, or afresh at every hit."""

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st

from lattice.document import ControlStrip, Drawn, Euclidean, Free, Lane, LaneSwing, Spread
from lattice.document.movement import CONTROLS, Movement, Point
from lattice.document.strip import STRIPS
from lattice.render.controls import controls_of
from lattice.render.pipeline import play_all
from lattice.render.window import Window
from tests.lattice.lane_fields import strips
from tests.lattice.scores import dice, is_light, lane, lanes_called, score
from tests.lattice.walking import walk

STEP = 3360
SIXTEEN = Euclidean(hits=16, steps=16)


def sent(one, bars=1, first=0, dice=1, **fields):
    whole = score(one, **fields)
    window = Window(first_bar=first, bars=bars)
    return controls_of(whole, window, play_all(whole, dice, window))


def rows(controls):
    return list(zip(controls.ticks.tolist(), controls.values.tolist(), strict=True))


def test_a_value_is_sent_where_it_changes_whether_or_not_the_step_sounds():
    strip = ControlStrip(controller=74, values=(10, 10, None, 20, *(None,) * 11, 20))
    silent = lane(source=Drawn(steps=16, hits=()), control_strips=(strip,))
    found = sent(silent, 2)
    assert rows(found.sends) == [(0, 10), (3 * STEP, 20), (16 * STEP, 10), (19 * STEP, 20)]
    assert rows(found.held) == []
    assert set(found.sends.controllers.tolist()) == {74}
    assert set(found.sends.channels.tolist()) == {10}


def test_what_is_held_is_told_where_a_window_begins():
    strip = ControlStrip(controller=1, values=(10, *(None,) * 14, 90))
    assert rows(sent(lane(source=SIXTEEN, control_strips=(strip,)), first=3).held) == [(3 * 53760, 90)]


def test_a_lane_that_a_movement_mutes_sends_nothing_there():
    """And once it is heard again, the value that it has by then."""
    strip = ControlStrip(controller=74, values=tuple(range(16)))
    heard, muted = CONTROLS["mute"].words
    points = (Point(tick=4 * STEP, value=muted), Point(tick=12 * STEP, value=heard))
    moved = lane(control_strips=(strip,), movements=(Movement(control="mute", points=points),))
    assert rows(sent(moved).sends) == [(step * STEP, step) for step in (0, 1, 2, 3, 12, 13, 14, 15)]


def test_with_spread_it_is_drawn_and_sent_at_every_hit():
    strip = ControlStrip(controller=1, values=(64,), free=Free(), spread=Spread(by=30, high=70))
    four = lane(source=Euclidean(hits=4, steps=16), control_strips=(strip,), channel=3)
    found = sent(four, 8).sends
    assert found.ticks.tolist() == [number * 4 * STEP for number in range(32)]
    assert len(set(found.values.tolist())) > 8
    assert (found.values >= 34).all()
    assert (found.values <= 70).all()
    assert set(found.channels.tolist()) == {3}


def test_controllers_of_one_lane_have_luck_of_their_own():
    both = [
        ControlStrip(controller=number, values=(64,), free=Free(), spread=Spread(by=60)) for number in (1, 2)
    ]
    found = sent(lane(source=SIXTEEN, control_strips=tuple(both)), 4).sends
    one, other = (found.values[found.controllers == number].tolist() for number in (1, 2))
    assert one != other


def test_values_are_sent_at_the_swung_time_and_silent_lanes_send_none():
    strip = ControlStrip(controller=74, values=(1, 2) * 8)
    swung = lane(source=SIXTEEN, swing=LaneSwing(percent=60), control_strips=(strip,))
    assert sent(swung).sends.ticks.tolist()[:3] == [0, 4032, 6720]
    assert len(sent(swung.model_copy(update={"mute": True})).sends.ticks) == 0


@st.composite
def controlled(draw):
    one = draw(lanes_called("bell"))
    fields = {"mute": False, "solo": False, "luck_bars": None, "bursts": (), "clip": None}
    strip = draw(strips(ControlStrip, STRIPS["control"], controller=st.just(74)))
    found = Lane(**(one.model_dump() | fields | {"control_strips": (strip.model_dump(),)}))
    assume(is_light(score(found)))
    return found


@given(controlled(), dice, st.integers(0, 3) | st.integers(0, 100_000), st.integers(1, 2), st.integers(1, 2))
def test_windows_join(one, dice, first, before, after):
    whole = sent(one, before + after, first, dice)
    parts = [sent(one, before, first, dice), sent(one, after, first + before, dice)]
    assert rows(whole.sends) == rows(parts[0].sends) + rows(parts[1].sends)
    told = rows(whole.held) + rows(parts[0].sends)
    assert [value for _, value in rows(parts[1].held)] == [value for _, value in told[-1:]]


@given(controlled(), dice)
def test_without_spread_and_its_own_length_the_walk_says_what_is_sent(one, dice):
    strip = one.control_strips[0].model_copy(update={"free": None, "spread": None})
    one = one.model_copy(update={"control_strips": (strip,), "swing": LaneSwing()})
    expected, last = [], None
    for step in walk(score(one), dice, one, 120):
        value = strip.values[step.number] if step.number < len(strip.values) else None
        tick = int(np.floor(float(step.at * 13440) + 0.5))
        if value is not None and value != last:
            expected.append((tick, value))
        last = last if value is None else value
    end = int(walk(score(one), dice, one, 120)[-1].at // 4)
    if end:
        found = rows(sent(one, end, dice=dice).sends)
        assert found == [row for row in expected if row[0] < end * 53760]


def test_what_is_held_is_found_however_long_nothing_was_sent():
    once = ControlStrip(controller=1, values=(None,) * 127 + (90,), free=Free(advance="hit"))
    slow = lane(source=Euclidean(hits=1, steps=128), control_strips=(once,))  # a hit in eight bars
    ((at, value),) = rows(sent(slow, first=128 * 8 + 200).held)
    assert (at, value) == ((128 * 8 + 200) * 53760, 90)
