"""What hands held on the keyboard for a lane while it played: exactly, so that it renders again as it was."""

from typing import Annotated

from pydantic import Field

from lattice.document.base import Document, Row
from lattice.document.notes import Tick

__all__ = ["MAX_KEYS", "HeldKey", "Keys", "Sustain"]

MAX_KEYS = 20_000


class HeldKey(Document):
    """A key held from a tick on to before another; *end*: none while it is held."""

    start: Tick
    end: Tick | None = None
    key: Annotated[int, Field(ge=0, le=127)]
    velocity: Annotated[int, Field(ge=1, le=127)]


class Sustain(Document):
    """The sustain pedal down from a tick to before another; *end*: none while it is down."""

    start: Tick
    end: Tick | None = None


class Keys(Document):
    """A performance on the keys, in ticks from the pattern's start. It is played through once.

    *held*: in the order of time. *let_go*: when all that a latch holds was let go.
    """

    held: Annotated[Row[HeldKey], Field(max_length=MAX_KEYS)] = ()
    sustained: Annotated[Row[Sustain], Field(max_length=MAX_KEYS)] = ()
    let_go: Annotated[Row[Tick], Field(max_length=MAX_KEYS)] = ()
