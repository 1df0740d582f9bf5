"""Some hits are thrown anywhere."""

from lattice.around.ways.way import Fields, Luck, Subject, Way
from lattice.document.source import MAX_THROW, Computed, Drawn
from lattice.steps.throwing import throw_lane

__all__ = ["THROW"]


def _fits(subject: Subject) -> bool:
    has_room = 0 < len(subject.hits) < subject.steps
    return has_room and isinstance(subject.lane.source, Drawn | Computed)


def _change(subject: Subject, target: int, luck: Luck) -> dict[str, Fields]:
    """Throw the lane by *target* %, as a hand does."""
    throw = 1 + luck.large(MAX_THROW)
    return {subject.lane.id: {"source": throw_lane(subject.lane, target, throw)}}


THROW = Way("throw", "Some hits are thrown anywhere", _fits, _change)
