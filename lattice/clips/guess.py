"""What scale and chords a clip is in: as it says itself, or guessed from its notes."""

from pydantic import BaseModel

from lattice.clips.clip import Clip, Track
from lattice.clips.sounds import DRUM_CHANNEL
from lattice.document.progression import Progression
from lattice.document.scale import Scale
from lattice.pitch.guess import Heard, guess
from lattice.sentence.melody import said_scale

__all__ = ["ClipGuess", "guess_clip", "is_melodic"]

_WORDS = ((85, "surely"), (55, "probably"), (30, "perhaps"), (0, "hardly"))


class ClipGuess(BaseModel):
    """*says*: in words. *scale_sure*, *chords_sure*: in %; a scale that the clip itself has is 100 % sure."""

    scale: Scale
    scale_sure: int
    progression: Progression | None
    chords_sure: int
    says: str


def is_melodic(track: Track) -> bool:
    """Return whether a track's notes are pitches: those of a pitched voice, or from elsewhere and not of drums."""
    if track.sound:
        return track.sound.tone is not None
    return track.channel != DRUM_CHANNEL


def guess_clip(clip: Clip) -> ClipGuess | None:
    """Return the scale and chords of a clip's melodic tracks; None where it has none."""
    notes = [
        Heard(note.start, note.length, note.pitch)
        for track in clip.tracks
        if is_melodic(track)
        for note in track.notes
    ]
    found = guess(notes, clip.meter.bar_ticks, clip.scale)
    if found is None:
        return None
    sure = found.scale_sure
    root, kind = said_scale(found.scale)
    said = f"{_word(sure)} {root} {kind}" + ("" if clip.scale else f" ({sure} % sure)")
    if found.progression:
        chords = " ".join(found.progression.written())
        said += (
            f"; chords {_word(found.chords_sure)} {chords} ({found.chords_sure} % of the notes are in them)"
        )
    return ClipGuess(
        scale=found.scale,
        scale_sure=sure,
        progression=found.progression,
        chords_sure=found.chords_sure,
        says=said,
    )


def _word(sure: int) -> str:
    return next(word for least, word in _WORDS if sure >= least)
