"""Which value of a strip each played step has."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from lattice.document.strip import PITCH, VELOCITY, Free, PitchStrip, Spread, Strip, StripKind
from lattice.document.strip_places import StripAt, plain_value
from lattice.luck.draws import Purpose, draws, whole_numbers
from lattice.steps.direction import RANDOM_DIRECTIONS, cycle_length, random_order, steady_order
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.step_window import StepWindow
from lattice.units import Ticks

__all__ = [
    "Bounds",
    "accidentals_at",
    "bounds",
    "deviations",
    "extent",
    "own_values",
    "plain_of",
    "value_places",
    "values_at",
    "values_or",
    "with_spread",
]

Plain = int | Ticks
_NONE = -(1 << 40)  # which no value is
_RUN = 1 << 32  # a run's cycles of a strip are numbered from here on: no run has as many


class Bounds(NamedTuple):
    """Between which values a spread strays."""

    low: int
    high: int


def value_places(strip: Strip, kind: StripKind, step_window: StepWindow) -> Ticks:
    """Return which of the strip's values each step of *step_window* has: an index, which may lie beyond the last.

    A strip that goes with the lane is read by step number; one of its own length by how many steps, or hits, came
    before since the lane last began.
    """
    free = strip.free
    if free is None:
        return step_window.numbers
    count = len(strip.values)
    moved_on = step_window.indices if free.advance == "step" else step_window.hit_index
    cycles, places = np.divmod(moved_on, cycle_length(free.direction, count))
    if free.direction not in RANDOM_DIRECTIONS:
        return steady_order(free.direction, count)[places]
    lane_steps, purpose = step_window.lane_steps, Purpose.STRIP_ORDER.of(kind.draw_number)
    if free.direction == "random" and lane_steps.lane.luck_bars:
        return whole_numbers(step_window.draws(purpose), 0, count - 1)
    rounds = step_window.runs * _RUN + cycles
    if lane_steps.lane.luck_bars:
        rounds = lane_steps.steps_since_repeat(_round_begins(free, step_window, places))
    known, where = np.unique(rounds, return_inverse=True)
    keys = np.broadcast_arrays(known[:, None], np.arange(count))
    return random_order(free.direction, draws(lane_steps.dice, lane_steps.lane.id, purpose, *keys))[
        where, places
    ]


def _round_begins(free: Free, step_window: StepWindow, places: Ticks) -> Ticks:
    """Return the count of the step at which the strip's round began that is at *places* now, for each step."""
    counts = step_window.counts
    if free.advance == "step" or not counts.size:
        return counts - places
    firsts, numbers = step_window.counting_begins, step_window.hit_index - places
    is_last = np.append((np.diff(firsts) != 0) | (np.diff(numbers) != 0), True)  # of its round in the window
    begins = step_window.lane_steps.count_of_hit(numbers[is_last], firsts[is_last], counts[is_last])
    return np.repeat(begins, np.diff(np.flatnonzero(is_last), prepend=-1))


def own_values(strip: Strip | None, steps: int, plain: Plain) -> Ticks:
    """Return all values of a strip, *plain* where it has none; of one that goes with the lane, of all its *steps*.

    One of its own length that has no value at all has those of the steps.
    """
    values = strip.values if strip else ()
    by_step = np.broadcast_to(plain, steps)
    if strip and strip.free and values:
        own = by_step[np.arange(len(values)) % steps]
    else:
        own, values = by_step, values[:steps]
    return np.array([*values, *own[len(values) :]], np.int64) if None not in values else _filled(values, own)


def _filled(values: Sequence[int | None], plain: Ticks) -> Ticks:
    row = plain.copy()
    for at, value in enumerate(values):
        if value is not None:
            row[at] = value
    return row


def values_at(strip: Strip | None, kind: StripKind, step_window: StepWindow, plain: Plain) -> Ticks:
    """Return the value of each step of *step_window* before it strays; *plain* where the strip has none.

    *plain*: the same for all, or a row by step number.
    """
    by_step = np.broadcast_to(plain, step_window.lane_steps.steps)
    if strip is None or not any(value is not None for value in strip.values):
        return (
            by_step[step_window.numbers]
            if isinstance(plain, np.ndarray)
            else np.full(step_window.counts.size, plain)
        )
    places = value_places(strip, kind, step_window)
    values = own_values(strip, step_window.lane_steps.steps, plain)[places]
    if isinstance(plain, np.ndarray) and strip.free:
        has_none = np.array([value is None for value in strip.values])[places]
        return np.where(has_none, by_step[step_window.numbers], values)
    return values


def values_or(strip: Strip | None, kind: StripKind, step_window: StepWindow, each: int | Ticks) -> Ticks:
    """As `values_at`, but where the strip has none: *each*, the same for all or one for each step of the window."""
    if isinstance(each, int):
        return values_at(strip, kind, step_window, each)
    values = values_at(strip, kind, step_window, _NONE)
    return np.where(values == _NONE, each, values)


def plain_of(at: StripAt, lane_steps: LaneSteps) -> Plain:
    """Return the value of steps without one in the strip: the same for all, or a row by step number."""
    return lane_steps.velocities if at.kind is VELOCITY else plain_value(at, lane_steps.lane)


def accidentals_at(strip: PitchStrip | None, step_window: StepWindow) -> Ticks:
    """Return by how many semitones the degree of each step of *step_window* is raised."""
    if strip is None or strip.unit != "degrees" or not any(strip.accidentals):
        return np.zeros(step_window.counts.size, np.int64)
    places = value_places(strip, PITCH, step_window)
    row = np.array([*map(strip.accidental, range(len(strip.values))), 0], np.int64)
    return row[np.minimum(places, len(strip.values))]


def with_spread(values: Ticks, strip: Strip | None, kind: StripKind, step_window: StepWindow) -> Ticks:
    """Return *values*, one for each step, after the strip's spread: a fresh draw at every hit."""
    if strip is None or strip.spread is None:
        return values
    low, high = bounds(strip.spread, kind)
    result: Ticks = np.clip(values + deviations(strip.spread, kind, step_window), low, high)
    return result


def deviations(spread: Spread, kind: StripKind, step_window: StepWindow) -> Ticks:
    """Return how far each step of *step_window* strays: whole numbers from -*by* to *by*.

    Even: each as likely. Leaning to the middle: the mean of two such draws, rounded half up.
    """
    drawn = whole_numbers(
        step_window.draws_each(Purpose.SPREAD.of(kind.draw_number), 2), -spread.by, spread.by
    )
    return drawn[:, 0] if spread.shape == "even" else (drawn[:, 0] + drawn[:, 1] + 1) // 2


def bounds(spread: Spread, kind: StripKind) -> Bounds:
    """Return what a spread keeps to: its own low and high, within the strip's range."""
    floor = max(kind.low, 1) if kind.field == "length_strip" else kind.low  # a tie is no length to stray to
    low = floor if spread.low is None else min(max(spread.low, floor), kind.high)
    high = kind.high if spread.high is None else max(min(spread.high, kind.high), floor)
    return Bounds(low, high)


def extent(strip: Strip | None, kind: StripKind, plain: int) -> Bounds:
    """Return between which values any step lies, *plain* where the strip has none, its spread included."""
    values = [plain, *(value for value in (strip.values if strip else ()) if value is not None)]
    if strip is None or strip.spread is None:
        return Bounds(min(values), max(values))
    low, high = bounds(strip.spread, kind)
    # A value outside what the spread keeps to is moved into it.
    reached = (
        min(max(value, low), high) for value in (min(values) - strip.spread.by, max(values) + strip.spread.by)
    )
    return Bounds(*reached)
