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

__all__ = ["STRAY_DRAWS", "Strokes", "stray", "strokes_of"]

_WEIGHT = 400  # a beat weight is in 1/400
LOWEST, HIGHEST = 1, 127


class Strokes(NamedTuple):
    """Velocities of steps as exact fractions `(whole + stray x stray_unit / 2**53) / denominator`, before rounding.

    *stray*: none where nothing strays; see the function of that name. *accented*: which are accents, if they are hits.
    """

    whole: Ticks
    stray: Ticks | None
    stray_unit: int
    denominator: int
    accented: NDArray[np.bool_]

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


def strokes_of(stretch: Stretch) -> Strokes:
    """Return how hard the steps of *stretch* are struck, if they are hits and sound."""
    lane = stretch.line.lane
    strip = lane.velocity_strip
    values = values_at(strip, VELOCITY, stretch, lane.velocity)
    accented = np.zeros(values.size, bool)
    if lane.accent:
        accented = is_counted(stretch.before, lane.accent.every, lane.accent.first)
        values = np.where(accented, lane.accent.velocity, values)
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
        own = own_values(strip, stretch.line.steps, lane.velocity)
        left = (100 - lane.evened) * own.size
        whole = whole * left + int(own.sum()) * lane.evened * _WEIGHT
        denominator *= 100 * own.size
    velocity = lane.humanise.velocity if lane.humanise else 0
    strayed = stray(stretch, Purpose.STRAY_IN_VELOCITY) if velocity else None
    return Strokes(whole, strayed, velocity * left * _WEIGHT, denominator, accented)


def stray(stretch: Stretch, purpose: Purpose) -> Ticks:
    """Return by how many spreads each step strays, in 1/2**53."""
    return strays(stretch.draws_each(purpose, STRAY_DRAWS))
