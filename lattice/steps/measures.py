"""How busy, how syncopated, how even a rhythm is, and how far from another."""

from collections.abc import Sequence
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
    "metrical_units",
    "syncopation",
]

MAX_MEASURED_STEPS = 100_000  # of a lane
MEASURED_BARS = 16  # a longer pattern is measured on as many of its bars

Ticks = NDArray[np.int64]


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
    if len(hits) < 2:
        return 1.0
    return min(1.0, _chords(hits, steps) / _chords(euclidean(len(hits), steps), steps))


def _chords(hits: Sequence[int], steps: int) -> float:
    return sum(sin(pi * (later - hit) / steps) for at, hit in enumerate(hits) for later in hits[at + 1 :])


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
    if not onsets.size:
        return 0.0
    units = np.array(metrical_units(meter, smallest))[:, None]
    following = np.append(onsets[1:], end + onsets[0])
    # The level of a place: the first whose unit divides it; one below all levels where none does.
    level = _first_level(onsets % units == 0)
    # The strongest place strictly between a note and the next: the first level that has one there.
    passed = _first_level((following - 1) // units > onsets // units)
    return float(np.maximum(0, level - passed).mean() / len(units))


def _first_level(holds: NDArray[np.bool_]) -> Ticks:
    return np.where(holds.any(axis=0), holds.argmax(axis=0), len(holds))


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
