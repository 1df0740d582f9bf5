"""Which hits the dice and the cycle rules let sound."""

import numpy as np
from numpy.typing import NDArray

from lattice.clock.ticks import Ticks
from lattice.document.chance import LETTERS, CycleRule
from lattice.document.strip import CHANCE
from lattice.luck.chance import CERTAIN, sounds
from lattice.luck.draws import Purpose, draws
from lattice.rhythm.stretch import Stretch
from lattice.strips.values import strayed, values_at

__all__ = ["chances_of", "letters_of", "sounding"]

Mask = NDArray[np.bool_]


def chances_of(stretch: Stretch) -> Ticks:
    """Return how often each step sounds, in 1/10,000: the lane's chance times the strip's."""
    lane = stretch.line.lane
    values = values_at(lane.chance_strip, CHANCE, stretch, 100)
    return lane.chance_percent * strayed(values, lane.chance_strip, CHANCE, stretch)


def sounding(stretch: Stretch, chances: Ticks) -> Mask:
    """Return which steps sound, if they are hits. *chances*: what `chances_of` says of them."""
    if np.any((chances > 0) & (chances < CERTAIN)):
        lucky = sounds(chances, stretch.draws(Purpose.CHANCE))
    else:
        lucky = chances > 0
    if stretch.line.lane.links:
        _sound_together(stretch, lucky)
    return lucky & _ruled(stretch)


def letters_of(stretch: Stretch) -> Ticks:
    """Return the place in the alphabet of each step's letter; -1 where it is not linked."""
    by_number = np.full(stretch.line.steps, -1)
    for link in stretch.line.lane.links:
        if link.step < by_number.size:
            by_number[link.step] = LETTERS.index(link.letter)
    return by_number[stretch.numbers]


def _sound_together(stretch: Stretch, lucky: Mask) -> None:
    """Give the steps of a letter one draw a cycle, beside the lowest chance that a hit of that letter has in it."""
    whole = stretch.whole_cycles()
    letters, chances = letters_of(whole), chances_of(whole)
    inside = slice(stretch.first - whole.first, stretch.end - whole.first)
    cycles, of_cycle = np.unique(whole.cycles, return_inverse=True)
    firsts = stretch.line.course.first_of_cycle(cycles)
    keys = stretch.line.luck_keys(firsts, cycles, np.zeros_like(cycles))
    for letter in np.unique(letters[letters >= 0]).tolist():
        linked = letters == letter
        lowest = np.full(cycles.size, CERTAIN)
        met = linked & whole.hit
        np.minimum.at(lowest, of_cycle[met], chances[met])
        drawn = draws(stretch.line.dice, stretch.line.lane.id, Purpose.LINK.of(letter), *keys)
        together = sounds(lowest, drawn)[of_cycle]
        here = linked[inside]
        lucky[here] = together[inside][here]


def _ruled(stretch: Stretch) -> Mask:
    """Return the steps that no cycle rule silences."""
    lane = stretch.line.lane
    ruled = np.ones(stretch.counts.size, bool)
    if lane.cycle_rule:
        ruled &= _is_in(stretch.cycles, lane.cycle_rule)
    for one in lane.step_rules:
        ruled &= (stretch.numbers != one.step) | _is_in(stretch.cycles, one.rule)
    return ruled


def _is_in(cycles: Ticks, rule: CycleRule) -> Mask:
    result: Mask = cycles % rule.of == rule.nth - 1
    return result
