"""What a starter is, and what of a lane it brings."""

from typing import Annotated, Any, Literal, Self

from pydantic import Field, StringConstraints, model_validator

from lattice.document.base import Document, Name, Row
from lattice.document.ground import GroundSource
from lattice.document.lane import Lane
from lattice.document.piece import Pattern, Piece
from lattice.document.source import Made

__all__ = ["MAX_TAGS", "Kind", "Starter", "Tag", "starting_fields"]

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


Kind = Literal["lane", "melody", "pattern", "ground", "piece"]


class Starter(Document):
    """A lane, a pattern or a whole piece to begin from: one of the three."""

    name: Name
    tags: Annotated[Row[Tag], Field(max_length=MAX_TAGS)] = ()
    lane: Lane | None = None
    pattern: Pattern | None = None
    piece: Piece | None = None

    @model_validator(mode="after")
    def _one_of_the_three(self) -> Self:
        if sum(brought is not None for brought in (self.lane, self.pattern, self.piece)) != 1:
            raise ValueError("a starter is a lane, a pattern or a piece")
        if self.lane and isinstance(self.lane.source, Made):
            raise ValueError(
                "a lane that follows another cannot begin anew alone: draw it as it stands first"
            )
        return self

    @property
    def kind(self) -> Kind:
        """What it is; a lane that plays any pitch is a melody, a pattern of lanes that stand on one a ground."""
        if self.piece:
            return "piece"
        if self.pattern:
            on_ground = [isinstance(lane.source, GroundSource) for lane in self.pattern.lanes]
            return "ground" if on_ground and all(on_ground) else "pattern"
        return "melody" if self.lane and self.lane.is_melodic else "lane"


def starting_fields(lane: Lane) -> dict[str, Any]:
    """Return the fields that a lane takes over from a starter's *lane*: all that makes its notes."""
    return {name: value for name, value in lane.model_dump(mode="json").items() if name not in _STAYS}
