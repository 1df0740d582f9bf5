"""Where a lane's hits come from."""

from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints, model_validator

from lattice.document.base import Document, Id, Row

__all__ = [
    "MAX_EVERY",
    "MAX_STEPS",
    "MAX_THROW",
    "Computed",
    "Drawn",
    "Echo",
    "Euclidean",
    "Made",
    "Moved",
    "Numbered",
    "Reply",
    "Rests",
    "Steps",
    "Thrown",
]

MAX_STEPS = 128
MAX_THROW = 999_999
MAX_EVERY = 32
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
    """A source that knows how many hits it has, on how many steps.

    Hits that do not fit are kept as they were asked for: they lie dormant until there are as many steps again.
    """

    hits: Annotated[int, Field(ge=0, le=MAX_STEPS)]
    steps: Steps

    @property
    def placed(self) -> int:
        """How many hits there are: as many as fit."""
        return min(self.hits, self.steps)


class Euclidean(Computed):
    """`hits` spread as evenly as possible over `steps`."""

    kind: Literal["euclidean"] = "euclidean"


class Numbered(Computed):
    """One of all the ways to place `hits` on `steps`, by its number, taken modulo the number of ways.

    The number is as large as it needs to be, so it travels as digits.
    """

    kind: Literal["numbered"] = "numbered"
    number: Annotated[str, StringConstraints(pattern=r"^(0|[1-9][0-9]{0,39})$")] = "0"


class Moved(Document):
    """A throw that moves only *percent* of the hits that *of* draws."""

    percent: Annotated[int, Field(ge=0, le=100)] = 100
    of: Drawn


class Thrown(Computed):
    """`hits` of `steps` picked by a throw and the lane's id.

    With *moved*, some of the hits that stood there moved to other steps instead; that lies dormant while it does
    not fit `hits` and `steps`. *was*: the computed source before it was thrown, the way back.
    """

    kind: Literal["thrown"] = "thrown"
    throw: Annotated[int, Field(ge=1, le=MAX_THROW)] = 1
    moved: Moved | None = None
    was: Annotated[Euclidean | Numbered, Field(discriminator="kind")] | None = None

    @property
    def moves(self) -> Moved | None:
        """What is moved, if it fits the numbers."""
        fits = self.moved and (len(self.moved.of.hits), self.moved.of.steps) == (self.placed, self.steps)
        return self.moved if fits else None


class Made(Document):
    """A source that reads the played steps of another lane, whose id is *of*, and runs on its clock."""

    of: Id


class Rests(Made):
    """Hits where the other lane rests, rests where it hits."""

    kind: Literal["rests"] = "rests"


class Echo(Made):
    """The other lane's hits, *shift* steps later."""

    kind: Literal["echo"] = "echo"
    shift: Annotated[int, Field(ge=0, lt=MAX_STEPS)] = 3


class Reply(Made):
    """One hit midway between each *every*-th hit of the other lane and its next hit."""

    kind: Literal["reply"] = "reply"
    every: Annotated[int, Field(ge=1, le=MAX_EVERY)] = 1
