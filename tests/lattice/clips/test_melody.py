"""Clips of melody: the scale and key that they carry, what is guessed of those from elsewhere, melodic lanes of notes."""

import pytest

from lattice.clips import Clip, Note, Track, as_it_stood, take, take_clip
from lattice.clips.guess import guess_clip
from lattice.clips.lanes import lane_offers, pattern_of
from lattice.clips.sounds import sounds_of
from lattice.document import (
    Arpeggio,
    BarSpan,
    Drawn,
    HeldKey,
    Keys,
    Meter,
    PitchStrip,
    PlacedChord,
    Progression,
    Scale,
    Score,
    TypedPool,
)
from lattice.formats.midi import midi_file
from lattice.formats.midi_reader import read_midi
from lattice.render import Window, render
from tests.lattice.scores import lane, score

D_DORIAN = Scale(root=2, name="dorian")
KEYS = Keys(held=(HeldKey(start=0, key=62, velocity=90), HeldKey(start=0, key=65, velocity=80)))


def played() -> Score:
    reed = lane("reed", voice="low-reed", note=50, pitch_strip=PitchStrip(values=(0, 0, 0, 0, 2, 0, 0, 0, 4)))
    glass = lane("glass", voice="glass-harbour", arpeggio=Arpeggio(), brightness=70, keys=KEYS)
    kit = lane("kit", voice="whole-kit", arpeggio=Arpeggio(pool=TypedPool(notes=(36, 42))))
    progression = Progression(chords=(PlacedChord(chord="i", lasts=BarSpan(bars=2)),))
    return score(reed, glass, kit, lane(), scale=D_DORIAN, progression=progression)


def kept() -> Clip:
    return take_clip(take(played(), 1, Window(bars=2)), "Night Ferry", "A")


def test_a_clip_of_melody_has_the_scale_and_its_key_signature():
    assert (kept().scale, kept().key) == (D_DORIAN, "C")
    drums = take_clip(take(score(lane()), 1, Window(bars=1)), "Night Ferry", "A")
    assert drums.key is None


def test_each_note_is_sounded_by_what_played_it():
    tracks = {track.lane_id: track for track in kept().tracks}
    reed, glass = (next(iter(sounds_of(tracks[one]).values())) for one in ("reed", "glass"))
    assert (reed.voice.id, glass.voice.id) == ("low-reed", "glass-harbour")
    assert glass.tone is not None
    assert glass.tone.brightness == 70
    kit = sounds_of(tracks["kit"])
    assert {pitch: (sound.voice.id, sound.semitones, sound.tone) for pitch, sound in kit.items()} == {
        36: ("thud", 0, None),
        42: ("clink", 0, None),
    }


def test_what_was_held_on_the_keys_is_there_again_when_it_is_reopened():
    again = as_it_stood(kept().origin)
    assert again.scale == D_DORIAN
    assert again.patterns[0].lanes[1].keys == KEYS
    assert again.patterns[0].progression == played().progression


def test_a_file_of_melody_says_its_key_and_reads_back_the_same():
    clip = kept()
    again = read_midi(midi_file(clip), "again").clip
    assert again.key == "C"
    before, after = (
        sorted((note.pitch, note.velocity) for track in one.tracks for note in track.notes)
        for one in (clip, again)
    )
    assert before == after


# ---- Guessing ----


def from_afar(tune: list[int]) -> Clip:
    """Return a clip of quarters that says nothing of what it is in."""
    notes = tuple(Note(at * 13440, 13440, pitch, 90) for at, pitch in enumerate(tune))
    return Clip(
        name="From afar",
        length_ticks=16 * 13440,
        tempo=100.0,
        meter=Meter(),
        tracks=(Track(lane="PitchContext", channel=1, notes=notes),),
    )


