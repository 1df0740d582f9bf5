"""Kept notes that play where a lane's own would."""

from typing import Annotated, Self

from pydantic import Field, model_validator

from lattice.document.base import Document, Name, Row
from lattice.document.notes import MAX_TICKS, Control, Note

__all__ = ["MAX_LANE_NOTES", "LaneClip"]

MAX_LANE_NOTES = 20_000


class LaneClip(Document):
    """One lane of a clip, going round from the pattern's start every *length_ticks*. The lane itself is set aside.

    *notes* and *controls* are in the order of time. A note may ring on beyond the length, or begin after it: its hit
    was heard late, so it sounds that much after the beginning of each further time round, never before the first.
    """

    name: Name
    length_ticks: Annotated[int, Field(ge=1, le=MAX_TICKS)]
    notes: Annotated[Row[Note], Field(max_length=MAX_LANE_NOTES)] = ()
    controls: Annotated[Row[Control], Field(max_length=MAX_LANE_NOTES)] = ()

    @model_validator(mode="after")
    def _within_its_length(self) -> Self:
        for said, times in (
            ("note", [note.start for note in self.notes]),
            ("control", [point.tick for point in self.controls]),
        ):
            if times != sorted(times):
                raise ValueError(f"the {said}s of a kept lane must be in the order of time")
        if self.controls and self.controls[-1].tick >= self.length_ticks:
            raise ValueError(
                f"a control at tick {self.controls[-1].tick} lies beyond the clip's {self.length_ticks} ticks"
            )
        return self
