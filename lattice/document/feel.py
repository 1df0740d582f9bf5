"""How a lane's strokes are weighted and placed between the steps."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lattice.document.base import Document
from lattice.document.source import MAX_EVERY
from lattice.document.step_value import StepValue

__all__ = ["MAX_HUMANISE_MS", "STRAIGHT", "Accent", "Humanise", "LaneSwing", "Swing"]

STRAIGHT = 50  # % of a pair: both of its notes equally long
MAX_HUMANISE_MS = 50


class Accent(Document):
    """Each *every*-th hit, from the *first*-th, is struck with *velocity*."""

    velocity: Annotated[int, Field(ge=1, le=127)] = 120
    every: Annotated[int, Field(ge=1, le=MAX_EVERY)] = 3
    first: Annotated[int, Field(ge=1, le=MAX_EVERY, description="from 1, as people count")] = 1

    @model_validator(mode="after")
    def _first_is_among_them(self) -> Self:
        if self.first > self.every:
            raise ValueError(f"an accent on each {self.every}th hit cannot begin with the {self.first}th")
        return self


class Swing(Document):
    """The first note of a pair of 1/*note* takes *percent* of it."""

    percent: Annotated[int, Field(ge=STRAIGHT, le=75)] = STRAIGHT
    note: Literal[8, 16] = 16

    @property
    def unit(self) -> StepValue:
        """One note of a pair."""
        return StepValue(note=self.note)


class LaneSwing(Swing):
    """The swing of a lane. *own_steps*: its own steps are the notes of the pairs, whatever they are, triplets too."""

    own_steps: bool = False


class Humanise(Document):
    """How far hits stray: normally distributed, cut at twice the spread. *ms*: in time; *velocity*: in strength."""

    ms: Annotated[int, Field(ge=0, le=MAX_HUMANISE_MS)] = 6
    velocity: Annotated[int, Field(ge=0, le=40)] = 4
