"""What is heard: each note with the voice of the built-in sounds that strikes it."""

import pytest

from lattice.document import DOCKSIDE, Drawn, Lane, Score
from lattice.document.strip import PitchStrip, RatchetStrip
from lattice.render import Window, render
from lattice.screen import sounds

ONE_BAR = Window(first_bar=0, bars=1)


def drawn(name, **fields):
    return Lane(id=name, name=name, source=Drawn(steps=4, hits=(0, 2)), **fields)


def struck(*lanes):
    score = Score(tempo=112.0, kit=DOCKSIDE, lanes=lanes)
    heard = sounds(score, 1, ONE_BAR)
    voices = [heard.voices[number].id for number in heard.events.voices]
    return list(zip(voices, heard.events.pitches, heard.events.semitones, strict=True)), heard


def test_a_lane_of_the_kit_strikes_its_voice_tuned_to_the_note_of_its_own():
    notes, _ = struck(drawn("thud", voice="thud"), drawn("bell", voice="bell", note=55))
    assert {note for note in notes if note[0] == "thud"} == {("thud", 36, 0)}
    # Where the lane has a note of its own, the voice sounds there as it is.
    assert {note for note in notes if note[0] == "bell"} == {("bell", 55, 0)}


def test_a_melodic_lane_is_sung_by_one_voice_and_says_how_it_is_set():
    strip = PitchStrip(values=(0, None, 7, None))
    notes, heard = struck(drawn("reed", voice="low-reed", note=38, pitch_strip=strip))
    assert [(voice, pitch, semitones) for voice, pitch, semitones in notes][:2] == [
        ("low-reed", 38, 0),
        ("low-reed", 50, 12),
    ]
    assert heard.settings[0].tone is not None


def test_the_whole_kit_strikes_for_each_note_the_voice_nearest_to_it():
    strip = PitchStrip(values=(0, None, 3, None), unit="semitones")
    notes, _ = struck(drawn("kit", voice="whole-kit", note=36, pitch_strip=strip))
    assert [voice for voice, _, _ in notes][:2] == ["thud", "bottle"]
    assert {semitones for _, _, semitones in notes} == {0}


def test_a_ratchets_climb_tunes_the_voice_and_leaves_the_note():
    strip = RatchetStrip(values=(3,), climb=2)
    notes, _ = struck(drawn("thud", voice="thud", ratchet_strip=strip))
    assert notes[:3] == [("thud", 36, 0), ("thud", 36, 2), ("thud", 36, 4)]


@pytest.mark.parametrize("bars", [1, 8])
def test_it_is_what_is_rendered(bars):
    score = Score(
        tempo=112.0, kit=DOCKSIDE, lanes=(drawn("thud", voice="thud"), drawn("reed", voice="low-reed"))
    )
    window = Window(first_bar=3, bars=bars)
    heard = sounds(score, 5, window).events
    events = render(score, 5, window)
    assert (heard.starts, heard.pitches) == (events.starts.tolist(), events.pitches.tolist())


def test_a_window_without_notes_strikes_nothing():
    heard = sounds(Score(tempo=112.0, kit=DOCKSIDE, lanes=()), 1, ONE_BAR)
    assert (heard.voices, heard.events.voices) == ([], [])
