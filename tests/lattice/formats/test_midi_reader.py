"""MIDI files become clips; what cannot be one is refused in one clear sentence."""

import random
import struct
from io import BytesIO

import mido
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.clips import Note
from lattice.clips.clip import Clip, Control, MeterChange, TempoChange, Track
from lattice.document import DocumentError, Meter
from lattice.document.controllers import BEND, PRESSURE
from lattice.document.port import Program
from lattice.formats.midi import Export, midi_file
from lattice.formats.midi_reader import MAX_MIDI_BYTES, read_midi
from tests.lattice.clips.clips import BAR, clip, clips

MUTATIONS = 5000


def header(kind: int = 1, tracks: int = 1, division: int = 480) -> bytes:
    return b"MThd" + struct.pack(">IHHH", 6, kind, tracks, division)


def chunk(*events: bytes, end: bytes = b"\x00\xff\x2f\x00") -> bytes:
    body = b"".join(events) + end
    return b"MTrk" + struct.pack(">I", len(body)) + body


END = b"\x00\xff\x2f\x00"


def file_of(*events: bytes, end: bytes = END, **fields: int) -> bytes:
    return header(**fields) + chunk(*events, end=end)


ON, OFF = b"\x00\x90\x3c\x64", b"\x83\x60\x80\x3c\x40"  # C4; 480 ticks later its end
SECOND_TEMPO = b"\x83\x60\xff\x51\x03\x0f\x42\x40"  # 480 ticks later: a million microseconds a quarter


@given(clips(), st.sampled_from([0, 1]))
def test_what_is_written_at_the_finest_resolution_is_read_again(one, kind):
    again = read_midi(midi_file(one, Export(resolution=13440, type=kind)), one.name, "channel").clip
    heard = {
        track.channel: (track.notes, track.controls) for track in one.tracks if track.notes or track.controls
    }
    cut = {
        channel: (
            tuple(
                note._replace(length=min(note.length, one.length_ticks - note.start), tune=0)
                for note in notes
            ),
            controls,
        )
        for channel, (notes, controls) in heard.items()
    }
    assert {track.channel: (track.notes, track.controls) for track in again.tracks} == cut
    assert (again.length_ticks, again.tempo, again.meter) == (one.length_ticks, one.tempo, one.meter)


def test_running_status_and_a_note_on_of_velocity_0_are_understood():
    read = read_midi(file_of(ON, b"\x83\x60\x3c\x00", b"\x00\x3e\x50", b"\x83\x60\x3e\x00"), "x").clip
    assert read.tracks[0].notes == (Note(0, 13440, 60, 100), Note(13440, 13440, 62, 80))


def test_any_resolution_is_reckoned_to_our_ticks():
    read = read_midi(file_of(b"\x07\x90\x3c\x64", b"\x05\x80\x3c\x00", division=7), "x").clip
    assert read.tracks[0].notes == (Note(13440, 9600, 60, 100),)


def test_a_clip_lasts_whole_bars():
    assert read_midi(file_of(ON, OFF), "x").clip.length_ticks == BAR
    seven = b"\x00\xff\x58\x04\x07\x03\x18\x08"
    assert (
        read_midi(file_of(seven, ON, OFF), "x").clip.length_ticks
        == Meter(numerator=7, denominator=8).bar_ticks
    )


def test_a_note_that_is_never_ended_ends_with_its_track_and_one_struck_again_ends_there():
    read = read_midi(file_of(ON, b"\x83\x60\x90\x3c\x30", end=b"\x83\x60\xff\x2f\x00"), "x").clip
    assert read.tracks[0].notes == (Note(0, 13440, 60, 100), Note(13440, 13440, 60, 48))


