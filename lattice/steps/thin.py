"""Every nth hit, left out or kept."""

import numpy as np
from numpy.typing import NDArray

from lattice.document.turns import Thin

__all__ = ["is_counted", "kept_of"]


def is_counted(ordinals: NDArray[np.int64], every: int, first: int) -> NDArray[np.bool_]:
    """Return which hits are the *first*-th, *first* + *every*-th, and so on.

    *ordinals*: how many hits came before each; *first*: from 1, as people count, to *every*.

    >>> is_counted(np.arange(7), 3, 2).tolist()
    [False, True, False, False, True, False, False]
    """
    result: NDArray[np.bool_] = ordinals % every == first - 1
    return result


def kept_of(hits: NDArray[np.int64], thin: Thin) -> NDArray[np.int64]:
    """Return how many of the first *hits* hits are left after thinning.

    >>> kept_of(np.array([0, 1, 2, 3, 7]), Thin(every=3, first=2)).tolist()
    [0, 0, 1, 1, 2]
    """
    counted: NDArray[np.int64] = (hits + thin.every - thin.first) // thin.every
    return counted if thin.keeps == "only" else hits - counted
