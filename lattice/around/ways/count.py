"""A computed lane has more or fewer hits or steps; a numbered one another number."""

from lattice.around.ways.way import Fields, Luck, Subject, Way
from lattice.document.source import MAX_STEPS, Computed, Numbered
from lattice.steps.numbered import ways

__all__ = ["COUNT"]


def _fits(subject: Subject) -> bool:
    source = subject.lane.source
    if isinstance(source, Numbered):
        return ways(source.placed, source.steps) > 1
    return isinstance(source, Computed)


def _change(subject: Subject, target: int, luck: Luck) -> dict[str, Fields]:
    """Add or take up to max(1, steps x target / 400) hits or steps; a number goes to any other number."""
    source = subject.lane.source
    assert isinstance(source, Computed)
    if isinstance(source, Numbered):
        count = ways(source.placed, source.steps)
        other = (int(source.number) + 1 + luck.large(count - 1)) % count
        return {subject.lane.id: {"source": source.model_copy(update={"number": str(other)})}}
    most = max(1, source.steps * target // 400)
    field, low, high = (
        ("hits", 1, source.steps) if luck.among(2) else ("steps", max(1, source.placed), MAX_STEPS)
    )
    now = getattr(source, field)
    wanted = now + luck.sign() * luck.up_to(most)
    value = min(max(wanted, low), high)
    if value == now:  # at an end of what there is: the other way
        value = min(max(2 * now - wanted, low), high)
    if value == now:
        return {}
    return {subject.lane.id: {"source": source.model_copy(update={field: value})}}


COUNT = Way("count", "Other numbers of hits and steps", _fits, _change)
