"""Ports: where notes go. A piece knows them by name, as the musician's own instruments come and go."""

from typing import Annotated

from pydantic import Field

from lattice.document.base import Document

__all__ = ["BUILT_IN", "SIMULATED", "Program"]

BUILT_IN = "built-in sounds"
SIMULATED = "simulated instrument"


class Program(Document):
    """Which sound an instrument is to choose: *number* as musicians count, from 1. *bank*: none: as it stands.

    Source: MIDI 1.0, program change and bank select.
    """

    number: Annotated[int, Field(ge=1, le=128)]
    bank: Annotated[int | None, Field(ge=0, le=16383)] = None
