"""Actions on the steps of a lane that begin in a stretch of time: each returns the fields that it changes."""

from collections.abc import Callable
from fractions import Fraction
from typing import Any, Literal, NamedTuple, get_args

import numpy as np

from lattice.document.burst import MAX_BURST_NOTES, Burst
from lattice.document.chance import LETTERS, CycleRule
from lattice.document.problems import DocumentError, read
from lattice.document.step_value import StepValue
from lattice.document.strip import RATCHET
from lattice.document.timing import MAX_OFFSET_NOTES
from lattice.edits.chosen import chosen_numbers, is_hit, numbers_from, turned
from lattice.edits.copied import COPIED_STRIPS, copied, pasted, with_values
from lattice.luck.draws import Purpose, draws
from lattice.render.stages.bursts import fits
from lattice.steps.lane_steps import LaneSteps
from lattice.units import TICKS_PER_QUARTER

__all__ = ["ACTIONS", "Action", "act"]

Action = Literal["clear", "repeat", "throw", "ratchet", "burst", "link", "unlink", "rule"]
_FINEST = StepValue(note=64)


class Chosen(NamedTuple):
    """A stretch of time in a lane.

    *number*: of a throw, how many notes a ratchet or a burst has, which cycle a rule lets sound; *of*: of how many.
    """

    lane_steps: LaneSteps
    first_tick: int
    end_tick: int
    number: int
    of: int

    @property
    def numbers(self) -> list[int]:
        """The steps that begin in it. Raises DocumentError if there are none."""
        found = chosen_numbers(self.lane_steps, self.first_tick, self.end_tick)
        if not found:
            raise DocumentError.of("", "no step begins there", lane=self.lane_steps.lane.name)
        return found


def act(
    action: Action, lane_steps: LaneSteps, first_tick: int, end_tick: int, number: int = 1, of: int = 2
) -> dict[str, Any]:
    """Return the fields of a lane that *action* changes. Raises DocumentError where it cannot be done."""
    return ACTIONS[action](Chosen(lane_steps, first_tick, end_tick, number, of))


def _clear(chosen: Chosen) -> dict[str, Any]:
    """Rests, nothing of their own in any strip, no letter, no cycle rule."""
    numbers = chosen.numbers
    patch = turned(chosen.lane_steps, dict.fromkeys(numbers, False))
    for name in COPIED_STRIPS:
        patch |= with_values(chosen.lane_steps, name, dict.fromkeys(numbers))
    return patch | _unlink(chosen) | _rules_beside(chosen)


def _repeat(chosen: Chosen) -> dict[str, Any]:
    """The same again right after."""
    steps = copied(chosen.lane_steps, chosen.numbers)
    after = numbers_from(chosen.lane_steps, chosen.end_tick, len(steps.steps))
    return pasted(chosen.lane_steps, after, steps)


