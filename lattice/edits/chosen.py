"""The steps of a lane that a hand has chosen, and setting them to hit or rest."""

from collections.abc import Mapping
from typing import Any

import numpy as np

from lattice.document.source import Drawn
from lattice.steps.lane_steps import LaneSteps, line_as

__all__ = ["MAX_CHOSEN", "chosen_numbers", "is_hit", "numbers_from", "turned"]

MAX_CHOSEN = 4096  # steps: more than a screen shows of a lane


def chosen_numbers(line: LaneSteps, first_tick: int, end_tick: int) -> list[int]:
    """Return the numbers of the steps that begin from *first_tick* to before *end_tick*, each once, as played."""
    first, end = line.clock.first_at(first_tick), line.clock.first_at(end_tick)
    played = line.numbers(np.arange(first, min(end, first + MAX_CHOSEN))).tolist()
    return list(dict.fromkeys(played))


def numbers_from(line: LaneSteps, tick: int, count: int) -> list[int]:
    """Return the numbers of *count* steps as played, the first that begins at or after *tick* first."""
    first = line.clock.first_at(tick)
    numbers: list[int] = line.numbers(np.arange(first, first + min(count, MAX_CHOSEN))).tolist()
    return numbers


def is_hit(line: LaneSteps) -> list[bool]:
    """Return of each step number whether it is a hit in the lane's very first cycle."""
    length = min(line.clock.cycle, line.clock.per_run or line.clock.cycle)
    hits = [False] * line.steps
    for number in line.numbers(np.arange(length))[line.hits(0, length)].tolist():
        hits[number] = True
    return hits


def turned(line: LaneSteps, wanted: Mapping[int, bool]) -> dict[str, Any]:
    """Return the fields that set steps, by number, to hit or rest: drawn where the lane is drawn, else by hand."""
    lane = line.lane
    if isinstance(lane.source, Drawn) and not (lane.complement or lane.busy or lane.thin or lane.edits):
        steps = lane.source.steps
        hits = set(lane.source.hits)
        for number, hit in wanted.items():
            drawn = (number - lane.rotate) % steps
            hits = hits | {drawn} if hit else hits - {drawn}
        return {"source": Drawn(steps=steps, hits=tuple(sorted(hits))).model_dump(mode="json")}
    others = tuple(edit for edit in lane.edits if edit.step not in wanted)
    by_rule = is_hit(line_as(line, lane.model_copy(update={"edits": others})))
    edits = {edit.step: edit.hit for edit in others}
    edits |= {number: hit for number, hit in wanted.items() if by_rule[number] != hit}
    return {"edits": [{"step": step, "hit": hit} for step, hit in sorted(edits.items())]}
