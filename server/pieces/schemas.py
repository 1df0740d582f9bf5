"""What the API takes and gives of pieces."""

from datetime import datetime
from typing import Annotated, Any, Literal, Self

from config.asked import Asked
from config.bodies import Body
from pydantic import BaseModel, Field, StringConstraints

from lattice.document import DocumentError, Meter, Pattern, Piece, Score, read, score_of
from lattice.document.base import MAX_NAME, Id, Name
from lattice.document.controllers import Controller
from lattice.document.ground import Source
from lattice.document.movement import Movement
from lattice.document.piece import Dice
from lattice.document.source import MAX_THROW
from lattice.document.strip import Shape
from lattice.edits import Action, Copied, HandMove
from lattice.edits.strip_operations import Operation
from lattice.formats.midi import Export
from lattice.render import MAX_BARS, Window
from lattice.screen import PropertyName, picture
from pieces import models
from pieces.changes import Operations

__all__ = [
    "AlternativesQuestion",
    "Changed",
    "ControlQuestion",
    "CoverThread",
    "FileQuestion",
    "HandMovements",
    "HandsQuestion",
    "MeasuresQuestion",
    "MomentIn",
    "MomentLine",
    "MovesQuestion",
    "NewPiece",
    "OpenMoment",
    "OpenPiece",
    "PlaceCover",
    "PlaceName",
    "RenderQuestion",
    "Save",
    "Saved",
    "ScoreOfPattern",
    "ShelfPage",
    "ShelfPiece",
    "SoundsQuestion",
    "StepsQuestion",
    "StripQuestion",
    "ThrowQuestion",
    "Thrown",
    "cover_of",
]

MAX_SCREEN_BARS = 64
MAX_TICK = MAX_BARS * Meter(numerator=32, denominator=1).bar_ticks


class NewPiece(Body):
    """A new piece: named, or a whole *document*, for a copy."""

    name: Name = "New piece"
    document: Piece | None = None

    def piece(self) -> Piece:
        """Return the document; a new one is empty, and the page offers ways to begin."""
        return self.document or Piece(name=self.name, patterns=(Pattern(id="a", name="A"),))


class ScoreOfPattern(BaseModel):
    """A pattern's score and dice."""

    score: Score
    dice: int


class MomentIn(Body):
    """A change since the last save: its number, its name, and what it changed of the document of the moment before."""

    number: Annotated[int, Field(ge=1)]
    label: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    changes: Operations
    heard: Annotated[bool, Field(description="heard only: undoing passes it by")] = False


class Save(Body):
    """What was changed of the *revision* it is based on: moment by moment, and beside them, after the last.

    *attempt*: an id of this save; sent again, since its answer got lost, it is stored once.
    *stands_at*: the moment whose document the piece is then.
    """

    attempt: Annotated[str, StringConstraints(pattern=r"^[0-9a-f-]{36}$")]
    revision: Annotated[int, Field(ge=1)]
    moments: Annotated[list[MomentIn], Field(max_length=200)] = []
    changes: Operations = []
    stands_at: Annotated[int | None, Field(ge=1, description="none: the last")] = None


class Saved(BaseModel):
    """A piece that was saved: the revision that it is now."""

    id: int
    revision: int
    stands_at: int
    changed_at: datetime


class CoverThread(BaseModel):
    """A lane in a piece's first bar. *hits*: its hits' places there (0-1); *velocities*: theirs."""

    ink: int
    hits: list[float]
    velocities: list[int]


def cover_of(piece: Piece, pattern: Pattern) -> list[CoverThread]:
    """Return the first bar of a pattern, in small."""
    cover = picture(score_of(piece, pattern), pattern.dice, Window(bars=1))
    return [
        CoverThread(
            ink=lane.ink,
            hits=[drawn.starts[hit] / cover.end_tick for hit in drawn.hits],
            velocities=drawn.velocities,
        )
        for lane, drawn in zip(pattern.lanes, cover.lanes, strict=True)
    ]


class ShelfPiece(BaseModel):
    """A piece as the shelf shows it, its first pattern's first bar for a cover.

    *unreadable*: what is wrong with one that cannot be read any more: it can be exported and deleted; '' for others.
    """

    id: int
    name: str
    tempo: float
    meter: str
    threads: list[CoverThread]
    changed_at: datetime
    unreadable: str = ""

    @classmethod
    def of(cls, stored: models.Piece) -> Self:
        """Return what the shelf shows of a stored piece."""
        try:
            piece = read(Piece, stored.document)
        except DocumentError as problem:
            return cls(
                id=stored.pk,
                name=str(stored.name or "A piece"),
                tempo=0,
                meter="",
                threads=[],
                changed_at=stored.changed_at,
                unreadable=" ".join(one.sentence for one in problem.problems),
            )
        pattern = piece.patterns[0]
        return cls(
            id=stored.pk,
            name=str(stored.name),
            tempo=piece.tempo,
            meter=f"{pattern.meter.numerator}/{pattern.meter.denominator}",
            threads=cover_of(piece, pattern),
            changed_at=stored.changed_at,
        )


