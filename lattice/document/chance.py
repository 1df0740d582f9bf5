"""Luck that steps share, and cycles in which they are silent."""

from typing import Annotated, Literal, Self, get_args

from pydantic import Field, model_validator

from lattice.document.base import Document
from lattice.document.source import MAX_STEPS

__all__ = ["LETTERS", "MAX_RULE_CYCLES", "CycleRule", "Letter", "Link", "StepRule"]

MAX_RULE_CYCLES = 16
Letter = Literal["a", "b", "c", "d", "e", "f", "g", "h"]
LETTERS: tuple[Letter, ...] = get_args(Letter)


class Link(Document):
    """One step that sounds together with all of its letter, or not at all."""

    step: Annotated[int, Field(ge=0, lt=MAX_STEPS)]
    letter: Letter = "a"


class CycleRule(Document):
    """Only in the *nth* of every *of* cycles, from 1, as people count."""

    nth: Annotated[int, Field(ge=1, le=MAX_RULE_CYCLES)] = 1
    of: Annotated[int, Field(ge=2, le=MAX_RULE_CYCLES)] = 4

    @model_validator(mode="after")
    def _nth_is_among_them(self) -> Self:
        if self.nth > self.of:
            raise ValueError(f"there is no {self.nth}th of {self.of} cycles")
        return self


class StepRule(Document):
    """The cycle rule of one step."""

    step: Annotated[int, Field(ge=0, lt=MAX_STEPS)]
    rule: CycleRule
