"""Which rule makes the hits of which source."""

from lattice.document.source import Drawn, Euclidean, Numbered, Source, Thrown
from lattice.rhythm.euclidean import euclidean
from lattice.rhythm.numbered import numbered
from lattice.rhythm.thrown import thrown

__all__ = ["source_hits"]


def source_hits(source: Source, lane_id: str) -> tuple[int, ...]:
    """Return the 0-based steps on which *source* puts hits in the lane of that id, ascending."""
    match source:
        case Drawn(hits=hits):
            return hits
        case Euclidean(hits=count, steps=steps):
            return euclidean(count, steps)
        case Numbered(hits=count, steps=steps, number=number):
            return numbered(count, steps, int(number))
        case Thrown(hits=count, steps=steps, throw=throw):
            return thrown(count, steps, throw, lane_id)