class OpenPiece(BaseModel):
    """A piece to work on, the revision that it is, the save that made it, and the moment that it stands at."""

    id: int
    revision: int
    attempt: str
    stands_at: int
    changed_at: datetime
    document: Piece


class MomentLine(BaseModel):
    """A moment in the list of a piece's history: a place of its trail. *name*: the musician's, '' for none."""

    number: int
    label: str
    at: datetime
    name: str
    heard: bool


class PlaceName(Body):
    """What a place is called; '' takes its name away."""

    name: Annotated[str, StringConstraints(max_length=MAX_NAME, strip_whitespace=True)]


class PlaceCover(BaseModel):
    """A place in small: the first bar of the pattern that changed there, called *pattern*."""

    pattern: str
    threads: list[CoverThread]


class OpenMoment(BaseModel):
    """A moment to go back to."""

    number: int
    document: Piece


class Question(Asked):
    """What is asked about: a score and its dice."""


class SoundsQuestion(Question):
    """What to render: the engine's three arguments."""

    window: Window


class RenderQuestion(SoundsQuestion):
    """What to render and to draw. *chosen*: lanes whose benches are wanted. *known*: marks of what the page has.

    *sounds*: of which window what is heard is wanted too.
    """

    sounds: Window | None = None
    chosen: Annotated[list[Id], Field(max_length=64)] = []
    known: Annotated[
        dict[str, Annotated[str, StringConstraints(max_length=16)]], Field(max_length=10_000)
    ] = {}
    shown: Annotated[PropertyName | None, Field(description="the property wanted at every step")] = None


class FileQuestion(Question):
    """Which bars to write as a MIDI file, called by which *piece* and *pattern*, and how."""

    piece: Name
    pattern: Name
    window: Window
    export: Export = Export()


class AlternativesQuestion(Question):
    """The *word* of a *setting* of a *lane*, or of the pattern; without a setting, what a lane could begin to use."""

    window: Window
    lane: Id | None = None
    setting: Annotated[str, StringConstraints(max_length=80)] = ""
    word: Annotated[str, StringConstraints(max_length=80)] = ""


class ThrowQuestion(Question):
    """Which *lane* to throw (none: all that are not anchored), by how far, by the throw of which number."""

    lane: Id | None = None
    percent: Annotated[int, Field(ge=0, le=100)]
    throw: Annotated[int, Field(ge=1, le=MAX_THROW)]


class Thrown(BaseModel):
    """The sources that lanes have after a throw, by their ids."""

    sources: dict[str, Source]


class StepsQuestion(Question):
    """What to do with the steps of *lanes* that begin from *first_tick* to before *end_tick*.

    *number*: of a throw, of the notes of a roll or burst, of the cycle that a rule lets sound *of* so many.
    *copied*: what to paste; pasting lays them down from *first_tick* on, lane by lane in the order of *lanes*, and
    begins again with the first where there are more.
    """

    lanes: Annotated[list[Id], Field(min_length=1, max_length=64)]
    first_tick: Annotated[int, Field(ge=0, le=MAX_TICK)]
    end_tick: Annotated[int, Field(ge=1, le=MAX_TICK)]
    action: Action | Literal["copy", "paste"]
    number: Annotated[int, Field(ge=1, le=MAX_THROW)] = 1
    of: Annotated[int, Field(ge=1, le=MAX_THROW)] = 2
    copied: Annotated[list[Copied], Field(max_length=64)] = []


class StripQuestion(Question):
    """What to do with the strip called *strip* of *lanes*; to throw it, between which values, by which throw."""

    lanes: Annotated[list[Id], Field(min_length=1, max_length=64)]
    strip: Annotated[str, StringConstraints(max_length=20)]
    action: Operation | Literal["throw", "empty"]
    low: Annotated[int, Field(ge=-50, le=400)] = 0
    high: Annotated[int, Field(ge=-50, le=400)] = 0
    shape: Shape = "even"
    throw: Annotated[int, Field(ge=1, le=MAX_THROW)] = 1


class ControlQuestion(Question):
    """Which MIDI controller *lanes* are to have a strip of."""

    lanes: Annotated[list[Id], Field(min_length=1, max_length=64)]
    controller: Controller


class Changed(BaseModel):
    """The fields that lanes change, by their ids; and what was copied of each that was asked of."""

    patches: dict[str, dict[str, Any]]
    copied: list[Copied] = []


class MovesQuestion(Question):
    """Of which *lanes* the movements are meant."""

    lanes: Annotated[list[Id], Field(min_length=1, max_length=64)]


class HandsQuestion(BaseModel):
    """What *hands* did to controls of a pattern in a *meter*."""

    meter: Meter
    hands: Annotated[list[HandMove], Field(min_length=1, max_length=64)]


class HandMovements(BaseModel):
    """What moves each control after a hand; None where nothing does."""

    movements: list[Movement | None]


class MeasuresQuestion(Question):
    """Which *lane* to measure, and since what its distance is."""

    lane: Id
    since: Score
    since_dice: Dice


class ShelfPage(BaseModel):
    """Some of the pieces on the shelf: *total* are there."""

    pieces: list[ShelfPiece]
    total: int
