"""A score that something is asked about: as it is in a row of a running order, if it plays in one."""

from typing import Self

from pydantic import model_validator

from config.bodies import Body
from lattice.document import Score
from lattice.document.order import PlacedRow
from lattice.document.piece import Dice
from lattice.order.rows import in_row

__all__ = ["Asked"]


class Asked(Body):
    """A pattern's *score* and its *dice*; in a *row* of a running order both are what that makes of them."""

    score: Score
    dice: Dice
    row: PlacedRow | None = None

    @model_validator(mode="after")
    def _in_its_row(self) -> Self:
        if self.row:
            self.score, self.dice = in_row(self.score, self.dice, self.row)
        return self
