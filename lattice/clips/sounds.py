"""How the built-in sounds play a clip whose notes come from anywhere."""

from collections.abc import Sequence

from pydantic import BaseModel

from lattice.clips.clip import Track
from lattice.document.kit import DOCKSIDE, Voice
from lattice.document.pitched import PITCHED, Tone

__all__ = ["DRUM_CHANNEL", "TUNED", "PitchSound", "sounds_of"]

DRUM_CHANNEL = 10  # as General MIDI has it
TUNED = "lantern"  # what plays notes that no lane has given a voice


class PitchSound(BaseModel):
    """*voice* sounds a note, *semitones* higher than it is. *tone*: of a voice that plays any pitch."""

    voice: Voice
    semitones: int
    tone: Tone | None = None
    level_db: int = 0
    pan: int = 0


def sounds_of(track: Track) -> dict[int, PitchSound]:
    """Return what sounds each MIDI note of a track: the voice of the lane it came from.

    Notes from elsewhere are played by the Dockside kit on channel 10, each by the voice that is nearest (the lower of
    two); on the others by one voice, tuned.
    """
    return {pitch: _sound(track, pitch) for pitch in sorted({note.pitch for note in track.notes})}


def _sound(track: Track, pitch: int) -> PitchSound:
    if track.sound:
        sound = track.sound
        voice = _nearest(sound.kit, pitch) if sound.kit else sound.voice
        return PitchSound(
            voice=voice,
            semitones=0 if sound.kit else pitch - sound.note,
            tone=sound.tone,
            level_db=sound.level_db,
            pan=sound.pan,
        )
    if track.channel == DRUM_CHANNEL:
        return PitchSound(voice=_nearest(DOCKSIDE.voices, pitch), semitones=0)
    pitched = PITCHED[TUNED]
    tone = Tone(brightness=pitched.brightness, attack_ms=pitched.attack_ms, release_ms=pitched.release_ms)
    voice = Voice(id=TUNED, name=pitched.name, pitch=pitched.home)
    return PitchSound(voice=voice, semitones=pitch - pitched.home, tone=tone)


def _nearest(voices: Sequence[Voice], pitch: int) -> Voice:
    return min(voices, key=lambda voice: (abs(voice.pitch - pitch), voice.pitch))
