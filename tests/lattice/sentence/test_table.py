"""Nothing acts on a lane that its sentence does not say."""

from itertools import combinations
from typing import Any

import pytest
from hypothesis import given

from lattice.document import (
    Accent,
    BarSpan,
    Burst,
    ChanceStrip,
    CycleRule,
    Drawn,
    Edit,
    Euclidean,
    Lane,
    LaneSwing,
    Link,
    Made,
    Meter,
    Once,
    PassRestart,
    RatchetStrip,
    Rests,
    Score,
    StepRange,
    StepRule,
    StepValue,
    Thin,
    VelocityStrip,
    read,
)
from lattice.document.strip_places import strips_of
from lattice.sentence import (
    SETTINGS,
    Speech,
    alternatives,
    bench,
    offers,
    sentence,
    standing,
    standing_choices,
    strip_words,
)
from lattice.sentence.table import GROUPS
from lattice.steps.lane_steps import steps_of_lane, steps_of_lanes
from tests.lattice.scores import lane, score, scores
from tests.lattice.speaking import speeches, spoken, text

# What names a lane or silences it is shown beside the sentence, on the lane itself.
BESIDE = {"id", "name", "voice", "ink", "mute", "solo"}


def with_lane(score: Score, lane: Lane) -> Score:
    return score.model_copy(
        update={"lanes": tuple(lane if one.id == lane.id else one for one in score.lanes)}
    )


def patched(lane: Lane, patch: dict[str, Any]) -> Lane:
    return read(Lane, lane.model_dump(mode="json") | patch)


def test_every_field_that_acts_on_a_lane_has_one_row():
    rows = [field for setting in SETTINGS for field in setting.fields]
    assert sorted(rows) == sorted(set(Lane.model_fields) - BESIDE)


RED = {
    "complement": True,
    "busy": 20,
    "thin": Thin(),
    "edits": (Edit(step=0, hit=True),),
    "once": Once(),
    "step_range": StepRange(first=1, last=2),
    "direction": "backward",
    "restart": PassRestart(),
    "chance_percent": 5,
    "chance_strip": ChanceStrip(values=(50,)),
    "links": (Link(step=1),),
    "cycle_rule": CycleRule(),
    "step_rules": (StepRule(step=0, rule=CycleRule()),),
    "bursts": (Burst(),),
    "luck_bars": 2,
}
BLACK = {
    "rotate": 1,
    "velocity": 3,
    "length_percent": 9,
    "step_value": StepValue(note=8),
    "anchored": True,
    "velocity_strip": VelocityStrip(values=(50,)),
    "accent": Accent(),
    "ratchet_strip": RatchetStrip(values=(2,)),
    "swing": LaneSwing(),
    "pan": 3,
}


# What the bench has to paint, and what is set on chosen steps: no fields while they are plain.
PAINTED = {"ratchet", "nudge", "octave", "chord", "control"}
PITCHED_ONLY = {"pitch", "follows", "transposed", "arpeggio", "brightness", "attack", "release", "glide"}
CHOSEN = {"links", "cycle rules", "bursts"}
# What a hand on the lattice, or keeping, makes: there is nothing to take hold of before.
SAID_ONLY = {"by hand", "clip", "moves"}


def test_every_setting_stands_in_one_group_of_the_bench():
    grouped = [name for names in GROUPS.values() for name in names]
    assert sorted(grouped) == sorted(row.name for row in SETTINGS)
    assert len(GROUPS) == 5


def test_what_bends_the_result_is_red():
    for fields, is_red in ((RED, True), (BLACK, False), ({"span": BarSpan()}, False)):
        for field, value in fields.items():
            parts = spoken(lane(**{field: value})).parts
            assert [part.red for part in parts] == [False, is_red], field


@given(scores(min_lanes=1))
def test_what_is_said_is_exactly_what_differs_from_plain(score: Score):
    for speech in speeches(score):
        said = {part.setting for part in sentence(speech).parts}
        plain = lane()
        differing = {
            row.name
            for row in SETTINGS
            for field in row.fields
            if field == "source" or getattr(speech.lane, field) != getattr(plain, field)
        }
        # What concerns pitch lies dormant where one of the kit's voices plays.
        if not speech.lane.is_melodic:
            differing -= PITCHED_ONLY | {"chord"}
        if speech.lane.voice == "whole-kit":
            differing -= {"brightness", "attack", "release"}
        if speech.lane.arpeggio:
            differing -= {"follows"}
        else:  # keys that were held lie dormant
            differing -= {"arpeggio"}
        assert said == differing


@given(scores(min_lanes=1))
def test_the_bench_has_every_setting_of_a_lane_with_a_clock(score: Score):
    for speech in speeches(score):
        shown = [field.setting for field in bench(speech)]
        if isinstance(speech.lane.source, Made):
            assert set(shown) <= {row.name for row in SETTINGS}
            assert "step value" not in shown
        else:
            grouped = [name for names in GROUPS.values() for name in names]
            assert shown == [name for name in grouped if name not in PAINTED and name in shown]
            hidden = {row.name for row in SETTINGS} - set(shown)
            assert hidden <= PAINTED | CHOSEN | PITCHED_ONLY | SAID_ONLY
            assert speech.lane.is_melodic or hidden >= PITCHED_ONLY
        said = {part.setting for part in sentence(speech).parts} - PAINTED
        assert {field.setting for field in bench(speech) if not field.is_plain} == said


