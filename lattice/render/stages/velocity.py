"""How hard hits are struck: strip, accent, beat weight, spread and humanise, even out; then one rounding."""

from fractions import Fraction
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.document.ground import GroundSource
from lattice.document.lane import Lane
from lattice.document.strip import VELOCITY
from lattice.luck.draws import DRAW_BITS, Purpose
from lattice.render.stages.pitch import takes_velocities
from lattice.render.stages.stage import Reading, Round, Stage, strip_rounds
from lattice.render.stages.times import NoteTimes
from lattice.steps.groove import beat_ticks, beat_weights
from lattice.steps.step_window import StepWindow
from lattice.steps.strip_luck import is_strip_lucky
from lattice.steps.strip_values import bounds, deviations, own_values, values_at, values_or
from lattice.steps.thin import is_counted
from lattice.units import TICKS_PER_QUARTER, Ticks, half_up

__all__ = [
    "ACCENT_STAGE",
    "BEAT_WEIGHT_STAGE",
    "EVENING_STAGE",
    "VELOCITY_STAGE",
    "Velocities",
    "accents_of",
    "note_velocities",
    "velocities_of",
]

_WEIGHT = 400  # a beat weight is in 1/400
LOWEST, HIGHEST = 1, 127
KEYS_MEAN = 64  # towards which velocities are evened that keys give


class Velocities(NamedTuple):
    """Velocities of steps as exact fractions `(whole + stray x stray_unit / 2**53) / denominator`, before rounding.

    *stray*: none where nothing strays; see `StepWindow.deviations`.
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
            rounded = half_up(whole, over)
        else:
            # Beyond 64 bits: Python's own whole numbers.
            unit = 1 << DRAW_BITS
            strays = self.stray[which].astype(object) * self.stray_unit * numerators
            rounded = half_up(whole.astype(object) * unit + strays, over * unit)
        result: Ticks = np.clip(rounded, LOWEST, HIGHEST)
        return result


def accents_of(step_window: StepWindow) -> NDArray[np.bool_]:
    """Return which of the steps of *step_window* are accents, if they are hits."""
    accent = step_window.lane_steps.lane.accent
    if accent is None:
        return np.zeros(step_window.counts.size, bool)
    return is_counted(step_window.hit_index, accent.every, accent.first)


def velocities_of(step_window: StepWindow, by_keys: int | None = None) -> Velocities:
    """Return how hard the steps of *step_window* are struck, if they are hits and sound.

    *by_keys*: the velocity of a key that stands in for the lane's.
    """
    lane = step_window.lane_steps.lane
    strip = lane.velocity_strip
    own_velocity = step_window.lane_steps.velocities if by_keys is None else by_keys
    moved = step_window.moved("velocity") if by_keys is None else None
    if moved is None:
        values = values_at(strip, VELOCITY, step_window, own_velocity)
    else:
        values = values_or(strip, VELOCITY, step_window, moved)
    if lane.accent:
        values = np.where(accents_of(step_window), lane.accent.velocity, values)
    whole = values * _WEIGHT
    depth = step_window.own("beat_weight")
    if np.any(depth):
        positions, denominator = step_window.lane_steps.clock.exact(step_window.counts)
        whole = values * beat_weights(positions, denominator, step_window.lane_steps.frame.meter, depth)
    if strip and strip.spread:
        low, high = bounds(strip.spread, VELOCITY)
        whole = whole + deviations(strip.spread, VELOCITY, step_window) * _WEIGHT
        whole = np.clip(whole, low * _WEIGHT, high * _WEIGHT)
    denominator = _WEIGHT
    left = 1
    if lane.evened:
        towards = step_window.lane_steps.velocities if by_keys is None else KEYS_MEAN
        own = own_values(strip, step_window.lane_steps.steps, towards)
        left = (100 - lane.evened) * own.size
        whole = whole * left + int(own.sum()) * lane.evened * _WEIGHT
        denominator *= 100 * own.size
    velocity = lane.humanise.velocity if lane.humanise else 0
    strayed = step_window.deviations(Purpose.DEVIATION_IN_VELOCITY) if velocity else None
    return Velocities(whole, strayed, velocity * left * _WEIGHT, denominator)


def note_velocities(step_window: StepWindow, times: NoteTimes, note: Ticks, given: Ticks) -> Ticks:
    """Return how hard each pitch is struck: by the lane, or, where its notes come from keys, as hard as *given*.

    *note*: which of the notes of *times* each sounds in.
    """
    which = times.steps[note]
    shares, denominator = _ramped(step_window, times)
    numerators = shares[note]
    if not takes_velocities(step_window.lane_steps.lane):
        return velocities_of(step_window).rounded(which, numerators, denominator)
    result = np.empty(which.size, np.int64)
    for velocity in np.unique(given).tolist():
        here = given == velocity
        struck = velocities_of(step_window, int(velocity) or None)
        result[here] = struck.rounded(which[here], numerators[here], denominator)
    return result


def _ramped(step_window: StepWindow, times: NoteTimes) -> tuple[Ticks, int]:
    """Return each note's share of its step's velocity: numerators, and the denominator of all."""
    strip = step_window.lane_steps.lane.ratchet_strip
    if strip is None or strip.fade_from == strip.fade_to == 100:
        return np.ones_like(times.numbers), 1
    parts = np.maximum(times.counts[times.of] - 1, 1)
    common = int(np.lcm.reduce(np.unique(parts), initial=1))
    shares = (strip.fade_from * parts + (strip.fade_to - strip.fade_from) * times.numbers) * (common // parts)
    return shares, 100 * common


def _accents_repeat(reading: Reading) -> Round:
    accent = reading.lane_steps.lane.accent
    return Round(hits=accent.every) if accent else Round()


def _beats_repeat(reading: Reading) -> Round:
    lane_steps = reading.lane_steps
    beat = Fraction(beat_ticks(lane_steps.frame.meter), TICKS_PER_QUARTER)
    return Round(bar_quarters=(beat,)) if lane_steps.lane.beat_weight else Round()


def _velocity_by_step(lane: Lane) -> frozenset[str]:
    """A mean, and a ground, need the velocity of all steps at once."""
    is_of_all = lane.evened or isinstance(lane.source, GroundSource)
    return frozenset() if is_of_all else frozenset({"velocity"})


# Humanise and the fades of ratchets have a say too, and belong to the stages of those names.
VELOCITY_STAGE = Stage(
    "velocity",
    frozenset({"velocity", "velocity_strip"}),
    repeats=lambda reading: strip_rounds(reading.lane_steps, reading.lane_steps.lane.velocity_strip),
    taken_by_step=_velocity_by_step,
    is_moved_by_luck=lambda lane_steps: is_strip_lucky(lane_steps.lane.velocity_strip),
)
ACCENT_STAGE = Stage("accent", frozenset({"accent"}), repeats=_accents_repeat)
BEAT_WEIGHT_STAGE = Stage(
    "beat weight",
    frozenset({"beat_weight"}),
    repeats=_beats_repeat,
    taken_by_step=lambda _lane: frozenset({"beat_weight"}),
)
EVENING_STAGE = Stage("evening", frozenset({"evened"}))
