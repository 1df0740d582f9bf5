"""What all edits of a clip have in common."""

from typing import Annotated

from pydantic import Field

from lattice.clips.clip import MAX_CLIP_TICKS
from lattice.clips.sheet import Sheet
from lattice.document.base import Document

__all__ = ["By", "ClipAction", "Percent", "Pitch", "Place", "Velocity", "said_notes"]

Place = Annotated[int, Field(ge=0, le=MAX_CLIP_TICKS)]
By = Annotated[int, Field(ge=-MAX_CLIP_TICKS, le=MAX_CLIP_TICKS)]
Percent = Annotated[int, Field(ge=0, le=100)]
Velocity = Annotated[int, Field(ge=1, le=127)]
Pitch = Annotated[int, Field(ge=0, le=127)]


class ClipAction(Document):
    """One edit of a clip. Without chosen notes it is about all of them, unless it says otherwise."""

    def apply(self, sheet: Sheet) -> Sheet:
        """Return what *sheet* becomes. Raises DocumentError if that cannot be."""
        raise NotImplementedError

    def label(self, sheet: Sheet) -> str:
        """Return what the history calls it; *sheet* as it was before."""
        raise NotImplementedError


def said_notes(count: int) -> str:
    """Return how many notes an edit is about.

    >>> said_notes(1), said_notes(1200)
    ('1 note', '1,200 notes')
    """
    return "1 note" if count == 1 else f"{count:,} notes"
