"""Nothing acts on a lane that its sentence does not say."""

from typing import Any

import pytest
from hypothesis import given

from lattice.document import Drawn, Euclidean, Lane, Meter, Score, StepValue, read
from lattice.document.sentence import SETTINGS, Sentence, say_step_value, sentence
from lattice.document.standing import standing
from lattice.render.played import cycle_of
from tests.lattice.scores import lane, score, scores

# What names a lane or silences it is shown beside the sentence, on the lane itself.
BESIDE = {"id", "name", "voice", "ink", "mute", "solo"}


def spoken(lane: Lane, pattern_step: StepValue | None = None) -> Sentence:
    step = pattern_step or StepValue()
    return sentence(lane, cycle_of(lane, step).hits, step)


def text(lane: Lane) -> str:
    return " · ".join("".join(word.text for word in part.words) for part in spoken(lane).parts)


def patched(lane: Lane, patch: dict[str, Any]) -> Lane:
    return read(Lane, lane.model_dump(mode="json") | patch)


def test_every_field_that_acts_on_a_lane_has_one_row():
    rows = [field for setting in SETTINGS for field in setting.fields]
    assert sorted(rows) == sorted(set(Lane.model_fields) - BESIDE)


@pytest.mark.parametrize(
    ("fields", "said"),
    [
        ({}, "4 in 16"),
        ({"source": Drawn(steps=16, hits=(0, 4))}, "drawn, 16 steps"),
        ({"source": Drawn(steps=1)}, "drawn, 1 step"),
        ({"rotate": -2}, "4 in 16 · rotated -2"),
        ({"complement": True}, "4 in 16 · its rests"),
        ({"step_value": StepValue(note=8)}, "4 in 16 · step 1/8"),
        ({"step_value": StepValue(note=8, kind="dotted")}, "4 in 16 · step 1/8 dotted"),
        ({"step_value": StepValue(note=2, divisor=7)}, "4 in 16 · 7 to a half note"),
        ({"step_value": StepValue(note=8, kind="dotted", divisor=3)}, "4 in 16 · 3 to 1/8 dotted"),
        ({"step_value": StepValue(note=8, multiplier=5)}, "4 in 16 · step 5 × 1/8"),
        ({"velocity": 72}, "4 in 16 · velocity 72"),
        ({"length_percent": 60}, "4 in 16 · length 60 %"),
        (
            {"rotate": 2, "complement": True, "chance_percent": 45, "velocity": 90},
            "4 in 16 · rotated 2 · its rests · velocity 90 · chance 45 %",
        ),
    ],
)
def test_a_lane_says_what_it_does_in_order(fields, said):
    assert text(lane(**fields)) == said


def test_what_bends_the_result_is_red():
    parts = spoken(lane(complement=True, chance_percent=5, rotate=1, velocity=3, length_percent=9)).parts
    assert {part.setting for part in parts if part.red} == {"complement", "chance"}


@given(scores(min_lanes=1))
def test_a_part_taken_back_to_plain_is_no_longer_said(score: Score):
    for one in score.lanes:
        for part in spoken(one).parts:
            if part.plain is not None:
                assert part.setting not in [left.setting for left in spoken(patched(one, part.plain)).parts]


@given(scores(min_lanes=1))
def test_every_offer_can_be_taken_and_is_then_said(score: Score):
    for one in score.lanes:
        for offer in spoken(one, score.step_value).offers:
            taken = patched(one, offer.patch)
            assert taken != one
            assert text(taken) != text(one)


@given(scores(min_lanes=1))
def test_every_number_can_be_moved_to_both_its_ends(score: Score):
    for one in score.lanes:
        for word in (word for part in spoken(one).parts for word in part.words if word.kind == "number"):
            assert word.low <= word.value <= word.high
            for end in (word.low, word.high):
                moved = one.model_dump(mode="json")
                *parents, field = word.field.split(".")
                target = moved
                for parent in parents:
                    target = target[parent]
                target[field] = end
                if isinstance(one.source, Drawn) and field == "steps":
                    moved["source"]["hits"] = [hit for hit in moved["source"]["hits"] if hit < end]
                read(Lane, moved)


@given(scores(min_lanes=1))
def test_every_alternative_of_a_word_can_be_chosen(score: Score):
    for one in score.lanes:
        for word in (word for part in spoken(one).parts for word in part.words if word.kind == "choice"):
            assert sum(choice.chosen for choice in word.choices) == 1
            for choice in word.choices:
                assert (patched(one, choice.patch) == one) == choice.chosen


def test_settling_draws_the_hits_as_they_stand():
    turned = lane(source=Euclidean(hits=3, steps=8), rotate=1, complement=True)
    settle = next(choice for choice in spoken(turned).parts[0].words[2].choices if not choice.chosen)
    settled = patched(turned, settle.patch)
    assert cycle_of(settled, StepValue()).hits == cycle_of(turned, StepValue()).hits
    assert text(settled) == "drawn, 8 steps"


def test_the_patterns_step_is_said_the_same_way():
    assert say_step_value(StepValue(note=16)) == "1/16"


def test_what_holds_for_the_whole_pattern_can_be_moved_too():
    parts = standing(score(lane(), tempo=112.5, meter=Meter(numerator=7, denominator=8)), 7081)
    said = {part.setting: "".join(word.text for word in part.words) for part in parts}
    assert said == {"tempo": "112.5", "meter": "7/8", "step value": "1/16", "dice": "7081"}
    tempo = parts[0].words[0]
    assert (tempo.field, tempo.value, tempo.low, tempo.high) == ("tempo", 112.5, 20, 400)
