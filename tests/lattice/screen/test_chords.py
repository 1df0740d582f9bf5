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
