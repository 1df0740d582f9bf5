import numpy as np
from hypothesis import given

from lattice.document import (
    ChanceStrip,
    CycleRule,
    Drawn,
    Echo,
    Free,
    Lane,
    Link,
    Once,
    Score,
    StepRange,
    StepRule,
    StepValue,
    Thin,
    read,
)
from lattice.document.source import MAX_STEPS
from lattice.document.strip_places import strips_of
from lattice.render.events import render
from lattice.render.window import Window
from lattice.steps.lane_steps import steps_of_lanes
from lattice.steps.settle import settled
from lattice.steps.step_window import StepWindow
from lattice.steps.strip_values import plain_of, values_at
from tests.lattice.lane_fields import on_grounds
from tests.lattice.scores import dice, lane, score, scores


def drawn(score: Score, index: int, dice: int = 1) -> Lane:
    lane_steps = steps_of_lanes(score, dice)[index]
    return read(Lane, lane_steps.lane.model_dump(mode="json") | settled(lane_steps))


@given(scores(min_lanes=1), dice)
def test_a_lane_settled_plays_as_before_where_one_drawn_cycle_can_hold_it(score, dice):
    for index, lane_steps in enumerate(steps_of_lanes(score, dice)):
        lane = drawn(score, index, dice)
        assert isinstance(lane.source, Drawn)
        lanes = (*score.lanes[:index], lane, *score.lanes[index + 1 :])
        (after,) = (
            one
            for one in steps_of_lanes(
                read(Score, score.model_copy(update={"lanes": lanes}).model_dump(mode="json")), dice
            )
            if one.lane.id == lane.id
        )
        assert after.clock.step == lane_steps.clock.step
        whole = lane_steps.clock_lane.lane.span is not None or lane_steps.clock_lane.lane.once is not None
        if (
            lane_steps.is_random
            or lane_steps.hit_cycle.lead
            or (lane_steps.clock_lane.lane.span and lane_steps.clock.cycle != lane_steps.steps)
        ):
            continue  # drawn by the numbers of the steps, or silent at its very start
        comes_round = (
            lane_steps.clock.cycle
            if whole or lane_steps.hit_cycle.period > MAX_STEPS
            else lane_steps.hit_cycle.period
        )
        if comes_round > MAX_STEPS:
            continue  # there and back over more than a drawn cycle holds
        counts = (
            400
            if comes_round == lane_steps.hit_cycle.period
            else min(lane_steps.clock.cycle, lane_steps.clock.per_run or MAX_STEPS)
        )
        assert (after.hits(0, counts) == lane_steps.hits(0, counts)).all()
        for was, now in zip(strips_of(lane_steps.lane), strips_of(lane), strict=True):
            if lane_steps.ground and was.name == "velocity" and was.present.free:
                continue  # its gaps were the ground's, step by step, which no row of its own length can say
            before = values_at(
                was.strip, was.kind, StepWindow(lane_steps, 0, counts), plain_of(was, lane_steps)
            )
            afterwards = values_at(now.strip, now.kind, StepWindow(after, 0, counts), plain_of(now, after))
            assert (afterwards == before).all()
        assert (after.clock.starts(np.arange(counts)) == lane_steps.clock.starts(np.arange(counts))).all()


def test_a_count_along_the_run_is_drawn_as_long_as_it_takes_to_repeat():
    one = drawn(score(lane(source=Drawn(steps=8, hits=(0, 3, 6)), thin=Thin(every=2))), 0)
    assert (one.source.steps, one.source.hits, one.thin) == (16, (0, 6, 11), None)


def test_a_range_read_backward_is_drawn_as_it_is_played():
    one = drawn(
        score(
            lane(
                source=Drawn(steps=8, hits=(2, 3)),
                step_range=StepRange(first=2, last=5),
                direction="backward",
            )
        ),
        0,
    )
    assert (one.source.steps, one.source.hits, one.direction, one.step_range) == (4, (2, 3), "forward", None)


def test_a_follower_takes_the_clock_that_it_ran_on():
    clock_lane = lane("chain", source=Drawn(steps=6, hits=(0,)), step_value=StepValue(note=8))
    one = drawn(score(clock_lane, lane("bottle", source=Echo(of="chain", shift=8))), 1)
    assert (one.source.steps, one.source.hits) == (6, (2,))
    assert one.step_value == StepValue(note=8)


def test_a_lane_that_sounds_once_is_drawn_as_its_one_cycle():
    one = drawn(score(lane(source=Drawn(steps=5, hits=(0, 2)), thin=Thin(every=11), once=Once())), 0)
    assert (one.source.steps, one.source.hits) == (5, (0,))


def test_what_belongs_to_steps_goes_where_the_steps_are_played():
    rule = CycleRule()
    one = drawn(
        score(
            lane(
                source=Drawn(steps=8, hits=(2, 3)),
                direction="backward",
                chance_strip=ChanceStrip(values=(40, None, None, None, None, None, 70)),
                links=(Link(step=1), Link(step=2, letter="b")),
                step_rules=(StepRule(step=7, rule=rule),),
            )
        ),
        0,
    )
    assert one.chance_strip.values == (None, 70, None, None, None, None, None, 40)
    assert one.links == (Link(step=5, letter="b"), Link(step=6))
    assert one.step_rules == (StepRule(step=0, rule=rule),)


def test_a_strip_of_its_own_length_stays_as_it_is():
    free = ChanceStrip(values=(40, 70, 20), free=Free(advance="hit"))
    one = drawn(score(lane(source=Drawn(steps=8, hits=(2, 3)), direction="backward", chance_strip=free)), 0)
    assert one.chance_strip == free


@given(source=on_grounds)
def test_a_lane_settled_off_a_ground_is_struck_as_hard_as_there(source):
    on = lane(source=source, velocity=80, evened=30)
    off = read(Lane, on.model_dump(mode="json") | settled(steps_of_lanes(score(on), 1)[0]))
    was, now = (render(score(one), 1, Window(bars=8)) for one in (on, off))
    assert isinstance(off.source, Drawn)
    assert (was.starts.tolist(), was.velocities.tolist()) == (now.starts.tolist(), now.velocities.tolist())
