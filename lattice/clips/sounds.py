"""How the built-in sounds play a clip whose notes come from anywhere."""

from pydantic import BaseModel

from lattice.clips.clip import Track
from lattice.document.kit import DOCKSIDE, Voice

__all__ = ["DRUM_CHANNEL", "PitchSound", "sounds_of"]

DRUM_CHANNEL = 10  # as General MIDI has it
# What plays notes that no lane has given a voice: the buoy's bell, which is struck at its own pitch, G5.
_TUNED, _TUNED_AT = "bell", 79


class PitchSound(BaseModel):
    """*voice* sounds a note, *semitones* higher than it is."""

    voice: Voice
    semitones: int
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
        return PitchSound(
            voice=sound.voice, semitones=pitch - sound.note, level_db=sound.level_db, pan=sound.pan
        )
    if track.channel == DRUM_CHANNEL:
        nearest = min(DOCKSIDE.voices, key=lambda voice: (abs(voice.pitch - pitch), voice.pitch))
        return PitchSound(voice=nearest, semitones=0)
    bell = DOCKSIDE.voice(_TUNED)
    if bell is None:
        raise KeyError(_TUNED)
    return PitchSound(voice=bell, semitones=pitch - _TUNED_AT)
