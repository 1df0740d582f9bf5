"""Chords by name and by numeral, how they lie, and progressions in time."""

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import PlacedChord, Progression, Scale
from lattice.document.timing import BarSpan
from lattice.render.progression import chords_of
from lattice.starters.progressions import PROGRESSIONS
from lattice.theory.chords import (
    QUALITIES,
    Chord,
    chord_name,
    numeral_of,
    parse_chord,
    scale_chords,
)
from lattice.theory.following import along_tones, nearest_tones, roots_near
from lattice.theory.scales import SCALES
from lattice.theory.voicing import led, nearest_root, turned, voiced
from tests.lattice.lane_fields import progressions, scales

C_MAJOR = (0, SCALES["major"])


@pytest.mark.parametrize(
    ("said", "notes"),
    [
        # Triads and sevenths as chord tables print them, from C.
        ("C", "0 4 7"),
        ("Cm", "0 3 7"),
        ("Cdim", "0 3 6"),
        ("C+", "0 4 8"),
        ("C7", "0 4 7 10"),
        ("Cmaj7", "0 4 7 11"),
        ("Cm7", "0 3 7 10"),
        ("Cø", "0 3 6 10"),
        ("Cdim7", "0 3 6 9"),
        ("C6", "0 4 7 9"),
        ("Csus2", "0 2 7"),
        ("Csus4", "0 5 7"),
        ("C9", "0 4 7 10 14"),
        ("CmM7", "0 3 7 11"),
    ],
)
def test_names_mean_what_chord_tables_say(said, notes):
    assert parse_chord(said, *C_MAJOR) == Chord(0, tuple(map(int, notes.split())))


def test_letters_take_sharps_and_flats():
    roots = {"C♯m": 1, "Db": 1, "F#": 6, "B♭7": 10, "Cb": 11}
    assert {said: parse_chord(said, *C_MAJOR).root for said in roots} == roots


@pytest.mark.parametrize(
    ("scale", "numerals"),
    [
        ("major", "I ii iii IV V vi viidim"),
        ("minor", "i iidim III iv v VI VII"),
        ("dorian", "i ii III IV v vidim VII"),
        ("phrygian", "i II III iv vdim VI vii"),
        ("mixolydian", "I ii iiidim IV v vi VII"),
        ("harmonic-minor", "i iidim IIIaug iv V VI viidim"),
    ],
)
def test_the_chords_of_a_scale_have_the_numerals_of_the_books(scale, numerals):
    assert " ".join(scale_chords(0, SCALES[scale])) == numerals


def test_a_numeral_says_by_its_size_what_it_is():
    assert parse_chord("V7", *C_MAJOR) == parse_chord("G7", *C_MAJOR)
    assert parse_chord("ii7", *C_MAJOR) == parse_chord("Dm7", *C_MAJOR)
    assert parse_chord("II", *C_MAJOR) == parse_chord("D", *C_MAJOR)  # borrowed: major
    assert parse_chord("♭VII", *C_MAJOR) == parse_chord("B♭", *C_MAJOR)
    assert parse_chord("vii°", *C_MAJOR) == parse_chord("Bdim", *C_MAJOR)


@pytest.mark.parametrize("said", ["H", "Cx", "VIII", "iiii", "7", "", "c", "Vmaj13", "Cm/E"])
def test_what_is_no_chord_is_refused_with_what_was_written(said):
    with pytest.raises(ValueError, match="no chord is called"):
        parse_chord(said, *C_MAJOR)


def test_numerals_need_seven_notes_and_names_do_not():
    pentatonic = (0, SCALES["minor-pentatonic"])
    with pytest.raises(ValueError, match="needs a scale of seven notes, this one has 5: name the chord"):
        parse_chord("iv", *pentatonic)
    assert parse_chord("Fm", *pentatonic) == Chord(5, (0, 3, 7))


@given(scales, st.sampled_from(sorted(QUALITIES)), st.integers(0, 11))
def test_what_a_chord_is_called_is_what_it_is(scale, quality, root):
    chord, at = Chord(root, QUALITIES[quality]), (scale.root, scale.semitones)
    name, numeral = chord_name(chord, *at), numeral_of(chord, *at)
    if name.count("♯") < 2 and name.count("♭") < 2:
        assert parse_chord(name, *at) == chord
    assert numeral is None or parse_chord(numeral, *at) == chord


# ---- How they lie ----

chords = st.builds(Chord, st.integers(0, 11), st.sampled_from([QUALITIES[q] for q in sorted(QUALITIES)]))
notes = st.integers(20, 100)


@given(st.integers(0, 11), notes)
def test_the_nearest_root_is_at_most_a_tritone_away_and_below_where_both_are_as_near(root, note):
    found = nearest_root(root, note)
    assert found % 12 == root
    assert -6 <= found - note <= 5


