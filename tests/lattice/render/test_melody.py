"""Melodic lanes: what they promise of scales, chords and pools, and what a screen is told of them."""

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import (
    Arpeggio,
    ChordStrip,
    Drawn,
    Euclidean,
    Free,
    Lane,
    LanePool,
    Pedal,
    PitchStrip,
    PlacedChord,
    RatchetStrip,
    Rests,
    Scale,
    ScalePool,
    Score,
    StepValue,
    TypedPool,
)
from lattice.document.pitched import PITCHED
from lattice.render import Window, render
from lattice.render.progression import chords_of
from lattice.screen import picture
from lattice.theory.chords import parse_chord
from tests.lattice.lane_fields import progressions, scales
from tests.lattice.reeds import D_DORIAN, FOUR_CHORDS, heard, pitches, reed
from tests.lattice.scores import lane, score

# ---- Scale and degrees ----


def test_degrees_are_counted_in_the_scale_from_the_lanes_note():
    strip = PitchStrip(values=(0, 1, 2, 3, 7, -1, -7, 4))
    assert pitches(reed(pitch_strip=strip)) == [50, 52, 53, 55, 62, 48, 38, 57]


def test_changing_the_scale_reads_the_same_degrees_anew():
    strip = PitchStrip(values=(0, 1, 2, 3, 4, 5, 6, 7))
    rising = reed(pitch_strip=strip)
    assert pitches(rising, scale=Scale(root=2, name="major")) == [50, 52, 54, 55, 57, 59, 61, 62]
    assert pitches(rising, scale=Scale(root=2, name="phrygian")) == [50, 51, 53, 55, 57, 58, 60, 62]
    assert pitches(reed(pitch_strip=strip, scale=Scale(root=2, name="blues")))[:7] == [
        50,
        53,
        55,
        56,
        57,
        60,
        62,
    ]


def test_an_accidental_raises_its_own_note_and_nothing_that_is_stacked_on_it():
    """B flat, D and F in C major: the seventh degree lowered, its stack as it stands."""
    strip = PitchStrip(values=(6,), accidentals=(-1,))
    stack = reed(
        note=60, pitch_strip=strip, chord_strip=ChordStrip(values=(3,)), source=Drawn(steps=8, hits=(0,))
    )
    assert pitches(stack, scale=Scale(root=0, name="major"))[:3] == [70, 74, 77]


def test_a_note_outside_the_scale_counts_from_the_one_below():
    assert pitches(reed(note=51, pitch_strip=PitchStrip(values=(0, 1)))) == [50, 52, 50, 50, 50, 50, 50, 50]


def test_without_a_note_of_its_own_a_lane_lies_on_the_root_nearest_its_voice():
    for root in range(12):
        one = reed(note=None)
        found = pitches(one, scale=Scale(root=root, name="minor"), count=1)[0]
        assert found % 12 == root
        assert abs(found - PITCHED["low-reed"].home) <= 6


def test_semitones_leave_the_scale_and_before_stays_in_it():
    strip = PitchStrip(values=(0, 1, 2), unit="semitones")
    assert pitches(reed(pitch_strip=strip), count=3) == [50, 51, 52]
    assert pitches(reed(degrees_up=2, semitones_up=1), count=1) == [54]  # F, then a semitone higher


@given(scales, st.integers(-20, 20), st.integers(-9, 9), st.integers(30, 90))
def test_degrees_before_the_scale_add_up_with_those_of_the_strip(scale, value, up, note):
    one = reed(note=note, pitch_strip=PitchStrip(values=(value,) * 8), degrees_up=up)
    other = (
        reed(note=note, pitch_strip=PitchStrip(values=(value + up,) * 8)) if abs(value + up) <= 28 else None
    )
    assert other is None or pitches(one, scale=scale) == pitches(other, scale=scale)


@given(scales, st.integers(-12, 12), st.integers(40, 80))
def test_semitones_after_the_scale_move_every_note_alike(scale, up, note):
    plain = reed(note=note, pitch_strip=PitchStrip(values=(0, 2, -3, 5)))
    moved = plain.model_copy(update={"semitones_up": up})
    assert pitches(moved, scale=scale) == [pitch + up for pitch in pitches(plain, scale=scale)]


def test_what_leaves_midi_is_folded_by_octaves_and_said():
    one = reed(note=120, pitch_strip=PitchStrip(values=(7, 0, 14)))
    found = heard(one, bars=1)
    assert all(0 <= pitch <= 127 for pitch in found.pitches.tolist())
    shown = picture(score(one, scale=D_DORIAN), 1, Window(bars=1)).lanes[0]
    assert shown.folded == 4  # two of eight steps, twice in the bar
    assert picture(score(reed(), scale=D_DORIAN), 1, Window(bars=1)).lanes[0].folded == 0


