"""Clips as Standard MIDI Files."""

from collections.abc import Iterable
from io import BytesIO

import numpy as np
from mido import Message, MetaMessage, MidiFile, MidiTrack, bpm2tempo

from lattice.clips.clip import Clip, Control, Track
from lattice.clock.ticks import TICKS_PER_QUARTER, Ticks
from lattice.render.events import Events, resolve_overlaps

__all__ = ["DEFAULT_RESOLUTION", "RESOLUTIONS", "midi_file"]

DEFAULT_RESOLUTION = 960
RESOLUTIONS = (96, 480, DEFAULT_RESOLUTION, TICKS_PER_QUARTER)

# At one tick a note ends before a control moves, and that before the next note begins.
_END, _MOVE, _BEGIN = 0, 1, 2


def midi_file(clip: Clip, resolution: int = DEFAULT_RESOLUTION) -> bytes:
    """Return *clip* as a type 1 file: one track of tempo and meter, then one a lane.

    *resolution*: file ticks to the quarter, one of RESOLUTIONS; at 13440 nothing is lost. Every track ends on
    the clip's last bar line, where notes that ring on are cut.
    Raises ValueError for another resolution.
    Source: Standard MIDI Files 1.0.
    """
    if resolution not in RESOLUTIONS:
        raise ValueError(f"need a resolution among {RESOLUTIONS}, got {resolution}")
    end = _one_tick(clip.length_ticks, resolution)
    notes = _file_notes(clip, resolution, end)
    midi = MidiFile(type=1, ticks_per_beat=resolution, charset="utf-8")
    midi.tracks.append(_conductor(clip, end))
    for index, track in enumerate(clip.tracks):
        moves = [(_one_tick(point.tick, resolution), point) for point in track.controls]
        moves = [(tick, point) for tick, point in moves if tick < end]
        midi.tracks.append(_track(track, notes.take(notes.lanes == index), moves, end))
    written = BytesIO()
    midi.save(file=written)
    return written.getvalue()


def _file_ticks(ticks: Ticks, resolution: int) -> Ticks:
    """Return floor(tick x resolution / 13440 + 1/2)."""
    result: Ticks = (2 * ticks * resolution + TICKS_PER_QUARTER) // (2 * TICKS_PER_QUARTER)
    return result


def _one_tick(tick: int, resolution: int) -> int:
    return int(_file_ticks(np.array([tick]), resolution)[0])


def _file_notes(clip: Clip, resolution: int, end: int) -> Events:
    """Return the clip's notes in file ticks; those that coincide there are merged as in the engine."""
    parts = []
    for index, track in enumerate(clip.tracks):
        columns = np.array(track.notes, np.int64).reshape(-1, 4).T
        starts, lengths = (_file_ticks(column, resolution) for column in columns[:2])
        parts.append(
            Events(
                lanes=np.full(starts.size, index),
                starts=starts,
                lengths=np.maximum(lengths, 1),
                pitches=columns[2],
                velocities=columns[3],
                channels=np.full(starts.size, track.channel),
                straights=starts,
            )
        )
    notes = resolve_overlaps(Events.join(parts))
    notes = notes.take(notes.starts < end)
    return notes.with_lengths(np.minimum(notes.lengths, end - notes.starts))


def _conductor(clip: Clip, end: int) -> MidiTrack:
    meter = clip.meter
    return _in_deltas(
        [
            (0, MetaMessage("track_name", name=clip.name)),
            (0, MetaMessage("set_tempo", tempo=bpm2tempo(clip.tempo))),
            (0, MetaMessage("time_signature", numerator=meter.numerator, denominator=meter.denominator)),
            (end, MetaMessage("end_of_track")),
        ]
    )


def _track(track: Track, notes: Events, moves: Iterable[tuple[int, Control]], end: int) -> MidiTrack:
    changes = [
        (
            tick,
            _MOVE,
            Message("control_change", channel=track.channel - 1, control=point.controller, value=point.value),
        )
        for tick, point in moves
    ]
    columns = (notes.starts, notes.lengths, notes.pitches, notes.velocities, notes.channels)
    for start, length, pitch, velocity, channel in zip(*(column.tolist() for column in columns), strict=True):
        on = Message("note_on", channel=channel - 1, note=pitch, velocity=velocity)
        off = Message("note_off", channel=channel - 1, note=pitch, velocity=0)
        changes += [(start, _BEGIN, on), (start + length, _END, off)]
    changes.sort(key=lambda change: change[:2])
    return _in_deltas(
        [
            (0, MetaMessage("track_name", name=track.lane)),
            *((tick, message) for tick, _, message in changes),
            (end, MetaMessage("end_of_track")),
        ]
    )


def _in_deltas(messages: Iterable[tuple[int, Message | MetaMessage]]) -> MidiTrack:
    track, now = MidiTrack(), 0
    for tick, message in messages:
        track.append(message.copy(time=tick - now))
        now = tick
    return track
