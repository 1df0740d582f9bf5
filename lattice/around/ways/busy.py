"""The lane becomes busier or sparser."""

from lattice.around.ways.way import Fields, Luck, Subject, Way
from lattice.document.lane import Lane
from lattice.document.limits import limits

__all__ = ["BUSY"]


def _change(subject: Subject, target: int, luck: Luck) -> dict[str, Fields]:
    """Move its busy-ness by 1 to *target* %, up or down."""
    low, high = limits(Lane, "busy")
    busy = max(low, min(high, subject.lane.busy + luck.sign() * luck.up_to(target)))
    return {subject.lane.id: {"busy": busy}}


BUSY = Way("busier or sparser", "Rests become hits, or hits rests", lambda _: True, _change)
