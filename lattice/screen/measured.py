"""The measures of one lane, and how far it and its pattern are from where they were."""

import numpy as np
from pydantic import BaseModel

from lattice.document.piece import Score
from lattice.render.window import Window
from lattice.steps.lane_steps import LaneSteps, steps_of_lanes
from lattice.steps.measured_steps import measured_steps
from lattice.steps.measures import (
    MEASURED_BARS,
    distance,
    evenness,
    syncopation,
)
from lattice.units import TICKS_PER_QUARTER, Ticks

__all__ = ["MEASURED_BARS", "Measures", "measures"]


class Measures(BaseModel):
    """*hits_a_bar*: onsets before chance; *syncopation*, *evenness*, *distance*, *pattern_distance*: 0-1."""

    hits_a_bar: float
    syncopation: float
    evenness: float
    distance: float
    pattern_distance: float


def measures(score: Score, dice: int, lane_id: str, since: Score, since_dice: int) -> Measures:
    """Return the measures of a lane over the first bars of a pass, and the distance from *since*.

    Raises DocumentError if *score* has no lane of that id, or a lane has too many steps to be measured.
    """
    bars = min(score.bars, MEASURED_BARS)
    end = Window(bars=bars).ticks(score.meter.bar_ticks)[1]
    here = {lane_steps.lane.id: lane_steps for lane_steps in steps_of_lanes(score, dice)}
    there = {lane_steps.lane.id: lane_steps for lane_steps in steps_of_lanes(since, since_dice)}
    lane_steps = here[score.lane(lane_id).id]
    ids = list(dict.fromkeys([*here, *there]))
    ours = {one: _rows(here.get(one), end) for one in ids}
    theirs = {one: _rows(there.get(one), end) for one in ids}
    _, hits = ours[lane_id]
    cycle = min(lane_steps.clock.cycle, lane_steps.clock.per_run or lane_steps.clock.cycle)
    step = int(lane_steps.clock.step * TICKS_PER_QUARTER)
    return Measures(
        hits_a_bar=hits.size / bars,
        syncopation=syncopation(hits, end, score.meter, max(1, step)),
        evenness=evenness(np.flatnonzero(lane_steps.hits(0, cycle)).tolist(), cycle),
        distance=distance([ours[lane_id]], [theirs[lane_id]]),
        pattern_distance=distance(list(ours.values()), list(theirs.values())),
    )


def _rows(lane_steps: LaneSteps | None, end: int) -> tuple[Ticks, Ticks]:
    """Return when steps and hits begin up to *end*, in ticks."""
    if lane_steps is None:
        return np.empty(0, np.int64), np.empty(0, np.int64)
    steps = measured_steps(lane_steps, end)
    starts = lane_steps.clock.starts(np.arange(steps))
    return starts, starts[lane_steps.hits(0, steps)]
