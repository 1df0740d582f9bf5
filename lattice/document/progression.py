"""The chords that a pattern goes through, and how long each lasts."""

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from lattice.document.base import Document, Row
from lattice.document.timing import BarSpan, Span
from lattice.theory.chords import QUALITIES

__all__ = ["MAX_CHORDS", "MAX_INVERSION", "Leading", "PlacedChord", "Progression"]

MAX_CHORDS = 64
MAX_INVERSION = max(len(tones) for tones in QUALITIES.values()) - 1

ChordText = Annotated[str, StringConstraints(min_length=1, max_length=12, strip_whitespace=True)]
Leading = Literal["as-written", "nearest"]


class PlacedChord(Document):
    """One chord: what is written, turned over *inversion* times, and how long it lasts."""

    chord: ChordText
    inversion: Annotated[int, Field(ge=0, le=MAX_INVERSION)] = 0
    lasts: Span = BarSpan()


class Progression(Document):
    """Chords one after the other, from the pattern's start, beginning again at their own end.

    *leading*: each as it is written, or after the first in the position that moves least from the one before.
    """

    chords: Annotated[Row[PlacedChord], Field(min_length=1, max_length=MAX_CHORDS)]
    leading: Leading = "as-written"

    def written(self) -> Sequence[str]:
        """Return what is written of each chord."""
        return [one.chord for one in self.chords]
