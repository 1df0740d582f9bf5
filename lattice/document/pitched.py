"""The built-in voices that play any pitch."""

from typing import Annotated, NamedTuple

from pydantic import Field

from lattice.document.base import Document

__all__ = ["MAX_ATTACK_MS", "MAX_GLIDE_MS", "MAX_RELEASE_MS", "PITCHED", "WHOLE_KIT", "PitchedVoice", "Tone"]

MAX_ATTACK_MS, MAX_RELEASE_MS, MAX_GLIDE_MS = 2000, 8000, 2000
WHOLE_KIT = "whole-kit"


class Tone(Document):
    """How a pitched voice is set. *brightness*: % of its overtones."""

    brightness: Annotated[int, Field(ge=0, le=100)]
    attack_ms: Annotated[int, Field(ge=0, le=MAX_ATTACK_MS)]
    release_ms: Annotated[int, Field(ge=0, le=MAX_RELEASE_MS)]


class PitchedVoice(NamedTuple):
    """*home*: the MIDI note near which it sounds best, and near which a lane's note lies. *channel*: 0 for the kit's.

    *brightness* in %, *attack_ms* and *release_ms*: what it has when the lane says nothing.
    """

    name: str
    home: int
    channel: int
    explains: str
    brightness: int = 50
    attack_ms: int = 5
    release_ms: int = 200

    @property
    def tone(self) -> Tone:
        """How it is set where a lane says nothing."""
        return Tone(brightness=self.brightness, attack_ms=self.attack_ms, release_ms=self.release_ms)


PITCHED: dict[str, PitchedVoice] = {
    "low-reed": PitchedVoice("Low reed", 38, 1, "a dark, buzzing bass reed", 45, 15, 160),
    "buoy": PitchedVoice("Buoy", 57, 2, "a struck tube that rings and bends a little", 50, 2, 900),
    "foghorn": PitchedVoice("Foghorn", 45, 3, "a broad, slow swell of several horns", 35, 180, 700),
    "lantern": PitchedVoice("Lantern", 69, 4, "a warm, plucked glow, quick to fade", 55, 3, 300),
    "glass-harbour": PitchedVoice("Glass harbour", 76, 5, "rubbed glass, clear and long", 60, 40, 1400),
    "halyard": PitchedVoice("Halyard", 62, 6, "a taut wire, plucked near its end", 70, 1, 250),
    "undertow": PitchedVoice("Undertow", 33, 7, "a round, plain bass without overtones", 20, 8, 180),
    WHOLE_KIT: PitchedVoice("Whole kit", 36, 0, "each note strikes the kit's voice of that number"),
}
