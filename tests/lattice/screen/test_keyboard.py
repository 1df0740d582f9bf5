"""The keys of a keyboard, as a scale spells and marks them."""

import pytest

from lattice.document.kit import DOCKSIDE, Voice
from lattice.document.scale import Scale
from lattice.screen.keyboard import keyboard
from lattice.theory.scales import SCALES


def test_middle_c_is_c4_and_the_octave_goes_with_the_letter():
    keys = keyboard(Scale(root=1, name="harmonic-minor"))  # of C sharp, whose seventh is B sharp
    assert (keys[60].name, keys[60].letter) == ("B♯3", "B♯")
    assert keyboard(Scale())[60].name == "C4"
    assert [key.pitch for key in keys] == list(range(128))


def test_five_of_every_twelve_keys_are_black():
    assert [key.pitch for key in keyboard(Scale()) if key.is_black][:6] == [1, 3, 6, 8, 10, 13]


@pytest.mark.parametrize("name", sorted(SCALES))
def test_the_scale_has_as_many_keys_an_octave_as_it_has_notes_one_of_them_its_root(name):
    keys = keyboard(Scale(root=7, name=name))[12:24]
    assert sum(key.in_scale for key in keys) == len(SCALES[name])
    assert [key.pitch for key in keys if key.is_root] == [19]
    assert all(key.in_scale for key in keys if key.is_root)


def test_keys_say_which_voice_of_a_kit_they_strike_the_first_of_two_on_one_note():
    voices = (*DOCKSIDE.voices, Voice(id="again", name="Again", pitch=36))
    struck = {
        key.pitch: key.voice for key in keyboard(Scale(), DOCKSIDE.model_copy(update={"voices": voices}))
    }
    assert struck[36] == "thud"
    assert {pitch for pitch, voice in struck.items() if voice} == {voice.pitch for voice in DOCKSIDE.voices}
    assert not any(key.voice for key in keyboard(Scale()))
