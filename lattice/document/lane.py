"""One lane: a voice, where its hits come from, and all that acts on them."""

from itertools import pairwise
from typing import Annotated, Self

from pydantic import Field, model_validator

from lattice.document.base import Document, Id, Name, Row
from lattice.document.chance import StepChance
from lattice.document.source import MAX_STEPS, Made, Source
from lattice.document.step_value import StepValue
from lattice.document.timing import (
    MAX_BARS_OF_A_PATTERN,
    Direction,
    Once,
    Restart,
    Span,
    StepRange,
)
from lattice.document.turns import Edit, Thin

__all__ = ["CLOCK_FIELDS", "INKS", "Lane"]

INKS = 16  # eight inks, then the same eight lighter
# What a lane made from another takes from that one, and so has not of its own.
CLOCK_FIELDS = ("step_value", "span", "once", "step_range", "direction", "restart")


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
    once: Annotated[Once | None, Field(description="one cycle in each pass; none: it goes round")] = None
    step_range: Annotated[StepRange | None, Field(description="none: all steps")] = None
    direction: Direction = "forward"
    restart: Annotated[Restart | None, Field(description="none: never")] = None
    velocity: Annotated[int, Field(ge=1, le=127)] = 100
    length_percent: Annotated[int, Field(ge=1, le=400, description="length of a note, in % of a step")] = 100
    chance_percent: Annotated[int, Field(ge=0, le=100, description="how often a hit sounds")] = 100
    step_chances: Annotated[
        Row[StepChance], Field(max_length=MAX_STEPS, description="ascending by step; others: 100 %")
    ] = ()
    luck_bars: Annotated[
        int | None,
        Field(ge=1, le=MAX_BARS_OF_A_PATTERN, description="luck comes round after so many bars; none: never"),
    ] = None
    anchored: Annotated[bool, Field(description="no throw and no action on all lanes touches it")] = False
    mute: bool = False
    solo: bool = False

    @model_validator(mode="after")
    def _one_of_each_step(self) -> Self:
        for said, rows in (("edits", self.edits), ("step chances", self.step_chances)):
            steps = [row.step for row in rows]
            if any(later <= earlier for earlier, later in pairwise(steps)):
                raise ValueError(
                    f"the {said} must be ascending by step and each step there once, got {steps}"
                )
        return self

    @model_validator(mode="after")
    def _one_clock(self) -> Self:
        if isinstance(self.source, Made):
            for field in CLOCK_FIELDS:
                if getattr(self, field) != type(self).model_fields[field].default:
                    raise ValueError(
                        f"a lane made from another runs on its clock: it has no {field} of its own"
                    )
        return self

    @model_validator(mode="after")
    def _one_length_of_a_step(self) -> Self:
        if self.span and self.step_value:
            raise ValueError("a lane that fills a span has no step value of its own: the span decides it")
        return self
