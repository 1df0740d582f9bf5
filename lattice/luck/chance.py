"""Whether a hit sounds."""

import numpy as np
from numpy.typing import NDArray

from lattice.luck.draws import DRAW_BITS, Purpose, draws

__all__ = ["sounds"]


def sounds(
    chance_percent: int,
    dice: int,
    lane_id: str,
    cycles: NDArray[np.int64],
    places: NDArray[np.int64],
) -> NDArray[np.bool_]:
    """Return for each (cycle, place) whether a hit there sounds: its draw is below the chance.

    0 % never sounds, 100 % always. *cycles* and *places* as in `lattice.luck.draws.draws`.
    """
    if chance_percent in (0, 100):
        return np.full(cycles.size, chance_percent == 100)
    # In whole numbers: draw / 2**53 < chance / 100; below 2**60, so nothing overflows.
    drawn = draws(dice, lane_id, Purpose.CHANCE, cycles, places) * np.uint64(100)
    return drawn < np.uint64(chance_percent << DRAW_BITS)
