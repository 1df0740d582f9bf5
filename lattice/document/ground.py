"""A lane that stands on a ground: its hits come from grooves around a place, and it knows what it was before."""

from typing import Annotated, Literal

from pydantic import Field

from lattice.document.base import Document, Row
from lattice.document.source import MAX_STEPS, Drawn, Echo, Euclidean, Numbered, Reply, Rests, Thrown
from lattice.document.step_value import StepValue
from lattice.document.strip import VelocityStrip
from lattice.document.timing import Direction, Span, StepRange
from lattice.document.turns import Edit, Thin
from lattice.theory.grounds import GroundId, Part, ground_text

__all__ = ["BEFORE_FIELDS", "Before", "GroundSource", "Source"]


class Before(Document):
    """What a lane was before it was put on a ground: the fields of a lane that the ground takes the place of."""

    source: Annotated[
        Drawn | Euclidean | Numbered | Thrown | Rests | Echo | Reply, Field(discriminator="kind")
    ]
    rotate: Annotated[int, Field(gt=-MAX_STEPS, lt=MAX_STEPS)] = 0
    complement: bool = False
    busy: Annotated[int, Field(ge=-100, le=100)] = 0
    thin: Thin | None = None
    edits: Annotated[Row[Edit], Field(max_length=MAX_STEPS)] = ()
    step_value: StepValue | None = None
    span: Span | None = None
    step_range: StepRange | None = None
    direction: Direction = "forward"
    velocity_strip: VelocityStrip | None = None


BEFORE_FIELDS = tuple(Before.model_fields)


class GroundSource(Document):
    """The hits of one *part* at a place of a *ground*: *x* from on the beat to syncopated, *y* from sparse to busy.

    *was*: what the lane was before, the way back.
    """

    kind: Literal["ground"] = "ground"
    ground: GroundId
    part: Part
    x: Annotated[int, Field(ge=0, le=100)] = 50
    y: Annotated[int, Field(ge=0, le=100)] = 50
    pinned: Annotated[bool, Field(description="it stays where it is when the others move")] = False
    was: Before | None = None

    @property
    def steps(self) -> int:
        """How many steps its cycle has."""
        return ground_text(self.ground).steps


Source = Annotated[
    Drawn | Euclidean | Numbered | Thrown | Rests | Echo | Reply | GroundSource, Field(discriminator="kind")
]
