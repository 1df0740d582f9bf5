"""Grounds as planes: where each stand lies, and what a part plays at any place between them."""

from collections.abc import Sequence
from fractions import Fraction
from functools import cache, lru_cache
from math import prod
from typing import NamedTuple

import numpy as np

from lattice.document.ground import GroundSource
from lattice.document.meter import Meter
from lattice.document.strip import VELOCITY
from lattice.steps.busy import metrical_ranks
from lattice.steps.measures import syncopation
from lattice.theory.grounds import GroundId, GroundText, Part, ground_text
from lattice.units import TICKS_PER_QUARTER

__all__ = ["GroundPlace", "ground_meter", "ground_step", "place_on", "places_of"]

_SIDE = 100  # places run from 0 to this, both ways


def ground_meter(text: GroundText) -> Meter:
    """Return the meter that a ground is written in."""
    return Meter.model_validate({"numerator": text.meter[0], "denominator": text.meter[1]})


def ground_step(text: GroundText) -> Fraction:
    """Return the length of a ground's step in quarters."""
    return Fraction(4, text.step)


class GroundPlace(NamedTuple):
    """What a part plays at a place of a ground. *merits*: of each step, in 1/*unit*: 0 for a rest to 3 for strong."""

    hits: tuple[int, ...]
    merits: tuple[int, ...]
    unit: int

    def velocity(self, step: int, percent: int = 100) -> int:
        """Return round(12 + 36 x merit), times so many %: how hard a step is struck, 1-127."""
        struck, over = percent * (12 * self.unit + 36 * self.merits[step]), 100 * self.unit
        return max(VELOCITY.low, min(VELOCITY.high, (2 * struck + over) // (2 * over)))


@cache
def places_of(ground: GroundId) -> tuple[tuple[int, int], ...]:
    """Return where each stand lies: (x, y), each from 0 to 100.

    Across by its rank in syncopation, the mean over the parts that play; up by its rank in hits. Ranks are spread
    evenly, to the nearest whole number, where a lane can stand. Of stands that are equal in one the
    other decides, then the order in which they are written.
    """
    text = ground_text(ground)
    syncopated = [_syncopation(text, stand.parts) for stand in text.stands]
    hits = [sum(strength > 0 for row in stand.parts.values() for strength in row) for stand in text.stands]
    across = _ranks(list(zip(syncopated, hits, strict=True)))
    up = _ranks(list(zip(hits, syncopated, strict=True)))
    last = len(text.stands) - 1
    return tuple(
        ((2 * _SIDE * x + last) // (2 * last), (2 * _SIDE * y + last) // (2 * last))
        for x, y in zip(across, up, strict=True)
    )


def _syncopation(text: GroundText, parts: dict[Part, tuple[int, ...]]) -> Fraction:
    step = int(ground_step(text) * TICKS_PER_QUARTER)
    rows = [np.flatnonzero(row) * step for row in parts.values() if any(row)]
    each = [syncopation(row, text.steps * step, ground_meter(text), step) for row in rows]
    return Fraction(sum(each) / len(each)).limit_denominator(
        1_000_000
    )  # sums of floats, whatever their order


def _ranks(values: Sequence[tuple[Fraction | int, Fraction | int]]) -> list[int]:
    order = sorted(range(len(values)), key=lambda at: (values[at], at))
    return [order.index(at) for at in range(len(values))]


def place_on(source: GroundSource) -> GroundPlace:
    """Return what *source* plays at its place.

    The merit of a step is the mean of the stands' strengths, each weighted by one over the fourth power of its distance
    (Shepard, "A Two-Dimensional Interpolation Function for Irregularly-Spaced Data", 1968): at a stand exactly that
    stand. The hits are as many as the stands have by the same weights, rounded half up: the steps of greatest merit
    above 0, of equals the metrically stronger, then the earlier. Exact, in whole numbers.
    """
    return _place_on(source.ground, source.part, source.x, source.y)


@lru_cache(maxsize=8192)
def _place_on(ground: GroundId, part: Part, x: int, y: int) -> GroundPlace:
    text = ground_text(ground)
    rows = [stand.strengths(part, text.steps) for stand in text.stands]
    weights = _weights(ground, x, y)
    unit = sum(weights)
    merits = [
        sum(weight * row[step] for weight, row in zip(weights, rows, strict=True))
        for step in range(text.steps)
    ]
    counted = sum(weight * sum(map(bool, row)) for weight, row in zip(weights, rows, strict=True))
    count = (2 * counted + unit) // (2 * unit)
    ranks = metrical_ranks(text.steps, ground_step(text), ground_meter(text))
    by_merit = sorted(range(text.steps), key=lambda step: (-merits[step], ranks[step], step))
    hits = sorted(step for step in by_merit[:count] if merits[step])
    return GroundPlace(tuple(hits), tuple(merits), unit)


@lru_cache(maxsize=2048)
def _weights(ground: GroundId, x: int, y: int) -> tuple[int, ...]:
    """Return each stand's weight at a place, as whole numbers."""
    apart = [(x - px) ** 2 + (y - py) ** 2 for px, py in places_of(ground)]
    if 0 in apart:
        return tuple(int(distance == 0) for distance in apart)
    whole = prod(distance * distance for distance in apart)
    return tuple(whole // (distance * distance) for distance in apart)
