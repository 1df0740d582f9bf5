"""Kept notes, independent of the pattern they came from."""

from lattice.clips.clip import Clip, Note, Origin, Track
from lattice.clips.keep import Kept, NothingToKeepError, Tape, keep_bars, keep_last, make_clip
from lattice.clips.undisturbed import undisturbed

__all__ = [
    "Clip",
    "Kept",
    "Note",
    "NothingToKeepError",
    "Origin",
    "Tape",
    "Track",
    "keep_bars",
    "keep_last",
    "make_clip",
    "undisturbed",
]
