"""A clip: plain notes in ticks, independent of the pattern they came from."""

from typing import Annotated, Literal, NamedTuple, Self, get_args

from pydantic import Field, model_validator

from lattice.document.base import Document, Id, Name, Row
from lattice.document.controllers import check_values
from lattice.document.lane import INKS
from lattice.document.meter import Meter
from lattice.document.notes import MAX_NOTES, MAX_TICKS, Control, Note, Tick
from lattice.document.piece import Dice, Score, Tempo
from lattice.document.port import Program
from lattice.document.scale import Scale
from lattice.document.sounding import TrackSound

__all__ = [
    "KEYS",
    "MAX_CLIP_TICKS",
    "MAX_TRACKS",
    "Clip",
    "Control",
    "Key",
    "MeterChange",
    "Note",
    "Origin",
    "TempoChange",
    "Track",
]

MAX_TRACKS = 256
MAX_CLIP_TICKS = 2**40  # weeks of music; sums of several stay whole in 64 bits
# The names that a key signature of a MIDI file can say.
Key = Literal[
    "C", "G", "D", "A", "E", "B", "F#", "C#", "F", "Bb", "Eb", "Ab", "Db", "Gb", "Cb",
    "Am", "Em", "Bm", "F#m", "C#m", "G#m", "D#m", "A#m", "Dm", "Gm", "Cm", "Fm", "Bbm", "Ebm", "Abm",
]  # fmt: skip
KEYS: tuple[Key, ...] = get_args(Key)


class TempoChange(NamedTuple):
    """Another tempo from a tick on."""

    tick: Tick
    tempo: Tempo


class MeterChange(NamedTuple):
    """Another meter from a tick on, which is a bar line."""

    tick: Tick
    meter: Meter


class Track(Document):
    """The notes and controls of one lane, in the order of time.

    *lane_id*: the lane that they came from; none: from a file. *sound*: none where the notes themselves say it.
    *moved*: the controllers that movements of the lane send. *port*: where its notes go, by name; none: the built-in
    sounds. *program*: what its instrument chooses.
    """

    lane: Name
    lane_id: Id | None = None
    ink: Annotated[int, Field(ge=0, lt=INKS)] = 0
    channel: Annotated[int, Field(ge=1, le=16)] = 10
    sound: TrackSound | None = None
    port: Name | None = None
    program: Program | None = None
    notes: Annotated[Row[Note], Field(max_length=MAX_NOTES)] = ()
    controls: Annotated[Row[Control], Field(max_length=MAX_NOTES)] = ()
    moved: Annotated[Row[Annotated[int, Field(ge=0, le=119)]], Field(max_length=16)] = ()

    @model_validator(mode="after")
    def _controls_within(self) -> Self:
        for controller in {point.controller for point in self.controls}:
            check_values(controller, (one.value for one in self.controls if one.controller == controller))
        return self


class Origin(Document):
    """Where a clip came from, enough to render it again. *first_bar*: from 0; *lanes*: those chosen; none: all."""

    piece: Name
    pattern: Name
    score: Score
    dice: Dice
    first_bar: Annotated[int, Field(ge=0)]
    bars: Annotated[int, Field(ge=1)]
    lanes: Row[Id] | None = None


class Clip(Document):
    """*tracks* over *length_ticks*; a note may ring on beyond the end, an export cuts it there.

    *tempo_changes*, *meter_changes*: after the beginning, where a file had any that were kept.
    """

    version: Literal[1] = 1
    name: Name
    length_ticks: Annotated[int, Field(ge=1, le=MAX_TICKS)]
    tempo: Tempo
    meter: Meter
    key: Key | None = None
    scale: Scale | None = None
    tempo_changes: Annotated[Row[TempoChange], Field(max_length=1000)] = ()
    meter_changes: Annotated[Row[MeterChange], Field(max_length=1000)] = ()
    tracks: Annotated[Row[Track], Field(max_length=MAX_TRACKS)] = ()
    origin: Origin | None = None

    @property
    def note_count(self) -> int:
        """How many notes there are in all tracks."""
        return sum(len(track.notes) for track in self.tracks)

    @property
    def bars(self) -> int:
        """Its length in bars of its first meter, the last one perhaps not whole."""
        return -(-self.length_ticks // self.meter.bar_ticks)
