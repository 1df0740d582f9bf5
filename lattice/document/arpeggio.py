"""Pools of notes that a lane's hits read one after the other."""

from typing import Annotated, Literal, Self, get_args

from pydantic import Field, model_validator

from lattice.document.base import Document, Id, Row
from lattice.document.progression import ChordText
from lattice.document.source import MAX_EVERY

__all__ = [
    "MAX_OCTAVES",
    "MAX_TYPED",
    "MOST_AT_ONCE",
    "ORDERS",
    "Arpeggio",
    "ChordPool",
    "HeldPool",
    "LanePool",
    "Latch",
    "NoteOrder",
    "Pedal",
    "Pool",
    "ScalePool",
    "TypedPool",
]

MAX_OCTAVES = 4
MAX_TYPED = 24
MOST_AT_ONCE = 64  # notes of a pool, its octaves included, that can sound together

NoteOrder = Literal[
    "up",
    "down",
    "up-and-down",
    "up-and-down-twice",
    "as-played",
    "inward",
    "outward",
    "shuffled",
    "random",
    "all",
]
ORDERS: tuple[NoteOrder, ...] = get_args(NoteOrder)
Latch = Literal["off", "replace", "add"]


class HeldPool(Document):
    """The keys that are held. *latch*: they stay when let go, until new ones take their place, or for good."""

    kind: Literal["held"] = "held"
    latch: Latch = "off"


class TypedPool(Document):
    """A chord that is written here, or notes by their MIDI numbers in the order in which they were played."""

    kind: Literal["typed"] = "typed"
    chord: ChordText | None = None
    notes: Annotated[Row[Annotated[int, Field(ge=0, le=127)]], Field(max_length=MAX_TYPED)] = ()

    @model_validator(mode="after")
    def _one_of_both(self) -> Self:
        if (self.chord is None) == (not self.notes):
            raise ValueError("a typed pool has either a chord or notes: an empty pool would never sound")
        return self


class ChordPool(Document):
    """The chord of the progression."""

    kind: Literal["chord"] = "chord"


class ScalePool(Document):
    """The whole scale, from *low* to *high*: degrees above the lane's note."""

    kind: Literal["scale"] = "scale"
    low: Annotated[int, Field(ge=-28, le=28)] = 0
    high: Annotated[int, Field(ge=-28, le=28)] = 7

    @model_validator(mode="after")
    def _low_is_lower(self) -> Self:
        if self.low > self.high:
            raise ValueError(f"a scale from {self.low} to {self.high} has no notes: the pool would be empty")
        return self


class LanePool(Document):
    """The notes that sound in another lane, whose id is *of*."""

    kind: Literal["lane"] = "lane"
    of: Id


Pool = Annotated[HeldPool | TypedPool | ChordPool | ScalePool | LanePool, Field(discriminator="kind")]


class Pedal(Document):
    """A note that returns on each *every*-th hit, from the *first*-th, in place of the order's.

    *note*: its MIDI number; none: the lane's. *again*: whether the order starts again after it.
    """

    every: Annotated[int, Field(ge=2, le=MAX_EVERY)] = 4
    first: Annotated[int, Field(ge=1, le=MAX_EVERY, description="from 1, as people count")] = 1
    note: Annotated[int | None, Field(ge=0, le=127)] = None
    again: bool = False

    @model_validator(mode="after")
    def _first_is_among_them(self) -> Self:
        if self.first > self.every:
            raise ValueError(f"a pedal note on each {self.every}th hit cannot begin with the {self.first}th")
        return self


class Arpeggio(Document):
    """*order*: in which a pool's notes are read, after its *octaves* were added. *restart*: when it begins again."""

    pool: Pool = HeldPool()
    order: NoteOrder = "up"
    octaves: Annotated[int, Field(ge=1, le=MAX_OCTAVES)] = 1
    restart: Annotated[
        Literal["free", "cycle", "chord"], Field(description="never, with each cycle, with each chord")
    ] = "free"
    pedal: Annotated[Pedal | None, Field(description="none: no note returns")] = None
    velocity: Annotated[Literal["lane", "keys"], Field(description="whose velocity its notes have")] = "lane"

    @model_validator(mode="after")
    def _few_enough_notes(self) -> Self:
        notes = self.size_of(self.pool) * self.octaves
        if notes > MOST_AT_ONCE:
            raise ValueError(
                f"a pool of {self.size_of(self.pool)} notes over {self.octaves} octaves has {notes}: "
                f"at most {MOST_AT_ONCE} can sound at once"
            )
        return self

    @staticmethod
    def size_of(pool: Pool) -> int:
        """Return how many notes *pool* has, before octaves; 1 for one that changes while it plays."""
        match pool:
            case TypedPool(notes=notes):
                return max(1, len(notes))
            case ScalePool(low=low, high=high):
                return high - low + 1
        return 1
