"""What is written reads back to the same notes."""

from io import BytesIO
from itertools import accumulate

import mido
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.clips import Clip, Note, Track, TrackSound
from lattice.clips.clip import MeterChange, TempoChange
from lattice.document import DOCKSIDE, Meter
from lattice.formats.general_midi import DRUM_OF_VOICE, PERCUSSION
from lattice.formats.midi import RESOLUTIONS, Export, midi_file
from lattice.formats.midi_reader import read_midi
from lattice.formats.notes_text import notes_text

BAR = 4 * 13440


def clip(*notes: Note, **fields: object) -> Clip:
    shared = {"name": "Last crossing", "length_ticks": 4 * BAR, "tempo": 112.0, "meter": Meter()}
    return Clip(**shared | {"tracks": (Track(lane="Clink", notes=notes),)} | fields)


def reread(clip: Clip, resolution: int) -> mido.MidiFile:
    return reread_as(clip, Export(resolution=resolution))


def reread_as(clip: Clip, export: Export) -> mido.MidiFile:
    return mido.MidiFile(file=BytesIO(midi_file(clip, export)), charset="utf-8")


def notes_of(track: mido.MidiTrack) -> list[Note]:
    now, sounding, notes = 0, {}, []
    for message in track:
        now += message.time
        if message.type == "note_on":
            assert message.note not in sounding
            sounding[message.note] = (now, message.velocity)
        elif message.type == "note_off":
            start, velocity = sounding.pop(message.note)
            notes.append(Note(start, now - start, message.note, velocity))
    assert not sounding
    return sorted(notes)


@st.composite
def apart(draw):
    """Notes of a few pitches that do not overlap, as the engine leaves them."""
    notes = []
    for pitch in draw(st.sets(st.integers(0, 127), max_size=3)):
        now = 0
        for gap, length in draw(st.lists(st.tuples(st.integers(0, 9000), st.integers(1, 9000)), max_size=8)):
            notes.append(Note(now + gap, length, pitch, draw(st.integers(1, 127))))
            now += gap + length
    return tuple(sorted(notes))


@given(apart())
def test_at_the_finest_resolution_nothing_is_lost(notes):
    assert notes_of(reread(clip(*notes), 13440).tracks[1]) == list(notes)


@given(apart(), st.sampled_from(RESOLUTIONS))
def test_at_any_resolution_notes_start_on_the_nearest_file_tick(notes, resolution):
    written = notes_of(reread(clip(*notes), resolution).tracks[1])
    expected = {(int(note.start * resolution / 13440 + 0.5), note.pitch) for note in notes}
    assert {(note.start, note.pitch) for note in written} == expected
    assert all(note.length >= 1 for note in written)


def test_what_a_voice_of_the_kit_climbs_is_left_out_or_bends_its_channel():
    climbing = Track(
        lane="Hiss", channel=10, notes=tuple(Note(at * 3360, 3360, 46, 90, 4 * at) for at in range(3))
    )
    plain = Track(lane="Thud", channel=10, notes=(Note(3360, 100, 36, 90), Note(13440, 100, 36, 90)))
    beside = Track(lane="Bell", channel=3, notes=(Note(3360, 100, 51, 90),))
    drums = clip(tracks=(plain, climbing, beside))
    left_out = reread(drums, 960)
    assert [one.pitch for one in notes_of(left_out.tracks[2])] == [46, 46, 46]
    assert not any(message.type == "pitchwheel" for track in left_out.tracks for message in track)

    bent = reread_as(drums, Export(bends=True))
    assert [notes_of(track) for track in bent.tracks] == [notes_of(track) for track in left_out.tracks]
    told = [
        (message.control, message.value) for message in bent.tracks[2] if message.type == "control_change"
    ]
    assert told == [(101, 0), (100, 0), (6, 8), (38, 0)]  # bends by up to 8 semitones
    # Half of them, all of them; and back where a note of the same channel begins that does not climb.
    assert [bends_of(track) for track in bent.tracks] == [
        [],
        [(960, 0)],
        [(0, 0), (240, 4096), (480, 8191)],
        [],
    ]


def bends_of(track: mido.MidiTrack) -> list[tuple[int, int]]:
    ticks = accumulate(message.time for message in track)
    return [(now, one.pitch) for now, one in zip(ticks, track, strict=True) if one.type == "pitchwheel"]


def test_notes_that_coincide_in_the_file_become_one():
    written = notes_of(reread(clip(Note(0, 10, 42, 60), Note(60, 3000, 42, 90)), 96).tracks[1])
    assert written == [Note(0, 22, 42, 90)]


def test_the_default_is_960_to_the_quarter():
    midi = mido.MidiFile(file=BytesIO(midi_file(clip(Note(13440, 13440, 42, 100)))))
    assert (midi.type, midi.ticks_per_beat) == (1, 960)
    assert notes_of(midi.tracks[1]) == [Note(960, 960, 42, 100)]


