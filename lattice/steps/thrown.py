"""Hits thrown onto steps."""

from collections.abc import Sequence

import numpy as np

from lattice.luck.draws import Purpose, draws

__all__ = ["moved", "thrown"]


def thrown(hits: int, steps: int, throw: int, lane_id: str) -> tuple[int, ...]:
    """Return the *hits* of *steps* that *throw* picks in the lane of that id, as 0-based steps, ascending.

    The dice of a pattern have no part in it: a throw stays as it is until it is thrown again.
    Every choice is equally likely: each step draws, the lowest draws win.
    Raises ValueError unless 0 <= hits <= steps.
    """
    if not 0 <= hits <= steps:
        raise ValueError(f"need 0 <= hits <= steps, got {hits=}, {steps=}")
    return tuple(sorted(_picked(range(steps), hits, throw, lane_id, Purpose.THROW)))


def moved(hits: Sequence[int], steps: int, percent: int, throw: int, lane_id: str) -> tuple[int, ...]:
    """Return *hits* with round(percent x hits / 100) of them moved to other steps, ascending.

    A half is rounded up; no more can move than there are rests. How many there are stays the same.
    Raises ValueError unless 0 <= percent <= 100.

    >>> moved((0, 4, 8, 12), 16, 0, 7, "thud")
    (0, 4, 8, 12)
    """
    if not 0 <= percent <= 100:
        raise ValueError(f"need a percentage from 0 to 100, got {percent}")
    rests = [step for step in range(steps) if step not in set(hits)]
    count = min((2 * percent * len(hits) + 100) // 200, len(rests))
    leaving = _picked(hits, count, throw, lane_id, Purpose.MOVE_FROM)
    arriving = _picked(rests, count, throw, lane_id, Purpose.MOVE_TO)
    return tuple(sorted((set(hits) - leaving) | arriving))


def _picked(steps: Sequence[int], count: int, throw: int, lane_id: str, purpose: Purpose) -> set[int]:
    """Return *count* of *steps*: those whose draws are lowest. A step's draw is its own, whatever the others are."""
    places = np.array(steps, np.int64)
    drawn = draws(throw, lane_id, purpose, np.zeros_like(places), places)
    return set(places[np.argsort(drawn, kind="stable")[:count]].tolist())
