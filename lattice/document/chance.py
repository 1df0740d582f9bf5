"""How often a single step sounds."""

from typing import Annotated

from pydantic import Field

from lattice.document.base import Document
from lattice.document.source import MAX_STEPS

__all__ = ["StepChance"]


class StepChance(Document):
    """One step's own chance; it multiplies the lane's."""

    step: Annotated[int, Field(ge=0, lt=MAX_STEPS)]
    percent: Annotated[int, Field(ge=0, le=100)]
