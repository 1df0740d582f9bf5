"""Whether luck decides the values of a strip."""

from lattice.document.strip import Strip
from lattice.steps.direction import RANDOM_DIRECTIONS

__all__ = ["is_strip_lucky"]


def is_strip_lucky(strip: Strip | None) -> bool:
    """Return whether the values of a strip stray, or come in an order that luck decides."""
    if strip is None:
        return False
    return strip.spread is not None or (strip.free is not None and strip.free.direction in RANDOM_DIRECTIONS)