def test_tempo_meter_names_and_channel_are_written():
    seven = clip(tempo=96.5, meter=Meter(numerator=7, denominator=8), name="Kai – Laterne")
    conductor, lane = reread(
        seven.model_copy(update={"tracks": (Track(lane="Bell", channel=3, notes=(Note(0, 9, 51, 1),)),)}), 960
    ).tracks
    said = {message.type: message for message in conductor}
    assert said["track_name"].name == "Kai – Laterne"
    assert said["set_tempo"].tempo == round(60e6 / 96.5)
    assert (said["time_signature"].numerator, said["time_signature"].denominator) == (7, 8)
    assert lane[0].name == "Bell"
    assert {message.channel for message in lane if not message.is_meta} == {2}


def test_every_track_ends_on_the_last_bar_line_where_ringing_notes_are_cut():
    midi = reread(clip(Note(4 * BAR - 100, 5000, 42, 100)), 13440)
    assert [sum(message.time for message in track) for track in midi.tracks] == [4 * BAR, 4 * BAR]
    assert notes_of(midi.tracks[1]) == [Note(4 * BAR - 100, 100, 42, 100)]


def test_a_resolution_that_is_not_on_offer_is_refused():
    with pytest.raises(ValueError, match="97"):
        Export(resolution=97)


def test_a_file_of_type_0_holds_all_in_one_track():
    two = clip(
        tracks=(
            Track(lane="Clink", notes=(Note(0, 9, 42, 60),)),
            Track(lane="Bell", channel=2, notes=(Note(5, 9, 51, 60),)),
        )
    )
    midi = mido.MidiFile(file=BytesIO(midi_file(two, Export(type=0))))
    assert (midi.type, len(midi.tracks)) == (0, 1)
    assert [(m.channel, m.note) for m in midi.tracks[0] if m.type == "note_on"] == [(9, 42), (1, 51)]


def test_repeats_end_on_the_last_bar_line_and_ring_on_between():
    again = reread_as(
        clip(Note(4 * BAR - 100, 3000, 42, 100), Note(0, 100, 40, 9)), Export(resolution=13440, repeats=3)
    )
    notes = notes_of(again.tracks[1])
    assert [note.start for note in notes if note.pitch == 42] == [4 * BAR * turn - 100 for turn in (1, 2, 3)]
    assert [note.length for note in notes if note.pitch == 42] == [3000, 3000, 100]
    assert {sum(message.time for message in track) for track in again.tracks} == {12 * BAR}


def test_markers_lie_on_bar_lines_and_the_key_is_told():
    told = [
        message for message in reread_as(clip(), Export(markers=True, key="Dm")).tracks[0] if message.is_meta
    ]
    now, markers = 0, []
    for message in told:
        now += message.time
        if message.type == "marker":
            markers.append((now, message.text))
    assert markers == [(bar * 3840, f"bar {bar + 1}") for bar in range(4)]
    assert [message.key for message in told if message.type == "key_signature"] == ["Dm"]


def test_drums_by_general_midi_go_where_it_has_them():
    """A bell that is tuned and on a channel of its own becomes what General MIDI calls a ride cymbal."""
    bell = TrackSound(voice=DOCKSIDE.voice("bell"), note=60)
    lane = Track(lane="Bell", channel=3, sound=bell, notes=(Note(0, 9, 72, 60),))
    strange = Track(lane="Mine", channel=4, notes=(Note(0, 9, 72, 60),))
    midi = reread_as(clip(tracks=(lane, strange)), Export(drums="general-midi"))
    sent = [(m.channel + 1, m.note) for track in midi.tracks for m in track if m.type == "note_on"]
    assert sent == [(10, 51), (4, 72)]
    assert set(DRUM_OF_VOICE) == {voice.id for voice in DOCKSIDE.voices}
    assert set(DRUM_OF_VOICE.values()) <= set(PERCUSSION)
    assert (min(PERCUSSION), max(PERCUSSION), PERCUSSION[38]) == (35, 81, "Acoustic Snare")


def test_changes_of_tempo_and_meter_are_written_where_they_are():
    changing = clip(
        tempo_changes=(TempoChange(BAR, 90.0),), meter_changes=(MeterChange(2 * BAR, Meter(numerator=3)),)
    )
    again = read_midi(midi_file(changing), "x").clip
    assert (again.tempo_changes, again.meter_changes) == (changing.tempo_changes, changing.meter_changes)


def test_notes_as_text_say_where_they_are_as_people_count():
    told = notes_text(clip(Note(BAR + 13440 + 7, 6720, 42, 99)))
    assert told.splitlines() == [
        "Last crossing\t112 BPM\t4/4\t4 bars",
        "track\tchannel\tbar:beat:tick\tlength\tnote\tvelocity",
        "Clink\t10\t2:2:8\t0.5\t42\t99",
    ]
