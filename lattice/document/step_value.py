"""How long a step lasts, as musicians say it."""

from fractions import Fraction
from functools import lru_cache
from typing import Annotated, Literal

from pydantic import Field

from lattice.document.base import Document

__all__ = ["KINDS", "NOTES", "NoteKind", "StepValue"]

NoteKind = Literal["plain", "dotted", "triplet"]
NOTES: tuple[int, ...] = (1, 2, 4, 8, 16, 32, 64)
KINDS: dict[NoteKind, Fraction] = {
    "plain": Fraction(1),
    "dotted": Fraction(3, 2),
    "triplet": Fraction(2, 3),
}


class StepValue(Document):
    """A note value times *multiplier*, shared out over *divisor* steps."""

    note: Annotated[Literal[1, 2, 4, 8, 16, 32, 64], Field(description="4 is a quarter, 16 a sixteenth")] = 16
    kind: NoteKind = "plain"
    multiplier: Annotated[int, Field(ge=1, le=16)] = 1
    divisor: Annotated[int, Field(ge=1, le=16, description="7 with a half note: seven steps in it")] = 1

    @property
    def quarters(self) -> Fraction:
        """Length of one step in quarter notes.

        >>> StepValue(note=2, divisor=7).quarters
        Fraction(2, 7)
        """
        return _quarters(self.note, self.kind, self.multiplier, self.divisor)


# Asked for at every turn; fractions are slow to reckon with.
@lru_cache(maxsize=1024)
def _quarters(note: int, kind: NoteKind, multiplier: int, divisor: int) -> Fraction:
    return Fraction(4, note) * KINDS[kind] * multiplier / divisor
