"""Throwing lanes: moving a share of their hits to other steps."""

from lattice.document.ground import GroundSource, Source
from lattice.document.lane import Lane
from lattice.document.piece import Rhythm
from lattice.document.problems import DocumentError
from lattice.document.source import Drawn, Euclidean, Made, Moved, Numbered, Thrown
from lattice.steps.source_hits import source_hits
from lattice.steps.thrown import moved

__all__ = ["throw_all", "throw_lane"]


def throw_lane(lane: Lane, percent: int, throw: int) -> Source:
    """Return the source of *lane* after moving *percent* of its hits by the throw of that number.

    As many hits as before; a drawn lane stays drawn, a computed one becomes thrown and knows what it was.
    Raises DocumentError if the lane is anchored, or made from another: that one has to be thrown.
    """
    if lane.anchored:
        raise DocumentError.of("anchored", "it is anchored: no throw touches it", lane=lane.name)
    source = lane.source
    if isinstance(source, Made):
        message = "it follows another lane: throw that one, or draw this one as it stands first"
        raise DocumentError.of("source", message, lane=lane.name)
    hits = source_hits(source, lane.id)
    if isinstance(source, Drawn):
        return Drawn(steps=source.steps, hits=moved(hits, source.steps, percent, throw, lane.id))
    return Thrown(
        hits=len(hits),
        steps=source.steps,
        throw=throw,
        moved=Moved(percent=percent, of=Drawn(steps=source.steps, hits=hits)),
        was=_way_back(source),
    )


def _way_back(source: Source) -> Euclidean | Numbered | None:
    """Return the computed source that a thrown one goes back to."""
    match source:
        case Euclidean() | Numbered():
            return source
        case Thrown(was=was):
            return was
        case GroundSource(was=before) if before:
            return _way_back(before.source)
        case _:
            return None


def throw_all(rhythm: Rhythm, percent: int, throw: int) -> dict[str, Source]:
    """Return the sources, by lane id, of all lanes that are not anchored, thrown. Lanes made from others follow."""
    return {
        lane.id: throw_lane(lane, percent, throw)
        for lane in rhythm.lanes
        if not lane.anchored and not isinstance(lane.source, Made)
    }
