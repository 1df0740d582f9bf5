"""Readers of MIDI files that are not ours, each as rows of (start, end, pitch, velocity, channel) in file ticks."""

import subprocess
import tempfile
import warnings
from io import BytesIO
from pathlib import Path

import mido
import pretty_midi

Row = tuple[int, int, int, int, int]


def by_mido(data: bytes) -> list[Row]:
    """Return the notes as mido reads them."""
    rows: list[Row] = []
    for track in mido.MidiFile(file=BytesIO(data)).tracks:
        now, sounding = 0, {}
        for message in track:
            now += message.time
            if message.type == "note_on" and message.velocity:
                assert (message.channel, message.note) not in sounding
                sounding[message.channel, message.note] = now, message.velocity
            elif message.type in ("note_off", "note_on"):
                start, velocity = sounding.pop((message.channel, message.note))
                rows.append((start, now, message.note, velocity, message.channel + 1))
        assert not sounding
    return sorted(rows)


def by_midicsv(data: bytes) -> list[Row]:
    """Return the notes as Debian's midicsv tells them."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "clip.mid"
        path.write_bytes(data)
        told = subprocess.run(["midicsv", path], capture_output=True, check=True, encoding="latin-1").stdout
    rows: list[Row] = []
    sounding: dict[tuple[int, ...], tuple[int, int]] = {}
    for line in told.splitlines():
        track, tick, kind, *rest = [one.strip() for one in line.split(",")]
        if kind not in ("Note_on_c", "Note_off_c"):
            continue
        channel, pitch, velocity = map(int, rest)
        key = int(track), channel, pitch
        if kind == "Note_on_c" and velocity:
            sounding[key] = int(tick), velocity
        else:
            start, hard = sounding.pop(key)
            rows.append((start, int(tick), pitch, hard, channel + 1))
    assert not sounding
    return sorted(rows)


def by_pretty_midi(data: bytes) -> list[tuple[int, int, int, int]]:
    """Return (start, end, pitch, velocity) as pretty_midi reads them; it tells no channels."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")  # of type 0 it warns that it would rather have type 1
        midi = pretty_midi.PrettyMIDI(BytesIO(data))
    return sorted(
        (midi.time_to_tick(note.start), midi.time_to_tick(note.end), note.pitch, note.velocity)
        for instrument in midi.instruments
        for note in instrument.notes
    )
