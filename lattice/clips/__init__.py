"""Kept notes, independent of the pattern they came from."""

from lattice.clips.back import apart, as_it_stood, in_place
from lattice.clips.clip import KEYS, Clip, Key, Note, Origin, Track
from lattice.clips.edits import Action, Edited, edited, joined
from lattice.clips.keep import Kept, NothingToKeepError, Tape, keep_bars, keep_last, make_clip, with_sound
from lattice.clips.keep_over import Heard, KeptClip, keep_over
from lattice.clips.sounds import sounds_of
from lattice.clips.take import (
    MAX_TAKE_BARS,
    MAX_TAKES,
    Differences,
    TakeMeasures,
    Taken,
    differences,
    is_lucky,
    take,
    take_clip,
    varied,
)
from lattice.clips.undisturbed import undisturbed
from lattice.document.sounding import PitchSound, TrackSound

__all__ = [
    "KEYS",
    "MAX_TAKES",
    "MAX_TAKE_BARS",
    "Action",
    "Clip",
    "Differences",
    "Edited",
    "Heard",
    "Kept",
    "KeptClip",
    "Key",
    "Note",
    "NothingToKeepError",
    "Origin",
    "PitchSound",
    "TakeMeasures",
    "Taken",
    "Tape",
    "Track",
    "TrackSound",
    "apart",
    "as_it_stood",
    "differences",
    "edited",
    "in_place",
    "is_lucky",
    "joined",
    "keep_bars",
    "keep_last",
    "keep_over",
    "make_clip",
    "sounds_of",
    "take",
    "take_clip",
    "undisturbed",
    "varied",
    "with_sound",
]
