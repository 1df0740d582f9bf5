"""Clips as Standard MIDI Files."""

from collections.abc import Iterable, Sequence
from io import BytesIO
from typing import Annotated, Literal, get_args

import numpy as np
from mido import Message, MetaMessage, MidiFile, MidiTrack, bpm2tempo
from pydantic import Field

from lattice.clips.clip import Clip, Control, Key, Track
from lattice.clips.edits import edited
from lattice.clips.edits.shape import Repeat
from lattice.clips.moves import without_moves
from lattice.clips.sounds import DRUM_CHANNEL
from lattice.document.base import Document
from lattice.document.controllers import BEND, PRESSURE
from lattice.formats.general_midi import DRUM_OF_VOICE
from lattice.render.overlaps import Events, resolve_overlaps
from lattice.units import TICKS_PER_QUARTER, Ticks, half_up

__all__ = ["RESOLUTIONS", "Export", "midi_file"]

Resolution = Literal[96, 480, 960, 13440]
RESOLUTIONS: tuple[Resolution, ...] = get_args(Resolution)

# At one tick tempo and meter are told first; a note ends before a control moves, and that before the next begins.
_TELL, _END, _MOVE, _BEGIN = 0, 1, 2, 3
_BENT, _MOST_BENT = 8192, 8191  # the bend by all of the channel's range, and the most that can be sent
_MOST_SEMITONES = 127  # of that range
_SENSITIVITY = ((101, 0), (100, 0))  # controllers that choose the registered parameter; 6 and 38 set it
Told = list[tuple[int, Message | MetaMessage]]
Changes = list[tuple[int, int, Message | MetaMessage]]


class Export(Document):
    """How a clip is written. *resolution*: file ticks to the quarter; at 13440 nothing is lost.

    *type*: 1 for a track a lane, 0 for all in one. *drums*: notes and channels as the lanes have them, or as General
    MIDI numbers what their sounds come nearest to. *key*: none for the clip's own.
    *bends*: whether what a voice of the kit climbs is written as pitch bend, which moves all notes of its channel; else
    it is left out. *moves*: whether movements of what MIDI has a controller for are written as that.
    """

    type: Literal[0, 1] = 1
    resolution: Resolution = 960
    repeats: Annotated[int, Field(ge=1, le=64)] = 1
    drums: Literal["lanes", "general-midi"] = "lanes"
    markers: Annotated[bool, Field(description="one at each bar")] = False
    key: Key | None = None
    bends: bool = False
    moves: bool = False


PLAIN = Export()


def midi_file(clip: Clip, export: Export = PLAIN, marked: Sequence[tuple[int, str]] = ()) -> bytes:
    """Return *clip* as a file: tempo, meter and names first, then the lanes.

    *marked*: (tick, text) of markers of its own, beside those at each bar that *export* may ask for.

    Every track ends on the clip's last bar line, where notes that ring on are cut.
    Raises DocumentError if so many repeats are too long.
    Source: Standard MIDI Files 1.0.
    """
    if not export.moves:
        clip = without_moves(clip)
    if export.repeats > 1:
        clip = edited(clip, Repeat(times=export.repeats - 1)).clip
    if export.drums == "general-midi":
        clip = clip.model_copy(update={"tracks": tuple(map(_as_drums, clip.tracks))})
    resolution = export.resolution
    end = _one_tick(clip.length_ticks, resolution)
    notes = _file_notes(clip, resolution, end)
    midi = MidiFile(type=export.type, ticks_per_beat=resolution, charset="utf-8")
    conductor = _conductor(clip, export, marked)
    bends = _bends(notes, len(clip.tracks)) if export.bends else [[] for _ in clip.tracks]
    lanes = [
        [*bent, *_changes(track, notes.take(notes.lanes == index), resolution, end)]
        for index, (track, bent) in enumerate(zip(clip.tracks, bends, strict=True))
    ]
    if export.type == 0:
        together = [change for lane in lanes for change in lane]
        told: Changes = [(tick, _TELL, message) for tick, message in conductor]
        midi.tracks.append(_in_deltas(_in_order([*told, *together]), end))
    else:
        midi.tracks.append(_in_deltas(conductor, end))
        for track, changes in zip(clip.tracks, lanes, strict=True):
            named: Told = [(0, MetaMessage("track_name", name=track.lane))]
            midi.tracks.append(_in_deltas([*named, *_in_order(changes)], end))
    written = BytesIO()
    midi.save(file=written)
    return written.getvalue()


def _as_drums(track: Track) -> Track:
    voice = track.sound.voice if track.sound else None
    drum = DRUM_OF_VOICE.get(voice.sound or voice.id) if voice else None
    if drum is None:
        return track
    notes = tuple(note._replace(pitch=drum) for note in track.notes)
    return track.model_copy(update={"channel": DRUM_CHANNEL, "notes": notes})


def _file_ticks(ticks: Ticks, resolution: int) -> Ticks:
    """Return floor(tick x resolution / 13440 + 1/2)."""
    return half_up(ticks * resolution, TICKS_PER_QUARTER)


def _one_tick(tick: int, resolution: int) -> int:
    return half_up(tick * resolution, TICKS_PER_QUARTER)


