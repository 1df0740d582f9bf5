"""The limits of a document's numbers, as its fields say them: nobody says them a second time."""

from functools import cache
from typing import Any, get_args

from annotated_types import Ge, Gt, Le, Lt
from pydantic import BaseModel

__all__ = ["limits"]


@cache
def limits(model: type[BaseModel], field: str) -> tuple[int, int]:
    """Return the least and the greatest whole number that *field* of *model* may have.

    Raises KeyError if there is no such field, ValueError if it has no such limits.

    >>> from lattice.document.lane import Lane
    >>> limits(Lane, "level_db"), limits(Lane, "channel")
    ((-48, 6), (1, 16))
    """
    info = model.model_fields[field]
    low = high = None
    for one in [*info.metadata, *_inner(info.annotation)]:
        if isinstance(one, Ge | Gt):
            low = int(one.ge) if isinstance(one, Ge) else int(one.gt) + 1  # type: ignore[call-overload]  # they are whole
        elif isinstance(one, Le | Lt):
            high = int(one.le) if isinstance(one, Le) else int(one.lt) - 1  # type: ignore[call-overload]
    if low is None or high is None:
        raise ValueError(f"{model.__name__}.{field} has no limits on both sides")
    return low, high


def _inner(annotation: Any) -> list[Any]:
    """Return what is said of the parts of a type: of `Annotated[int, Field(ge=0)] | None`, that it is at least 0."""
    found: list[Any] = []
    for part in get_args(annotation):
        for one in getattr(part, "__metadata__", ()):
            found += getattr(one, "metadata", [one])
    return found
