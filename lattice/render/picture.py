"""Everything that a screen draws of a window, from the same steps that sound."""

from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache
from typing import Any

import numpy as np
from pydantic import BaseModel

from lattice.clock.meeting import CannotTellError, cycle_starts, meeting, say_bars
from lattice.clock.ticks import TICKS_PER_QUARTER, ticks
from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.document.source import Drawn, Made
from lattice.render.events import Events
from lattice.render.pipeline import events_of, play_all, silent_lanes
from lattice.render.played import REMEMBERED_STEPS, Played, play
from lattice.render.window import Window
from lattice.rhythm.lane_line import LaneLine, line_of
from lattice.rhythm.settle import settled
from lattice.sentence import Field, Part, Sentence, Speech, bench, sentence, standing

__all__ = ["Bench", "EventColumns", "LanePicture", "Meeting", "Rendering", "lane_picture", "picture"]


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

    *starts*, *numbers*: of every step that begins in the window, its time and its number in the lane; *hits*: indices
    into those, of the hits; then, hit by hit, *sounds* (1 if the dice let it sound), *velocities*, *lengths* and
    *chances* (%). *cycle_starts*, *cycle_ends*: of the cycles that begin in the window. *steps*: how many step numbers
    there are; *first_step*, *last_step*: the range that takes part. *cycle_hits*: the steps that are hits in the lane's
    very first cycle; *edited*: those forced by hand. *draws*: for each step number, the drawn step that it shows;
    empty where a touch is a hand edit. *comes_round*: the length of its cycle, said. *is_gapped*: whether it is silent
    between its cycles. *follows*: the id of the lane that it is made from.
    """

    id: str
    silent: bool
    steps: int
    first_step: int
    last_step: int
    cycle_hits: list[int]
    step_ticks: float
    cycle_ticks: float
    comes_round: str
    is_gapped: bool
    follows: str | None
    starts: list[int]
    numbers: list[int]
    hits: list[int]
    sounds: list[int]
    velocities: list[int]
    lengths: list[int]
    chances: list[float]
    cycle_starts: list[int]
    cycle_ends: list[int]
    draws: list[int]
    edited: list[int]
    sentence: Sentence


class Bench(BaseModel):
    """One lane whole: every setting as a field, the chance of each step, when what it plays comes round.

    *settles*: the fields that turn it into a drawn lane that plays the same.
    """

    id: str
    fields: list[Field]
    step_chances: list[int]
    comes_round_after: str
    settles: dict[str, object]


class Meeting(BaseModel):
    """When lanes begin a cycle together: *says*, and where in the window. *of*: their ids."""

    says: str
    at: list[int]
    of: list[str]


class Rendering(BaseModel):
    """The answer to a score, a dice number and a window."""

    first_tick: int
    end_tick: int
    bar_ticks: int
    beat_ticks: int
    standing: list[Part]
    lanes: list[LanePicture]
    benches: list[Bench]
    events: EventColumns
    meeting: Meeting


def picture(score: Score, dice: int, window: Window, chosen: Sequence[str] = ()) -> Rendering:
    """Return all that is drawn and heard of *window*. Pure, like `render`, whose events it carries.

    *chosen*: ids of the lanes whose benches are wanted; if there are several, the meeting is of those alone.
    Raises DocumentError if the window holds too many steps.
    """
    first, end = window.ticks(score.meter.bar_ticks)
    played = play_all(score, dice, window)
    silent = silent_lanes(score.lanes)
    lines = [line for line, _ in played]
    of_chosen = [line for line in lines if line.lane.id in set(chosen)]
    # What is built here is ours and correct by construction: no second validation of thousands of numbers.
    return Rendering.model_construct(
        first_tick=first,
        end_tick=end,
        bar_ticks=score.meter.bar_ticks,
        beat_ticks=int(score.meter.beat_quarters * TICKS_PER_QUARTER),
        standing=standing(score, dice),
        lanes=[
            _lane_picture(line, steps, line.lane.id in silent, score, first, end) for line, steps in played
        ],
        benches=[_bench(line, score) for line in of_chosen],
        events=_columns(events_of(score, window, played)),
        meeting=_meeting(score, of_chosen if len(of_chosen) > 1 else lines, first, end),
    )


def lane_picture(score: Score, dice: int, lane_id: str, window: Window) -> LanePicture:
    """Return the picture of one lane alone. Raises DocumentError if there is no such lane."""
    line = line_of(score, dice, lane_id)
    first, end = window.ticks(score.meter.bar_ticks)
    return _lane_picture(line, play(line, first, end), False, score, first, end)


def _lane_picture(
    line: LaneLine, played: Played, is_silent: bool, score: Score, first: int, end: int
) -> LanePicture:
    if played.starts.size <= REMEMBERED_STEPS:
        return _remembered(line, played, is_silent, score.quarters_per_minute, first, end)
    return _draw(line, played, is_silent, score.quarters_per_minute, first, end)


@lru_cache(maxsize=256)
def _remembered(*asked: Any) -> LanePicture:
    return _draw(*asked)


def _draw(
    line: LaneLine, played: Played, is_silent: bool, tempo: Fraction, first: int, end: int
) -> LanePicture:
    lane, course = line.lane, line.course
    bar = line.frame.meter.bar_quarters
    inside = int(np.searchsorted(played.starts, end))  # the rest is there only to cut notes
    hits = np.flatnonzero(played.hit[:inside])
    starts = played.starts[:inside]
    first_cycle = min(course.cycle, course.per_run or course.cycle)
    cycle_starts, cycle_ends = course.cycles_from(course.first_at(first), course.first_at(end))
    return LanePicture.model_construct(
        id=lane.id,
        silent=is_silent,
        steps=line.steps,
        first_step=int(line.range[0]),
        last_step=int(line.range[-1]),
        cycle_hits=np.unique(line.numbers(np.arange(first_cycle))[line.hits(0, first_cycle)]).tolist(),
        step_ticks=float(course.step * TICKS_PER_QUARTER),
        cycle_ticks=float(course.cycle_quarters * TICKS_PER_QUARTER),
        comes_round=say_bars(course.cycle_quarters / bar, tempo, bar),
        is_gapped=course.once,
        follows=lane.source.of if isinstance(lane.source, Made) else None,
        starts=starts.tolist(),
        numbers=played.numbers[:inside].tolist(),
        hits=hits.tolist(),
        sounds=played.sound[hits].astype(int).tolist(),
        velocities=[lane.velocity] * hits.size,
        lengths=(played.ends[hits] - starts[hits]).tolist(),
        chances=(played.chances[hits] / 100).tolist(),
        cycle_starts=cycle_starts.tolist(),
        cycle_ends=cycle_ends.tolist(),
        draws=_draws(lane),
        edited=[edit.step for edit in lane.edits if edit.step < line.steps],
        sentence=sentence(Speech(line)),
    )


def _draws(lane: Lane) -> list[int]:
    # Only where a drawn step is what is heard: elsewhere a touch means the result, which a hand edit turns.
    if not isinstance(lane.source, Drawn) or lane.complement or lane.thin or lane.edits:
        return []
    steps = lane.source.steps
    return [(step - lane.rotate) % steps for step in range(steps)]


def _bench(line: LaneLine, score: Score) -> Bench:
    chances = {chance.step: chance.percent for chance in line.lane.step_chances}
    return Bench.model_construct(
        id=line.lane.id,
        fields=bench(Speech(line)),
        step_chances=[chances.get(step, 100) for step in range(line.steps)],
        comes_round_after=_comes_round_after(line, score),
        settles=settled(line),
    )


def _comes_round_after(line: LaneLine, score: Score) -> str:
    """Say after how long its hits come round, before chance."""
    course = line.course
    if line.is_lucky and not line.lane.luck_bars:
        return "never: luck decides its order"
    if course.period is not None:
        return _say(course.period, score)
    if line.is_lucky:
        return _say(course.cycle_quarters, score)
    return _say(line.line.period * course.step, score)


def _columns(events: Events) -> EventColumns:
    return EventColumns.model_construct(
        **{name: getattr(events, name).tolist() for name in EventColumns.model_fields}
    )


def _meeting(score: Score, lines: list[LaneLine], first: int, end: int) -> Meeting:
    of = [line.lane.id for line in lines]
    if not lines:
        return Meeting(says="", at=[], of=of)
    who = "all" if len(lines) == len(score.lanes) else " and ".join(line.lane.name for line in lines[:2])
    who = who if len(lines) in (2, len(score.lanes)) else f"{len(lines)} chosen lanes"
    try:
        moments = meeting([cycle_starts(line.course) for line in lines])
    except CannotTellError:
        return Meeting(says=f"{who} meet too rarely to say when", at=[], of=of)
    after = moments.next_after(Fraction(0))
    if after is None:
        return Meeting(
            says=f"{'the lanes' if who == 'all' else who} never begin a cycle together", at=[], of=of
        )
    again = "again " if 0 in moments.at else ""
    says = (
        f"comes round after {_say(after, score)}"
        if len(lines) == 1
        else f"{who} meet {again}after {_say(after, score)}"
    )
    within = moments.within(Fraction(first, TICKS_PER_QUARTER), Fraction(end, TICKS_PER_QUARTER))
    return Meeting(says=says, at=[ticks(moment) for moment in within], of=of)


def _say(quarters: Fraction, score: Score) -> str:
    bar = score.meter.bar_quarters
    return say_bars(quarters / bar, score.quarters_per_minute, bar)
