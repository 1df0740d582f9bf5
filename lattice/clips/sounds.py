"""How the built-in sounds play a clip whose notes come from anywhere."""

from lattice.clips.clip import Track
from lattice.document.kit import DOCKSIDE, Voice
from lattice.document.pitched import PITCHED
from lattice.document.sounding import PitchSound, nearest

__all__ = ["DRUM_CHANNEL", "TUNED", "PitchSound", "plays_drums", "sounds_of"]

DRUM_CHANNEL = 10  # as General MIDI has it
TUNED = "lantern"  # what plays notes that no lane has given a voice


def sounds_of(track: Track) -> dict[int, PitchSound]:
    """Return what sounds each MIDI note of a track: the voice of the lane it came from.

    Notes from elsewhere are played by the Dockside kit on channel 10, each by the voice that is nearest (the lower of
    two); on the others by one voice, tuned.
    """
    return {pitch: _sound(track, pitch) for pitch in sorted({note.pitch for note in track.notes})}


def plays_drums(track: Track) -> bool:
    """Return whether the notes of a track are drums, each a sound of its own, and not pitches of one instrument."""
    return track.sound.tone is None if track.sound else track.channel == DRUM_CHANNEL


def _sound(track: Track, pitch: int) -> PitchSound:
    if track.sound:
        return track.sound.at(pitch)
    if plays_drums(track):
        return PitchSound(voice=nearest(DOCKSIDE.voices, pitch), semitones=0)
    pitched = PITCHED[TUNED]
    voice = Voice(id=TUNED, name=pitched.name, pitch=pitched.home)
    return PitchSound(voice=voice, semitones=pitch - pitched.home, tone=pitched.tone)
