"""What a hand begins with: a new lane, a first progression."""

from typing import Any

from lattice.document.progression import PlacedChord, Progression
from lattice.document.scale import Scale
from lattice.document.source import Euclidean
from lattice.theory.chords import scale_chords

__all__ = ["beginnings", "first_progression"]

_OF_A_LANE = Euclidean(hits=3, steps=8)


def beginnings() -> dict[str, Any]:
    """Return what is begun with, as JSON holds it: *lane*, the source of a new lane."""
    return {"lane": _OF_A_LANE.model_dump(mode="json")}


def first_progression(scale: Scale) -> Progression:
    """Return a progression to begin with: the first and the fourth of the chords of *scale*, a bar each.

    >>> [one.chord for one in first_progression(Scale(root=2, name="dorian")).chords]
    ['i', 'IV']
    """
    chords = scale_chords(scale.root, scale.semitones)
    chosen = [chords[0], chords[3] if len(chords) > 3 else chords[-1]] if chords else ["C"]
    return Progression(
        chords=tuple(PlacedChord(chord=one) for one in dict.fromkeys(chosen)), leading="nearest"
    )