def test_a_stack_takes_every_second_degree():
    one = reed(source=Drawn(steps=8, hits=(0,)), chord_strip=ChordStrip(values=(3,)))
    assert sorted(pitches(one, count=3)) == [50, 53, 57]


def test_a_roll_climbs_by_degrees_or_semitones():
    roll = RatchetStrip(values=(4,), climb=1, climb_unit="degrees")
    one = reed(source=Drawn(steps=8, hits=(0,)), ratchet_strip=roll)
    assert pitches(one, count=4) == [50, 52, 53, 55]
    chromatic = reed(
        source=Drawn(steps=8, hits=(0,)), ratchet_strip=roll.model_copy(update={"climb_unit": "semitones"})
    )
    assert pitches(chromatic, count=4) == [50, 51, 52, 53]


# ---- Following ----


def test_degrees_are_counted_from_the_root_of_the_chord():
    one = reed(
        follows="root", source=Drawn(steps=16, hits=(0, 8)), pitch_strip=PitchStrip(values=(0,) * 8 + (2,))
    )
    # D F | G B | D sharp, outside the scale, then the second scale note above it | A C
    assert pitches(one, bars=4, progression=FOUR_CHORDS) == [50, 53, 55, 59, 51, 53, 45, 48]


@given(progressions, st.sampled_from(["tones", "nearest"]), st.data())
def test_followers_of_tones_are_always_in_the_chord(progression, follows, data):
    values = tuple(data.draw(st.lists(st.integers(-9, 9), min_size=1, max_size=6)))
    one = reed(follows=follows, pitch_strip=PitchStrip(values=values, free=Free()))
    found = heard(one, bars=4, progression=progression)
    starts = np.cumsum([0, *(chord.lasts.quarters(Fraction(4)) for chord in progression.chords)])
    for start, pitch in zip(found.starts.tolist(), found.pitches.tolist(), strict=True):
        into = Fraction(start, 13440) % starts[-1]
        place = max(at for at, begin in enumerate(starts[:-1]) if begin <= into)
        chord = parse_chord(progression.chords[place].chord, 2, D_DORIAN.semitones)
        assert (pitch - chord.root) % 12 in {tone % 12 for tone in chord.tones}


def test_chords_of_a_follower_of_tones_lie_as_the_nearest_voicing_does():
    one = reed(
        follows="tones",
        source=Drawn(steps=1, hits=(0,)),
        step_value=StepValue(note=1),
        chord_strip=ChordStrip(values=(3,)),
    )
    led = FOUR_CHORDS.model_copy(update={"leading": "nearest"})
    as_written, nearest = (heard(one, bars=4, progression=each) for each in (FOUR_CHORDS, led))
    voicings = chords_of(led, D_DORIAN, Fraction(4)).voicings(50)
    assert nearest.pitches.tolist() == [pitch for row in voicings for pitch in row[:3]]
    assert nearest.pitches.tolist() != as_written.pitches.tolist()


def test_a_pedal_note_goes_up_with_all_of_its_pattern_but_not_with_its_lane():
    pedal = Arpeggio(pool=TypedPool(notes=(62, 65)), pedal=Pedal(every=2, note=50))
    one = reed(source=Drawn(steps=4, hits=(0, 1, 2, 3)), step_value=StepValue(note=4), arpeggio=pedal)
    assert pitches(one, count=4) == [50, 62, 50, 65]
    assert pitches(one, count=4, degrees_up=1) == [52, 64, 52, 67]
    higher = one.model_copy(update={"degrees_up": 1})
    assert pitches(higher, count=4) == [50, 64, 50, 67]


@given(progressions, scales, st.data())
def test_followers_of_the_root_are_on_it_or_in_the_scale(progression, scale, data):
    values = tuple(data.draw(st.lists(st.integers(-9, 9), min_size=1, max_size=6)))
    one = reed(follows="root", pitch_strip=PitchStrip(values=values, free=Free()))
    found = heard(one, bars=3, progression=progression, scale=scale)
    roots = {parse_chord(chord, scale.root, scale.semitones).root for chord in progression.written()}
    own = {(scale.root + degree) % 12 for degree in scale.semitones}
    assert {pitch % 12 for pitch in found.pitches.tolist()} <= own | roots


def test_changing_one_chord_changes_all_that_follow_it_and_nothing_before():
    lanes = (reed("a", follows="root"), reed("b", follows="nearest", channel=2), reed("c", channel=3))
    changed = FOUR_CHORDS.model_copy(
        update={"chords": (*FOUR_CHORDS.chords[:2], PlacedChord(chord="C"), FOUR_CHORDS.chords[3])}
    )
    before, after = (heard(*lanes, bars=4, progression=one) for one in (FOUR_CHORDS, changed))
    third = (before.starts >= 2 * 53760) & (before.starts < 3 * 53760)
    assert before.pitches[~third].tolist() == after.pitches[~third].tolist()
    differing = before.lanes[third][before.pitches[third] != after.pitches[third]]
    assert set(differing.tolist()) == {0, 1}


