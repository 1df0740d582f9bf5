"""What the API takes and gives of clips."""

from datetime import datetime
from typing import Annotated, Self

from config.bodies import Body
from pydantic import BaseModel, Field

from clips import models, services
from lattice.clips import Clip, Tape
from lattice.document import Score
from lattice.document.base import Name
from lattice.document.piece import Dice

__all__ = ["Keeping", "KeptClip", "Stretch"]


class Stretch(Body):
    """Bars of the tape: from *first_bar*, counted from 0, up to *end_bar*."""

    first_bar: Annotated[int, Field(ge=0)]
    end_bar: Annotated[int, Field(ge=1)]


class Keeping(Body):
    """What to keep: the last *bars* or a *stretch* of the tape, and the score as it stood."""

    piece: Name
    pattern: Name
    score: Score
    dice: Dice
    tape: Tape
    bars: Annotated[int, Field(ge=1, le=16)] = 4
    stretch: Stretch | None = None


class KeptClip(BaseModel):
    """A clip as the list shows it, with its notes for the note sheet."""

    id: int
    created_at: datetime
    bars: int
    notes: int
    document: Clip

    @classmethod
    def of(cls, stored: models.Clip) -> Self:
        """Return what the list shows of a stored clip."""
        clip = services.document_of(stored)
        return cls(
            id=stored.pk,
            created_at=stored.created_at,
            bars=clip.length_ticks // clip.meter.bar_ticks,
            notes=sum(len(track.notes) for track in clip.tracks),
            document=clip,
        )
