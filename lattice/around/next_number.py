"""The next rhythm that is more even, or more syncopated, than a numbered one: at once, however many there are."""

from collections.abc import Sequence
from typing import Literal, get_args

import numpy as np

from lattice.document.meter import Meter
from lattice.steps.measures import evenness_of_rows, syncopation_of_rows
from lattice.steps.numbered import number_of
from lattice.units import Ticks

__all__ = ["AIMS", "Aim", "next_number"]

Aim = Literal["more even", "more syncopated"]
AIMS: tuple[Aim, ...] = get_args(Aim)


def next_number(hits: Sequence[int], steps: int, aim: Aim, meter: Meter, step_ticks: int) -> int | None:
    """Return the number of the rhythm that is just a little more *aim* than *hits*, of those one moved hit away.

    There are at most hits x rests of them, so that it takes no time among any number of rhythms. Of equals the first.
    None if no hit can move so that it is. *step_ticks*: length of a step, counted from a bar line.

    >>> next_number((0, 1, 2, 8), 16, "more even", Meter(), 3360) is not None
    True
    >>> next_number((0, 4, 8, 12), 16, "more even", Meter(), 3360) is None
    True
    """
    near = [
        tuple(sorted({*hits, rest} - {hit})) for hit in hits for rest in range(steps) if rest not in set(hits)
    ]
    if not near:
        return None
    rows = np.zeros((len(near) + 1, steps), bool)
    for row, one in zip(rows, [hits, *near], strict=True):
        row[list(one)] = True
    if aim == "more even":
        measure = evenness_of_rows(rows)
    else:
        starts: Ticks = np.arange(steps) * step_ticks
        measure = syncopation_of_rows(rows, starts, steps * step_ticks, meter, step_ticks)
    # Sums of floats: what differs in their last places alone is equal.
    rounded = np.round(measure, 9)
    more = rounded[1:][rounded[1:] > rounded[0]]
    if not more.size:
        return None
    return min(number_of(near[at], steps) for at in np.flatnonzero(rounded[1:] == more.min()).tolist())
