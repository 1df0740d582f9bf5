"""What a starter is, and what of a lane it brings."""

from typing import Annotated, Any, Self

from pydantic import Field, StringConstraints, model_validator

from lattice.document.base import Document, Name, Row
from lattice.document.lane import Lane
from lattice.document.piece import Pattern
from lattice.document.source import Made

__all__ = ["MAX_TAGS", "Starter", "Tag", "starting_fields"]

MAX_TAGS = 8
Tag = Annotated[
    str,
    StringConstraints(
        min_length=1, max_length=24, strip_whitespace=True, to_lower=True, pattern=r"^[^\x00-\x1f\x7f,]+$"
    ),
]

# Who a lane is, where it sounds and whether it is heard stay with the lane that begins anew.
_STAYS = {
    "id", "name", "voice", "ink", "port", "program", "channel", "note", "level_db", "pan", "room", "anchored", "mute",
    "solo",
}  # fmt: skip


class Starter(Document):
    """A lane or a pattern to begin from: one of the two."""

    name: Name
    tags: Annotated[Row[Tag], Field(max_length=MAX_TAGS)] = ()
    lane: Lane | None = None
    pattern: Pattern | None = None

    @model_validator(mode="after")
    def _one_of_the_two(self) -> Self:
        if (self.lane is None) == (self.pattern is None):
            raise ValueError("a starter is a lane or a pattern")
        if self.lane and isinstance(self.lane.source, Made):
            raise ValueError(
                "a lane that follows another cannot begin anew alone: draw it as it stands first"
            )
        return self


def starting_fields(lane: Lane) -> dict[str, Any]:
    """Return the fields that a lane takes over from a starter's *lane*: all that makes its notes."""
    return {name: value for name, value in lane.model_dump(mode="json").items() if name not in _STAYS}
