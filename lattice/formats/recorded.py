"""What a port was sent, message by message, as a Standard MIDI File."""

from collections.abc import Sequence
from io import BytesIO
from typing import Annotated, NamedTuple

from mido import Message, MetaMessage, MidiFile, MidiTrack, bpm2tempo
from pydantic import Field

from lattice.document.base import Document, Row
from lattice.document.piece import Tempo
from lattice.document.problems import DocumentError
from lattice.units import TICKS_PER_QUARTER

__all__ = ["Recorded", "recorded_file"]

MAX_MESSAGES = 200_000
_MOST_SECONDS = 24 * 3600.0
_STATUS, _SYSTEM = 0x80, 0xF0

Byte = Annotated[int, Field(ge=0, le=255)]


class Sent(NamedTuple):
    """The *data* of a message, and when it was to sound, in *seconds* from the beginning."""

    seconds: Annotated[float, Field(ge=0, le=_MOST_SECONDS)]
    data: Annotated[Row[Byte], Field(min_length=1, max_length=3)]


class Recorded(Document):
    """Messages in the order of time. *tempo*: in which the file counts."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    tempo: Tempo
    messages: Annotated[Row[Sent], Field(max_length=MAX_MESSAGES)]


def recorded_file(recorded: Recorded) -> bytes:
    """Return the channel messages of *recorded*, each at its tick of 1/13440 quarter; clock and transport are left out.

    Raises DocumentError that names the message where one is cut short, or is none.
    """
    per_second = recorded.tempo / 60 * TICKS_PER_QUARTER
    track = MidiTrack([MetaMessage("track_name", name=recorded.name)])
    track.append(MetaMessage("set_tempo", tempo=bpm2tempo(recorded.tempo)))
    now = 0
    in_time = sorted(enumerate(recorded.messages), key=lambda one: one[1].seconds)
    for place, (seconds, data) in in_time:
        if data[0] >= _SYSTEM:
            continue
        tick = round(seconds * per_second)
        track.append(_message(data, place).copy(time=tick - now))
        now = tick
    track.append(MetaMessage("end_of_track", time=0))
    midi = MidiFile(type=0, ticks_per_beat=TICKS_PER_QUARTER, charset="utf-8", tracks=[track])
    written = BytesIO()
    midi.save(file=written)
    return written.getvalue()


def _message(data: Sequence[int], place: int) -> Message:
    if data[0] < _STATUS:
        raise DocumentError.of(
            "messages", f"message {place + 1} begins with {data[0]}, which is no status byte"
        )
    try:
        return Message.from_bytes(list(data))
    except ValueError as problem:
        raise DocumentError.of("messages", f"message {place + 1} is not whole: {problem}") from None
