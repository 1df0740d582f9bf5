"""Every stage owns its facts: what each declares holds for any lane, while movements move it as well."""

from collections import Counter

import numpy as np
from hypothesis import assume, given
from hypothesis import strategies as st

from lattice.document import Lane, StepValue
from lattice.document.movement import CONTROLS, Movement, Point
from lattice.render import Window, render
from lattice.render.feel import feel_of
from lattice.render.pipeline import play_all, timing_bounds
from lattice.render.stages import STAGES, is_decided_by_luck, is_moved_by_luck, longest_note
from lattice.render.stages.length import may_tie
from lattice.render.stages.pitch import PITCH_STAGE
from lattice.render.stages.ratchet import RATCHET_STAGE
from lattice.steps.lane_steps import steps_of_lanes
from tests.lattice.scores import dice, is_light, scores

FIRST, BARS = 3, 4
WINDOW = Window(first_bar=FIRST, bars=BARS)


@st.composite
def moved_scores(draw):
    """Any score, with a lane whose controls that have a say in bounds are moved."""
    asked = draw(scores(min_lanes=1))
    bar = asked.meter.bar_ticks
    points = st.lists(st.integers(0, 8 * bar), min_size=1, max_size=4, unique=True).map(sorted)
    steps = st.builds(StepValue, note=st.sampled_from([4, 8, 16]), divisor=st.sampled_from([1, 3, 5]))
    values = {
        "step_value": steps,
        "humanise.ms": st.integers(0, 40),
        "swing.percent": st.integers(50, 75),
        "length_percent": st.integers(1, 400),
        "source.steps": st.integers(2, 24),
    }
    movements = [
        Movement(
            control=control,
            points=tuple(Point(tick=tick, value=draw(values[control])) for tick in draw(points)),
        )
        for control in draw(st.sets(st.sampled_from(sorted(values))))
    ]
    first = asked.lanes[0].model_copy(update={"movements": tuple(movements)})
    return asked.model_copy(update={"lanes": (first, *asked.lanes[1:])})


def test_every_field_of_a_lane_belongs_to_exactly_one_stage():
    owners = Counter(field for stage in STAGES for field in stage.fields)
    assert set(owners) == set(Lane.model_fields)
    assert set(owners.values()) == {1}


def test_what_makes_bounds_widest_can_be_moved():
    for stage in STAGES:
        assert {*stage.widest_at_most, *stage.widest_at_least} <= set(CONTROLS)


@given(moved_scores(), dice)
def test_no_note_strays_further_from_its_step_than_the_stages_say(asked, its_dice):
    assume(is_light(asked, bars=FIRST + BARS))
    for lane_steps, played in play_all(asked, its_dice, WINDOW):
        if lane_steps.lane.clip or not played.notes.starts.size:
            continue
        early, late = timing_bounds(lane_steps, asked, its_dice)
        off = played.notes.starts - played.notes.straights
        assert -early <= off.min()
        assert off.max() <= late


@given(scores(min_lanes=1), dice)
def test_no_note_is_longer_than_the_stages_say_but_for_ties(asked, its_dice):
    assume(is_light(asked, bars=FIRST + BARS))
    for lane_steps, played in play_all(asked, its_dice, WINDOW):
        if lane_steps.lane.clip or may_tie(lane_steps) or not played.notes.starts.size:
            continue
        lengths = played.notes.ends - played.notes.starts
        assert lengths.max() <= longest_note(lane_steps, feel_of(lane_steps.lane, asked))


@given(scores(min_lanes=1), dice)
def test_no_hit_has_more_notes_than_the_stages_say(asked, its_dice):
    assume(is_light(asked, bars=FIRST + BARS))
    for lane_steps, played in play_all(asked, its_dice, WINDOW):
        if (
            lane_steps.lane.clip
            or lane_steps.lane.arpeggio
            or lane_steps.lane.bursts
            or not played.notes.starts.size
        ):
            continue
        most = RATCHET_STAGE.notes(lane_steps) * PITCH_STAGE.notes(lane_steps)
        assert np.unique(played.notes.straights, return_counts=True)[1].max() <= most


def without_luck(lane: Lane) -> Lane:
    """The lane without any of what dice decide."""
    plain: dict[str, object] = {
        "chance_percent": 100,
        "chance_strip": None,
        "humanise": None,
        "direction": "forward",
    }
    for name in ("velocity", "ratchet", "length", "nudge", "pitch", "octave", "chord"):
        strip = getattr(lane, f"{name}_strip")
        if strip:
            free = strip.free and strip.free.model_copy(update={"direction": "forward"})
            plain[f"{name}_strip"] = strip.model_copy(update={"spread": None, "free": free})
    if lane.arpeggio and lane.arpeggio.order in ("random", "shuffled"):
        plain["arpeggio"] = lane.arpeggio.model_copy(update={"order": "up"})
    bursts = tuple(burst.model_copy(update={"chance_percent": 100}) for burst in lane.bursts)
    return lane.model_copy(update={**plain, "bursts": bursts, "control_strips": ()})


@given(scores(min_lanes=1), st.integers(2, 10**6))
def test_what_no_stage_leaves_to_luck_is_the_same_by_any_dice(asked, other):
    steady = asked.model_copy(update={"lanes": tuple(map(without_luck, asked.lanes))})
    assume(is_light(steady, bars=FIRST + BARS))
    assert not any(map(is_decided_by_luck, steps_of_lanes(steady, 1)))
    one, another = render(steady, 1, WINDOW), render(steady, other, WINDOW)
    for column in ("starts", "lengths", "pitches", "velocities"):
        assert getattr(one, column).tolist() == getattr(another, column).tolist()


@given(scores(min_lanes=1))
def test_luck_that_moves_notes_decides_what_is_played(asked):
    for lane_steps in steps_of_lanes(asked, 1):
        assert is_decided_by_luck(lane_steps) or not is_moved_by_luck(lane_steps)