def _file_notes(clip: Clip, resolution: int, end: int) -> Events:
    """Return the clip's notes in file ticks, start and end each rounded once from its own time.

    So notes that touch still do. Those that coincide there are merged as in the engine.
    """
    parts = []
    for index, track in enumerate(clip.tracks):
        columns = np.array(track.notes, np.int64).reshape(-1, 5).T
        starts, ends = (_file_ticks(times, resolution) for times in (columns[0], columns[0] + columns[1]))
        parts.append(
            Events(
                lanes=np.full(starts.size, index),
                starts=starts,
                lengths=np.maximum(ends - starts, 1),
                pitches=columns[2],
                velocities=columns[3],
                tunes=columns[4],
                channels=np.full(starts.size, track.channel),
                straights=starts,
            )
        )
    notes = resolve_overlaps(Events.join(parts))
    notes = notes.take(notes.starts < end)
    return notes.with_lengths(np.minimum(notes.lengths, end - notes.starts))


def _conductor(clip: Clip, export: Export, marked: Sequence[tuple[int, str]]) -> Told:
    """Return all that is no note, in the order of time."""
    told: Told = []

    def at(tick: int) -> int:
        return _one_tick(tick, export.resolution)

    for tick, tempo in ((0, clip.tempo), *clip.tempo_changes):
        told.append((at(tick), MetaMessage("set_tempo", tempo=bpm2tempo(tempo))))
    meters = ((0, clip.meter), *clip.meter_changes)
    for tick, meter in meters:
        signature = MetaMessage("time_signature", numerator=meter.numerator, denominator=meter.denominator)
        told.append((at(tick), signature))
    if key := export.key or clip.key:
        told.append((0, MetaMessage("key_signature", key=key)))
    if export.markers:
        ends = [tick for tick, _ in meters[1:]] + [clip.length_ticks]
        lines = [
            line
            for (tick, meter), end in zip(meters, ends, strict=True)
            for line in range(tick, end, meter.bar_ticks)
        ]
        told += [(at(line), MetaMessage("marker", text=f"bar {bar}")) for bar, line in enumerate(lines, 1)]
    told += [(at(tick), MetaMessage("marker", text=text)) for tick, text in marked]
    told.sort(key=lambda one: one[0])
    return [(0, MetaMessage("track_name", name=clip.name)), *told]


def _changes(track: Track, notes: Events, resolution: int, end: int) -> Changes:
    """Return (file tick, order within it, message) for all that a track sends before *end*."""
    changes: Changes = [
        (tick, _MOVE, _move(track, point))
        for point in track.controls
        if (tick := _one_tick(point.tick, resolution)) < end
    ]
    changes += [(0, _TELL, message) for message in _program(track)]
    columns = (notes.starts, notes.lengths, notes.pitches, notes.velocities, notes.channels)
    for start, length, pitch, velocity, channel in zip(*(column.tolist() for column in columns), strict=True):
        # A clip's notes were checked when it was read: checking them again takes most of the time.
        on = Message("note_on", skip_checks=True, channel=channel - 1, note=pitch, velocity=velocity)
        off = Message("note_off", skip_checks=True, channel=channel - 1, note=pitch, velocity=0)
        changes += [(start, _BEGIN, on), (start + length, _END, off)]
    return changes


def _program(track: Track) -> list[Message]:
    """Return what chooses the track's sound: the bank first, in two halves. Source: MIDI 1.0."""
    program, channel = track.program, track.channel - 1
    if program is None:
        return []
    halves = [] if program.bank is None else [(0, program.bank >> 7), (32, program.bank & 127)]
    banks = [
        Message("control_change", channel=channel, control=control, value=half) for control, half in halves
    ]
    return [*banks, Message("program_change", channel=channel, program=program.number - 1)]


def _bends(notes: Events, tracks: int) -> list[Changes]:
    """Return, track by track, the pitch bends by which notes sound as high as their tunes say.

    A channel with such notes is told first by how many semitones it bends at most. Where notes begin together, the
    bend is that of the first that is tuned.
    Source: MIDI 1.0, pitch bend, and registered parameter 0, its sensitivity.
    """
    changes: list[Changes] = [[] for _ in range(tracks)]
    for number in np.unique(notes.channels[notes.tunes != 0]).tolist():
        own = notes.take(notes.channels == number)
        most = min(int(np.abs(own.tunes).max()), _MOST_SEMITONES)
        for control, value in (*_SENSITIVITY, (6, most), (38, 0)):
            told = Message("control_change", channel=number - 1, control=control, value=value)
            changes[int(own.lanes[0])].append((0, _TELL, told))
        own = own.take(np.lexsort((own.tunes == 0, own.starts)))
        own = own.take(np.flatnonzero(np.diff(own.starts, prepend=-1)))
        bends = np.clip(half_up(own.tunes * _BENT, most), -_BENT, _MOST_BENT)
        moves = np.flatnonzero(np.diff(bends, prepend=_BENT))
        for lane, start, bend in zip(
            *(column[moves].tolist() for column in (own.lanes, own.starts, bends)), strict=True
        ):
            bent = Message("pitchwheel", channel=number - 1, pitch=bend)
            changes[lane].append((start, _MOVE, bent))
    return changes


def _move(track: Track, point: Control) -> Message:
    channel = track.channel - 1
    if point.controller == BEND:
        return Message("pitchwheel", channel=channel, pitch=point.value)
    if point.controller == PRESSURE:
        return Message("aftertouch", channel=channel, value=point.value)
    return Message("control_change", channel=channel, control=point.controller, value=point.value)


def _in_order(changes: Changes) -> Told:
    return [(tick, message) for tick, _, message in sorted(changes, key=lambda change: change[:2])]


def _in_deltas(messages: Iterable[tuple[int, Message | MetaMessage]], end: int) -> MidiTrack:
    """Return a track of *messages* at file ticks, in order, that ends at *end*."""
    track, now = MidiTrack(), 0
    for tick, message in messages:
        message.time = tick - now  # each was made for this track: no copy
        track.append(message)
        now = tick
    track.append(MetaMessage("end_of_track", time=end - now))
    return track
