"""Which hits the dice and the cycle rules let sound."""

from math import lcm

import numpy as np
from numpy.typing import NDArray

from lattice.document.chance import LETTERS, CycleRule
from lattice.document.strip import CHANCE
from lattice.luck.chance import CERTAIN, sounds
from lattice.luck.draws import Purpose, draws
from lattice.render.stages.stage import Reading, Round, Stage, strip_rounds
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.step_window import StepWindow
from lattice.steps.strip_luck import is_strip_lucky
from lattice.steps.strip_values import values_at, with_spread
from lattice.units import Ticks

__all__ = ["CHANCE_STAGE", "chances_of", "letters_of", "sounding"]

Mask = NDArray[np.bool_]


def chances_of(step_window: StepWindow) -> Ticks:
    """Return how often each step sounds, in 1/10,000: the lane's chance times the strip's."""
    lane = step_window.lane_steps.lane
    values = values_at(lane.chance_strip, CHANCE, step_window, 100)
    return step_window.own("chance_percent") * with_spread(values, lane.chance_strip, CHANCE, step_window)


def sounding(step_window: StepWindow, chances: Ticks) -> Mask:
    """Return which steps sound, if they are hits. *chances*: what `chances_of` says of them."""
    if np.any((chances > 0) & (chances < CERTAIN)):
        lucky = sounds(chances, step_window.draws(Purpose.CHANCE))
    else:
        lucky = chances > 0
    if step_window.lane_steps.lane.links:
        _sound_together(step_window, lucky)
    return lucky & _ruled(step_window)


def letters_of(step_window: StepWindow) -> Ticks:
    """Return the place in the alphabet of each step's letter; -1 where it is not linked."""
    by_number = np.full(step_window.lane_steps.steps, -1)
    for link in step_window.lane_steps.lane.links:
        if link.step < by_number.size:
            by_number[link.step] = LETTERS.index(link.letter)
    return by_number[step_window.numbers]


def _sound_together(step_window: StepWindow, lucky: Mask) -> None:
    """Give the steps of a letter one draw a cycle, beside the lowest chance that a hit of that letter has in it."""
    whole = step_window.whole_cycles()
    letters, chances = letters_of(whole), chances_of(whole)
    inside = slice(step_window.first - whole.first, step_window.end - whole.first)
    cycles, of_cycle = np.unique(whole.cycles, return_inverse=True)
    firsts = step_window.lane_steps.clock.first_of_cycle(cycles)
    keys = step_window.lane_steps.luck_keys(firsts, cycles, np.zeros_like(cycles))
    for letter in np.unique(letters[letters >= 0]).tolist():
        linked = letters == letter
        lowest = np.full(cycles.size, CERTAIN)
        met = linked & whole.hit
        np.minimum.at(lowest, of_cycle[met], chances[met])
        drawn = draws(
            step_window.lane_steps.dice, step_window.lane_steps.lane.id, Purpose.LINK.of(letter), *keys
        )
        together = sounds(lowest, drawn)[of_cycle]
        here = linked[inside]
        lucky[here] = together[inside][here]


def _ruled(step_window: StepWindow) -> Mask:
    """Return the steps that no cycle rule silences."""
    lane = step_window.lane_steps.lane
    ruled = np.ones(step_window.counts.size, bool)
    if lane.cycle_rule:
        ruled &= _is_in(step_window.cycles, lane.cycle_rule)
    for one in lane.step_rules:
        ruled &= (step_window.numbers != one.step) | _is_in(step_window.cycles, one.rule)
    return ruled


def _is_in(cycles: Ticks, rule: CycleRule) -> Mask:
    result: Mask = cycles % rule.of == rule.nth - 1
    return result


def _repeats(reading: Reading) -> Round:
    """Cycle rules count cycles."""
    lane_steps, lane = reading.lane_steps, reading.lane_steps.lane
    rules = [lane.cycle_rule] if lane.cycle_rule else []
    rules += [row.rule for row in lane.step_rules if row.step in lane_steps.range]
    return strip_rounds(lane_steps, lane.chance_strip).met(Round(cycles=lcm(*(rule.of for rule in rules))))


def _is_silenced(lane_steps: LaneSteps) -> bool:
    lane = lane_steps.lane
    return not (lane.chance_percent in (0, CERTAIN // 100) and lane.chance_strip is None)


CHANCE_STAGE = Stage(
    "chance",
    frozenset({"chance_percent", "chance_strip", "links", "cycle_rule", "step_rules"}),
    repeats=_repeats,
    is_moved_by_luck=lambda lane_steps: is_strip_lucky(
        lane_steps.lane.chance_strip
    ),  # how often each step sounds
    is_silenced_by_luck=_is_silenced,
    # Linked steps share one draw a cycle, against the lowest chance in it.
    taken_by_step=lambda lane: frozenset() if lane.links else frozenset({"chance_percent"}),
)
