"""Standard MIDI Files as clips."""

import struct
from contextlib import suppress
from dataclasses import dataclass, field
from io import BytesIO
from typing import Any, Literal, NamedTuple

import numpy as np
from mido import MidiFile, MidiTrack

from lattice.clips.clip import (
    KEYS,
    MAX_CLIP_TICKS,
    MAX_TRACKS,
    Clip,
    Control,
    Key,
    MeterChange,
    TempoChange,
    Track,
)
from lattice.clips.sheet import Sheet
from lattice.clips.sounds import DRUM_CHANNEL
from lattice.document.base import MAX_NAME
from lattice.document.controllers import BEND, PRESSURE
from lattice.document.lane import INKS
from lattice.document.meter import Meter
from lattice.document.notes import MAX_NOTES
from lattice.document.piece import TEMPO
from lattice.document.port import Program
from lattice.document.problems import DocumentError
from lattice.formats.general_midi import PERCUSSION
from lattice.units import TICKS_PER_QUARTER, Ticks, half_up

__all__ = ["MAX_MIDI_BYTES", "Changes", "MidiRead", "Split", "read_midi"]

MAX_MIDI_BYTES = 2 * 2**20
MAX_CHANGES = 1000
Split = Literal["track", "channel", "note"]
Changes = Literal["keep", "flatten"]
_PLAIN_TEMPO = 120.0  # where a file says none
_HEADER_BYTES = 14
_BANK = (0, 32)  # its two halves
_MODES = 120  # from here on a control change is a command to the channel
_OTHERS = {b"PK": "a zip archive", b"RIFF": "a RIFF file", b"{": "JSON", b"ID3": "an audio file"}


class MidiRead(NamedTuple):
    """A file as a clip, and what of it was not kept, said."""

    clip: Clip
    remarks: tuple[str, ...]


@dataclass
class _Part:
    """What becomes a track. *notes*: (start, end, pitch, velocity) in file ticks; *controls*: in our ticks."""

    name: str
    channel: int
    notes: list[tuple[int, int, int, int]] = field(default_factory=list)
    controls: list[Control] = field(default_factory=list)


@dataclass
class _Heard:
    """What a file says beside its notes, as it is read."""

    parts: dict[tuple[int, ...], _Part] = field(default_factory=dict)
    tempos: dict[int, float] = field(default_factory=dict)
    meters: dict[int, Meter] = field(default_factory=dict)
    programs: dict[int, Program] = field(default_factory=dict)
    key: Key | None = None
    end: int = 0
    dropped: set[str] = field(default_factory=set)


def read_midi(data: bytes, name: str, split: Split = "track", changes: Changes = "keep") -> MidiRead:
    """Return the clip that a MIDI file of type 0 or 1 holds, its notes shared out over tracks by *split*.

    *changes*: whether changes of tempo and meter after the beginning are kept; flattened, every note stays on its beat
    and the first tempo and meter hold throughout. The clip is as many whole bars long as the file needs. Notes of one
    pitch and channel that overlap are resolved as everywhere: the earlier ends where the later begins.
    Raises DocumentError if it cannot be read, or holds more than a clip may.
    """
    _check_header(data)
    midi = _loaded(data)
    heard = _Heard()
    for number, track in enumerate(midi.tracks):
        _hear(heard, number, track, midi.ticks_per_beat, split)
    count = sum(len(part.notes) for part in heard.parts.values())
    if count > MAX_NOTES:
        raise _refused(f"a clip holds at most {MAX_NOTES:,} notes, this file has {count:,}")
    return _clip_of(heard, _clean(name) or "MIDI file", changes, midi.ticks_per_beat)


def _refused(message: str) -> DocumentError:
    return DocumentError.of("file", message)


def _check_header(data: bytes) -> None:
    if len(data) > MAX_MIDI_BYTES:
        raise _refused(
            f"a MIDI file has at most {MAX_MIDI_BYTES // 2**20} MB here, this has {len(data):,} bytes"
        )
    if not data:
        raise _refused("it is empty")
    if data[:4] != b"MThd":
        told = next((kind for start, kind in _OTHERS.items() if data.startswith(start)), "something else")
        raise _refused(f"it is no MIDI file but {told}: a MIDI file begins with “MThd”")
    if len(data) < _HEADER_BYTES:
        raise _refused(f"it ends within its header, after {len(data)} bytes")
    kind, tracks, division = struct.unpack(">HHH", data[8:_HEADER_BYTES])
    if kind not in (0, 1):
        raise _refused(f"it is of type {kind}: types 0 and 1 can be read")
    if division & 0x8000:
        raise _refused("its times are film frames (SMPTE): those in beats can be read")
    if division == 0:
        raise _refused("it has 0 ticks to the quarter: its notes have no times")
    if not tracks:
        raise _refused("it has no track")