@pytest.mark.parametrize(
    ("split", "names"),
    [
        ("track", ["Bells", "Track 2"]),
        ("channel", ["Channel 1", "Channel 2", "Channel 10"]),
        ("note", ["C4", "D4", "Acoustic Snare", "C4"]),
    ],
)
def test_notes_are_shared_out_by_track_channel_or_note(split, names):
    one = chunk(b"\x00\xff\x03\x05Bells", ON, b"\x00\x90\x3e\x50")
    two = chunk(b"\x00\x99\x26\x50", b"\x00\x91\x3c\x50")
    read = read_midi(header(tracks=2) + one + two, "x", split).clip
    found = [track.lane for track in read.tracks]
    if split == "track":
        assert found == ["Bells", "Track 2", "Track 2"]
    else:
        assert sorted(found) == sorted(names)
    assert read.note_count == 4


def test_changes_of_tempo_and_meter_are_kept_or_flattened():
    seven = b"\x8b\x20\xff\x58\x04\x07\x03\x18\x08"  # at the second bar line
    data = file_of(ON, SECOND_TEMPO, seven, b"\x83\x60\x80\x3c\x00")
    kept = read_midi(data, "x").clip
    assert (kept.tempo, kept.tempo_changes) == (120.0, (TempoChange(13440, 60.0),))
    assert kept.meter_changes == (MeterChange(BAR, Meter(numerator=7, denominator=8)),)
    flat = read_midi(data, "x", changes="flatten").clip
    assert (flat.tempo_changes, flat.meter_changes) == ((), ())
    assert flat.tracks[0].notes == kept.tracks[0].notes


def test_a_change_of_meter_within_a_bar_is_told():
    data = file_of(b"\x83\x60\xff\x58\x04\x07\x03\x18\x08", ON, OFF)
    assert read_midi(data, "x").remarks == ("a change of meter within a bar not kept",)


def test_controls_are_kept_and_what_is_not_is_told():
    bank, program, another = b"\x00\xb0\x20\x03", b"\x00\xc0\x05", b"\x00\xc0\x06"
    moves = b"\x00\xb0\x4a\x07", b"\x00\xe0\x00\x00", b"\x00\xd0\x09"
    read = read_midi(file_of(bank, *moves, program, another, b"\x00\xa0\x24\x01", ON, OFF), "x")
    (track,) = read.clip.tracks
    assert track.controls == (Control(0, 74, 7), Control(0, BEND, -8192), Control(0, PRESSURE, 9))
    assert track.program == Program(number=6, bank=3)
    assert read.remarks == ("further program changes not kept", "key pressure not kept")


def test_program_bend_and_pressure_are_written_and_read_back():
    moves = (Control(0, 74, 7), Control(90, BEND, -5000), Control(180, PRESSURE, 9))
    track = Track(lane="Low reed", channel=3, program=Program(number=6, bank=259), controls=moves)
    written = Clip(name="x", length_ticks=BAR, tempo=100, meter=Meter(), tracks=(track,))
    (read,) = read_midi(midi_file(written, Export(resolution=13440)), "x").clip.tracks
    assert (read.program, read.controls, read.channel) == (track.program, moves, 3)


def test_key_and_names_are_read_and_names_cleaned():
    key, name = b"\x00\xff\x59\x02\xff\x01", "Über\n<b>".encode()
    read = read_midi(
        file_of(key, b"\x00\xff\x03" + bytes([len(name)]) + name, ON, OFF), "a/b\n" + "c" * 99
    ).clip
    assert read.key == "Dm"
    assert read.tracks[0].lane == "Über<b>"
    assert (read.name[:4], len(read.name)) == ("a/bc", 80)
    assert read_midi(file_of(ON, OFF), "\x00").clip.name == "MIDI file"


def test_a_tempo_outside_ours_is_brought_within_and_told():
    read = read_midi(file_of(b"\x00\xff\x51\x03\xff\xff\xff", ON, OFF), "x")
    assert read.clip.tempo == 20.0
    assert read.remarks == ("a tempo of 3.58, outside 20 to 400 not kept",)


