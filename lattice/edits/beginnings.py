"""What a hand begins with: a new lane."""

from typing import Any

from lattice.document.source import Euclidean

__all__ = ["beginnings"]

_OF_A_LANE = Euclidean(hits=3, steps=8)


def beginnings() -> dict[str, Any]:
    """Return what is begun with, as JSON holds it: *lane*, the source of a new lane."""
    return {"lane": _OF_A_LANE.model_dump(mode="json")}
