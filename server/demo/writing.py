"""What the demo's pieces are written with."""

from lattice.document import (
    Euclidean,
    Lane,
    Meter,
)
from lattice.document.ground import Source
from lattice.document.movement import Movement, Point

__all__ = ["bar", "euclidean", "lane", "lanes", "moves"]


def lanes(*lanes: Lane) -> tuple[Lane, ...]:
    return tuple(lane.model_copy(update={"ink": number % 8}) for number, lane in enumerate(lanes))


def lane(lane_id: str, source: Source, **fields: object) -> Lane:
    """Return a lane that is called after its voice, unless *fields* say otherwise."""
    return Lane.model_validate(
        {"id": lane_id, "name": lane_id.title(), "voice": lane_id, "source": source} | fields
    )


def euclidean(hits: int, steps: int) -> Euclidean:
    return Euclidean(hits=hits, steps=steps)


def bar(bars: float) -> int:
    return int(bars * Meter().bar_ticks)


def moves(control: str, *points: tuple[float, int], loop_bars: int) -> Movement:
    """Return a movement whose points lie at bars, counted from 0."""
    return Movement(
        control=control, points=tuple(Point(bar(at), value) for at, value in points), loop_bars=loop_bars
    )
