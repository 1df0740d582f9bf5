"""Scales against tables of music theory, and the laws of walking along them."""

from typing import get_args

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import DocumentError, Scale, read
from lattice.theory.names import note_name, pitch_class_of, pitch_names
from lattice.theory.scales import SCALES, ScaleName, in_scale, scale_note_below, scale_steps, steps_between
from lattice.theory.signature import signature_of
from tests.lattice.lane_fields import scales

# Whole (2) and half (1) steps from root to octave, as theory books print them.
STEPS = {
    "major": "2212221",
    "ionian": "2212221",
    "dorian": "2122212",
    "phrygian": "1222122",
    "lydian": "2221221",
    "mixolydian": "2212212",
    "minor": "2122122",
    "aeolian": "2122122",
    "locrian": "1221222",
    "harmonic-minor": "2122131",
    "melodic-minor": "2122221",
    "major-pentatonic": "22323",
    "minor-pentatonic": "32232",
    "blues": "321132",
    "whole-tone": "222222",
    "diminished-half-whole": "12121212",
    "diminished-whole-half": "21212121",
    "chromatic": "111111111111",
}


def test_every_scale_is_that_of_the_books():
    assert set(STEPS) == set(SCALES) == set(get_args(ScaleName))
    for name, steps in STEPS.items():
        degrees = [sum(map(int, steps[:place])) for place in range(len(steps))]
        assert list(SCALES[name]) == degrees, name
        assert sum(map(int, steps)) == 12, name


def test_the_church_modes_are_the_major_scale_from_another_of_its_notes():
    modes = ["ionian", "dorian", "phrygian", "lydian", "mixolydian", "aeolian", "locrian"]
    for root, mode in zip(SCALES["major"], modes, strict=True):
        turned = sorted((note - root) % 12 for note in SCALES["major"])
        assert tuple(turned) == SCALES[mode]


pitches = st.integers(0, 127)
steps = st.integers(-40, 40)


@given(scales, pitches, steps)
def test_walking_stays_in_the_scale(scale, pitch, by):
    start = scale_note_below(np.array([pitch]), scale.root, scale.semitones)
    there = scale_steps(start, np.array([by]), scale.root, scale.semitones)
    assert in_scale(there, scale.root, scale.semitones).all()


@given(scales, pitches, steps, steps)
def test_steps_add_up(scale, pitch, one, other):
    at = scale.root, scale.semitones
    start = scale_note_below(np.array([pitch]), *at)
    twice = scale_steps(scale_steps(start, np.array([one]), *at), np.array([other]), *at)
    assert twice.tolist() == scale_steps(start, np.array([one + other]), *at).tolist()


@given(scales, pitches, st.integers(-3, 3))
def test_as_many_steps_as_the_scale_has_notes_are_an_octave(scale, pitch, octaves):
    at = scale.root, scale.semitones
    start = scale_note_below(np.array([pitch]), *at)
    there = scale_steps(start, np.array([octaves * len(scale.semitones)]), *at)
    assert there.tolist() == (start + 12 * octaves).tolist()


@given(scales, pitches)
def test_the_note_below_is_the_nearest_one_that_is_not_above(scale, pitch):
    found = int(scale_note_below(np.array([pitch]), scale.root, scale.semitones)[0])
    own = [one for one in range(-12, 128) if (one - scale.root) % 12 in scale.semitones]
    assert found == max(one for one in own if one <= pitch)


@given(scales, pitches, st.integers(1, 9))
def test_from_a_note_outside_one_step_is_the_next_note_of_the_scale(scale, pitch, by):
    at = scale.root, scale.semitones
    own = [one for one in range(-200, 330) if (one - scale.root) % 12 in scale.semitones]
    up, down = scale_steps(np.array([pitch, pitch]), np.array([by, -by]), *at).tolist()
    assert up == [one for one in own if one > pitch][by - 1]
    assert down == [one for one in own if one < pitch][-by]


@given(scales, pitches, steps)
def test_steps_between_undoes_walking(scale, pitch, by):
    at = scale.root, scale.semitones
    start = int(scale_note_below(np.array([pitch]), *at)[0])
    there = int(scale_steps(np.array([start]), np.array([by]), *at)[0])
    assert steps_between(start, there, *at) == by


@pytest.mark.parametrize(
    ("degrees", "said"),
    [
        ([0], "at least 2 notes"),
        ([], "at least 2 notes"),
        ([2, 4], "ascend from 0"),
        ([0, 4, 4], "ascend from 0"),
        ([0, 7, 5], "ascend from 0"),
    ],
)
def test_what_is_no_scale_is_refused(degrees, said):
    with pytest.raises(DocumentError, match=said):
        read(Scale, {"root": 0, "name": "custom", "degrees": degrees})


def test_a_named_scale_takes_no_degrees():
    with pytest.raises(DocumentError, match="degrees of its own"):
        read(Scale, {"root": 0, "name": "dorian", "degrees": [0, 2]})


# ---- Names ----


def test_seven_notes_take_seven_letters():
    for root in range(12):
        for name, degrees in SCALES.items():
            if len(degrees) == 7:
                names = [pitch_names(root, degrees)[(root + degree) % 12] for degree in degrees]
                assert len({said[0] for said in names}) == 7, (root, name, names)


@given(scales)
def test_every_name_means_its_note(scale):
    for pitch, name in enumerate(pitch_names(scale.root, scale.semitones)):
        said = pitch_class_of(name) if len(name) < 4 else pitch
        assert said == pitch


def test_notes_are_spelt_as_their_key_is():
    names = pitch_names(10, SCALES["major"])  # B flat major
    assert [names[(10 + degree) % 12] for degree in SCALES["major"]] == ["B♭", "C", "D", "E♭", "F", "G", "A"]
    assert note_name(60) == "C4"
    assert note_name(59, 6, SCALES["major"]) == "B3"
    assert note_name(65, 6, SCALES["major"]) == "E♯4"


def test_a_key_signature_is_that_of_the_notes():
    # Relative keys share one; names of the MIDI standard.
    assert signature_of(2, SCALES["dorian"]) == "C"
    assert signature_of(4, SCALES["phrygian"]) == "C"
    assert signature_of(7, SCALES["major"]) == "G"
    assert signature_of(9, SCALES["minor"]) == "Am"
    assert signature_of(2, SCALES["harmonic-minor"]) == "Dm"
    assert signature_of(0, SCALES["whole-tone"]) is None
