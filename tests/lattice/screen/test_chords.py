import pytest

from lattice.document import PlacedChord, Progression, Scale, Score
from lattice.screen.chords import chord_pictures
from tests.lattice.scores import lane, score


def named(degrees: int, semitones: int, *chords: str) -> list[tuple[str, str, str]]:
    progression = Progression(chords=tuple(PlacedChord(chord=chord) for chord in chords))
    its_score: Score = score(lane(), progression=progression, scale=Scale(root=0, name="major"))
    pictures = chord_pictures(its_score.transposed(degrees, semitones), 0, len(chords) * 53760)
    return [(one.written, one.name, one.numeral) for one in pictures]


@pytest.mark.parametrize(
    ("degrees", "semitones", "heard"),
    [
        (0, 0, [("I", "C", "I"), ("V7", "G7", "V7")]),
        (1, 0, [("I", "Dm", "ii"), ("V7", "Am7", "vi7")]),
        (0, 5, [("I", "F", "IV"), ("V7", "C7", "I7")]),
        (-7, 12, [("I", "C", "I"), ("V7", "G7", "V7")]),
    ],
)
def test_chords_are_named_as_they_are_heard_and_written_as_they_were(degrees, semitones, heard):
    assert named(degrees, semitones, "I", "V7") == heard


@pytest.mark.parametrize(
    ("chord", "positions"), [("I", 3), ("V7", 4), ("Dm9", 5)], ids=["triad", "seventh", "ninth"]
)
def test_a_chord_offers_as_many_positions_as_it_has_notes(chord, positions):
    progression = Progression(chords=(PlacedChord(chord=chord),))
    its_score = score(lane(), progression=progression, scale=Scale(root=0, name="major"))
    (picture,) = chord_pictures(its_score, 0, 53760)
    assert (
        picture.inversions
        == [
            "root position",
            "1st inversion",
            "2nd inversion",
            "3rd inversion",
            "4th inversion",
        ][:positions]
    )
