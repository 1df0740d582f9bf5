"""From a clip back to where it came from, and what sounds notes that came from anywhere."""

import pytest
from hypothesis import given

from lattice.clips import Note, Track, TrackSound, apart, as_it_stood, in_place, sounds_of, take, take_clip
from lattice.document import DOCKSIDE, DocumentError, score_of
from lattice.render import Window, render
from tests.lattice.clips.clips import clip
from tests.lattice.scores import dice, lane, score, scores

WINDOW = Window(bars=2)


def taken(one, lanes=None, number=1):
    return take_clip(take(one, number, WINDOW, lanes), "Night Ferry", "A")


@given(scores(min_lanes=1), dice)
def test_the_pattern_as_it_stood_plays_the_same(score, dice):
    piece = as_it_stood(taken(score, number=dice).origin)
    pattern = piece.patterns[0]
    again = render(score_of(piece, pattern), pattern.dice, WINDOW)
    # A take stands at the score's own tempo and swing, and so does the piece.
    assert again.starts.tolist() == render(score, dice, WINDOW).starts.tolist()
    assert (piece.tempo, piece.swing, piece.kit) == (score.tempo, score.swing, score.kit)


def test_a_clip_plays_in_place_of_all_lanes_that_made_it_and_of_no_other():
    three = score(lane(), lane("bell", mute=True), lane("clink"))
    placed = in_place(taken(three), ["thud", "bell", "clink", "gull"])
    assert {one: len(kept.notes) for one, kept in placed.items()} == {"thud": 8, "bell": 0, "clink": 8}


def test_a_take_of_chosen_lanes_plays_in_place_of_those():
    two = score(lane(), lane("bell"))
    assert set(in_place(taken(two, ("bell",)), ["thud", "bell"])) == {"bell"}


def test_a_clip_from_elsewhere_has_no_place():
    with pytest.raises(DocumentError, match="came from none of the lanes"):
        in_place(clip((Note(0, 1, 36, 1),)), ["thud"])


def test_more_notes_than_a_lane_keeps_are_refused_by_the_lanes_name():
    notes = tuple(Note(at, 1, 36, 1) for at in range(20_001))
    with pytest.raises(DocumentError, match="lane “Thud”, clip: at most 20,000 notes"):
        in_place(clip(tracks=(Track(lane="Thud", lane_id="thud", notes=notes),)), ["thud"])


def test_each_track_with_notes_becomes_a_clip_called_after_it():
    parts = apart(clip((Note(0, 1, 36, 1),), (), (Note(5, 1, 38, 1),)))
    assert [part.name for part in parts] == ["Last crossing Lane 1", "Last crossing Lane 3"]
    assert [part.note_count for part in parts] == [1, 1]


def test_a_lanes_voice_sounds_its_notes_as_much_higher_as_they_are():
    bell = TrackSound(voice=DOCKSIDE.voice("bell"), note=51, level_db=-6, pan=10)
    sounds = sounds_of(Track(lane="Bell", sound=bell, notes=(Note(0, 1, 51, 1), Note(1, 1, 63, 1))))
    assert {pitch: (one.voice.id, one.semitones, one.level_db, one.pan) for pitch, one in sounds.items()} == {
        51: ("bell", 0, -6, 10),
        63: ("bell", 12, -6, 10),
    }


def test_drums_from_elsewhere_are_sounded_by_the_nearest_voice_and_melodies_by_one_in_tune():
    drums = sounds_of(
        Track(lane="Drums", channel=10, notes=(Note(0, 1, 36, 1), Note(0, 1, 40, 1), Note(0, 1, 127, 1)))
    )
    assert [one.voice.id for one in drums.values()] == ["thud", "bottle", "rope"]
    assert {one.semitones for one in drums.values()} == {0}
    melody = sounds_of(Track(lane="Melody", channel=1, notes=(Note(0, 1, 60, 1), Note(0, 1, 79, 1))))
    assert [(one.voice.id, one.semitones) for one in melody.values()] == [("lantern", -9), ("lantern", 10)]