def _throw(chosen: Chosen) -> dict[str, Any]:
    """As many hits among the same steps, elsewhere."""
    numbers, hits = chosen.numbers, is_hit(chosen.lane_steps)
    count = sum(hits[number] for number in numbers)
    places = np.arange(len(numbers))
    drawn = draws(chosen.number, chosen.lane_steps.lane.id, Purpose.MOVE_TO, places // 256, places % 256)
    picked = set(np.argsort(drawn, kind="stable")[:count].tolist())
    return turned(chosen.lane_steps, {number: place in picked for place, number in enumerate(numbers)})


def _ratchet(chosen: Chosen) -> dict[str, Any]:
    """Every hit of so many notes; one note is no roll."""
    if not RATCHET.low <= chosen.number <= RATCHET.high:
        raise DocumentError.of(
            "number", f"a step has {RATCHET.low} to {RATCHET.high} notes, got {chosen.number}"
        )
    hits = is_hit(chosen.lane_steps)
    notes = chosen.number if chosen.number > 1 else None
    rolled = {number: notes for number in chosen.numbers if hits[number]}
    return with_values(chosen.lane_steps, "ratchet", rolled)


def _link(chosen: Chosen) -> dict[str, Any]:
    """The hits sound together or not at all, by the first letter that no other step has."""
    hits, numbers = is_hit(chosen.lane_steps), chosen.numbers
    others = [link for link in chosen.lane_steps.lane.links if link.step not in numbers]
    taken = {link.letter for link in others}
    free = next((letter for letter in LETTERS if letter not in taken), None)
    if free is None:
        raise DocumentError.of(
            "links", f"all letters, {LETTERS[0]} to {LETTERS[-1]}, are in use", chosen.lane_steps.lane.name
        )
    linked = [number for number in numbers if hits[number]]
    if len(linked) < 2:
        raise DocumentError.of("links", "it takes two hits to link", chosen.lane_steps.lane.name)
    rows = [{"step": link.step, "letter": link.letter} for link in others]
    rows += [{"step": number, "letter": free} for number in linked]
    return {"links": sorted(rows, key=lambda row: row["step"])}


def _unlink(chosen: Chosen) -> dict[str, Any]:
    numbers = set(chosen.numbers)
    kept = [link.model_dump(mode="json") for link in chosen.lane_steps.lane.links if link.step not in numbers]
    return {"links": kept}


def _rule(chosen: Chosen) -> dict[str, Any]:
    """The hits sound only in one of so many cycles; in every cycle again where they all do so already."""
    rule = read(CycleRule, {"nth": chosen.number, "of": chosen.of})
    hits, lane_steps = is_hit(chosen.lane_steps), chosen.lane_steps
    ruled = {number: rule for number in chosen.numbers if hits[number]}
    if not ruled:
        raise DocumentError.of("step_rules", "there is no hit", lane_steps.lane.name)
    known = {row.step: row.rule for row in lane_steps.lane.step_rules}
    if all(known.get(number) == rule for number in ruled):
        return _rules_beside(chosen)
    rows = sorted({**known, **ruled}.items())
    return {"step_rules": [{"step": step, "rule": one.model_dump(mode="json")} for step, one in rows]}


def _rules_beside(chosen: Chosen) -> dict[str, Any]:
    numbers = set(chosen.numbers)
    rows = [
        row.model_dump(mode="json") for row in chosen.lane_steps.lane.step_rules if row.step not in numbers
    ]
    return {"step_rules": rows}


def _burst(chosen: Chosen) -> dict[str, Any]:
    """So many even notes in place of what the lane does there; bursts that it would meet give way."""
    lane_steps = chosen.lane_steps
    if not 1 <= chosen.number <= MAX_BURST_NOTES:
        raise DocumentError.of("number", f"a burst has 1 to {MAX_BURST_NOTES} notes, got {chosen.number}")
    first, end = lane_steps.clock.first_at(chosen.first_tick), lane_steps.clock.first_at(chosen.end_tick)
    if end <= first:
        raise DocumentError.of("bursts", "no step begins there", lane_steps.lane.name)
    ticks, denominator = lane_steps.clock.exact(np.array([first, end - 1]))
    start, last = (Fraction(tick, denominator * TICKS_PER_QUARTER) for tick in ticks.tolist())
    burst = _burst_at(
        lane_steps,
        start % lane_steps.frame.pass_quarters,
        last + lane_steps.clock.step - start,
        chosen.number,
    )
    bar = lane_steps.frame.meter.bar_quarters
    if not fits(burst, lane_steps):
        raise DocumentError.of("bursts", "it would go beyond the pattern's end", lane_steps.lane.name)
    begins, ends = burst.quarters(bar)
    kept = [
        one
        for one in lane_steps.lane.bursts
        if one.comes or one.quarters(bar)[1] <= begins or one.quarters(bar)[0] >= ends
    ]
    return {"bursts": [one.model_dump(mode="json") for one in (*kept, burst)]}


def _burst_at(lane_steps: LaneSteps, start: Fraction, length: Fraction, notes: int) -> Burst:
    """Return a burst on the lane's own steps, or on a finer grid where those are no note values or it lies off them."""
    lane, bar = lane_steps.clock_lane.lane, lane_steps.frame.meter.bar_quarters
    own = None if lane.span else lane.step_value or lane_steps.frame.step_value
    for value in (own, StepValue(), StepValue(note=16, kind="triplet"), _FINEST):
        if value is None:
            continue
        count, long = round(start / value.quarters), max(1, round(length / value.quarters))
        lies = count * value.quarters == start and long * value.quarters == length
        if (lies or value is _FINEST) and long <= MAX_OFFSET_NOTES:
            # Said from its bar line, where its values reach it from there.
            bars = int(start // bar)
            into = (start - bars * bar) / value.quarters
            bars, count = (bars, round(into)) if into.denominator == 1 or value is _FINEST else (0, count)
            if count <= MAX_OFFSET_NOTES:
                return Burst(bars=bars, count=count, value=value, length=long, notes=notes)
    raise DocumentError.of("bursts", f"a burst lasts {MAX_OFFSET_NOTES} steps at most", lane_steps.lane.name)


ACTIONS: dict[Action, Callable[[Chosen], dict[str, Any]]] = {
    "clear": _clear,
    "repeat": _repeat,
    "throw": _throw,
    "ratchet": _ratchet,
    "burst": _burst,
    "link": _link,
    "unlink": _unlink,
    "rule": _rule,
}
assert tuple(ACTIONS) == get_args(Action)
