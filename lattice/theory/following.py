"""How a note follows a chord: counted from its root, along its tones, or moved to the nearest of them."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from lattice.theory.chords import Chord
from lattice.theory.scales import OCTAVE
from lattice.theory.voicing import nearest_root

__all__ = ["along_tones", "lowest_tones", "nearest_tones", "roots_near"]

Pitches = NDArray[np.int64]


def roots_near(chords: Sequence[Chord], which: Pitches, note: int) -> Pitches:
    """Return the root of each of the chords *which* in the octave nearest to *note*; of two equally near the lower."""
    return np.array([nearest_root(chord.root, note) for chord in chords], np.int64)[which]


def along_tones(chords: Sequence[Chord], which: Pitches, roots: Pitches, steps: Pitches) -> Pitches:
    """Return the notes *steps* tones of each chord above *roots*, where its root lies, going on over octaves.

    >>> along_tones([Chord(0, (0, 4, 7))], np.zeros(5, int), np.full(5, 60), np.array([-1, 0, 1, 2, 3])).tolist()
    [55, 60, 64, 67, 72]
    """
    result = np.empty(steps.size, np.int64)
    for number in np.unique(which).tolist():
        here = which == number
        tones = np.array(chords[number].pitch_classes, np.int64)
        octaves, places = np.divmod(steps[here], tones.size)
        result[here] = roots[here] + octaves * OCTAVE + tones[places]
    return result


def lowest_tones(chords: Sequence[Chord], voicings: Sequence[Sequence[int]]) -> tuple[Pitches, Pitches]:
    """Return where the root of each voiced chord lies, and how many tones above it the lowest note is.

    >>> [column.tolist() for column in lowest_tones([Chord(0, (0, 4, 7))], [(64, 67, 72)])]
    [[60], [1]]
    """
    tones = [(voicing[0] - chord.root) % OCTAVE for chord, voicing in zip(chords, voicings, strict=True)]
    roots = [voicing[0] - tone for voicing, tone in zip(voicings, tones, strict=True)]
    places = [chord.pitch_classes.index(tone) for chord, tone in zip(chords, tones, strict=True)]
    return np.array(roots, np.int64), np.array(places, np.int64)


def nearest_tones(chords: Sequence[Chord], which: Pitches, pitches: Pitches) -> Pitches:
    """Return the note of each chord that is nearest to each of *pitches*; of two equally near the lower.

    >>> nearest_tones([Chord(0, (0, 4, 7))], np.zeros(4, int), np.array([60, 62, 65, 70])).tolist()
    [60, 60, 64, 72]
    """
    result = np.empty(pitches.size, np.int64)
    for number in np.unique(which).tolist():
        here = which == number
        result[here] = pitches[here] + _moves(chords[number])[pitches[here] % OCTAVE]
    return result


def _moves(chord: Chord) -> Pitches:
    """Return by how much a note of each pitch class moves to the nearest one of *chord*."""
    own = {(chord.root + tone) % OCTAVE for tone in chord.tones}
    near = sorted(range(-OCTAVE // 2, OCTAVE // 2 + 1), key=lambda by: (abs(by), by))
    return np.array([next(by for by in near if (pitch + by) % OCTAVE in own) for pitch in range(OCTAVE)])
