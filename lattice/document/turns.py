"""What is done to a lane's hits beyond turning and complementing them."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lattice.document.base import Document
from lattice.document.source import MAX_EVERY, MAX_STEPS

__all__ = ["Edit", "Thin"]


class Thin(Document):
    """Only, or without, every nth hit, counted along the run or anew in each cycle."""

    keeps: Literal["only", "without"] = "only"
    every: Annotated[int, Field(ge=2, le=MAX_EVERY)] = 3
    first: Annotated[int, Field(ge=1, le=MAX_EVERY, description="from 1, as people count")] = 1
    each_cycle: bool = False

    @model_validator(mode="after")
    def _first_is_among_them(self) -> Self:
        if self.first > self.every:
            raise ValueError(f"each {self.every}th hit cannot begin with the {self.first}th")
        return self


class Edit(Document):
    """One step forced to hit or rest by hand, on top of all else."""

    step: Annotated[int, Field(ge=0, lt=MAX_STEPS)]
    hit: bool
