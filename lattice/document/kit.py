"""Voices and the notes they answer to."""

from typing import Annotated, Self

from pydantic import Field, model_validator

from lattice.document.base import Document, Id, Name, Row
from lattice.document.problems import repeated

__all__ = ["DOCKSIDE", "Kit", "Voice"]


class Voice(Document):
    """One sound of a kit and the MIDI note that plays it."""

    id: Id
    name: Name
    pitch: Annotated[int, Field(ge=0, le=127, description="MIDI note number")]


class Kit(Document):
    """A set of voices on one MIDI channel."""

    name: Name
    channel: Annotated[int, Field(ge=1, le=16, description="as musicians count, from 1")] = 10
    voices: Annotated[Row[Voice], Field(min_length=1, max_length=128)]

    @model_validator(mode="after")
    def _voices_differ(self) -> Self:
        if twice := repeated(voice.id for voice in self.voices):
            raise ValueError(f"the voice {twice!r} is there twice")
        return self

    def voice(self, voice_id: str) -> Voice | None:
        """Return the voice with that id, or None."""
        return next((voice for voice in self.voices if voice.id == voice_id), None)


DOCKSIDE = Kit(
    name="Dockside",
    channel=10,
    voices=tuple(
        Voice(id=name.lower(), name=name, pitch=pitch)
        for name, pitch in {
            "Thud": 36,
            "Chain": 38,
            "Bottle": 39,
            "Clink": 42,
            "Hiss": 46,
            "Shell": 37,
            "Winch": 43,
            "Bell": 51,
            "Rope": 70,
            "Rail": 56,
            "Plank": 41,
            "Gull": 49,
        }.items()
    ),
)
