"""What the API takes and gives of pieces."""

from datetime import datetime
from typing import Annotated, Self

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from lattice.document import Drawn, Lane, Pattern, Piece, Score
from lattice.document.base import Name
from lattice.document.piece import Dice
from lattice.render import Window
from pieces import models
from pieces.services import NamedMoment

__all__ = ["MomentIn", "Naming", "NewPiece", "OpenPiece", "RenderQuestion", "Save", "ShelfPiece"]

MAX_SCREEN_BARS = 64


class Body(BaseModel):
    """Base of what is sent: nothing unknown."""

    model_config = ConfigDict(extra="forbid")


class NewPiece(Body):
    """A new piece: named, or a whole *document*, for a copy."""

    name: Name = "New piece"
    document: Piece | None = None

    def piece(self) -> Piece:
        """Return the document; a new one begins with one lane, ready to be drawn on."""
        thud = Lane(id="lane-1", name="Thud", voice="thud", source=Drawn(steps=16, hits=(0, 4, 8, 12)))
        return self.document or Piece(name=self.name, patterns=(Pattern(id="a", name="A", lanes=(thud,)),))


class Naming(Body):
    """A new name."""

    name: Name


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


class ShelfPiece(BaseModel):
    """A piece as the shelf shows it."""

    id: int
    name: str
    tempo: float
    meter: str
    lanes: int
    inks: list[int]
    changed_at: datetime

    @classmethod
    def of(cls, stored: models.Piece) -> Self:
        """Return what the shelf shows of a stored piece."""
        first = stored.document["patterns"][0]
        lanes = [lane for pattern in stored.document["patterns"] for lane in pattern["lanes"]]
        return cls(
            id=stored.pk,
            name=str(stored.name),
            tempo=stored.document["tempo"],
            meter=f"{first['meter']['numerator']}/{first['meter']['denominator']}",
            lanes=len(lanes),
            inks=[lane["ink"] for lane in lanes],
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
