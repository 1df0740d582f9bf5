"""Scales as rows of semitones, and how to walk along them."""

from collections.abc import Sequence
from typing import Literal, get_args

import numpy as np
from numpy.typing import NDArray

__all__ = [
    "HIGHEST_NOTE",
    "OCTAVE",
    "SCALES",
    "ScaleName",
    "folded",
    "in_scale",
    "scale_note_below",
    "scale_steps",
    "steps_between",
]

OCTAVE = 12
HIGHEST_NOTE = 127  # that MIDI has
Pitches = NDArray[np.int64]

ScaleName = Literal[
    "major",
    "minor",
    "harmonic-minor",
    "melodic-minor",
    "ionian",
    "dorian",
    "phrygian",
    "lydian",
    "mixolydian",
    "aeolian",
    "locrian",
    "major-pentatonic",
    "minor-pentatonic",
    "blues",
    "whole-tone",
    "diminished-half-whole",
    "diminished-whole-half",
    "chromatic",
]

# Semitones above the root. Melodic minor as it ascends; the blues scale is the minor pentatonic with its flat fifth.
SCALES: dict[ScaleName, tuple[int, ...]] = {
    "major": (0, 2, 4, 5, 7, 9, 11),
    "minor": (0, 2, 3, 5, 7, 8, 10),
    "harmonic-minor": (0, 2, 3, 5, 7, 8, 11),
    "melodic-minor": (0, 2, 3, 5, 7, 9, 11),
    "ionian": (0, 2, 4, 5, 7, 9, 11),
    "dorian": (0, 2, 3, 5, 7, 9, 10),
    "phrygian": (0, 1, 3, 5, 7, 8, 10),
    "lydian": (0, 2, 4, 6, 7, 9, 11),
    "mixolydian": (0, 2, 4, 5, 7, 9, 10),
    "aeolian": (0, 2, 3, 5, 7, 8, 10),
    "locrian": (0, 1, 3, 5, 6, 8, 10),
    "major-pentatonic": (0, 2, 4, 7, 9),
    "minor-pentatonic": (0, 3, 5, 7, 10),
    "blues": (0, 3, 5, 6, 7, 10),
    "whole-tone": (0, 2, 4, 6, 8, 10),
    "diminished-half-whole": (0, 1, 3, 4, 6, 7, 9, 10),
    "diminished-whole-half": (0, 2, 3, 5, 6, 8, 9, 11),
    "chromatic": tuple(range(OCTAVE)),
}
assert tuple(SCALES) == get_args(ScaleName)


def _places(pitches: Pitches, root: int, degrees: Sequence[int]) -> Pitches:
    """Return the number, along the scale, of the scale note at or below each of *pitches*; 0 is the root's lowest."""
    octaves, into = np.divmod(pitches - root, OCTAVE)
    result: Pitches = octaves * len(degrees) + np.searchsorted(np.array(degrees), into, side="right") - 1
    return result


def _pitches(places: Pitches, root: int, degrees: Sequence[int]) -> Pitches:
    octaves, into = np.divmod(places, len(degrees))
    result: Pitches = root + octaves * OCTAVE + np.array(degrees, np.int64)[into]
    return result


def in_scale(pitches: Pitches, root: int, degrees: Sequence[int]) -> NDArray[np.bool_]:
    """Return which of *pitches* are notes of the scale."""
    return np.isin((pitches - root) % OCTAVE, np.array(degrees))


def scale_note_below(pitches: Pitches, root: int, degrees: Sequence[int]) -> Pitches:
    """Return *pitches*, those outside the scale moved down to its next note.

    >>> scale_note_below(np.array([60, 61, 71]), 0, SCALES["major-pentatonic"]).tolist()
    [60, 60, 69]
    """
    return _pitches(_places(pitches, root, degrees), root, degrees)


def scale_steps(pitches: Pitches, steps: Pitches, root: int, degrees: Sequence[int]) -> Pitches:
    """Return the notes that lie so many *steps* along the scale above *pitches* (negative: below).

    From a note outside the scale one step up is the next scale note above, one step down the next below.
    *degrees*: semitones above the *root* (0-11), ascending from 0.

    >>> scale_steps(np.array([62, 62, 63, 63, 63]), np.array([2, 7, 0, 1, -1]), 0, SCALES["major"]).tolist()
    [65, 74, 63, 64, 62]
    """
    at = _places(pitches, root, degrees)
    outside = ~in_scale(pitches, root, degrees)
    walked = _pitches(at + steps + (outside & (steps < 0)), root, degrees)
    result: Pitches = np.where(outside & (steps == 0), pitches, walked)
    return result


def folded(pitches: Pitches) -> Pitches:
    """Return *pitches* moved by whole octaves into what MIDI has.

    >>> folded(np.array([-1, 0, 127, 130])).tolist()
    [11, 0, 127, 118]
    """
    above = -(-np.maximum(pitches - HIGHEST_NOTE, 0) // OCTAVE)
    below = -(-np.maximum(-pitches, 0) // OCTAVE)
    result: Pitches = pitches + OCTAVE * (below - above)
    return result


def steps_between(low: int, high: int, root: int, degrees: Sequence[int]) -> int:
    """Return how many scale steps *high* lies above *low*, each counted from the scale note at or below it.

    >>> steps_between(60, 72, 0, SCALES["major"])
    7
    """
    first, second = _places(np.array([low, high]), root, degrees).tolist()
    return int(second - first)
