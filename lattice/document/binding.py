"""What the things on a controller move: learned once, for each controller by its name."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lattice.document.base import Document, Id, Name, Row
from lattice.document.controllers import MOST_BENT
from lattice.document.detour import DetourKind
from lattice.document.perform import MAX_HANDS
from lattice.document.problems import repeated

__all__ = ["Binding", "ControllerTable", "Target"]

MAX_BINDINGS = 512  # of a controller
_MAX_PLACE = 64


class HandTarget(Document):
    """The big control at a *place* of Perform, whatever it holds in a piece."""

    kind: Literal["hand"] = "hand"
    place: Annotated[int, Field(ge=0, lt=MAX_HANDS)]


class ControlTarget(Document):
    """A number of the document: at a dotted *field* of a *lane* of the *piece* of that id, from *low* to *high*.

    *lane*: none for the pattern's own. *name*: what people call it.
    """

    kind: Literal["control"] = "control"
    piece: Annotated[int, Field(ge=1)]
    lane: Id | None = None
    field: Annotated[str, Field(min_length=1, max_length=80)]
    name: Name
    low: Annotated[int, Field(ge=-MOST_BENT, le=MOST_BENT)]
    high: Annotated[int, Field(ge=-MOST_BENT, le=MOST_BENT)]

    @model_validator(mode="after")
    def _goes_up(self) -> Self:
        if self.low >= self.high:
            raise ValueError(f"it must go from less to more, got {self.low} to {self.high}")
        return self


class PatternTarget(Document):
    """The pattern at a *place*: chosen as by its pad."""

    kind: Literal["pattern"] = "pattern"
    place: Annotated[int, Field(ge=0, lt=_MAX_PLACE)]


class MuteTarget(Document):
    """The lane at a *place*: muted, and heard again."""

    kind: Literal["mute"] = "mute"
    place: Annotated[int, Field(ge=0, lt=_MAX_PLACE)]


class DetourTarget(Document):
    """A detour, held for as long as the pad is."""

    kind: Literal["detour"] = "detour"
    detour: DetourKind


class ActTarget(Document):
    """What a press of the button of that name does."""

    kind: Literal["act"] = "act"
    act: Literal["play", "stop", "throw", "keep"]


Target = Annotated[
    HandTarget | ControlTarget | PatternTarget | MuteTarget | DetourTarget | ActTarget,
    Field(discriminator="kind"),
]


class Binding(Document):
    """What one thing on a controller moves.

    *message*: what it sends; *channel* as musicians count, from 1; *number*: of its key or controller, 0 for the bend
    and the pressure of a channel.
    """

    message: Literal["note", "control", "bend", "pressure"]
    channel: Annotated[int, Field(ge=1, le=16)]
    number: Annotated[int, Field(ge=0, le=127)] = 0
    target: Target


class ControllerTable(Document):
    """All that is bound of the controller called *name*; two of one name are numbered."""

    name: Name
    bindings: Annotated[Row[Binding], Field(max_length=MAX_BINDINGS)] = ()

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        twice = repeated((one.message, one.channel, one.number) for one in self.bindings)
        if twice:
            message, channel, number = twice
            raise ValueError(f"{message} {number} of channel {channel} is bound twice")
        return self
