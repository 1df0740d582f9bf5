"""How starters are written down: the fields of a lane, in short."""

from typing import Any

from lattice.document import Drawn, Euclidean

__all__ = ["at", "drawn", "spread_over"]


def spread_over(hits: int, steps: int, **fields: Any) -> dict[str, Any]:
    """Return a lane of *hits* spread evenly over *steps*."""
    return {"source": Euclidean(hits=hits, steps=steps), **fields}


def drawn(row: str, **fields: Any) -> dict[str, Any]:
    """Return a lane of hits (x) and rests (.)."""
    hits = tuple(step for step, mark in enumerate(row) if mark == "x")
    return {"source": Drawn(steps=len(row), hits=hits), **fields}


def at(values: dict[int, int]) -> tuple[int | None, ...]:
    """Return a strip's values from those that some steps have."""
    return tuple(values.get(step) for step in range(max(values) + 1))
