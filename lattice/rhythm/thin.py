"""Every so-and-so-many-th hit, left out or left over."""

import numpy as np
from numpy.typing import NDArray

__all__ = ["is_counted"]


def is_counted(ordinals: NDArray[np.int64], every: int, first: int) -> NDArray[np.bool_]:
    """Return which hits are the *first*-th, *first* + *every*-th, and so on.

    *ordinals*: how many hits came before each; *first*: from 1, as people count, to *every*.

    >>> is_counted(np.arange(7), 3, 2).tolist()
    [False, True, False, False, True, False, False]
    """
    result: NDArray[np.bool_] = ordinals % every == first - 1
    return result
