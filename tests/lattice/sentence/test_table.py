"""Nothing acts on a lane that its sentence does not say."""

from itertools import combinations
from typing import Any

import numpy as np
import pytest
from hypothesis import given

from lattice.document import (
    BarSpan,
    Drawn,
    Edit,
    Euclidean,
    Lane,
    Meter,
    NoteSpan,
    Numbered,
    Pattern,
    Score,
    StepValue,
    Thin,
    Thrown,
    read,
)
from lattice.render.played import cycle_of, hits_at, settled
from lattice.sentence import SETTINGS, Sentence, say_step_value, sentence, standing
from tests.lattice.scores import lane, score, scores

# What names a lane or silences it is shown beside the sentence, on the lane itself.
BESIDE = {"id", "name", "voice", "ink", "mute", "solo"}


def spoken(lane: Lane, pattern_step: StepValue | None = None) -> Sentence:
    step = pattern_step or StepValue()
    rhythm = Pattern(id="a", name="A", step_value=step)
    return sentence(lane, settled(lane, cycle_of(lane, rhythm)), step)


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
        ({"source": Numbered(hits=5, steps=16, number="1204")}, "5 in 16, no. 1,205 of 4,368"),
        ({"source": Numbered(hits=5, steps=16, number="4368")}, "5 in 16, no. 1 of 4,368"),
        ({"source": Thrown(hits=5, steps=16, throw=3)}, "5 in 16, throw 3"),
        ({"thin": Thin()}, "4 in 16 · only each 3rd hit"),
        (
            {"thin": Thin(keeps="without", every=2, first=2, each_cycle=True)},
            "4 in 16 · without each 2nd hit of a cycle, from the 2nd",
        ),
        (
            {"edits": (Edit(step=1, hit=True), Edit(step=20, hit=True))},
            "4 in 16 · 1 by hand (1 beyond its steps)",
        ),
        ({"span": BarSpan(bars=1)}, "4 in 16 · over 1 bar"),
        ({"span": BarSpan(bars=3)}, "4 in 16 · over 3 bars"),
        ({"span": NoteSpan(value=StepValue(note=2))}, "4 in 16 · over 1/2"),
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
    parts = spoken(
        lane(
            complement=True,
            chance_percent=5,
            rotate=1,
            velocity=3,
            length_percent=9,
            thin=Thin(),
            edits=(Edit(step=0, hit=True),),
        )
    ).parts
    assert {part.setting for part in parts if part.red} == {"complement", "thin", "by hand", "chance"}


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


def choice_of(lane: Lane, says: str) -> dict[str, Any]:
    """Return the patch of the alternative of a lane's source that says so."""
    words = spoken(lane).parts[0].words
    return next(choice.patch for word in words for choice in word.choices if says in choice.text)


@given(scores(min_lanes=1))
def test_settling_a_lane_changes_nothing_that_is_heard(score: Score):
    for one in score.lanes:
        source = settled(one, cycle_of(one, score))
        drawn = Lane(id=one.id, name=one.name, voice=one.voice, source=source, step_value=one.step_value)
        repeats = source.steps > one.source.steps or one.thin is None or one.thin.each_cycle
        run = np.arange(3 * source.steps if repeats else source.steps)
        before, after = (hits_at(it, cycle_of(it, score), run) for it in (one, drawn))
        assert (before == after).all()


def test_a_computed_lane_is_settled_with_all_its_turns():
    turned = lane(
        source=Euclidean(hits=3, steps=8), rotate=1, complement=True, edits=(Edit(step=0, hit=False),)
    )
    drawn = patched(turned, choice_of(turned, "drawn"))
    assert text(drawn) == "drawn, 8 steps"
    assert drawn.source.hits == (2, 3, 5, 6)


def test_a_spread_rhythm_keeps_its_hits_when_it_is_taken_by_number():
    spread = lane(source=Euclidean(hits=5, steps=16), rotate=2)
    by_number = patched(spread, choice_of(spread, "by number"))
    number = list(combinations(range(16), 5)).index((0, 3, 6, 9, 12)) + 1
    assert text(by_number) == f"5 in 16, no. {number} of 4,368 · rotated 2"
    assert (
        cycle_of(by_number, Pattern(id="a", name="A")).hits
        == cycle_of(spread, Pattern(id="a", name="A")).hits
    )


def test_the_patterns_step_is_said_the_same_way():
    assert say_step_value(StepValue(note=16)) == "1/16"


def test_what_holds_for_the_whole_pattern_can_be_moved_too():
    parts = standing(score(lane(), tempo=112.5, meter=Meter(numerator=7, denominator=8)), 7081)
    said = {part.setting: "".join(word.text for word in part.words) for part in parts}
    assert said == {"tempo": "112.5", "meter": "7/8", "step value": "1/16", "dice": "7081"}
    tempo = parts[0].words[0]
    assert (tempo.field, tempo.value, tempo.low, tempo.high) == ("tempo", 112.5, 20, 400)
