"""A stretch of whole bars."""

from typing import Annotated

from pydantic import Field

from lattice.document.base import Document

__all__ = ["MAX_BARS", "Window"]

MAX_BARS = 1_000_000  # weeks of music; keeps every position well inside 64 bits


class Window(Document):
    """*bars* bars from *first_bar* (counted from 0) on."""

    first_bar: Annotated[int, Field(ge=0, lt=MAX_BARS)] = 0
    bars: Annotated[int, Field(ge=1, le=MAX_BARS)]

    def ticks(self, bar_ticks: int) -> tuple[int, int]:
        """Return the first tick in the window and the first one after it."""
        return self.first_bar * bar_ticks, (self.first_bar + self.bars) * bar_ticks
