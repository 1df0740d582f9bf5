"""The steps of a lane that a hand has chosen, and setting them to hit or rest."""

from collections.abc import Mapping
from typing import Any

import numpy as np

from lattice.document.source import Drawn
from lattice.steps.lane_steps import LaneSteps, steps_as

__all__ = ["MAX_CHOSEN", "chosen_numbers", "is_hit", "numbers_from", "turned"]

MAX_CHOSEN = 4096  # steps: more than a screen shows of a lane


def chosen_numbers(lane_steps: LaneSteps, first_tick: int, end_tick: int) -> list[int]:
    """Return the numbers of the steps that begin from *first_tick* to before *end_tick*, each once, as played."""
    first, end = lane_steps.clock.first_at(first_tick), lane_steps.clock.first_at(end_tick)
    played = lane_steps.numbers(np.arange(first, min(end, first + MAX_CHOSEN))).tolist()
    return list(dict.fromkeys(played))


def numbers_from(lane_steps: LaneSteps, tick: int, count: int) -> list[int]:
    """Return the numbers of *count* steps as played, the first that begins at or after *tick* first."""
    first = lane_steps.clock.first_at(tick)
    numbers: list[int] = lane_steps.numbers(np.arange(first, first + min(count, MAX_CHOSEN))).tolist()
    return numbers


def is_hit(lane_steps: LaneSteps) -> list[bool]:
    """Return of each step number whether it is a hit in the lane's very first cycle."""
    length = min(lane_steps.clock.cycle, lane_steps.clock.per_run or lane_steps.clock.cycle)
    hits = [False] * lane_steps.steps
    for number in lane_steps.numbers(np.arange(length))[lane_steps.hits(0, length)].tolist():
        hits[number] = True
    return hits


def turned(lane_steps: LaneSteps, wanted: Mapping[int, bool]) -> dict[str, Any]:
    """Return the fields that set steps, by number, to hit or rest: drawn where the lane is drawn, else by hand."""
    lane = lane_steps.lane
    if isinstance(lane.source, Drawn) and not (lane.complement or lane.busy or lane.thin or lane.edits):
        steps = lane.source.steps
        hits = set(lane.source.hits)
        for number, hit in wanted.items():
            drawn = (number - lane.rotate) % steps
            hits = hits | {drawn} if hit else hits - {drawn}
        return {"source": Drawn(steps=steps, hits=tuple(sorted(hits))).model_dump(mode="json")}
    others = tuple(edit for edit in lane.edits if edit.step not in wanted)
    by_rule = is_hit(steps_as(lane_steps, lane.model_copy(update={"edits": others})))
    edits = {edit.step: edit.hit for edit in others}
    edits |= {number: hit for number, hit in wanted.items() if by_rule[number] != hit}
    return {"edits": [{"step": step, "hit": hit} for step, hit in sorted(edits.items())]}
