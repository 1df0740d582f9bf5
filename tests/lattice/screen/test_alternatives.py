import pytest
from hypothesis import given

from lattice.document import DocumentError, Euclidean, Rests, Score, read
from lattice.render import Window
from lattice.screen import alternatives_of, offers_of, picture, standing_alternatives
from lattice.sentence import Speech, bench
from lattice.steps.lane_steps import steps_of_lanes
from tests.lattice.scores import dice, lane, score, scores

BAR = Window(bars=1)


@given(scores(min_lanes=1), dice)
def test_every_alternative_is_drawn_as_the_thread_that_choosing_it_makes(score, dice):
    speech = Speech(steps_of_lanes(score, dice)[-1], score=score)
    words = [
        (field.setting, word.name) for field in bench(speech) for word in field.words if word.kind == "choice"
    ]
    found = [
        one
        for setting, word in words[:3]
        for one in alternatives_of(score, dice, speech.lane.id, setting, word, BAR)
    ]
    for one in found + offers_of(score, dice, speech.lane.id, BAR):
        changed = score.lanes[-1].model_dump(mode="json") | one.patch
        after = read(
            Score,
            score.model_dump(mode="json")
            | {"lanes": [*score.model_dump(mode="json")["lanes"][:-1], changed]},
        )
        shown = picture(after, dice, BAR).lanes[-1]
        # Where all together would be too much to look at, the last ones are offered without their threads.
        if one.thread is not None:
            assert (one.thread.starts, one.thread.hits) == (shown.starts, shown.hits)
    assert not found or found[0].thread is not None


def test_a_word_says_its_alternatives_and_which_is_chosen():
    found = alternatives_of(score(lane(direction="wander")), 1, "thud", "direction", "direction", BAR)
    assert [one.text for one in found if one.chosen] == ["wandering"]
    assert [one.key for one in found][:2] == ["forward", "backward"]


def test_made_lanes_are_offered_with_what_they_would_play():
    asked = score(lane("chain", source=Euclidean(hits=4, steps=16)), lane("bottle"))
    found = alternatives_of(asked, 1, "bottle", "source", "source", BAR)
    rests = next(one for one in found if one.text == "rests of Chain")
    assert rests.patch["source"] == Rests(of="chain").model_dump()
    assert [step for step in range(16) if step not in rests.thread.hits] == [0, 4, 8, 12]


@pytest.mark.parametrize(
    ("lane_id", "setting", "word", "says"),
    [
        ("gull", "direction", "direction", "lane: there is no lane 'gull'"),
        ("thud", "colour", "red", "lane “Thud”, colour: has no word 'red'"),
    ],
)
def test_what_is_not_there_is_refused(lane_id, setting, word, says):
    with pytest.raises(DocumentError, match=says):
        alternatives_of(score(lane()), 1, lane_id, setting, word, BAR)


def test_the_patterns_words_have_alternatives_too():
    assert [one.text for one in standing_alternatives(score(), "meter") if one.chosen] == ["1/4"]
    with pytest.raises(DocumentError, match="dice: has no alternatives"):
        standing_alternatives(score(), "dice")
