import numpy as np
from hypothesis import given, settings

from lattice.document import Drawn, Echo, Lane, Made, Score, StepRange, StepValue, Thin, read
from lattice.document.source import MAX_STEPS
from lattice.rhythm.lane_line import lines_of
from lattice.rhythm.settle import settled
from tests.lattice.scores import dice, lane, score, scores


def drawn(score: Score, index: int, dice: int = 1) -> Lane:
    line = lines_of(score, dice)[index]
    return read(Lane, line.lane.model_dump(mode="json") | settled(line))


@given(scores(min_lanes=1), dice)
@settings(max_examples=150)
def test_a_lane_settled_plays_as_before_where_one_drawn_cycle_can_hold_it(score, dice):
    for index, line in enumerate(lines_of(score, dice)):
        lane = drawn(score, index, dice)
        assert isinstance(lane.source, Drawn)
        lanes = (*score.lanes[:index], lane, *score.lanes[index + 1 :])
        (after,) = (
            one
            for one in lines_of(
                read(Score, score.model_copy(update={"lanes": lanes}).model_dump(mode="json")), dice
            )
            if one.lane.id == lane.id
        )
        assert after.course.step == line.course.step
        if line.is_lucky or line.line.lead:
            continue
        whole = line.line.period <= MAX_STEPS and (
            not line.leader.lane.span or line.line.period == line.steps
        )
        counts = min(line.course.cycle, line.course.per_run or MAX_STEPS) if not whole else 400
        if line.leader.lane.span and line.course.cycle != line.steps and line.lane.thin:
            continue  # what is thinned there and back is not drawn by its number
        if line.leader.lane.span and line.course.cycle != line.steps and line.leader.lane.thin:
            continue
        if line.course.cycle != line.steps and isinstance(line.lane.source, Made) and line.leader.lane.span:
            continue
        assert (after.hits(0, counts) == line.hits(0, counts)).all()
        assert (after.course.starts(np.arange(counts)) == line.course.starts(np.arange(counts))).all()


def test_a_count_along_the_run_is_drawn_as_long_as_it_takes_to_come_round():
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
    leader = lane("chain", source=Drawn(steps=6, hits=(0,)), step_value=StepValue(note=8))
    one = drawn(score(leader, lane("bottle", source=Echo(of="chain", shift=8))), 1)
    assert (one.source.steps, one.source.hits) == (6, (2,))
    assert one.step_value == StepValue(note=8)
