"""Hits thrown onto steps."""

import numpy as np

from lattice.luck.draws import Purpose, draws

__all__ = ["thrown"]


def thrown(hits: int, steps: int, throw: int, lane_id: str) -> tuple[int, ...]:
    """Return the *hits* of *steps* that *throw* picks in the lane of that id, as 0-based steps, ascending.

    The dice of a pattern have no part in it: a throw stays as it is until it is thrown again.
    Every choice is equally likely: each step draws, the lowest draws win.
    Raises ValueError unless 0 <= hits <= steps.
    """
    if not 0 <= hits <= steps:
        raise ValueError(f"need 0 <= hits <= steps, got {hits=}, {steps=}")
    drawn = draws(throw, lane_id, Purpose.THROW, np.zeros(steps, np.int64), np.arange(steps))
    return tuple(sorted(np.argsort(drawn, kind="stable")[:hits].tolist()))
