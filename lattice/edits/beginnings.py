"""What a hand begins with: a new lane, lanes of new sounds, the notes that new voices answer to."""

from typing import Any

from lattice.document.source import Euclidean

__all__ = ["beginnings"]

_OF_A_LANE = Euclidean(hits=3, steps=8)
# Each against the others.
_OF_SOUNDS = tuple(Euclidean(hits=hits, steps=16) for hits in (4, 3, 5, 7, 2, 9, 6, 11))
_FIRST_ADDED = 48  # MIDI note number: above those that a kit has by itself
_FIRST_OF_A_KIT = 36  # the lowest that drum machines commonly have


def beginnings() -> dict[str, Any]:
    """Return what is begun with, as JSON holds it.

    *lane*: the source of a new lane. *sounds*: those of lanes of a musician's own sounds, one after the other and then
    round again. *first_added*, *first_of_a_kit*: the MIDI note number of the first voice that is added to a kit, and of
    the first of a kit of its own; those after it answer to the next notes that are free.
    """
    return {
        "lane": _OF_A_LANE.model_dump(mode="json"),
        "sounds": [source.model_dump(mode="json") for source in _OF_SOUNDS],
        "first_added": _FIRST_ADDED,
        "first_of_a_kit": _FIRST_OF_A_KIT,
    }
