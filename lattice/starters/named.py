"""Lane starters by name, put together into patterns."""

from lattice.document import Lane
from lattice.starters.lanes import LANES
from lattice.starters.melodies import MELODIES

__all__ = ["lanes_named"]

_BY_NAME = {starter.name: starter.lane for starter in (*LANES, *MELODIES)}


def lanes_named(names: str) -> tuple[Lane, ...]:
    """Return the lanes of the starters *names*, one below the other, each with an id and an ink of its own."""
    lanes = []
    for place, name in enumerate(names.split(", ")):
        lane = _BY_NAME[name]
        assert lane is not None
        lanes.append(lane.model_copy(update={"id": f"lane-{place + 1}", "ink": place % 8}))
    return tuple(lanes)
