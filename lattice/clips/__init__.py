"""Kept notes, independent of the pattern they came from."""

from lattice.clips.clip import Clip, Note, Track
from lattice.clips.keep import Kept, NothingToKeepError, Tape, keep_bars, keep_last

__all__ = ["Clip", "Kept", "Note", "NothingToKeepError", "Tape", "Track", "keep_bars", "keep_last"]
