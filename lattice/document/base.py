"""What every part of a document shares: strict, frozen, no field that is not known."""

from collections.abc import Collection
from itertools import count
from typing import Annotated, TypeVar

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

__all__ = ["MAX_NAME", "Document", "Id", "Name", "Row", "free_id"]

MAX_NAME = 80

Item = TypeVar("Item")

# A JSON list becomes a tuple, so that a document can be shared without fear of change.
Row = Annotated[tuple[Item, ...], Field(strict=False)]
Name = Annotated[
    str,
    StringConstraints(
        min_length=1, max_length=MAX_NAME, strip_whitespace=True, pattern=r"^[^\x00-\x1f\x7f]+$"
    ),
]
Id = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9-]{0,35}$")]


class Document(BaseModel):
    """Base of all documents. Numbers are not read from text, and unknown fields are refused."""

    __slots__ = ("_known_hash",)
    model_config = ConfigDict(strict=True, frozen=True, extra="forbid", allow_inf_nan=False)

    def __hash__(self) -> int:
        """Return the hash of its fields, worked out once: a document never changes, and is looked up often."""
        try:
            known: int = object.__getattribute__(self, "_known_hash")
        except AttributeError:
            known = hash((type(self), *self.__dict__.values()))
            object.__setattr__(self, "_known_hash", known)
        return known


def free_id(wanted: Id, taken: Collection[Id]) -> Id:
    """Return *wanted*, or where that is *taken* the same with the first number from 2 that is free.

    >>> free_id("thud", {"thud", "thud-2"})
    'thud-3'
    """
    names = (wanted if number == 1 else f"{wanted[:30]}-{number}" for number in count(1))
    return next(name for name in names if name not in taken)