@given(scores(min_lanes=1))
def test_a_part_taken_back_to_plain_is_no_longer_said(score: Score):
    for speech in speeches(score):
        for part in sentence(speech).parts:
            if part.plain is not None:
                changed = with_lane(score, patched(speech.lane, part.plain))
                (left,) = (one for one in speeches(changed) if one.lane.id == speech.lane.id)
                assert part.setting not in [one.setting for one in sentence(left).parts]


@given(scores(min_lanes=1))
def test_every_offer_can_be_taken_and_is_then_said(score: Score):
    for speech in speeches(score):
        before = [part.words for part in sentence(speech).parts]
        for offer in offers(speech):
            changed = read(Score, with_lane(score, patched(speech.lane, offer.patch)).model_dump(mode="json"))
            (taken,) = (one for one in speeches(changed) if one.lane.id == speech.lane.id)
            assert [part.words for part in sentence(taken).parts] != before


@given(scores(min_lanes=1))
def test_every_number_can_be_moved_to_both_its_ends(score: Score):
    for speech in speeches(score):
        words = [word for field in bench(speech) for word in field.words]
        words += [word for at in strips_of(speech.lane) if at.strip for word in strip_words(at)]
        for word in (word for word in words if word.kind == "number"):
            assert word.low <= word.value <= word.high, word
            for end in (word.low, word.high):
                moved = speech.lane.model_dump(mode="json")
                *parents, field = word.field.split(".")
                target = moved
                for parent in parents:
                    target = target[int(parent) if parent.isdigit() else parent]
                assert target[field] in (word.stored, None)
                target[field] = end
                if isinstance(speech.lane.source, Drawn) and field == "steps":
                    moved["source"]["hits"] = [hit for hit in moved["source"]["hits"] if hit < end]
                read(Score, with_lane(score, read(Lane, moved)).model_dump(mode="json"))


@given(scores(min_lanes=1))
def test_every_alternative_of_a_word_can_be_chosen(score: Score):
    for speech in speeches(score):
        for field in bench(speech):
            for word in (word for word in field.words if word.kind == "choice"):
                found = alternatives(speech, field.setting, word.name)
                assert len({choice.key for choice in found}) == len(found)
                assert sum(choice.chosen for choice in found) <= 1
                for choice in found:
                    changed = with_lane(score, patched(speech.lane, choice.patch))
                    read(Score, changed.model_dump(mode="json"))
                    assert (changed == score) == choice.chosen or not choice.patch


@given(scores(min_lanes=1))
def test_every_word_that_acts_can_be_pressed(score: Score):
    for speech in speeches(score):
        for word in (word for part in sentence(speech).parts for word in part.words if word.kind == "act"):
            assert patched(speech.lane, word.patch or {}) != speech.lane


def test_a_word_that_is_not_there_is_refused():
    with pytest.raises(KeyError, match="direction: colour"):
        alternatives(speeches(score(lane()))[0], "direction", "colour")


def choice_of(lane: Lane, says: str) -> dict[str, Any]:
    """Return the patch of the alternative of a lane's source that says so."""
    found = alternatives(speeches(score(lane))[0], "source", "source")
    return next(choice.patch for choice in found if says in choice.text)


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
    before, after = (steps_of_lanes(score(one), 1)[0].rule_hits for one in (spread, by_number))
    assert before == after


def test_a_lane_is_offered_to_follow_the_one_above_it_and_none_that_follows_it():
    chain, bottle = lane("chain"), lane("bottle")
    follower = lane("clink", source=Rests(of="bottle"))
    of_bottle = speeches(score(chain, bottle, follower))[1]
    texts = [choice.text for choice in alternatives(of_bottle, "source", "source")]
    assert "rests of Chain" in texts
    of_follower = speeches(score(chain, bottle, follower))[2]
    assert [choice.text for choice in alternatives(of_follower, "source", "lane")] == ["Chain", "Bottle"]
    of_chain = speeches(score(chain, lane("bottle", source=Rests(of="chain"))))[0]
    assert not any("Bottle" in choice.text for choice in alternatives(of_chain, "source", "source"))


def test_what_holds_for_the_whole_pattern_can_be_moved_too():
    asked = score(lane(once=Once(bars=2)), tempo=112.5, meter=Meter(numerator=7, denominator=8), bars=4)
    parts = standing(asked, 7081)
    said = {part.setting: "".join(word.text for word in part.words) for part in parts}
    assert said == {
        "tempo": "112.5",
        "swing": "50 % of 1/16",
        "meter": "7/8",
        "bars": "4 bars",
        "step value": "1/16",
        "dice": "7081",
        "scale": "C major",
    }
    tempo = parts[0].words[0]
    assert (tempo.field, tempo.value, tempo.low, tempo.high) == ("tempo", 112.5, 20, 400)
    length = parts[3].words[0]
    assert (length.field, length.low) == ("bars", 3)  # the lane that sounds once begins in the third
    assert [choice.text for choice in standing_choices(asked, "meter") if choice.chosen] == ["1/8"]


def test_a_number_says_how_many_steps_do_not_take_it():
    own = {"velocity_strip": VelocityStrip(values=(None, 50, 60)), "chance_strip": ChanceStrip(values=(50,))}
    words = [
        word
        for field in bench(Speech(steps_of_lane(score(lane(**own)), 1, "thud")))
        for word in field.words
        if word.kind == "number" and word.field in ("velocity", "chance_percent", "length_percent")
    ]
    # A chance is of the lane and of the step: every step takes it.
    assert {word.field: (word.strip, word.own) for word in words} == {
        "velocity": ("velocity", 2),
        "chance_percent": ("", 0),
        "length_percent": ("", 0),
    }
