"""How the built-in sounds play notes: which voice strikes which MIDI note, and by how much it is tuned."""

from collections.abc import Sequence
from typing import Annotated

from pydantic import BaseModel, Field

from lattice.document.base import Document, Row
from lattice.document.kit import Voice
from lattice.document.pitched import Tone

__all__ = ["PitchSound", "TrackSound", "nearest"]


class PitchSound(BaseModel):
    """*voice* sounds a note, *semitones* higher than it is. *tone*: of a voice that plays any pitch."""

    voice: Voice
    semitones: int
    tone: Tone | None = None
    level_db: int = 0
    pan: int = 0
    room: int = 0


class TrackSound(Document):
    """How the built-in sounds play a track: by *voice*, which sounds as it is at the MIDI note *note*.

    *tone*: of a voice that plays any pitch. *kit*: the voices, each struck at its own note, where all of it plays.
    """

    voice: Voice
    note: Annotated[int, Field(ge=0, le=127)]
    tone: Tone | None = None
    kit: Row[Voice] = ()
    level_db: Annotated[int, Field(ge=-48, le=6)] = 0
    pan: Annotated[int, Field(ge=-100, le=100)] = 0
    room: Annotated[int, Field(ge=0, le=100)] = 0

    def at(self, pitch: int) -> PitchSound:
        """Return what sounds a MIDI note: where the whole kit plays, the voice nearest to it, untuned."""
        return PitchSound.model_construct(
            voice=nearest(self.kit, pitch) if self.kit else self.voice,
            semitones=0 if self.kit else pitch - self.note,
            tone=self.tone,
            level_db=self.level_db,
            pan=self.pan,
            room=self.room,
        )


def nearest(voices: Sequence[Voice], pitch: int) -> Voice:
    """Return the voice whose note is nearest to *pitch*; of two the lower."""
    return min(voices, key=lambda voice: (abs(voice.pitch - pitch), voice.pitch))