def test_an_inversion_puts_the_lowest_note_above_the_others():
    assert voiced(Chord(0, (0, 4, 7)), 0, 60) == (60, 64, 67)
    assert voiced(Chord(0, (0, 4, 7)), 1, 60) == (64, 67, 72)
    assert voiced(Chord(0, (0, 4, 7)), 2, 60) == (67, 72, 76)
    assert turned((60, 64, 67), 3) == (72, 76, 79)


def test_common_progressions_are_led_as_harmony_teaches():
    # I - IV - V7 - I in close position: common tones stay, the others move by step.
    first = voiced(Chord(0, (0, 4, 7)), 0, 60)
    fourth = led(Chord(5, (0, 4, 7)), first)
    assert fourth == (60, 65, 69)
    assert led(Chord(0, (0, 4, 7)), fourth) == (60, 64, 67)


@given(chords, chords, notes)
def test_no_close_position_moves_less(before, chord, note):
    was = voiced(before, 0, note)
    found = led(chord, was)

    def moved(one):
        there = sum(min(abs(pitch - near) for near in was) for pitch in one)
        return there + sum(min(abs(pitch - near) for near in one) for pitch in was)

    tones = [chord.root + tone for tone in chord.tones]
    others = [
        [pitch + 12 * octave for pitch in turned(tones, inversion)]
        for inversion in range(len(tones))
        for octave in range(-3, 12)
    ]
    assert {pitch % 12 for pitch in found} == {tone % 12 for tone in tones}
    assert moved(found) == min(map(moved, others))


# ---- Progressions ----


@given(progressions, scales, st.integers(0, 200_000))
def test_the_chord_at_a_time_is_the_one_whose_stretch_holds_it(progression, scale, tick):
    found = chords_of(progression, scale, Fraction(4))
    number = int(found.number_at(np.array([tick]), 1)[0])
    time = Fraction(tick, 13440)
    assert found.start_of(number) <= time < found.start_of(number + 1)


@given(progressions, scales)
def test_a_progression_begins_again_at_its_own_end(progression, scale):
    found = chords_of(progression, scale, Fraction(4))
    assert found.start_of(len(found.chords)) == found.total == sum(found.lasts)


def test_a_million_bars_on_is_as_exact():
    progression = Progression(chords=(PlacedChord(chord="C"), PlacedChord(chord="F", lasts=BarSpan(bars=2))))
    found = chords_of(progression, Scale(), Fraction(7, 2))
    far = 1_000_000 * 47040
    assert found.number_at(np.array([3 * far, 3 * far + 47039, 3 * far + 47040]), 1).tolist() == [
        2_000_000, 2_000_000, 2_000_001,
    ]  # fmt: skip


def test_there_are_twelve_starters_and_each_is_read_in_the_scale_it_was_made_for():
    assert len(PROGRESSIONS) >= 12
    assert len({one.name for one in PROGRESSIONS}) == len(PROGRESSIONS)
    for one in PROGRESSIONS:
        scale = Scale.model_validate({"root": 2, "name": one.scales})
        assert len(chords_of(one.progression, scale, Fraction(4)).chords) == len(one.progression.chords)


# ---- Followers ----


@given(st.lists(chords, min_size=1, max_size=4), st.lists(st.tuples(st.integers(0, 3), st.integers(0, 127))))
def test_nearest_tones_are_tones_and_none_is_nearer(all_chords, asked):
    which = np.array([place % len(all_chords) for place, _ in asked], np.int64)
    wanted = np.array([pitch for _, pitch in asked], np.int64)
    for place, pitch, found in zip(which, wanted, nearest_tones(all_chords, which, wanted), strict=True):
        chord = all_chords[place]
        own = {(chord.root + tone) % 12 for tone in chord.tones}
        assert found % 12 in own
        assert not any((pitch + by) % 12 in own for by in range(-abs(found - pitch) + 1, abs(found - pitch)))
        if found > pitch:  # of two as near the lower
            assert (2 * pitch - found) % 12 not in own


@given(st.lists(chords, min_size=1, max_size=4), notes, st.lists(st.integers(-20, 20), min_size=1))
def test_degrees_along_tones_are_tones_in_order(all_chords, note, degrees):
    for place, chord in enumerate(all_chords):
        steps = np.array(sorted(set(degrees)))
        which = np.full(steps.size, place)
        found = along_tones(all_chords, which, roots_near(all_chords, which, note), steps)
        assert {pitch % 12 for pitch in found.tolist()} <= {(chord.root + tone) % 12 for tone in chord.tones}
        assert (np.diff(found) > 0).all()
    each = np.arange(len(all_chords))
    zero = along_tones(all_chords, each, roots_near(all_chords, each, note), np.zeros_like(each))
    assert zero.tolist() == roots_near(all_chords, np.arange(len(all_chords)), note).tolist()
