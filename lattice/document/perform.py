"""What a musician has laid out for their hands: which controls, of which lanes."""

from typing import Annotated, Self

from pydantic import Field, model_validator

from lattice.document.base import Document, Id
from lattice.document.movement import CONTROLS, PATTERN_CONTROLS

__all__ = ["MAX_HANDS", "BigControl"]

MAX_HANDS = 8


class BigControl(Document):
    """A *control* of the *lane* of that id in whichever pattern plays; of the pattern itself where the lane is none.

    It lies dormant in patterns that have no such lane.
    """

    lane: Id | None = None
    control: Annotated[str, Field(max_length=40)]

    @model_validator(mode="after")
    def _is_known(self) -> Self:
        known = PATTERN_CONTROLS if self.lane is None else CONTROLS
        if self.control not in known:
            raise ValueError(f"there is no control {self.control!r} to take hold of")
        return self
