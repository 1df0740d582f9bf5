"""Some hits move a step or two."""

from lattice.around.ways.way import Fields, Luck, Subject, Way
from lattice.document.source import Computed, Drawn, Numbered
from lattice.steps.numbered import number_of

__all__ = ["BESIDE"]


def _fits(subject: Subject) -> bool:
    has_room = 0 < len(subject.hits) < subject.steps
    return has_room and isinstance(subject.lane.source, Drawn | Computed)


def _change(subject: Subject, target: int, luck: Luck) -> dict[str, Fields]:
    """Move max(1, round(target x hits / 100)) hits to a free step one or two away; one without any stays."""
    hits, steps = list(subject.hits), subject.steps
    count = max(1, (2 * target * len(hits) + 100) // 200)
    staying = list(hits)
    for _ in range(count):
        hit = staying.pop(luck.among(len(staying)))
        near = {(hit + by) % steps for by in (-2, -1, 1, 2)}
        free = sorted(near - set(hits))
        if free:
            hits[hits.index(hit)] = free[luck.among(len(free))]
    moved = tuple(sorted(hits))
    if moved == subject.hits:
        return {}
    if isinstance(subject.lane.source, Drawn):
        return {subject.lane.id: {"source": Drawn(steps=steps, hits=moved)}}
    number = str(number_of(moved, steps))  # what is computed stays so: every rhythm has a number
    return {subject.lane.id: {"source": Numbered(hits=len(moved), steps=steps, number=number)}}


BESIDE = Way("beside", "Some hits move a step or two", _fits, _change)
