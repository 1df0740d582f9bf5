"""Whatever is combined, the engine plays what the definitions say, walked step by step."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lattice.document import (
    BarRestart,
    Drawn,
    Echo,
    Edit,
    Euclidean,
    Once,
    Reply,
    Rests,
    StepRange,
    StepValue,
    Thin,
)
from lattice.steps.lane_steps import steps_of_lanes
from lattice.units import ticks
from tests.lattice.scores import dice, lane, score, scores
from tests.lattice.walking import walk

WALKED = 700


@given(scores(min_lanes=1), dice)
@settings(max_examples=60)
def test_every_lane_plays_what_its_definition_walks(score, dice):
    score = score.model_copy(
        update={"lanes": tuple(one.model_copy(update={"luck_bars": None}) for one in score.lanes)}
    )
    for one, lane_steps in zip(score.lanes, steps_of_lanes(score, dice), strict=True):
        steps = walk(score, dice, one, WALKED)
        counts = np.arange(WALKED)
        assert lane_steps.clock.starts(counts).tolist() == [ticks(step.at) for step in steps]
        assert lane_steps.clock.cycle_and_place(counts)[0].tolist() == [step.cycle for step in steps]
        assert lane_steps.clock.cycle_and_place(counts)[1].tolist() == [step.place for step in steps]
        assert lane_steps.numbers(counts).tolist() == [step.number for step in steps]
        assert lane_steps.hits(0, WALKED).tolist() == [step.hit for step in steps]


@given(scores(min_lanes=1), dice, st.integers(0, 10**7), st.integers(0, 300), st.integers(1, 300))
def test_any_stretch_agrees_with_a_longer_one(score, dice, first, before, length):
    for lane_steps in steps_of_lanes(score, dice):
        long = lane_steps.hits(first, first + before + length)
        assert (lane_steps.hits(first + before, first + before + length) == long[before:]).all()


@given(scores(min_lanes=1), st.integers(0, 10**9))
def test_the_first_step_at_a_tick_is_the_first(score, tick):
    for lane_steps in steps_of_lanes(score, 1):
        count = lane_steps.clock.first_at(tick)
        around = np.arange(max(0, count - 1), count + 1)
        starts = lane_steps.clock.starts(around).tolist()
        assert starts[-1] >= tick
        assert all(start < tick for start in starts[:-1])


def text(*lanes, steps=16, of=-1, **fields):
    hits = steps_of_lanes(score(*lanes, **fields), 7081)[of].hits(0, steps)
    return "".join("x" if hit else "." for hit in hits)


FIVE = lane("chain", source=Drawn(steps=16, hits=(0, 3, 6, 9, 12)))


def made(source, **fields):
    return lane("bottle", source=source, **fields)


@pytest.mark.parametrize(
    ("follower", "expected"),
    [
        (made(Rests(of="chain")), ".xx.xx.xx.xx.xxx"),
        (made(Rests(of="chain"), complement=True), "x..x..x..x..x..."),
        # nothing is heard from before the start
        (made(Echo(of="chain", shift=2)), "..x..x..x..x..x."),
        (made(Echo(of="chain", shift=5)), ".....x..x..x..x."),
        # midway to the next hit: 0-3, 3-6, ... and 12-16
        (made(Reply(of="chain")), ".x..x..x..x...x."),
        (made(Reply(of="chain", every=2)), "....x.....x....."),
        # its own turns follow
        (made(Rests(of="chain"), thin=Thin(every=3)), ".x...x....x...x."),
        (made(Rests(of="chain"), rotate=1), "..xx.xx.xx.xx.xx"),
        (made(Rests(of="chain"), edits=(Edit(step=0, hit=True),)), "xxx.xx.xx.xx.xxx"),
    ],
)
def test_a_lane_made_from_another_follows_it(follower, expected):
    assert text(FIVE, follower) == expected


def test_what_is_made_follows_turns_and_edits_but_not_chance_and_mute():
    turned = FIVE.model_copy(
        update={"rotate": 1, "edits": (Edit(step=0, hit=True),), "chance_percent": 0, "mute": True}
    )
    assert text(turned) == "xx..x..x..x..x.."
    assert text(turned, made(Rests(of="chain"))) == "..xx.xx.xx.xx.xx"


def test_lanes_may_follow_lanes_that_follow():
    third = lane("clink", source=Echo(of="bottle", shift=1))
    assert text(FIVE, made(Rests(of="chain")), third) == "." + ".xx.xx.xx.xx.xxx"[:15]


def test_a_reply_does_not_cross_a_restart():
    restarting = FIVE.model_copy(
        update={"source": Drawn(steps=12, hits=(0, 6)), "restart": BarRestart(bars=1)}
    )
    assert text(restarting, made(Reply(of="chain")), steps=32) == "...x.....x......" * 2
    assert text(restarting, made(Echo(of="chain", shift=5)), steps=32) == ".....x.....x...." * 2


@pytest.mark.parametrize(
    ("fields", "numbers"),
    [
        ({}, "01234567 01234567"),
        ({"direction": "backward"}, "76543210 76543210"),
        ({"direction": "to-and-fro"}, "01234567654321 01"),
        ({"direction": "to-and-fro-twice"}, "0123456776543210"),
        ({"step_range": StepRange(first=2, last=4)}, "234 234 234 234 234 2"),
        # over the end of the cycle
        ({"step_range": StepRange(first=6, last=1)}, "6701 6701 6701 6701"),
        ({"step_range": StepRange(first=2, last=4), "direction": "to-and-fro"}, "2343 2343 2343 2343"),
        # a range beyond the cycle lies dormant
        ({"step_range": StepRange(first=5, last=100)}, "567 567 567 567 567 5"),
    ],
)
def test_the_direction_reads_the_range(fields, numbers):
    (lane_steps,) = steps_of_lanes(score(lane(source=Euclidean(hits=3, steps=8), **fields)), 1)
    assert "".join(map(str, lane_steps.numbers(np.arange(16)).tolist())) == numbers.replace(" ", "")


@given(dice, st.integers(1, 40))
def test_a_shuffled_cycle_plays_each_step_once_and_a_new_order_each_time(dice, steps):
    (lane_steps,) = steps_of_lanes(
        score(lane(source=Euclidean(hits=1, steps=steps), direction="shuffled")), dice
    )
    orders = lane_steps.numbers(np.arange(20 * steps)).reshape(20, steps)
    assert (np.sort(orders, axis=1) == np.arange(steps)).all()
    if steps > 8:
        assert len({tuple(order) for order in orders.tolist()}) == 20


@given(dice, st.integers(2, 40))
def test_a_wandering_lane_goes_one_step_at_a_time_and_turns_back_at_its_ends(dice, steps):
    (lane_steps,) = steps_of_lanes(
        score(lane(source=Euclidean(hits=1, steps=steps), direction="wander")), dice
    )
    orders = lane_steps.numbers(np.arange(20 * steps)).reshape(20, steps)
    assert (orders[:, 0] == 0).all()
    assert (np.abs(np.diff(orders, axis=1)) == 1).all()


def test_a_random_lane_plays_every_step_about_as_often():
    (lane_steps,) = steps_of_lanes(score(lane(source=Euclidean(hits=1, steps=8), direction="random")), 3)
    counts = np.bincount(lane_steps.numbers(np.arange(8000)), minlength=8)
    assert ((counts - 1000) ** 2 / 1000).sum() < 33  # chi squared, 7 degrees: one in 40,000


@pytest.mark.parametrize("direction", ["shuffled", "random", "wander"])
def test_luck_that_repeats_gives_the_same_bars_again(direction):
    """A cycle that fits a bar, under dice that repeat every two: bars 3 and 4 are bars 1 and 2."""
    lucky = lane(
        source=Euclidean(hits=7, steps=16), direction=direction, luck_bars=2, step_value=StepValue(note=16)
    )
    (lane_steps,) = steps_of_lanes(score(lucky), 11)
    numbers = lane_steps.numbers(np.arange(96)).reshape(3, 32)
    assert (numbers[0] == numbers[1]).all()
    assert (numbers[0] == numbers[2]).all()


def test_a_one_shot_plays_its_range_once_in_each_pass():
    once = lane(source=Euclidean(hits=4, steps=4), once=Once(count=3, note=8))
    (lane_steps,) = steps_of_lanes(score(once, bars=2), 1)
    begins = 3 * 6720
    assert lane_steps.clock.starts(np.arange(8)).tolist() == [
        pass_ * 2 * 53760 + begins + step * 3360 for pass_ in range(2) for step in range(4)
    ]


def test_a_one_shot_begins_no_step_after_its_pass():
    late = lane(source=Euclidean(hits=4, steps=4), once=Once(count=15, note=16))
    (lane_steps,) = steps_of_lanes(score(late, bars=1), 1)
    assert lane_steps.clock.starts(np.arange(2)).tolist() == [15 * 3360, 53760 + 15 * 3360]
