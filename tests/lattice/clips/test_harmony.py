"""Guessing what is known: scales, and chords a bar, of music that was made in them."""

import pytest

from lattice.clips.harmony import Heard, guess
from lattice.theory.scales import SCALES

BAR = 53760


def tune(root: int, name: str) -> list[Heard]:
    """Up the scale and down again, at rest on its root."""
    degrees = [*SCALES[name], 12, *SCALES[name][::-1]]
    rising = [Heard(at * 6720, 6720, 60 + root + degree) for at, degree in enumerate(degrees)]
    return [Heard(0, BAR, 48 + root), *rising, Heard(len(degrees) * 6720, 2 * BAR, 60 + root)]


@pytest.mark.parametrize("root", range(12))
@pytest.mark.parametrize("name", ["major", "minor", "dorian", "phrygian", "lydian", "mixolydian", "blues"])
def test_a_scale_that_is_played_and_rests_on_its_root_is_heard(root, name):
    found = guess(tune(root, name), BAR)
    assert found is not None
    assert (found.scale.root, found.scale.name) == (root, name)
    assert found.scale_sure > 40


def test_one_note_alone_says_little():
    alone = guess([Heard(0, 100, 60)], BAR)
    assert alone is not None
    assert alone.scale_sure < 30
    assert guess([], BAR) is None


def test_chords_are_heard_bar_by_bar():
    chords = {0: (50, 65, 69), 1: (60, 64, 67), 2: (60, 64, 67), 3: (55, 59, 62)}
    notes = [Heard(bar * BAR, BAR - 10, pitch) for bar, row in chords.items() for pitch in row]
    found = guess([*notes, *(Heard(4 * BAR, BAR, pitch) for pitch in (50, 65, 69))], BAR)
    assert found is not None
    assert (found.scale.root, found.scale.name) == (2, "dorian")
    assert found.progression is not None
    assert [(one.chord, one.lasts.bars) for one in found.progression.chords] == [
        ("i", 1), ("VII", 2), ("IV", 1), ("i", 1),
    ]  # fmt: skip
    assert found.chords_sure == 100


def test_an_empty_bar_goes_on_with_the_chord_before():
    found = guess([Heard(0, BAR, 60), Heard(0, BAR, 64), Heard(0, BAR, 67), Heard(2 * BAR, BAR, 67)], BAR)
    assert found is not None
    assert found.progression is not None
    assert found.progression.chords[0].lasts.bars == 2
