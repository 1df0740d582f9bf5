"""Whether a hit sounds."""

import numpy as np
from numpy.typing import NDArray

from lattice.luck.draws import DRAW_BITS

__all__ = ["CERTAIN", "sounds"]

CERTAIN = 10_000  # the chance of a hit that always sounds: 100 % of 100 %


def sounds(chances: NDArray[np.int64], drawn: NDArray[np.uint64]) -> NDArray[np.bool_]:
    """Return which hits sound: those whose draw is below their chance.

    *chances*: lane's x step's chance, in 1/10,000, exact: 0 never sounds, 10,000 always. *drawn*: draws of 53 bits.
    """
    # draw / 2**53 < chance / 10,000, in whole numbers: a draw is below it where it is below it rounded up.
    known, where = np.unique(chances, return_inverse=True)
    bounds = [-((-int(chance) << DRAW_BITS) // CERTAIN) for chance in known]
    result: NDArray[np.bool_] = drawn < np.array(bounds, np.uint64)[where]
    return result
