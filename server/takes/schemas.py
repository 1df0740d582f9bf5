"""What the API takes and gives of takes."""

from datetime import datetime
from typing import Annotated, Self

from clips.schemas import SheetTrack
from config.asked import Asked
from config.bodies import Body
from pydantic import BaseModel, Field

from lattice.clips import MAX_TAKE_BARS, MAX_TAKES, PitchSound, TakeMeasures, Taken, is_lucky, sounds_of
from lattice.document import Meter, Score, read
from lattice.document.base import Id, Name
from lattice.render import MAX_BARS
from takes import models

__all__ = [
    "DrawnTake",
    "FromTape",
    "More",
    "OpenSheet",
    "Opposed",
    "SheetLine",
    "TakeLine",
    "Takes",
    "Throwing",
    "Vary",
]


class Throwing(Asked):
    """Takes to throw: *count* of *bars* bars from *first_bar* on, of chosen *lanes* or of all that are not muted."""

    piece_id: int | None = None
    piece: Name
    pattern: Name
    first_bar: Annotated[int, Field(ge=0, lt=MAX_BARS - MAX_TAKE_BARS)] = 0
    bars: Annotated[int, Field(ge=1, le=MAX_TAKE_BARS)] = 4
    lanes: Annotated[list[Id] | None, Field(max_length=64)] = None
    count: Annotated[int, Field(ge=1, le=MAX_TAKES)] = 8
    vary: Annotated[int, Field(ge=0, le=100, description="% of the hits that a throw of each moves")] = 0


class Vary(Body):
    """How many % of the hits a throw of each take's own moves."""

    percent: Annotated[int, Field(ge=0, le=100)]


class More(Body):
    """How many more takes to throw."""

    count: Annotated[int, Field(ge=1, le=MAX_TAKES)] = 8


class Opposed(Body):
    """The numbers of two takes to compare."""

    one: Annotated[int, Field(ge=1)]
    other: Annotated[int, Field(ge=1)]


class TakeLine(BaseModel):
    """A take by its number and dice. *clip*: the clip that it was kept as."""

    number: int
    dice: int
    clip: int | None


class SheetLine(BaseModel):
    """A sheet in the list. *takes*: how many lie on it; *first_bar* counted from 0."""

    id: int
    piece_id: int | None
    piece: str
    pattern: str
    first_bar: int
    bars: int
    lanes: list[str] | None
    takes: int
    created_at: datetime

    @classmethod
    def of(cls, sheet: models.TakeSheet, lying: int | None = None) -> Self:
        """Return what the list shows of a sheet. *lying*: how many takes lie on it, where that is known."""
        return cls(
            id=sheet.pk,
            piece_id=sheet.piece_id,
            piece=sheet.piece_name,
            pattern=sheet.pattern_name,
            first_bar=sheet.first_bar,
            bars=sheet.bars,
            lanes=sheet.lanes,
            takes=sheet.takes.filter(dropped_at=None).count() if lying is None else lying,
            created_at=sheet.created_at,
        )


class OpenSheet(BaseModel):
    """A sheet with its takes in the order of their numbers; their notes are asked for apart.

    *lane_names*: of the lanes that were chosen; none: all. *vary*: how many % of the hits a throw of each take's own
    moves. *is_lucky*: whether dice have a say; where neither is so, all takes are the same.
    """

    sheet: SheetLine
    tempo: float
    meter: Meter
    length_ticks: int
    lane_names: list[str] | None
    vary: int
    is_lucky: bool
    takes: list[TakeLine]

    @classmethod
    def of(cls, sheet: models.TakeSheet) -> Self:
        """Return a stored sheet."""
        score = read(Score, sheet.score)
        return cls(
            sheet=SheetLine.of(sheet),
            tempo=score.tempo,
            meter=score.meter,
            length_ticks=sheet.bars * score.meter.bar_ticks,
            lane_names=None
            if sheet.lanes is None
            else [lane.name for lane in score.lanes if lane.id in sheet.lanes],
            vary=sheet.vary,
            is_lucky=is_lucky(score, None if sheet.lanes is None else tuple(sheet.lanes)),
            takes=[
                TakeLine(number=one.number, dice=one.dice, clip=one.clip_id)
                for one in sheet.takes.filter(dropped_at=None)
            ],
        )


class DrawnTake(BaseModel):
    """A take's notes, track by track, and its measures; *sounds*: what sounds each of its notes."""

    number: int
    measures: TakeMeasures
    tracks: list[SheetTrack]
    sounds: list[dict[int, PitchSound]]

    @classmethod
    def of(cls, number: int, taken: Taken, first: Taken) -> "DrawnTake":
        """Return a take as it is drawn. *first*: the one that distance is counted from."""
        return cls.model_construct(
            number=number,
            measures=taken.measures(first),
            tracks=[SheetTrack.of(track) for track in taken.tracks],
            sounds=[sounds_of(track) for track in taken.tracks],
        )


class Takes(BaseModel):
    """Some takes of a sheet."""

    takes: list[DrawnTake]


class FromTape(BaseModel):
    """A take of what the tape holds. *differs*: hands moved while it played, so that the take is not what was heard."""

    sheet: SheetLine
    differs: bool
