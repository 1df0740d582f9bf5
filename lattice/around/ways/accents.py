"""Accents, or the velocities of the strip, move round."""

from lattice.around.ways.way import Fields, Luck, Subject, Way
from lattice.document.lane import Lane

__all__ = ["ACCENTS"]


def _accents_move(lane: Lane) -> bool:
    return lane.accent is not None and lane.accent.every > 1


def _strip_moves(lane: Lane) -> bool:
    return lane.velocity_strip is not None and len(set(lane.velocity_strip.values)) > 1


def _change(subject: Subject, target: int, luck: Luck) -> dict[str, Fields]:
    """Rotate the accent among the hits that it counts, or the velocity strip over its values."""
    lane, by_strip = subject.lane, bool(luck.among(2))
    if lane.velocity_strip and _strip_moves(lane) and (by_strip or not _accents_move(lane)):
        strip = lane.velocity_strip
        count = len(strip.values) if strip.free else subject.steps
        values = (*strip.values[:count], *(None,) * (count - len(strip.values)))
        by = luck.up_to(count - 1)
        turned = values[-by:] + values[:-by]
        return {lane.id: {"velocity_strip": strip.model_copy(update={"values": turned})}}
    assert lane.accent
    first = (lane.accent.first - 1 + luck.up_to(lane.accent.every - 1)) % lane.accent.every + 1
    return {lane.id: {"accent": lane.accent.model_copy(update={"first": first})}}


ACCENTS = Way(
    "accents",
    "Accents and velocities move round",
    lambda subject: _accents_move(subject.lane) or _strip_moves(subject.lane),
    _change,
)
