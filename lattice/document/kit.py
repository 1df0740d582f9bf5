"""Voices and the notes they answer to."""

from typing import Annotated, Self

from pydantic import Field, model_validator

from lattice.document.base import Document, Id, Name, Row
from lattice.document.pitched import PITCHED
from lattice.document.problems import repeated

__all__ = ["DOCKSIDE", "KITS", "Kit", "Voice"]


MAX_FADE_MS = 2000


class Voice(Document):
    """One sound of a kit and the MIDI note that plays it.

    *sound*: the built-in sound, or the musician's own, that it is made of; none: the one called as the voice.
    """

    id: Id
    name: Name
    pitch: Annotated[int, Field(ge=0, le=127, description="MIDI note number")]
    sound: Id | None = None
    tune: Annotated[int, Field(ge=-24, le=24, description="semitones higher")] = 0
    start_percent: Annotated[int, Field(ge=0, le=95, description="how much of its beginning is left out")] = 0
    length_percent: Annotated[int, Field(ge=5, le=100, description="how much of it is heard")] = 100
    fade_in_ms: Annotated[int, Field(ge=0, le=MAX_FADE_MS)] = 0
    fade_out_ms: Annotated[int, Field(ge=0, le=MAX_FADE_MS, description="before it is over")] = 0
    reverse: Annotated[bool, Field(description="played from its end to its beginning")] = False
    level_db: Annotated[int, Field(ge=-48, le=6)] = 0
    pan: Annotated[int, Field(ge=-100, le=100, description="% to the right; negative: to the left")] = 0


class Kit(Document):
    """A set of voices on one MIDI channel."""

    name: Name
    channel: Annotated[int, Field(ge=1, le=16, description="as musicians count, from 1")] = 10
    port: Annotated[Name | None, Field(description="where its notes go; none: the built-in sounds")] = None
    voices: Annotated[Row[Voice], Field(min_length=1, max_length=128)]

    @model_validator(mode="after")
    def _voices_differ(self) -> Self:
        if twice := repeated(voice.id for voice in self.voices):
            raise ValueError(f"the voice {twice!r} is there twice")
        if pitched := next((voice.id for voice in self.voices if voice.id in PITCHED), None):
            raise ValueError(f"{pitched!r} is a voice that plays any pitch: no kit has it")
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

# The same places, so that lanes keep theirs when kits are exchanged: what lies below deck.
ENGINE_ROOM = Kit(
    name="Engine room",
    channel=10,
    voices=tuple(
        Voice(id=place.id, name=name, pitch=place.pitch, sound=sound, tune=tune, length_percent=length)
        for place, (name, sound, tune, length) in zip(
            DOCKSIDE.voices,
            (
                ("Piston", "thud", 4, 60),
                ("Hatch", "plank", -9, 100),
                ("Valve", "hiss", 7, 25),
                ("Spanner", "rail", 12, 30),
                ("Steam", "hiss", -7, 100),
                ("Rivet", "shell", -5, 100),
                ("Crank", "winch", -6, 100),
                ("Gauge", "bottle", 5, 100),
                ("Belt", "rope", -8, 100),
                ("Pipe", "bell", -17, 45),
                ("Boiler", "thud", -7, 100),
                ("Whistle", "gull", -12, 70),
            ),
            strict=True,
        )
    ),
)

KITS = (DOCKSIDE, ENGINE_ROOM)
