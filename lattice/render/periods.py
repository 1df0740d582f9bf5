"""After how long a lane repeats, before chance: what the stages say of themselves, and movements that loop."""

from fractions import Fraction
from functools import reduce
from math import gcd, lcm

import numpy as np

from lattice.document.piece import Score
from lattice.render.feel import Feel
from lattice.render.movements import moves_of, stretches
from lattice.render.pipeline import sounding_in
from lattice.render.pitch_context import PitchContext, pitch_context_of
from lattice.render.stages import STAGES, is_decided_by_luck
from lattice.render.stages.stage import Reading, Round
from lattice.steps.lane_steps import LaneSteps

__all__ = ["hits_repeat_after", "moved_period", "period_of"]

_MOST_BARS = 64  # of a round of movements are looked at
_MOST_STRETCHES = 64


def period_of(lane_steps: LaneSteps, feel: Feel, context: PitchContext | None, tick: int) -> Fraction:
    """Return after how many quarters all that a lane plays repeats, exactly; before chance.

    *tick*: when the held keys are looked at. What luck decides repeats with it where that does, and else is left out.
    Raises NeverRepeatsError where luck orders something for ever.
    """
    lane, clock = lane_steps.lane, lane_steps.clock
    reading = Reading(lane_steps, feel, context, tick, sounding_in)
    whole = reduce(Round.met, (stage.repeats(reading) for stage in STAGES))
    lengths = [*whole.quarters]
    if clock.period is not None and clock.cycles_per_run is not None:
        # Every run is like the first, but for what counts cycles.
        lengths.append(clock.period * (whole.cycles // gcd(whole.cycles, clock.cycles_per_run)))
    else:
        steps, hits = hits_repeat_after(lane_steps)
        rounds = whole.hits // gcd(whole.hits, hits) if hits else 1
        lengths.append(lcm(steps * rounds, whole.steps, whole.cycles * clock.cycle) * clock.step)
        lengths += whole.bar_quarters
    if lane.luck_bars and is_decided_by_luck(lane_steps):
        lengths.append(lane.luck_bars * lane_steps.frame.meter.bar_quarters)
    return _common_multiple(lengths)


def _common_multiple(lengths: list[Fraction]) -> Fraction:
    return reduce(
        lambda one, other: Fraction(
            lcm(one.numerator, other.numerator), gcd(one.denominator, other.denominator)
        ),
        lengths,
    )


def hits_repeat_after(lane_steps: LaneSteps) -> tuple[int, int]:
    """Return after how many steps a lane's hits repeat, and how many hits those have that are counted on."""
    if not lane_steps.is_random:
        return lane_steps.hit_cycle.period, lane_steps.hit_cycle.period_hits
    if lane_steps.counts_each_cycle:
        return lane_steps.clock.cycle, 0
    cycles = lane_steps.lane.thin.every if lane_steps.lane.thin else 1
    hits = [
        int(lane_steps.hits_before_at(lane_steps.clock.first_of_cycle(np.array([one])))[0])
        for one in (1, 1 + cycles)
    ]
    return lane_steps.clock.cycle * cycles, hits[1] - hits[0]


def moved_period(lane_steps: LaneSteps, score: Score, tick: int) -> Fraction:
    """Return after how long a lane repeats whose movements loop: with them, and in each stretch of a round of them.

    Raises NeverRepeatsError as `period_of` does.
    """
    loops = [one.loop_bars for one in moves_of(score, lane_steps.lane) if one.loop_bars]
    bars = lcm(*loops)
    # The second round: what held at the first one's end holds until the first point then.
    round_ticks = min(bars, _MOST_BARS) * score.meter.bar_ticks
    lengths = [bars * score.meter.bar_quarters] if loops else []
    for there in stretches(score, lane_steps.dice, lane_steps.lane, round_ticks, 2 * round_ticks)[
        :_MOST_STRETCHES
    ]:
        context = pitch_context_of(there.lane_steps.lane, there.score, lane_steps.dice)
        lengths.append(period_of(there.lane_steps, there.feel, context, tick))
    return _common_multiple(lengths)