def many(count: int) -> bytes:
    return file_of(b"\x00\x90\x3c\x64", *([b"\x00\x3c\x00\x01\x3c\x64"] * (count - 1)))


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "it is empty"),
        (b"PK\x03\x04" + b"x" * 60, "no MIDI file but a zip archive"),
        (b"RIFF1234RMID", "no MIDI file but a RIFF file"),
        (b'{"version": 2}', "no MIDI file but JSON"),
        (b"hello", "no MIDI file but something else"),
        (b"MThd\x00\x00", "ends within its header, after 6 bytes"),
        (file_of(ON, OFF, kind=2), "it is of type 2: types 0 and 1 can be read"),
        (file_of(ON, OFF, division=0), "0 ticks to the quarter"),
        (file_of(ON, OFF, division=0xE728), "film frames"),
        (header(tracks=0), "it has no track"),
        (file_of(ON, OFF, tracks=3), "ends in the middle"),
        (file_of(ON, OFF)[:-6], "ends in the middle"),
        (file_of(b"\x00\x90\x3c\xff"), "it is damaged"),
        (b"x" * (MAX_MIDI_BYTES + 1), "at most 2 MB"),
        (many(100_001), "at most 100,000 notes, this file has 100,001"),
        (file_of(*[b"\xff\xff\xff\x7f\x90\x3c\x64"] * 200, division=1), "lasts for weeks"),
    ],
)
def test_what_is_no_clip_is_refused_in_one_clear_sentence(data, says):
    with pytest.raises(DocumentError, match=says) as refusal:
        read_midi(data, "x")
    assert len(refusal.value.problems) == 1
    assert refusal.value.problems[0].field == "file"


def read_or_refused(data, split):
    try:
        return read_midi(data, "x", split), None
    except DocumentError as refusal:
        return None, str(refusal)


def test_thousands_of_mutations_are_read_or_refused_and_never_anything_else():
    """Bytes changed, cut, doubled and swapped in files of both types: a clip that is whole, or one clear refusal."""
    luck = random.Random(5)
    notes = tuple(Note(at * 3360, 3000, 36 + at % 3, 60 + at) for at in range(24))
    seeds = [midi_file(clip(notes, notes[:5]), Export(type=kind, markers=True, key="Dm")) for kind in (0, 1)]
    seeds.append(file_of(ON, OFF, b"\x00\xf0\x03\x01\x02\xf7", SECOND_TEMPO, b"\x00\xb0\x4a\x07"))
    read = refused = 0
    for _ in range(MUTATIONS):
        data = bytearray(luck.choice(seeds))
        for _ in range(luck.randint(1, 6)):
            at = luck.randrange(len(data))
            match luck.randrange(5):
                case 0:
                    data[at] = luck.randrange(256)
                case 1:
                    del data[at : at + luck.randint(1, 9)]
                case 2:
                    data[at:at] = bytes(luck.choices([0, 1, 0x7F, 0x80, 0xFF], k=luck.randint(1, 9)))
                case 3:
                    data[at : at + 4] = struct.pack(">I", luck.choice([0, 1, 2**31, 2**32 - 1]))
                case 4:
                    data += data[at : at + 40]
            data = data or bytearray(b"M")
        found, refusal = read_or_refused(bytes(data), luck.choice(["track", "channel", "note"]))
        refused += refusal is not None
        read += found is not None
        if refusal:
            assert refusal.startswith("file: ")
            assert len(refusal) < 160
        else:
            assert found.clip.length_ticks >= 1
            assert found.clip.note_count > 500 or midi_file(found.clip)
    assert read > MUTATIONS / 20
    assert refused > MUTATIONS / 20


def test_mido_reads_what_the_seeds_say():
    """The hand-made files of these tests are files by another reader's judgement too."""
    assert [message.type for message in mido.MidiFile(file=BytesIO(file_of(ON, OFF))).tracks[0]] == [
        "note_on",
        "note_off",
        "end_of_track",
    ]
