"""What is done to hits along a row of played steps. Rows are of numpy, one entry a step, in the order of playing."""

import numpy as np
from numpy.typing import NDArray

from lattice.document.turns import Edit, Thin
from lattice.steps.thin import is_counted

__all__ = ["edited", "hits_before", "later", "replies", "thinned"]

Hits = NDArray[np.bool_]
Numbers = NDArray[np.int64]


def hits_before(hits: Hits, groups: Numbers) -> Numbers:
    """Return how many hits came before each step in its group. *groups*: ascending, where counting begins anew.

    >>> hits_before(np.array([True, True, False, True]), np.array([0, 0, 0, 1])).tolist()
    [0, 1, 2, 0]
    """
    if not hits.size:
        return np.zeros(0, np.int64)
    before: Numbers = np.cumsum(hits) - hits
    heads = np.flatnonzero(np.diff(groups, prepend=groups[0] - 1))
    lengths = np.diff(heads, append=hits.size)
    result: Numbers = before - np.repeat(before[heads], lengths)
    return result


def later(hits: Hits, runs: Numbers, by: int) -> Hits:
    """Return *hits* moved *by* steps later (negative: earlier); none comes in at an end or out of another run.

    >>> later(np.array([True, False, True]), np.array([0, 0, 1]), 1).astype(int).tolist()
    [0, 1, 0]
    """
    moved = np.zeros_like(hits)
    if by == 0:
        return hits
    if abs(by) < hits.size:
        into, out_of = (slice(by, None), slice(None, -by)) if by > 0 else (slice(None, by), slice(-by, None))
        moved[into] = hits[out_of] & (runs[into] == runs[out_of])
    return moved


def replies(hits: Hits, runs: Numbers, before: Numbers, every: int) -> Hits:
    """Return a hit midway between each *every*-th hit and the next one; none where no step lies between.

    *before*: how many hits came before each step. Step floor((a + b) / 2) between the hits on a and b of one run.
    """
    answered = np.zeros_like(hits)
    at = np.flatnonzero(hits)
    here, there = at[:-1], at[1:]
    asks = (runs[here] == runs[there]) & ((before[here] + 1) % every == 0) & (there - here > 1)
    answered[(here[asks] + there[asks]) // 2] = True
    return answered


def thinned(hits: Hits, before: Numbers, thin: Thin) -> Hits:
    """Return *hits* with only, or without, those that *thin* counts; *before*: how many hits came before each step."""
    counted = is_counted(before, thin.every, thin.first)
    return hits & (counted if thin.keeps == "only" else ~counted)


def edited(hits: Hits, numbers: Numbers, edits: tuple[Edit, ...]) -> Hits:
    """Return *hits* with the steps of the edits' *numbers* forced; edits beyond the cycle lie dormant."""
    forced = hits.copy()
    for edit in edits:
        forced[numbers == edit.step] = edit.hit
    return forced
