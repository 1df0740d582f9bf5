"""What the API takes and gives of pieces."""

from datetime import datetime
from typing import Annotated, Self

from config.bodies import Body
from pydantic import BaseModel, Field, StringConstraints

from lattice.document import Drawn, Lane, Pattern, Piece, Score, read, score_of
from lattice.document.base import Name
from lattice.document.piece import Dice
from lattice.render import Window, picture
from pieces import models
from pieces.services import NamedMoment

__all__ = [
    "CoverThread",
    "MomentIn",
    "NewPiece",
    "OpenPiece",
    "RenderQuestion",
    "Save",
    "ShelfPiece",
]

MAX_SCREEN_BARS = 64


class NewPiece(Body):
    """A new piece: named, or a whole *document*, for a copy."""

    name: Name = "New piece"
    document: Piece | None = None

    def piece(self) -> Piece:
        """Return the document; a new one begins with one lane, ready to be drawn on."""
        thud = Lane(id="lane-1", name="Thud", voice="thud", source=Drawn(steps=16, hits=(0, 4, 8, 12)))
        return self.document or Piece(name=self.name, patterns=(Pattern(id="a", name="A", lanes=(thud,)),))


class MomentIn(Body):
    """A change since the last save: its name and the document after it."""

    label: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    document: Piece

    def named(self) -> NamedMoment:
        """Return it as the services take it."""
        return NamedMoment(self.label, self.document)


class Save(Body):
    """A document to store, the revision it is based on, and the moments since."""

    revision: Annotated[int, Field(ge=1)]
    document: Piece
    moments: Annotated[list[MomentIn], Field(max_length=200)] = []


class CoverThread(BaseModel):
    """A lane in a piece's first bar. *hits*: its hits' places there (0-1); *velocities*: theirs."""

    ink: int
    hits: list[float]
    velocities: list[int]


class ShelfPiece(BaseModel):
    """A piece as the shelf shows it, its first pattern's first bar for a cover."""

    id: int
    name: str
    tempo: float
    meter: str
    threads: list[CoverThread]
    changed_at: datetime

    @classmethod
    def of(cls, stored: models.Piece) -> Self:
        """Return what the shelf shows of a stored piece."""
        piece = read(Piece, stored.document)
        pattern = piece.patterns[0]
        cover = picture(score_of(piece, pattern), pattern.dice, Window(bars=1))
        return cls(
            id=stored.pk,
            name=str(stored.name),
            tempo=piece.tempo,
            meter=f"{pattern.meter.numerator}/{pattern.meter.denominator}",
            threads=[
                CoverThread(
                    ink=lane.ink,
                    hits=[drawn.starts[hit] / cover.end_tick for hit in drawn.hits],
                    velocities=drawn.velocities,
                )
                for lane, drawn in zip(pattern.lanes, cover.lanes, strict=True)
            ],
            changed_at=stored.changed_at,
        )


class OpenPiece(BaseModel):
    """A piece to work on, and the revision that it is."""

    id: int
    revision: int
    changed_at: datetime
    document: Piece


class RenderQuestion(Body):
    """What to render: the engine's three arguments."""

    score: Score
    dice: Dice
    window: Window
