"""How busy, how syncopated, how even a rhythm is, and how far from another."""

from collections.abc import Sequence
from functools import lru_cache
from math import pi, sin

import numpy as np
from numpy.typing import NDArray

from lattice.document.meter import Meter
from lattice.steps.euclidean import euclidean

__all__ = [
    "MAX_MEASURED_STEPS",
    "MEASURED_BARS",
    "distance",
    "evenness",
    "evenness_of_rows",
    "metrical_units",
    "syncopation",
    "syncopation_of_rows",
]

MAX_MEASURED_STEPS = 100_000  # of a lane
MEASURED_BARS = 16  # a longer pattern is measured on as many of its bars

Ticks = NDArray[np.int64]
Shares = NDArray[np.float64]


def evenness(hits: Sequence[int], steps: int) -> float:
    """Return how evenly *hits* (0-based, of a cycle of *steps*) are spread: 1 for as evenly as can be.

    The sum of the chords between all pairs of hits on a circle, over that of the Euclidean rhythm of as many.
    With fewer than two hits there is nothing uneven: 1.
    Source: Toussaint, "The Geometry of Musical Rhythm" (2004).

    >>> evenness((0, 4, 8, 12), 16)
    1.0
    >>> round(evenness((0, 1, 2, 3), 16), 2)
    0.39
    """
    row = np.zeros((1, steps), bool)
    row[0, list(hits)] = True
    return float(evenness_of_rows(row)[0])


def evenness_of_rows(cycles: NDArray[np.bool_]) -> Shares:
    """Return the `evenness` of each row of *cycles*, all of as many steps: which of them are hits."""
    steps = cycles.shape[1]
    chords = _chords(steps)
    hits = cycles.astype(float)
    sums = ((hits @ chords) * hits).sum(axis=1) / 2
    counts = cycles.sum(axis=1)
    most = np.ones(steps + 1)
    for count in np.unique(counts).tolist():
        spread = list(euclidean(count, steps))
        most[count] = chords[np.ix_(spread, spread)].sum() / 2 or 1
    return np.where(counts < 2, 1.0, np.minimum(1.0, sums / most[counts]))


@lru_cache(maxsize=128)
def _chords(steps: int) -> Shares:
    """Return the chords between all pairs of *steps* on a circle, which are as long as two radii at most, halved."""
    return np.array([[sin(pi * abs(one - other) / steps) for other in range(steps)] for one in range(steps)])


def metrical_units(meter: Meter, smallest: int) -> list[int]:
    """Return the lengths, in ticks, of the units of each level of *meter*, from the bar down to *smallest* ticks.

    The beats of a bar are grouped by their number's factors, larger ones last; beats are halved. Units are whole ticks.

    >>> metrical_units(Meter(), 3360)
    [53760, 26880, 13440, 6720, 3360]
    >>> metrical_units(Meter(numerator=6, denominator=8), 6720)
    [40320, 20160, 6720]
    """
    units = [meter.bar_ticks]
    beats = meter.numerator
    for factor in (2, 3, 5, 7, 11, 13, 17, 19, 23, 29, 31):
        while beats % factor == 0:
            units.append(units[-1] // factor)
            beats //= factor
    while units[-1] % 2 == 0 and units[-1] // 2 >= smallest:
        units.append(units[-1] // 2)
    return units


def syncopation(onsets: Ticks, end: int, meter: Meter, smallest: int) -> float:
    """Return how syncopated *onsets* (ticks from a bar line, ascending, before *end*) are: 0 not at all, 1 at most.

    A note is syncopated where a stronger place of the meter passes before the next note begins: by as many levels as
    that place is stronger. *smallest*: ticks of the finest level that counts. The last note is followed by the first,
    once round. The mean over all notes, over the most that one note could be.
    Source: Longuet-Higgins and Lee, "The Rhythmic Interpretation of Monophonic Music" (1984); normalised by us.

    >>> syncopation(np.array([0, 13440, 26880, 40320]), 53760, Meter(), 3360)
    0.0
    """
    return float(syncopation_of_rows(np.ones((1, onsets.size), bool), onsets, end, meter, smallest)[0])


def syncopation_of_rows(
    hits: NDArray[np.bool_], starts: Ticks, end: int, meter: Meter, smallest: int
) -> Shares:
    """Return the `syncopation` of each row: *hits* says which of the steps that begin at *starts* are its onsets."""
    rows, columns = np.nonzero(hits)
    result = np.zeros(len(hits))
    if not rows.size:
        return result
    onsets = starts[columns]
    is_first = np.diff(rows, prepend=-1) != 0
    following = np.append(onsets[1:], 0)
    is_last = np.append(is_first[1:], True)
    following[is_last] = end + onsets[is_first]  # the last is followed by the first, once round
    units = metrical_units(meter, smallest)
    # The level of a place: the first whose unit divides it; one below all levels where none does.
    level = np.full(rows.size, len(units))
    # The strongest place strictly between a note and the next: the first level that has one there.
    passed = np.full(rows.size, len(units))
    for number, unit in reversed(list(enumerate(units))):
        level[onsets % unit == 0] = number
        passed[(following - 1) // unit > onsets // unit] = number
    totals = np.bincount(rows, np.maximum(0, level - passed), len(hits))
    counts = np.bincount(rows, minlength=len(hits))
    return totals / np.maximum(counts, 1) / len(units)


def distance(one: Sequence[tuple[Ticks, Ticks]], other: Sequence[tuple[Ticks, Ticks]]) -> float:
    """Return the share of steps that differ between two patterns: 0 the same, 1 altogether different.

    Each pattern is a row of (steps, hits) of its lanes, in ticks over the same bars; lanes at the same place are
    compared, one that is missing has no steps. A step differs where only one of the two has a hit.
    Raises ValueError if the rows are not of the same length.
    """
    differing = steps = 0
    for (steps_here, hits_here), (steps_there, hits_there) in zip(one, other, strict=True):
        differing += np.setxor1d(hits_here, hits_there).size
        steps += np.union1d(steps_here, steps_there).size
    return differing / steps if steps else 0.0