def test_a_clip_of_ones_own_is_in_its_scale_and_one_from_elsewhere_probably():
    assert guess_clip(kept()).says.startswith("surely D dorian; chords surely i")
    tune = [62, 64, 65, 67, 69, 71, 72, 74, 72, 71, 69, 67, 65, 64, 62]
    clip = from_afar(tune)
    found = guess_clip(clip)
    assert (found.scale, found.scale_sure > 30) == (D_DORIAN, True)
    assert f"D dorian ({found.scale_sure} % sure)" in found.says


def test_what_a_files_key_signature_says_stands():
    tune = [62, 64, 66, 67, 69, 71, 73, 74, 67, 67, 67]  # all of D, and resting on G
    clip = from_afar(tune)
    assert "G" in guess_clip(clip).says
    assert guess_clip(clip.model_copy(update={"key": "D"})).says.startswith("surely D major")
    assert guess_clip(clip.model_copy(update={"key": "Bm"})).says.startswith("surely B natural minor")


def test_drums_are_in_no_scale():
    notes = (Note(0, 100, 36, 90), Note(13440, 100, 38, 90))
    clip = Clip(
        name="Drums", length_ticks=53760, tempo=100.0, meter=Meter(), tracks=(Track(lane="Kit", notes=notes),)
    )
    assert guess_clip(clip) is None
    assert all(offer.lane.voice not in ("lantern",) for offer in lane_offers(clip))


# ---- Lanes of melody ----


def clip_of(*notes: Note, scale: Scale | None = D_DORIAN) -> Clip:
    return Clip(
        name="PitchContext",
        length_ticks=53760,
        tempo=100.0,
        meter=Meter(),
        scale=scale,
        tracks=(Track(lane="PitchContext", channel=3, notes=notes),),
    )


def sounding(clip: Clip) -> list[tuple[int, ...]]:
    offers = lane_offers(clip)
    pattern = pattern_of(clip, offers, frozenset(range(len(offers))), "a")
    fields = {name: getattr(pattern, name) for name in ("meter", "bars", "lanes", "scale", "progression")}
    found = render(score(**fields), 1, Window(bars=1))
    columns = (found.starts, found.lengths, found.pitches, found.velocities, found.tunes, found.channels)
    return sorted(zip(*(column.tolist() for column in columns), strict=True))


@pytest.mark.parametrize(
    "pitches",
    [
        (62, 65, 69, 72),  # in the scale
        (62, 63, 69, 61),  # not all of them
        (50, 62, 74, 86),  # octaves
    ],
)
def test_a_tune_becomes_one_melodic_lane_that_plays_it(pitches):
    notes = [Note(at * 13440, 6720, pitch, 80 + at) for at, pitch in enumerate(pitches)]
    offers = lane_offers(clip_of(*notes))
    assert [offer.lane.is_melodic for offer in offers] == [True]
    assert sounding(clip_of(*notes)) == [(*note, 3) for note in notes]


def test_what_sounds_together_becomes_lanes_beside_each_other():
    notes = [Note(at * 26880, 26880, pitch, 90) for at in range(2) for pitch in (50, 57, 65)]
    assert len(lane_offers(clip_of(*notes))) == 3
    assert sounding(clip_of(*notes)) == [(*note, 3) for note in sorted(notes)]


def test_a_pattern_of_melody_has_the_scale_and_the_chords_that_were_heard():
    notes = [Note(0, 53760, pitch, 90) for pitch in (50, 57, 65)]
    clip = clip_of(*notes)
    pattern = pattern_of(clip, lane_offers(clip), frozenset(), "a")
    assert pattern.scale == D_DORIAN
    assert [one.chord for one in pattern.progression.chords] == ["i"]


def test_a_clip_that_was_drawn_by_steps_is_drawn_again():
    source = Drawn(steps=8, hits=(0, 3, 6))
    one = lane(
        "reed", voice="low-reed", note=50, source=source, pitch_strip=PitchStrip(values=(0, 0, 0, 2, 0, 0, 5))
    )
    clip = take_clip(take(score(one, scale=D_DORIAN), 1, Window(bars=1)), "Night Ferry", "A")
    assert sounding(clip) == sorted((*note, 1) for track in clip.tracks for note in track.notes)
