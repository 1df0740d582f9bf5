"""Where a lane's hits come from."""

from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints, model_validator

from lattice.document.base import Document, Row

__all__ = [
    "MAX_STEPS",
    "MAX_THROW",
    "Computed",
    "Drawn",
    "Euclidean",
    "Numbered",
    "Source",
    "Steps",
    "Thrown",
]

MAX_STEPS = 128
MAX_THROW = 999_999
Steps = Annotated[int, Field(ge=1, le=MAX_STEPS)]
StepNumber = Annotated[int, Field(ge=0, lt=MAX_STEPS)]


class Drawn(Document):
    """The steps that the musician set by hand: `hits` ascending, counted from 0."""

    kind: Literal["drawn"] = "drawn"
    steps: Steps = 16
    hits: Row[StepNumber] = ()

    @model_validator(mode="after")
    def _hits_fit(self) -> Self:
        if any(later <= earlier for earlier, later in zip(self.hits, self.hits[1:], strict=False)):
            raise ValueError(f"the hits must be ascending and each there once, got {list(self.hits)}")
        if self.hits and self.hits[-1] >= self.steps:
            raise ValueError(
                f"a hit on step {self.hits[-1] + 1} does not fit into a cycle of {self.steps} steps"
            )
        return self


class Computed(Document):
    """A source that knows how many hits it has, on how many steps."""

    hits: Annotated[int, Field(ge=0, le=MAX_STEPS)]
    steps: Steps

    @model_validator(mode="after")
    def _hits_fit(self) -> Self:
        if self.hits > self.steps:
            raise ValueError(f"{self.hits} hits do not fit into {self.steps} steps")
        return self


class Euclidean(Computed):
    """`hits` spread as evenly as possible over `steps`."""

    kind: Literal["euclidean"] = "euclidean"


class Numbered(Computed):
    """One of all the ways to place `hits` on `steps`, by its number, taken modulo the number of ways.

    The number is as large as it needs to be, so it travels as digits.
    """

    kind: Literal["numbered"] = "numbered"
    number: Annotated[str, StringConstraints(pattern=r"^(0|[1-9][0-9]{0,39})$")] = "0"


class Thrown(Computed):
    """`hits` of `steps` picked by a throw and the lane's id."""

    kind: Literal["thrown"] = "thrown"
    throw: Annotated[int, Field(ge=1, le=MAX_THROW)] = 1


Source = Annotated[Drawn | Euclidean | Numbered | Thrown, Field(discriminator="kind")]
