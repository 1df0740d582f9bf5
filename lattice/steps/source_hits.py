"""Which rule makes the hits of which source."""

from collections.abc import Sequence

from lattice.cache import MEGABYTE, cached
from lattice.document.ground import GroundSource, Source
from lattice.document.lane import Lane
from lattice.document.source import Drawn, Euclidean, Numbered, Thrown
from lattice.steps.busy import busier
from lattice.steps.euclidean import euclidean
from lattice.steps.ground import place_on
from lattice.steps.numbered import numbered
from lattice.steps.thrown import moved, thrown
from lattice.steps.turns import complement, rotate

__all__ = ["Rule", "source_hits", "turned_hits"]

Rule = Drawn | Euclidean | Numbered | Thrown | GroundSource  # a source that needs no other lane


def source_hits(source: Source, lane_id: str) -> tuple[int, ...]:
    """Return the 0-based steps on which *source* puts hits in the lane of that id, ascending.

    Raises TypeError for a source made from another lane: see `lattice.steps.lane_steps`.
    """
    match source:
        case Drawn(hits=hits):
            return hits
        case Euclidean(placed=count, steps=steps):
            return euclidean(count, steps)
        case Numbered(placed=count, steps=steps, number=number):
            return numbered(count, steps, int(number))
        case Thrown(placed=count, steps=steps, throw=throw, moves=None):
            return thrown(count, steps, throw, lane_id)
        case Thrown(steps=steps, throw=throw, moves=moves) if moves:
            return _moved(moves.of.hits, steps, moves.percent, throw, lane_id)
        case GroundSource():
            return place_on(source).hits
        case _:
            raise TypeError(f"{source!r} reads another lane's line")


_moved = cached(2 * MEGABYTE)(moved)  # luck is dear to draw


def turned_hits(lane: Lane, steps: int, ranks: Sequence[int]) -> tuple[int, ...]:
    """Return the step numbers that a lane's own source hits after all turns but thinning, ascending.

    *ranks*: how important each of its *steps* is, where it is busier or sparser.
    """
    hits = rotate(source_hits(lane.source, lane.id), steps, lane.rotate)
    if lane.complement:
        hits = complement(hits, steps)
    return busier(hits, ranks, lane.busy) if lane.busy else hits
