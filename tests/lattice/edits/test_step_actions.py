"""What hands do to chosen steps."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import (
    Burst,
    ChanceStrip,
    CycleRule,
    DocumentError,
    Drawn,
    Edit,
    Euclidean,
    Free,
    Lane,
    Link,
    NoteSpan,
    RatchetStrip,
    StepRule,
    StepValue,
    Thin,
    VelocityStrip,
    read,
)
from lattice.edits import Copied, CopiedStep, act, chosen_numbers, copied, paste
from lattice.edits.chosen import is_hit, turned
from lattice.steps.lane_steps import steps_of_lane
from tests.lattice.scores import dice, lane, score, scores

STEP = 3360


def lane_steps(one, **fields):
    return steps_of_lane(score(one, **fields), 1, one.id)


def after(one, action, first, end, number=1, **fields):
    """Return the lane after an action on the steps from *first* to before *end*."""
    patch = act(action, lane_steps(one, **fields), first * STEP, end * STEP, number)
    return read(Lane, one.model_dump(mode="json") | patch)


def hits(one):
    return [number for number, hit in enumerate(is_hit(lane_steps(one))) if hit]


DRAWN = lane(source=Drawn(steps=16, hits=(0, 1, 4, 6)))


def test_clearing_makes_rests_with_nothing_of_their_own():
    one = DRAWN.model_copy(
        update={"velocity_strip": VelocityStrip(values=(9, 8, 7)), "links": (Link(step=0), Link(step=4))}
    )
    cleared = after(one, "clear", 0, 2)
    assert hits(cleared) == [4, 6]
    assert cleared.velocity_strip == VelocityStrip(values=(None, None, 7))
    assert cleared.links == (Link(step=4),)


def test_what_is_computed_is_cleared_by_hand_and_set_back_to_its_rule():
    one = lane(source=Euclidean(hits=4, steps=16))
    cleared = after(one, "clear", 0, 5)
    assert cleared.edits == (Edit(step=0, hit=False), Edit(step=4, hit=False))
    back = read(Lane, cleared.model_dump(mode="json") | turned(lane_steps(cleared), {0: True}))
    assert back.edits == (Edit(step=4, hit=False),)


@given(scores(min_lanes=1, made=False), dice, st.data())
def test_steps_become_what_they_are_turned_to(score, dice, data):
    """Where the order is steady and no hit is counted, the first cycle shows it."""
    one = score.lanes[0].model_copy(
        update={"thin": None, "direction": "forward", "step_range": None, "once": None}
    )
    one = one.model_copy(update={"restart": None})
    score = score.model_copy(update={"lanes": (one,)})
    found = steps_of_lane(score, dice, one.id)
    wanted = data.draw(st.dictionaries(st.integers(0, found.steps - 1), st.booleans(), max_size=5))
    turned_lane = read(Lane, one.model_dump(mode="json") | turned(found, wanted))
    now = is_hit(steps_of_lane(score.model_copy(update={"lanes": (turned_lane,)}), dice, one.id))
    assert {number: now[number] for number in wanted} == wanted


def test_repeating_lays_the_same_steps_after_themselves():
    strip = RatchetStrip(values=(3, None, 2))
    repeated = after(DRAWN.model_copy(update={"ratchet_strip": strip}), "repeat", 0, 4)
    assert hits(repeated) == [0, 1, 4, 5]
    assert repeated.ratchet_strip.values == (3, None, 2, None, 3, None, 2)


def test_a_throw_keeps_the_count_and_what_lies_outside():
    thrown = [hits(after(DRAWN, "throw", 0, 8, number)) for number in range(1, 9)]
    assert all(len(one) == 4 and max(one) < 8 for one in thrown)
    assert len({tuple(one) for one in thrown}) > 4


def test_a_roll_is_on_the_hits_alone_and_goes_away_with_one_note():
    rolled = after(DRAWN, "ratchet", 0, 5, 3)
    assert rolled.ratchet_strip.values == (3, 3, None, None, 3)
    assert after(rolled, "ratchet", 0, 16, 1).ratchet_strip is None


def test_links_take_the_first_letter_that_is_free():
    linked = after(DRAWN, "link", 0, 2)
    assert linked.links == (Link(step=0), Link(step=1))
    both = after(linked, "link", 4, 8)
    assert both.links == (*linked.links, Link(step=4, letter="b"), Link(step=6, letter="b"))
    assert after(both, "unlink", 0, 2).links == both.links[2:]
    with pytest.raises(DocumentError, match="it takes two hits to link"):
        after(DRAWN, "link", 4, 6)


def test_a_cycle_rule_is_for_the_hits_and_goes_away_the_second_time():
    ruled = read(Lane, DRAWN.model_dump(mode="json") | act("rule", lane_steps(DRAWN), 0, 5 * STEP, 2, 3))
    rule = CycleRule(nth=2, of=3)
    assert ruled.step_rules == tuple(StepRule(step=step, rule=rule) for step in (0, 1, 4))
    fewer = read(Lane, ruled.model_dump(mode="json") | act("rule", lane_steps(ruled), 0, 2 * STEP, 2, 3))
    assert fewer.step_rules == (StepRule(step=4, rule=rule),)
    assert after(ruled, "clear", 4, 5).step_rules == ruled.step_rules[:2]
    with pytest.raises(DocumentError, match="there is no 4th of 3 cycles"):
        act("rule", lane_steps(DRAWN), 0, STEP, 4, 3)
    with pytest.raises(DocumentError, match="there is no hit"):
        act("rule", lane_steps(DRAWN), 2 * STEP, 4 * STEP, 1, 3)


def test_a_burst_lies_on_the_lanes_own_steps_where_it_can():
    burst = after(DRAWN, "burst", 4, 8, 5).bursts
    assert burst == (Burst(count=4, value=StepValue(), length=4, notes=5),)
    sevenths = lane(source=Euclidean(hits=3, steps=7), step_value=StepValue(note=2, divisor=7))
    (one,) = read(
        Lane, sevenths.model_dump(mode="json") | act("burst", lane_steps(sevenths), 2 * 3840, 4 * 3840, 3)
    ).bursts
    assert (one.count, one.length, one.value) == (2, 2, StepValue(note=2, divisor=7))


def test_a_burst_in_a_span_lies_on_the_nearest_grid():
    spread = lane(source=Euclidean(hits=3, steps=7), span=NoteSpan(value=StepValue(note=2)))
    (one,) = read(
        Lane, spread.model_dump(mode="json") | act("burst", lane_steps(spread), 3840, 3 * 3840, 3)
    ).bursts
    begin, end = (time * 13440 for time in one.quarters(lane_steps(spread).frame.meter.bar_quarters))
    assert abs(begin - 3840) <= 420
    assert abs(end - 3 * 3840) <= 840


def test_bursts_in_later_passes_and_bars_are_the_patterns_own():
    (one,) = after(DRAWN, "burst", 16 * 17 + 4, 16 * 17 + 8, 5, bars=16).bursts
    assert one.quarters(lane_steps(DRAWN).frame.meter.bar_quarters)[0] == 4 + 1
    with pytest.raises(DocumentError, match="beyond the pattern's end"):
        after(DRAWN, "burst", 12, 20, 5, bars=1)


def test_a_burst_makes_others_give_way():
    first = after(DRAWN, "burst", 0, 4, 5)
    second = after(first, "burst", 3, 6, 4)
    assert [one.notes for one in second.bursts] == [4]
    assert [one.notes for one in after(second, "burst", 8, 10, 2).bursts] == [4, 2]


def test_copied_steps_are_pasted_into_another_lane():
    one = DRAWN.model_copy(
        update={"chance_strip": ChanceStrip(values=(50, None, 20)), "links": (Link(step=1), Link(step=4))}
    )
    steps = copied(lane_steps(one), chosen_numbers(lane_steps(one), 0, 3 * STEP))
    assert steps.steps[0] == CopiedStep(hit=True, values={"chance": 50})
    other = lane("bell", source=Drawn(steps=8, hits=(7,)))
    target = steps_of_lane(score(one, other), 1, "bell")
    got = read(Lane, other.model_dump(mode="json") | paste(target, 6 * STEP, steps))
    assert got.source.hits == (6, 7)  # and step 1, by going round, a rest as step 3 was
    assert got.chance_strip.values == (20, None, None, None, None, None, 50)
    assert got.links == (Link(step=7),)


def test_a_free_strip_is_left_alone_by_paste():
    free = DRAWN.model_copy(update={"velocity_strip": VelocityStrip(values=(9,), free=Free())})
    steps = Copied(steps=(CopiedStep(hit=True, values={"velocity": 3}),))
    assert "velocity_strip" not in paste(lane_steps(free), 0, steps)


def test_a_value_that_its_strip_cannot_have_is_refused():
    steps = Copied(steps=(CopiedStep(hit=True, values={"velocity": 300}),))
    with pytest.raises(DocumentError, match=r"velocity_strip.values.1"):
        paste(lane_steps(DRAWN), 0, steps)


@pytest.mark.parametrize(("action", "number"), [("ratchet", 13), ("burst", 65)])
def test_too_many_notes_are_refused(action, number):
    with pytest.raises(DocumentError, match=f"got {number}"):
        after(DRAWN, action, 0, 4, number)


def test_where_no_step_begins_nothing_can_be_done():
    slow = lane(source=Drawn(steps=2), step_value=StepValue(note=1))
    for action in ("clear", "repeat", "throw", "ratchet", "link"):
        with pytest.raises(DocumentError, match="no step begins there"):
            after(slow, action, 1, 2)


def test_thinned_lanes_are_turned_by_hand():
    one = lane(source=Drawn(steps=8, hits=(0, 2, 4, 6)), thin=Thin(every=2, each_cycle=True))
    assert hits(one) == [0, 4]
    turned_lane = read(Lane, one.model_dump(mode="json") | turned(lane_steps(one), {2: True, 0: False}))
    assert hits(turned_lane) == [2, 4]
