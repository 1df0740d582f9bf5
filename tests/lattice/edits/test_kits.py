import pytest

from lattice.document import DOCKSIDE, DocumentError, Kit, Pattern, Piece, Voice
from lattice.document.kit import KITS
from lattice.edits.kits import exchanged, kit_of, with_voices
from tests.lattice.scores import lane


def piece(*voices, lanes=("thud",), kit=DOCKSIDE):
    kit = kit.model_copy(update={"voices": voices}) if voices else kit
    pattern = Pattern(id="a", name="A", lanes=tuple(lane(one, voice=one) for one in lanes))
    return Piece(name="Quay", kit=kit, patterns=(pattern, Pattern(id="b", name="B")))


def voice(voice_id, pitch=0):
    return Voice(id=voice_id, name=voice_id.capitalize(), pitch=pitch)


def notes(kit):
    return {one.id: one.pitch for one in kit.voices}


def test_added_voices_answer_to_the_next_free_notes():
    before = piece(voice("thud", 36), voice("rope", 49))
    after = with_voices(before, [voice("hull"), voice("creak"), voice("bilge")])
    assert notes(after.kit) == {"thud": 36, "rope": 49, "hull": 48, "creak": 50, "bilge": 51}
    assert after.patterns == before.patterns


def test_where_none_is_free_above_notes_below_are_taken():
    full = [voice(f"voice-{pitch}", pitch) for pitch in range(47, 128)]
    after = with_voices(piece(*full, lanes=()), [voice("hull"), voice("creak")])
    assert (notes(after.kit)["hull"], notes(after.kit)["creak"]) == (46, 45)


def test_a_voice_whose_id_is_taken_gets_another():
    after = with_voices(piece(voice("thud", 36)), [voice("thud"), voice("thud")])
    assert notes(after.kit) == {"thud": 36, "thud-2": 48, "thud-3": 49}


def test_a_kit_has_no_more_voices_than_it_may():
    full = [voice(f"voice-{pitch}", pitch) for pitch in range(128)]
    with pytest.raises(DocumentError, match="at most 128"):
        with_voices(piece(*full, lanes=()), [voice("hull")])


def test_an_exchanged_kit_keeps_what_lanes_play_and_it_has_not():
    before = piece(lanes=("thud", "bottle"))
    own = Kit(name="Mine", channel=3, voices=(voice("bottle", 60), voice("hull", 61)))
    after = exchanged(before, own)
    assert (after.kit.name, after.kit.channel) == ("Mine", 3)
    assert notes(after.kit) == {"bottle": 60, "hull": 61, "thud": DOCKSIDE.voice("thud").pitch}
    # There and back: what stayed is the kit's own again.
    assert exchanged(after, KITS[1]).kit.voice("thud") is not None
    assert exchanged(after, DOCKSIDE).kit.voices[: len(DOCKSIDE.voices)] == DOCKSIDE.voices


def test_a_kit_of_sounds_gives_each_a_lane_of_its_own_rhythm():
    after = kit_of(piece(), "a", [voice("hull"), voice("creak")])
    assert (after.kit.name, notes(after.kit)) == ("Kit of Hull", {"hull": 37, "creak": 38, "thud": 36})
    lanes = after.patterns[0].lanes
    assert [(one.id, one.name, one.voice, one.ink) for one in lanes[1:]] == [
        ("hull", "Hull", "hull", 1),
        ("creak", "Creak", "creak", 2),
    ]
    assert lanes[1].source != lanes[2].source
    assert after.patterns[1].lanes == ()


@pytest.mark.parametrize(
    ("pattern", "voices", "said"),
    [
        ("z", [voice("hull")], "no pattern 'z'"),
        ("a", [], "at least one sound"),
        ("a", [voice(f"hull-{number}") for number in range(64)], "at most 64"),
    ],
)
def test_a_kit_that_cannot_be_made_is_refused(pattern, voices, said):
    with pytest.raises(DocumentError, match=said):
        kit_of(piece(), pattern, voices)
