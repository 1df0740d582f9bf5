"""A clip: plain notes in ticks, independent of the pattern they came from."""

from typing import Annotated, Literal

from pydantic import Field

from lattice.document.base import Document, Name, Row
from lattice.document.lane import INKS
from lattice.document.meter import Meter
from lattice.document.notes import MAX_NOTES, MAX_TICKS, Control, Note
from lattice.document.piece import Dice, Score, Tempo

__all__ = ["Clip", "Control", "Note", "Origin", "Track"]


class Track(Document):
    """The notes and controls of one lane, in the order of time."""

    lane: Name
    ink: Annotated[int, Field(ge=0, lt=INKS)] = 0
    channel: Annotated[int, Field(ge=1, le=16)] = 10
    notes: Annotated[Row[Note], Field(max_length=MAX_NOTES)] = ()
    controls: Annotated[Row[Control], Field(max_length=MAX_NOTES)] = ()


class Origin(Document):
    """Where a clip came from, enough to render it again: *first_bar* counted from 0."""

    piece: Name
    pattern: Name
    score: Score
    dice: Dice
    first_bar: Annotated[int, Field(ge=0)]
    bars: Annotated[int, Field(ge=1)]


class Clip(Document):
    """*tracks* over *length_ticks*; a note may ring on beyond the end, an export cuts it there."""

    version: Literal[1] = 1
    name: Name
    length_ticks: Annotated[int, Field(ge=1, le=MAX_TICKS)]
    tempo: Tempo
    meter: Meter
    tracks: Annotated[Row[Track], Field(max_length=256)] = ()
    origin: Origin | None = None