# ---- What a screen is told ----


def test_a_pool_that_drifts_says_when_it_meets_and_can_be_made_to_fit():
    one = reed(source=Euclidean(hits=8, steps=16), arpeggio=Arpeggio(pool=ScalePool(low=0, high=4)))
    shown = picture(score(one, scale=D_DORIAN), 1, Window(bars=1), ["reed"]).benches[0]
    assert shown.pool == "5 notes on 8 hits: together again after 5 bars"
    assert shown.repeats == "repeats every 5 bars"
    assert shown.fits is not None
    fitted = Lane.model_validate(one.model_dump(mode="json") | shown.fits)
    again = picture(score(fitted, scale=D_DORIAN), 1, Window(bars=1), ["reed"]).benches[0]
    assert (again.pool, again.fits, again.repeats) == (
        "5 notes on 8 hits: fits each cycle",
        None,
        "repeats every bar",
    )


def test_what_is_said_to_repeat_does_so():
    one = reed(
        source=Euclidean(hits=5, steps=8),
        pitch_strip=PitchStrip(values=(0, 2, 4), free=Free(advance="hit")),
        follows="root",
    )
    asked = score(one, scale=D_DORIAN, progression=FOUR_CHORDS)
    said = picture(asked, 1, Window(bars=1), ["reed"]).benches[0].repeats
    assert said == "repeats every 12 bars"
    first, later = (render(asked, 1, Window(first_bar=bar, bars=12)) for bar in (0, 12))
    assert first.pitches.tolist() == later.pitches.tolist()
    assert first.pitches.tolist() != render(asked, 1, Window(first_bar=4, bars=12)).pitches.tolist()


def test_a_staff_has_the_lines_of_the_scale_and_names_them():
    shown = picture(
        score(reed(pitch_strip=PitchStrip(values=(0, 9))), scale=D_DORIAN), 1, Window(bars=1)
    ).lanes[0]
    assert shown.staff is not None
    assert (shown.staff.low, shown.staff.high, shown.staff.note) == (50, 74, 50)
    assert shown.staff.roots == [50, 62, 74]
    assert [shown.staff.names[pitch - 50] for pitch in (50, 53, 60)] == ["D3", "F3", "C4"]
    assert all((pitch - 2) % 12 in D_DORIAN.semitones for pitch in shown.staff.lines)
    assert shown.pitches[:2] == [[50], [65]]
    assert picture(score(lane()), 1, Window(bars=1)).lanes[0].staff is None


def test_chords_are_drawn_where_they_are():
    shown = picture(
        score(lane(), scale=D_DORIAN, progression=FOUR_CHORDS), 1, Window(first_bar=3, bars=2)
    ).chords
    assert [(one.place, one.start, one.end, one.written, one.name) for one in shown] == [
        (3, 3 * 53760, 4 * 53760, "v", "Am"),
        (0, 4 * 53760, 5 * 53760, "i", "Dm"),
    ]
    assert shown[0].notes == "A C E"


@pytest.mark.parametrize("name", list(PITCHED))
def test_each_pitched_voice_has_a_home_that_can_be_played(name):
    assert 0 <= PITCHED[name].home <= 127
    played: Score = score(reed(voice=name, note=None), scale=D_DORIAN)
    assert len(render(played, 1, Window(bars=1)))


def test_a_lane_goes_on_when_the_one_that_it_reads_is_gone():
    slow = reed("slow", pitch_strip=PitchStrip(values=(0, 2, 4)))
    over = reed("over", arpeggio=Arpeggio(pool=LanePool(of="slow"), order="down"), channel=5)
    made = lane("made", source=Rests(of="slow"))
    asked = score(slow, over, made, scale=D_DORIAN)
    of = {
        bench.id: bench.without
        for bench in picture(asked, 1, Window(bars=1), ["slow", "over", "made"]).benches
    }
    assert of["slow"] == {}
    assert set(of["over"]) == set(of["made"]) == {"slow"}
    left = [Lane.model_validate(one.model_dump(mode="json") | of[one.id]["slow"]) for one in (over, made)]
    assert left[0].arpeggio == Arpeggio(pool=TypedPool(notes=(50, 53, 57)), order="down")
    assert isinstance(left[1].source, Drawn)
    assert len(render(score(*left, scale=D_DORIAN), 1, Window(bars=1)))