def _loaded(data: bytes) -> MidiFile:
    try:
        return MidiFile(file=BytesIO(data))
    except EOFError:
        raise _refused("it ends in the middle: it says that there is more than there is") from None
    except (OSError, ValueError, LookupError, TypeError, AttributeError, struct.error) as problem:
        said = str(problem) or type(problem).__name__
        raise _refused(f"it is damaged: {said[:80]}") from None
    except Exception as problem:
        # mido has errors of its own for single messages, some derived from nothing narrower.
        raise _refused(f"it is damaged: {str(problem)[:80]}") from None


def _hear(heard: _Heard, number: int, track: MidiTrack, division: int, split: Split) -> None:
    """Add what one track of a file says to what was heard."""
    now = 0
    name = ""
    open_notes: dict[tuple[int, int], tuple[int, int]] = {}
    own: dict[tuple[int, ...], _Part] = {}

    def at(tick: int) -> int:
        return half_up(tick * TICKS_PER_QUARTER, division)

    def part(channel: int, pitch: int | None) -> _Part:
        by_note = (channel, -1 if pitch is None else pitch)
        key = {"track": (number, channel), "channel": (channel,), "note": by_note}[split]
        if key not in heard.parts:
            if len(heard.parts) >= MAX_TRACKS:
                raise _refused(f"a clip has at most {MAX_TRACKS} tracks: split the file otherwise")
            heard.parts[key] = _Part(_called(split, number, channel, pitch), channel)
        own[key] = heard.parts[key]
        return heard.parts[key]

    def close(channel: int, pitch: int) -> None:
        if opened := open_notes.pop((channel, pitch), None):
            part(channel + 1, pitch).notes.append((opened[0], now, pitch, opened[1]))

    for message in track:
        now += message.time
        kind = message.type
        if kind == "note_on" and message.velocity:
            close(message.channel, message.note)
            open_notes[message.channel, message.note] = now, message.velocity
        elif kind in ("note_on", "note_off"):
            close(message.channel, message.note)
        elif moved := _moved(message):
            part(message.channel + 1, None).controls.append(Control(at(now), *moved))
        elif kind == "program_change" and message.channel + 1 not in heard.programs:
            banks = _taken_banks([one for one in own.values() if one.channel == message.channel + 1])
            heard.programs[message.channel + 1] = Program(number=message.program + 1, bank=banks)
        elif kind == "track_name":
            name = name or _clean(message.name)
        else:
            _hear_other(heard, message, at(now))
    if at(now) > MAX_CLIP_TICKS:
        raise _refused("it lasts for weeks: its times cannot be meant")
    for channel, pitch in list(open_notes):
        close(channel, pitch)
    heard.end = max(heard.end, at(now))
    if name and split == "track":
        for (_, channel), one in own.items():
            one.name = name if len(own) == 1 else f"{name[: MAX_NAME - 12]} channel {channel}"


def _moved(message: Any) -> tuple[int, int] | None:
    """Return which controller a message moves, and where to; None where it moves none."""
    if message.type == "control_change" and message.control < _MODES:
        return message.control, message.value
    if message.type == "pitchwheel":
        return BEND, message.pitch
    return (PRESSURE, message.value) if message.type == "aftertouch" else None


def _taken_banks(parts: list[_Part]) -> int | None:
    """Return the bank that controllers 0 and 32 have selected, and take them out of *parts*: it is the program's."""
    found = {point.controller: point.value for part in parts for point in part.controls if point[1] in _BANK}
    for part in parts:
        part.controls = [point for point in part.controls if point.controller not in _BANK]
    return (found.get(0, 0) << 7) + found.get(32, 0) if found else None


def _hear_other(heard: _Heard, message: object, tick: int) -> None:
    kind = getattr(message, "type", "")
    if kind == "set_tempo":
        microseconds = max(1, getattr(message, "tempo", 0))
        tempo = round(60e6 / microseconds, 2)
        if not TEMPO[0] <= tempo <= TEMPO[1]:
            heard.dropped.add(f"a tempo of {tempo:g}, outside {TEMPO[0]} to {TEMPO[1]}")
        heard.tempos[tick] = min(max(tempo, TEMPO[0]), TEMPO[1])
    elif kind == "time_signature":
        numerator, denominator = getattr(message, "numerator", 4), getattr(message, "denominator", 4)
        if 1 <= numerator <= 32 and denominator in (1, 2, 4, 8, 16, 32):
            heard.meters[tick] = Meter.model_validate({"numerator": numerator, "denominator": denominator})
        else:
            heard.dropped.add(f"a meter of {numerator}/{denominator}")
    elif kind == "key_signature":
        key = getattr(message, "key", None)
        heard.key = heard.key or (key if key in KEYS else None)
    elif kind in _NOT_KEPT:
        heard.dropped.add(_NOT_KEPT[kind])


