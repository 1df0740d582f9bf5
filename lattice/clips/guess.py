"""What scale and chords a clip is in: its own, or guessed from its notes."""

from pydantic import BaseModel

from lattice.clips.clip import Clip, Key, Track
from lattice.clips.harmony import Heard, guess
from lattice.clips.sounds import DRUM_CHANNEL
from lattice.document.progression import Progression
from lattice.document.scale import Scale
from lattice.sentence.melody import said_scale
from lattice.theory.names import pitch_class_of

__all__ = ["ClipGuess", "guess_clip", "is_melodic", "scale_of_key"]

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
    known = clip.scale or (scale_of_key(clip.key) if clip.key else None)
    found = guess(notes, clip.meter.bar_ticks, known)
    if found is None:
        return None
    sure = found.scale_sure
    root, kind = said_scale(found.scale)
    said = f"{_word(sure)} {root} {kind}" + ("" if known else f" ({sure} % sure)")
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


def scale_of_key(key: Key) -> Scale:
    """Return the scale that a key signature says, which stands whatever the notes would make one guess.

    >>> scale_of_key("F#m").root, scale_of_key("F#m").name
    (6, 'minor')
    """
    root = pitch_class_of(key.removesuffix("m")) or 0
    return Scale(root=root, name="minor" if key.endswith("m") else "major")


def _word(sure: int) -> str:
    return next(word for least, word in _WORDS if sure >= least)
