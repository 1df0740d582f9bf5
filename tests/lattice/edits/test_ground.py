import pytest
from hypothesis import given

from lattice.document import DOCKSIDE, DocumentError, Drawn, Edit, GroundSource, Lane, Meter, Thin, read
from lattice.edits.ground import free_parts, put_on_ground, take_off_ground
from lattice.sentence import alternatives, sentence
from tests.lattice.lane_fields import on_grounds
from tests.lattice.scores import lane, score
from tests.lattice.speaking import speeches


def put(asked, lane_id, ground="quayside", part=None, x=40, y=60):
    fields = put_on_ground(asked, DOCKSIDE, lane_id, ground, part, x, y)
    return read(Lane, asked.lane(lane_id).model_dump(mode="json") | fields)


def test_a_lane_is_put_on_a_ground_by_its_voice_and_taken_off_as_it_was():
    clink = lane(
        "clink",
        source=Drawn(steps=12, hits=(1, 5)),
        rotate=2,
        thin=Thin(),
        edits=(Edit(step=0, hit=True),),
        busy=20,
    )
    on = put(score(clink), "clink")
    assert (on.source.part, on.source.x, on.source.y) == ("hat", 40, 60)
    assert (on.rotate, on.thin, on.edits, on.busy) == (0, None, (), 0)
    assert read(Lane, on.model_dump(mode="json") | take_off_ground(on)) == clink


def test_its_steps_are_as_long_as_the_ground_says():
    on = put(score(lane("thud"), meter=Meter(numerator=12, denominator=8)), "thud", "swell")
    assert on.step_value.note == 8
    assert put(score(lane("thud", step_value=on.step_value)), "thud").step_value is None


def test_from_one_ground_to_another_it_still_knows_what_it_was():
    first = put(score(lane("thud")), "thud")
    second = put(score(first), "thud", "gangway")
    assert second.source.was == first.source.was


def test_a_part_that_is_played_goes_to_no_second_lane():
    thud = put(score(lane("thud")), "thud")
    asked = score(thud, lane("bell"))
    assert "low" not in free_parts(asked, "quayside", "bell")
    with pytest.raises(DocumentError, match=r"Thud plays the low of Quayside already: choose another part"):
        put(asked, "bell", part="low")


def test_a_lane_of_a_voice_whose_part_is_played_takes_the_first_that_is_free():
    thud = put(score(lane("thud")), "thud")
    again = lane("bell", voice="thud")
    assert put(score(thud, again), "bell").source.part == "back"


def test_who_comes_after_stands_where_the_first_one_does():
    thud = put(score(lane("thud")), "thud", x=12, y=88)
    joins = put(score(thud, lane("clink")), "clink", x=None, y=None)
    assert (joins.source.x, joins.source.y) == (12, 88)
    alone = put(score(lane("clink")), "clink", x=None, y=None)
    assert (alone.source.x, alone.source.y) == (50, 50)


def test_what_never_was_anything_else_says_so():
    with pytest.raises(DocumentError, match="draw it as it stands instead"):
        take_off_ground(lane(source=GroundSource(ground="swell", part="low")))
    with pytest.raises(DocumentError, match="on no ground"):
        take_off_ground(lane())


def said(one, asked):
    speech = speeches(asked)[-1]
    return " ".join("".join(word.text for word in part.words) for part in sentence(speech).parts)


def test_its_sentence_says_where_it_stands_and_what_it_was():
    on = put(score(lane("clink")), "clink")
    assert said(on, score(on)) == "hat on Quayside, 40 across, 60 up, was 4 in 16"


@given(source=on_grounds)
def test_every_alternative_of_its_words_can_be_taken(source):
    on = lane(source=source)
    speech = speeches(score(on))[-1]
    for word in ("source", "ground", "part"):
        offered = alternatives(speech, "source", word)
        assert sum(one.chosen for one in offered) == 1
        for one in offered:
            read(Lane, on.model_dump(mode="json") | one.patch)


def test_any_lane_may_be_put_on_a_ground_by_its_sentence():
    kinds = {one.key for one in alternatives(speeches(score(lane()))[-1], "source", "source")}
    assert "ground" in kinds


def test_its_velocity_is_said_as_a_share_of_what_the_ground_says():
    on = lane("clink", source=GroundSource(ground="quayside", part="hat"), velocity=80)
    assert said(on, score(on)).endswith("velocity 80 % of its ground's")