_NOT_KEPT = {
    "program_change": "further program changes",
    "polytouch": "key pressure",
    "sysex": "system messages",
}


def _columns(parts: list[_Part], division: int) -> list[Ticks]:
    """Return all notes as columns: tracks, starts, lengths in ticks, pitches, velocities, tunes."""
    rows = np.array([note for part in parts for note in part.notes], np.int64).reshape(-1, 4).T
    starts, ends = (half_up(column * TICKS_PER_QUARTER, division) for column in rows[:2])
    tracks = np.repeat(np.arange(len(parts)), [len(part.notes) for part in parts])
    return [tracks, starts, np.maximum(1, ends - starts), rows[2], rows[3], np.zeros_like(starts)]


def _clip_of(heard: _Heard, name: str, changes: Changes, division: int) -> MidiRead:
    meter = heard.meters.get(0, Meter())
    tempos = dict(sorted(heard.tempos.items()))
    tempo = tempos.pop(0, _PLAIN_TEMPO)
    if changes == "flatten" and 0 not in heard.tempos and tempos:
        tempo = next(iter(tempos.values()))
    meters = dict(sorted((tick, one) for tick, one in heard.meters.items() if tick))
    remarks = [f"{one} not kept" for one in sorted(heard.dropped)]
    if changes == "flatten":
        tempos, meters = {}, {}
    elif len(tempos) > MAX_CHANGES or len(meters) > MAX_CHANGES:
        raise _refused(f"a clip keeps at most {MAX_CHANGES} changes of tempo or meter: flatten them")
    meters, lost = _on_bar_lines(meter, meters)
    if lost:
        remarks.append("a change of meter within a bar not kept")
    parts = [part for _, part in sorted(heard.parts.items())]
    columns = _columns(parts, division)
    last = int(columns[1].max(initial=0)) + 1
    length = _whole_bars(max(heard.end, last), meter, meters)
    if length > MAX_CLIP_TICKS:
        raise _refused("it lasts for weeks: its times cannot be meant")
    clip = Clip(
        name=name,
        length_ticks=length,
        tempo=tempo,
        meter=meter,
        key=heard.key,
        tempo_changes=tuple(TempoChange(tick, one) for tick, one in tempos.items() if tick < length),
        meter_changes=tuple(MeterChange(tick, one) for tick, one in meters.items() if tick < length),
        tracks=tuple(
            Track(
                lane=part.name,
                ink=place % INKS,
                channel=part.channel,
                program=heard.programs.get(part.channel),
                controls=tuple(
                    one for one in sorted(part.controls, key=lambda one: one.tick) if one.tick < length
                ),
            )
            for place, part in enumerate(parts)
        ),
    )
    sheet = Sheet.rows(clip, columns, np.zeros(columns[0].size, bool))
    return MidiRead(sheet.finished().clip, tuple(remarks))


def _on_bar_lines(meter: Meter, meters: dict[int, Meter]) -> tuple[dict[int, Meter], bool]:
    """Return the changes of meter that begin on a bar line of what holds before, and whether any do not."""
    kept: dict[int, Meter] = {}
    since, holds = 0, meter
    for tick, one in meters.items():
        if (tick - since) % holds.bar_ticks == 0:
            kept[tick] = one
            since, holds = tick, one
    return kept, len(kept) < len(meters)


def _whole_bars(end: int, meter: Meter, meters: dict[int, Meter]) -> int:
    since, holds = 0, meter
    for tick, one in meters.items():
        if tick < end:
            since, holds = tick, one
    return since + max(1, -(-(end - since) // holds.bar_ticks)) * holds.bar_ticks


_NAMES = ("C", "C#", "D", "D#", "E", "F", "F#", "G", "G#", "A", "A#", "B")


def _called(split: Split, number: int, channel: int, pitch: int | None) -> str:
    if split == "track":
        return f"Track {number + 1}"
    if split == "channel" or pitch is None:
        return f"Channel {channel}"
    if channel == DRUM_CHANNEL and pitch in PERCUSSION:
        return PERCUSSION[pitch]
    return f"{_NAMES[pitch % 12]}{pitch // 12 - 1}"


def _clean(name: str) -> str:
    """Return a name as it may be kept: what cannot be printed is left out, and it is not too long."""
    with suppress(UnicodeError):
        name = name.encode("latin-1").decode("utf-8")  # mido reads Latin-1; most files are written in UTF-8
    return "".join(one for one in name if one.isprintable()).strip()[:MAX_NAME].strip()
