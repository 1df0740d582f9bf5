"""Everything that a screen draws of a window, from the same steps that sound."""

from fractions import Fraction

import numpy as np
from pydantic import BaseModel

from lattice.clock.meeting import meeting, say_bars
from lattice.clock.ticks import TICKS_PER_QUARTER, Ticks, first_step_at, step_ticks
from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.document.source import Drawn
from lattice.render.events import Events
from lattice.render.pipeline import events_of, play_all, silent_lanes
from lattice.render.played import Cycle, Played, hits_at, settled
from lattice.render.window import Window
from lattice.sentence import Part, Sentence, sentence, standing

__all__ = ["EventColumns", "LanePicture", "Meeting", "Rendering", "picture"]


class EventColumns(BaseModel):
    """`lattice.render.Events` as lists: what sounds in the window."""

    lanes: list[int]
    starts: list[int]
    lengths: list[int]
    pitches: list[int]
    velocities: list[int]
    channels: list[int]


class LanePicture(BaseModel):
    """A lane in the window. All positions are ticks from the pattern's start.

    *starts*, *places*: of every step that begins in the window, its time and its number in the cycle;
    *hits*: indices into those, of the hits; then, hit by hit, *sounds* (1 if the dice let it sound),
    *velocities*, *lengths* and *chances* (%). *cycle_starts*: where a cycle begins in the window.
    *cycle_hits*: the steps that are hits in the lane's very first cycle; *edited*: those forced by hand.
    *draws*: for each step number, the drawn step that it shows; empty where a touch is a hand edit.
    """

    id: str
    silent: bool
    steps: int
    cycle_hits: list[int]
    step_ticks: float
    cycle_ticks: float
    comes_round: str
    starts: list[int]
    places: list[int]
    hits: list[int]
    sounds: list[int]
    velocities: list[int]
    lengths: list[int]
    chances: list[int]
    cycle_starts: list[int]
    draws: list[int]
    edited: list[int]
    sentence: Sentence


class Meeting(BaseModel):
    """When all lanes begin a cycle together: *says*, and where in the window."""

    says: str
    at: list[int]


class Rendering(BaseModel):
    """The answer to a score, a dice number and a window."""

    first_tick: int
    end_tick: int
    bar_ticks: int
    beat_ticks: int
    standing: list[Part]
    lanes: list[LanePicture]
    events: EventColumns
    meeting: Meeting


def picture(score: Score, dice: int, window: Window) -> Rendering:
    """Return all that is drawn and heard of *window*. Pure, like `render`, whose events it carries.

    Raises DocumentError if the window holds too many steps.
    """
    first, end = window.ticks(score.meter.bar_ticks)
    played = play_all(score, dice, window)
    silent = silent_lanes(score.lanes)
    # What is built here is ours and correct by construction: no second validation of thousands of numbers.
    return Rendering.model_construct(
        first_tick=first,
        end_tick=end,
        bar_ticks=score.meter.bar_ticks,
        beat_ticks=int(score.meter.beat_quarters * TICKS_PER_QUARTER),
        standing=standing(score, dice),
        lanes=[
            _lane_picture(lane, cycle, steps, lane.id in silent, score, window)
            for lane, cycle, steps in played
        ],
        events=_columns(events_of(score, window, played)),
        meeting=_meeting(score, [cycle for _, cycle, _ in played], first, end),
    )


def _lane_picture(
    lane: Lane, cycle: Cycle, played: Played, is_silent: bool, score: Score, window: Window
) -> LanePicture:
    first, end = window.ticks(score.meter.bar_ticks)
    inside = int(np.searchsorted(played.starts, end))  # the rest is there only to cut notes
    hits = np.flatnonzero(played.hit[:inside])
    starts = played.starts[:inside]
    return LanePicture.model_construct(
        id=lane.id,
        silent=is_silent,
        steps=cycle.steps,
        cycle_hits=np.flatnonzero(hits_at(lane, cycle, np.arange(cycle.steps))).tolist(),
        step_ticks=float(cycle.step * TICKS_PER_QUARTER),
        cycle_ticks=float(cycle.quarters * TICKS_PER_QUARTER),
        comes_round=_say(cycle.quarters, score),
        starts=starts.tolist(),
        places=played.places[:inside].tolist(),
        hits=hits.tolist(),
        sounds=played.sound[hits].astype(int).tolist(),
        velocities=[lane.velocity] * hits.size,
        lengths=(played.ends[hits] - starts[hits]).tolist(),
        chances=[lane.chance_percent] * hits.size,
        cycle_starts=_multiples(cycle.quarters, first, end).tolist(),
        draws=_draws(lane),
        edited=[edit.step for edit in lane.edits if edit.step < cycle.steps],
        sentence=sentence(lane, settled(lane, cycle), score.step_value),
    )


def _draws(lane: Lane) -> list[int]:
    # Only where a drawn step is what is heard: elsewhere a touch means the result, which a hand edit turns.
    if not isinstance(lane.source, Drawn) or lane.complement or lane.thin or lane.edits:
        return []
    steps = lane.source.steps
    return [(step - lane.rotate) % steps for step in range(steps)]


def _columns(events: Events) -> EventColumns:
    return EventColumns.model_construct(
        **{name: getattr(events, name).tolist() for name in EventColumns.model_fields}
    )


def _meeting(score: Score, cycles: list[Cycle], first: int, end: int) -> Meeting:
    if not cycles:
        return Meeting(says="", at=[])
    after = meeting([cycle.quarters for cycle in cycles])
    said = _say(after, score)
    says = f"comes round after {said}" if len(cycles) == 1 else f"all meet again after {said}"
    return Meeting(says=says, at=_multiples(after, first, end).tolist())


def _say(quarters: Fraction, score: Score) -> str:
    bar = score.meter.bar_quarters
    return say_bars(quarters / bar, score.quarters_per_minute, bar)


def _multiples(quarters: Fraction, first: int, end: int) -> Ticks:
    numbers = np.arange(first_step_at(first, quarters), first_step_at(end, quarters), dtype=np.int64)
    return step_ticks(numbers, quarters)
