"""Clips as Standard MIDI Files."""

from collections.abc import Iterable
from io import BytesIO

from mido import Message, MetaMessage, MidiFile, MidiTrack, bpm2tempo

from lattice.clips.clip import Clip, Track
from lattice.clock.ticks import TICKS_PER_QUARTER

__all__ = ["midi_file"]

# At one tick a note ends before the next one of its pitch begins.
_END, _BEGIN = 0, 1


def midi_file(clip: Clip) -> bytes:
    """Return *clip* as a type 1 file at 13440 ticks to the quarter: one track of tempo and meter, then one a lane.

    Every track ends on the clip's last bar line, where notes that ring on are cut.
    Source: Standard MIDI Files 1.0.
    """
    midi = MidiFile(type=1, ticks_per_beat=TICKS_PER_QUARTER, charset="utf-8")
    midi.tracks.append(_conductor(clip))
    midi.tracks.extend(_track(track, clip.length_ticks) for track in clip.tracks)
    written = BytesIO()
    midi.save(file=written)
    return written.getvalue()


def _conductor(clip: Clip) -> MidiTrack:
    return _in_deltas(
        [
            (0, MetaMessage("track_name", name=clip.name)),
            (0, MetaMessage("set_tempo", tempo=bpm2tempo(clip.tempo))),
            (
                0,
                MetaMessage(
                    "time_signature", numerator=clip.meter.numerator, denominator=clip.meter.denominator
                ),
            ),
            (clip.length_ticks, MetaMessage("end_of_track")),
        ]
    )


def _track(track: Track, length_ticks: int) -> MidiTrack:
    channel = track.channel - 1
    changes = []
    for note in track.notes:
        end = min(note.start + note.length, length_ticks)
        on = Message("note_on", channel=channel, note=note.pitch, velocity=note.velocity)
        off = Message("note_off", channel=channel, note=note.pitch, velocity=0)
        changes += [(note.start, _BEGIN, on), (end, _END, off)]
    changes.sort(key=lambda change: change[:2])
    return _in_deltas(
        [
            (0, MetaMessage("track_name", name=track.lane)),
            *((tick, message) for tick, _, message in changes),
            (length_ticks, MetaMessage("end_of_track")),
        ]
    )


def _in_deltas(messages: Iterable[tuple[int, Message | MetaMessage]]) -> MidiTrack:
    track, now = MidiTrack(), 0
    for tick, message in messages:
        track.append(message.copy(time=tick - now))
        now = tick
    return track
