"""What of melody is refused, each with one message that says what and where."""

from typing import Any

import pytest

from lattice.document import DOCKSIDE, DocumentError, Kit, Piece, Score, read, score_of
from tests.lattice.scores import lane, score


def with_lane(lane_id: str = "reed", **fields: Any) -> dict[str, Any]:
    return lane(lane_id, voice="low-reed").model_dump(mode="json") | fields


def refused(*lanes: dict[str, Any], **fields: Any) -> str:
    whole = score().model_dump(mode="json") | {"lanes": list(lanes)} | fields
    with pytest.raises(DocumentError) as refusal:
        read(Score, whole)
    return str(refusal.value)


def pool(**fields: Any) -> dict[str, Any]:
    return {"arpeggio": {"pool": fields}}


def test_chords_that_are_none_say_which_and_where():
    progression = {"chords": [{"chord": "i"}, {"chord": "Hm"}]}
    assert refused(progression=progression) == (
        "progression.chords.2.chord: no chord is called 'Hm':"
        " write a name as Dm7 or B♭sus4, or a numeral as iv or V7"
    )
    said = refused(with_lane(**pool(kind="typed", chord="vii13")))
    assert said.startswith("lane “Reed”, arpeggio.pool.chord: no chord is called 'vii13'")


def test_numerals_in_a_scale_that_has_none_say_what_to_do():
    progression = {"chords": [{"chord": "iv"}]}
    said = refused(progression=progression, scale={"root": 0, "name": "blues"})
    assert (
        said
        == "progression.chords.1.chord: 'iv' needs a scale of seven notes, this one has 6: name the chord"
    )


def test_a_progression_has_a_chord():
    assert "progression.chords: at least 1, got 0" in refused(progression={"chords": []})


@pytest.mark.parametrize(
    ("fields", "said"),
    [
        (pool(kind="typed"), "either a chord or notes: an empty pool would never sound"),
        (pool(kind="typed", chord="Dm", notes=[60]), "either a chord or notes"),
        (pool(kind="scale", low=5, high=2), "a scale from 5 to 2 has no notes"),
        ({"arpeggio": {"pedal": {"every": 3, "first": 4}}}, "each 3th hit cannot begin with the 4th"),
        ({"arpeggio": {"octaves": 5}}, "less than or equal to 4"),
        ({"scale": {"root": 0, "name": "custom", "degrees": [0]}}, "a scale has at least 2 notes, got [0]"),
        ({"scale": {"root": 12}}, "less than 12"),
        ({"note": 128}, "less than or equal to 127"),
        ({"pitch_strip": {"values": [29]}}, "less than or equal to 28"),
    ],
)
def test_what_no_lane_can_have_is_refused_with_its_name(fields, said):
    message = refused(with_lane(**fields))
    assert message.startswith("lane “Reed”, ")
    assert said in message


def test_cascades_and_made_lanes_together_form_no_circle():
    one = with_lane("a", **pool(kind="lane", of="b"))
    other = with_lane("b", **pool(kind="lane", of="a"))
    assert "lanes follow each other in a circle: “A” follows “B” follows “A”" in refused(one, other)
    made = with_lane("b", source={"kind": "rests", "of": "a"})
    assert "in a circle: “A” follows “B” follows “A”" in refused(one, made)
    assert "arpeggio: lanes follow each other" in refused(with_lane("a", **pool(kind="lane", of="a")))


def test_a_cascade_of_a_lane_that_is_not_there_says_which():
    assert "arpeggio: there is no lane 'gone' to follow" in refused(with_lane(**pool(kind="lane", of="gone")))


def test_a_chain_of_cascades_is_no_circle():
    lanes = [
        with_lane("lane-0"),
        *(with_lane(f"lane-{at}", **pool(kind="lane", of=f"lane-{at - 1}")) for at in range(1, 64)),
    ]
    whole = score().model_dump(mode="json") | {"lanes": lanes}
    assert len(read(Score, whole).lanes) == 64


def test_keys_are_refused_by_their_place():
    held = [{"start": 0, "key": 60, "velocity": 90}, {"start": -1, "key": 60, "velocity": 90}]
    assert "keys.held.2.start" in refused(lanes=[with_lane(keys={"held": held})])


def test_no_kit_has_a_voice_that_plays_any_pitch():
    voice = DOCKSIDE.voices[0].model_dump(mode="json") | {"id": "low-reed"}
    with pytest.raises(DocumentError, match="plays any pitch"):
        read(Kit, {"name": "Mine", "voices": [voice]})


def test_a_score_has_the_patterns_scale_or_else_the_pieces():
    pattern = {"id": "a", "name": "A"}
    scale = {"root": 2, "name": "dorian", "degrees": []}
    piece = read(Piece, {"name": "Night Ferry", "scale": scale, "patterns": [pattern]})
    assert score_of(piece, piece.patterns[0]).scale == piece.scale
    own = read(Piece, {"name": "Night Ferry", "scale": scale, "patterns": [pattern | {"scale": {"root": 4}}]})
    assert score_of(own, own.patterns[0]).scale.root == 4
