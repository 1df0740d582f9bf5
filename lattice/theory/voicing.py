"""How the tones of chords lie: near a note, turned over, or as near as can be to the chord before."""

from collections.abc import Sequence

from lattice.theory.chords import Chord
from lattice.theory.scales import OCTAVE

__all__ = ["led", "nearest_root", "turned", "voiced"]


def nearest_root(root: int, note: int) -> int:
    """Return the pitch of the class *root* that is nearest to *note*; of two equally near the lower.

    >>> nearest_root(0, 66), nearest_root(2, 60)
    (60, 62)
    """
    above = (root - note) % OCTAVE
    return note + above - (OCTAVE if above >= OCTAVE // 2 else 0)


def turned(pitches: Sequence[int], inversion: int) -> tuple[int, ...]:
    """Return *pitches*, ascending, with the *inversion* lowest of them one octave higher, ninths included.

    >>> turned((60, 64, 67), 1), turned((60, 64, 67, 70, 74), 1)
    ((64, 67, 72), (64, 67, 70, 72, 74))
    """
    raised = [pitch + OCTAVE for pitch in pitches[:inversion]]
    return tuple(sorted((*raised, *pitches[inversion:])))


def voiced(chord: Chord, inversion: int, note: int) -> tuple[int, ...]:
    """Return the pitches of *chord*, its root in the octave nearest *note*, turned over *inversion* times."""
    root = nearest_root(chord.root, note)
    return turned([root + tone for tone in chord.tones], inversion)


def led(chord: Chord, before: Sequence[int], inversion: int | None = None) -> tuple[int, ...]:
    """Return *chord* in the close position that moves least from the chord *before*: of all inversions, or of one.

    Moved: the sum of how far each of its tones is from the nearest one before, and each of those from the nearest of
    its own. Of equals the lower.

    >>> led(Chord(5, (0, 4, 7)), (60, 64, 67))
    (60, 65, 69)
    """
    tones = [chord.root + tone for tone in chord.tones]
    close = [turned(tones, one) for one in (range(len(tones)) if inversion is None else (inversion,))]
    lowest = min(before) - 2 * OCTAVE
    found = [
        tuple(pitch + shift for pitch in one)
        for one in close
        for shift in range((lowest - one[0]) // OCTAVE * OCTAVE, max(before) - one[0] + OCTAVE, OCTAVE)
    ]
    return min(found, key=lambda one: (_moved(one, before), one))


def _moved(one: Sequence[int], other: Sequence[int]) -> int:
    there = sum(min(abs(pitch - near) for near in other) for pitch in one)
    back = sum(min(abs(pitch - near) for near in one) for pitch in other)
    return there + back
