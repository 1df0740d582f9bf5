"""One lane: a voice, where its hits come from, and all that acts on them."""

from itertools import pairwise
from typing import Annotated, Self

from pydantic import Field, model_validator

from lattice.document.base import Document, Id, Name, Row
from lattice.document.source import MAX_STEPS, Source
from lattice.document.step_value import StepValue
from lattice.document.timing import Span
from lattice.document.turns import Edit, Thin

__all__ = ["INKS", "Lane"]

INKS = 16  # eight inks, then the same eight lighter


class Lane(Document):
    """A field left at its default is *plain*: it does nothing and the sentence does not name it."""

    id: Id
    name: Name
    voice: Id
    ink: Annotated[int, Field(ge=0, lt=INKS)] = 0
    source: Source
    rotate: Annotated[
        int, Field(gt=-MAX_STEPS, lt=MAX_STEPS, description="steps later; negative: earlier")
    ] = 0
    complement: Annotated[bool, Field(description="its rests: hits and rests change places")] = False
    thin: Annotated[Thin | None, Field(description="none: every hit")] = None
    edits: Annotated[Row[Edit], Field(max_length=MAX_STEPS, description="ascending by step")] = ()
    step_value: Annotated[StepValue | None, Field(description="none: the pattern's")] = None
    span: Annotated[Span | None, Field(description="what a cycle fills; none: it keeps its step")] = None
    velocity: Annotated[int, Field(ge=1, le=127)] = 100
    length_percent: Annotated[int, Field(ge=1, le=400, description="length of a note, in % of a step")] = 100
    chance_percent: Annotated[int, Field(ge=0, le=100, description="how often a hit sounds")] = 100
    mute: bool = False
    solo: bool = False

    @model_validator(mode="after")
    def _one_edit_a_step(self) -> Self:
        steps = [edit.step for edit in self.edits]
        if any(later <= earlier for earlier, later in pairwise(steps)):
            raise ValueError(f"the edits must be ascending by step and each step there once, got {steps}")
        return self

    @model_validator(mode="after")
    def _one_length_of_a_step(self) -> Self:
        if self.span and self.step_value:
            raise ValueError("a lane that fills a span has no step value of its own: the span decides it")
        return self
