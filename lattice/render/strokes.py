"""How hard hits are struck: strip, accent, beat weight, spread and humanise, even out; then one rounding."""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.clock.groove import beat_weights
from lattice.clock.ticks import Ticks
from lattice.document.strip import VELOCITY
from lattice.luck.draws import DRAW_BITS, STRAY_DRAWS, Purpose, strays
from lattice.rhythm.stretch import Stretch
from lattice.rhythm.thin import is_counted
from lattice.strips.values import bounds, deviations, own_values, values_at

__all__ = ["STRAY_DRAWS", "Strokes", "accents_of", "stray", "strokes_of"]

_WEIGHT = 400  # a beat weight is in 1/400
LOWEST, HIGHEST = 1, 127
KEYS_MEAN = 64  # towards which velocities are evened that keys give


class Strokes(NamedTuple):
    """Velocities of steps as exact fractions `(whole + stray x stray_unit / 2**53) / denominator`, before rounding.

    *stray*: none where nothing strays; see the function of that name.
    """

    whole: Ticks
    stray: Ticks | None
    stray_unit: int
    denominator: int

    def rounded(self, which: Ticks, numerators: Ticks, denominator: int) -> Ticks:
        """Return the velocities of the steps *which*, each times its share *numerators* / *denominator*, as in MIDI."""
        over = self.denominator * denominator
        whole = self.whole[which] * numerators
        if self.stray is None:
            rounded = (2 * whole + over) // (2 * over)
        else:
            # Beyond 64 bits: Python's own whole numbers.
            unit = 1 << DRAW_BITS
            strays = self.stray[which].astype(object) * self.stray_unit * numerators
            rounded = (
                (2 * (whole.astype(object) * unit + strays) + over * unit) // (2 * over * unit)
            ).astype(np.int64)
        result: Ticks = np.clip(rounded, LOWEST, HIGHEST)
        return result


def accents_of(stretch: Stretch) -> NDArray[np.bool_]:
    """Return which of the steps of *stretch* are accents, if they are hits."""
    accent = stretch.line.lane.accent
    if accent is None:
        return np.zeros(stretch.counts.size, bool)
    return is_counted(stretch.before, accent.every, accent.first)


def strokes_of(stretch: Stretch, by_keys: int | None = None) -> Strokes:
    """Return how hard the steps of *stretch* are struck, if they are hits and sound.

    *by_keys*: the velocity of a key that stands in for the lane's.
    """
    lane = stretch.line.lane
    strip = lane.velocity_strip
    own_velocity = lane.velocity if by_keys is None else by_keys
    values = values_at(strip, VELOCITY, stretch, own_velocity)
    if lane.accent:
        values = np.where(accents_of(stretch), lane.accent.velocity, values)
    whole = values * _WEIGHT
    if lane.beat_weight:
        positions, denominator = stretch.line.course.exact(stretch.counts)
        whole = values * beat_weights(positions, denominator, stretch.line.frame.meter, lane.beat_weight)
    if strip and strip.spread:
        low, high = bounds(strip.spread, VELOCITY)
        whole = whole + deviations(strip.spread, VELOCITY, stretch) * _WEIGHT
        whole = np.clip(whole, low * _WEIGHT, high * _WEIGHT)
    denominator = _WEIGHT
    left = 1
    if lane.evened:
        own = own_values(strip, stretch.line.steps, lane.velocity if by_keys is None else KEYS_MEAN)
        left = (100 - lane.evened) * own.size
        whole = whole * left + int(own.sum()) * lane.evened * _WEIGHT
        denominator *= 100 * own.size
    velocity = lane.humanise.velocity if lane.humanise else 0
    strayed = stray(stretch, Purpose.STRAY_IN_VELOCITY) if velocity else None
    return Strokes(whole, strayed, velocity * left * _WEIGHT, denominator)


def stray(stretch: Stretch, purpose: Purpose) -> Ticks:
    """Return by how many spreads each step strays, in 1/2**53."""
    return strays(stretch.draws_each(purpose, STRAY_DRAWS))
