"""Everything that a screen draws of a window, from the same steps that sound."""

from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache
from typing import Any, Literal, TypeVar

import numpy as np
from pydantic import BaseModel

from lattice.clock.meeting import CannotTellError, cycle_starts, meeting, say_bars
from lattice.clock.ticks import TICKS_PER_QUARTER, Ticks, ticks
from lattice.document.chance import LETTERS
from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.document.source import Drawn, Made
from lattice.document.strip import STRIPS, TIED
from lattice.render.bursts import BurstNotes, awake, burst_ticks
from lattice.render.controls import Controls, controls_of
from lattice.render.events import Events
from lattice.render.feel import feel_of
from lattice.render.notes import silent_lanes
from lattice.render.pipeline import events_of, play_all
from lattice.render.played import REMEMBERED_STEPS, Played, play
from lattice.render.window import Window
from lattice.rhythm.lane_line import LaneLine, line_of
from lattice.rhythm.settle import settled
from lattice.sentence import Field, Part, Sentence, Speech, Word, bench, sentence, standing, strip_words
from lattice.strips.places import StripAt, plain_value, strip_at, strips_of
from lattice.strips.values import own_values, value_places, values_at

__all__ = [
    "Bench",
    "BurstPicture",
    "EventColumns",
    "LanePicture",
    "Meeting",
    "PropertyName",
    "Rendering",
    "StripPicture",
    "lane_picture",
    "picture",
]


Columns = TypeVar("Columns", bound=BaseModel)
PropertyName = Literal["velocity", "chance", "ratchet", "nudge", "length"]


class EventColumns(BaseModel):
    """`lattice.render.Events` as lists: what sounds in the window."""

    lanes: list[int]
    starts: list[int]
    lengths: list[int]
    pitches: list[int]
    velocities: list[int]
    channels: list[int]
    straights: list[int]


class ControlColumns(BaseModel):
    """`lattice.render.controls.Controls` as lists."""

    lanes: list[int]
    ticks: list[int]
    controllers: list[int]
    values: list[int]
    channels: list[int]


class BurstPicture(BaseModel):
    """One burst in the window, in ticks: *place* among the lane's; where its *notes* begin; *sounds*: if it does."""

    place: int
    start: int
    end: int
    notes: list[int]
    velocities: list[int]
    sounds: bool


class LanePicture(BaseModel):
    """A lane in the window. All positions are ticks from the pattern's start.

    *starts*, *numbers*: of every step that begins in the window, its time after swing and its number in the lane;
    *hits*: indices into those, of the hits. Then, hit by hit: *sounds* (1 if dice and cycle rules let it sound),
    *velocities*, *lengths*, *chances* (%); and each of these, or nothing where all are plain: *onsets* (when its first
    note begins), *ratchets* (notes), *accents* (1 for one), *ties* (1 if it lasts until the next hit), *octaves*,
    *letters* (a for linked steps, '' for others), *covered* (1 where a burst plays instead). *values*: what the
    property that was asked for has at each step.

    *cycle_starts*, *cycle_ends*: of the cycles that begin in the window. *steps*: how many step numbers there are;
    *first_step*, *last_step*: the range that takes part. *cycle_hits*: the steps that are hits in the lane's very first
    cycle; *edited*: those forced by hand. *draws*: for each step number, the drawn step that it shows; empty where a
    touch is a hand edit. *comes_round*: the length of its cycle, said. *is_gapped*: whether it is silent between its
    cycles. *follows*: the id of the lane that it is made from.
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
    onsets: list[int]
    ratchets: list[int]
    accents: list[int]
    ties: list[int]
    octaves: list[int]
    letters: list[str]
    covered: list[int]
    bursts: list[BurstPicture]
    values: list[int]
    cycle_starts: list[int]
    cycle_ends: list[int]
    draws: list[int]
    edited: list[int]
    sentence: Sentence


class StripPicture(BaseModel):
    """One strip on the bench. *words*: all that can be set of it beside its values.

    *values*: all of them, from *low* to *high*; *own*: 1 where the strip has one of its own, else the value is *plain*,
    what the lane gives. *places*: which value each step that begins in the window
    has, of a strip that does not go with the lane.
    """

    name: str
    path: str
    low: int
    high: int
    plain: int
    unit: str
    is_free: bool
    is_plain: bool
    values: list[int]
    own: list[int]
    places: list[int]
    words: list[Word]


class Bench(BaseModel):
    """One lane whole: every setting as a field, its strips, when what it plays comes round.

    *settles*: the fields that turn it into a drawn lane that plays the same.
    """

    id: str
    fields: list[Field]
    strips: list[StripPicture]
    comes_round_after: str
    settles: dict[str, object]


class Property(BaseModel):
    """What the whole lattice shows in place of beads: a strip's *name*, its range, and what a step plainly has."""

    name: str
    low: int
    high: int
    unit: str


class Meeting(BaseModel):
    """When lanes begin a cycle together: *says*, and where in the window. *of*: their ids."""

    says: str
    at: list[int]
    of: list[str]


class Rendering(BaseModel):
    """The answer to a score, a dice number and a window. *held*: what controllers hold when it begins."""

    first_tick: int
    end_tick: int
    bar_ticks: int
    beat_ticks: int
    standing: list[Part]
    property: Property | None
    lanes: list[LanePicture]
    benches: list[Bench]
    events: EventColumns
    controls: ControlColumns
    held: ControlColumns
    meeting: Meeting


def picture(
    score: Score, dice: int, window: Window, chosen: Sequence[str] = (), shown: PropertyName | None = None
) -> Rendering:
    """Return all that is drawn and heard of *window*. Pure, like `render`, whose events it carries.

    *chosen*: ids of the lanes whose benches are wanted; if there are several, the meeting is of those alone.
    *shown*: the property whose value is wanted at every step.
    Raises DocumentError if the window holds too many steps.
    """
    first, end = window.ticks(score.meter.bar_ticks)
    played = play_all(score, dice, window)
    silent = silent_lanes(score.lanes)
    lines = [line for line, _ in played]
    sent = controls_of(score, window, played)
    of_chosen = [line for line in lines if line.lane.id in set(chosen)]
    # What is built here is ours and correct by construction: no second validation of thousands of numbers.
    return Rendering.model_construct(
        first_tick=first,
        end_tick=end,
        bar_ticks=score.meter.bar_ticks,
        beat_ticks=int(score.meter.beat_quarters * TICKS_PER_QUARTER),
        standing=standing(score, dice),
        property=_property(shown) if shown else None,
        lanes=[
            _lane_picture(line, steps, line.lane.id in silent, score, first, end, shown)
            for line, steps in played
        ],
        benches=[
            _bench(line, steps, score, first, end) for line, steps in played if line.lane.id in set(chosen)
        ],
        events=_columns(EventColumns, events_of(score, window, played)),
        controls=_columns(ControlColumns, sent.sends),
        held=_columns(ControlColumns, sent.held),
        meeting=_meeting(score, of_chosen if len(of_chosen) > 1 else lines, first, end),
    )


def lane_picture(score: Score, dice: int, lane_id: str, window: Window) -> LanePicture:
    """Return the picture of one lane alone. Raises DocumentError if there is no such lane."""
    line = line_of(score, dice, lane_id)
    first, end = window.ticks(score.meter.bar_ticks)
    played = play(line, feel_of(line.lane, score), first, end)
    return _lane_picture(line, played, False, score, first, end, None)


def _lane_picture(
    line: LaneLine,
    played: Played,
    is_silent: bool,
    score: Score,
    first: int,
    end: int,
    shown: PropertyName | None,
) -> LanePicture:
    asked = (line, played, is_silent, score.quarters_per_minute, first, end, shown)
    return _remembered(*asked) if played.starts.size <= REMEMBERED_STEPS else _draw(*asked)


@lru_cache(maxsize=256)
def _remembered(*asked: Any) -> LanePicture:
    return _draw(*asked)


def _draw(
    line: LaneLine,
    played: Played,
    is_silent: bool,
    tempo: Fraction,
    first: int,
    end: int,
    shown: PropertyName | None,
) -> LanePicture:
    lane, course = line.lane, line.course
    bar = line.frame.meter.bar_quarters
    inside = _inside(line, played, first, end)
    hits = played.hits
    which = (hits.steps >= inside.start) & (hits.steps < inside.stop)
    steps = hits.steps[which]
    starts = played.starts[inside]
    first_cycle = min(course.cycle, course.per_run or course.cycle)
    cycle_starts, cycle_ends = course.cycles_from(course.first_at(first), course.first_at(end))
    accents, ties = hits.accented[which], hits.lengths[which] == TIED
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
        numbers=played.stretch.numbers[inside].tolist(),
        hits=(steps - inside.start).tolist(),
        sounds=hits.sound[which].astype(int).tolist(),
        velocities=hits.velocities[which].tolist(),
        lengths=(hits.ends[which] - hits.starts[which]).tolist(),
        chances=(hits.chances[which] / 100).tolist(),
        onsets=_unless_plain(hits.starts[which], played.starts[steps]),
        ratchets=_unless_plain(hits.ratchets[which], 1),
        accents=_unless_plain(accents.astype(int), 0),
        ties=_unless_plain(ties.astype(int), 0),
        octaves=_unless_plain(hits.octaves[which], 0),
        letters=[LETTERS[at] if at >= 0 else "" for at in hits.letters[which].tolist()] if lane.links else [],
        covered=_unless_plain(hits.covered[which].astype(int), 0),
        bursts=_burst_pictures(line, played.bursts, end),
        values=_values(line, played, shown)[inside].tolist() if shown else [],
        cycle_starts=cycle_starts.tolist(),
        cycle_ends=cycle_ends.tolist(),
        draws=_draws(lane),
        edited=[edit.step for edit in lane.edits if edit.step < line.steps],
        sentence=sentence(Speech(line)),
    )


def _inside(line: LaneLine, played: Played, first: int, end: int) -> slice:
    """Return which of the steps played begin in the window; the rest is there for notes that stray, or cut others."""
    begun = played.stretch.first
    return slice(line.course.first_at(first) - begun, line.course.first_at(end) - begun)


def _unless_plain(column: Ticks, plain: Ticks | int) -> list[int]:
    return [] if np.all(column == plain) else column.tolist()


def _values(line: LaneLine, played: Played, shown: PropertyName) -> Ticks:
    at = strip_at(line.lane, shown)
    return values_at(at.strip, at.kind, played.stretch, plain_value(at, line.lane))


def _property(shown: PropertyName) -> Property:
    kind = STRIPS[shown]
    return Property(name=shown, low=kind.low, high=kind.high, unit=kind.unit)


def _burst_pictures(line: LaneLine, notes: BurstNotes, end: int) -> list[BurstPicture]:
    pictures = []
    for place, burst in awake(line.lane, line.frame):
        mine = np.flatnonzero((notes.bursts == place) & (notes.starts < end))
        # One of a pass after the other; the first may lie before the window in part.
        groups = np.split(
            mine, np.flatnonzero(np.diff(notes.starts[mine]) > burst_ticks(burst, line.frame)) + 1
        )
        pictures += [
            BurstPicture(
                place=place,
                start=int(notes.starts[group[0]]),
                end=int(notes.ends[group[-1]]),
                notes=notes.starts[group].tolist(),
                velocities=notes.velocities[group].tolist(),
                sounds=bool(notes.sound[group[0]]),
            )
            for group in groups
            if group.size
        ]
    return pictures


def _draws(lane: Lane) -> list[int]:
    # Only where a drawn step is what is heard: elsewhere a touch means the result, which a hand edit turns.
    if not isinstance(lane.source, Drawn) or lane.complement or lane.thin or lane.edits:
        return []
    steps = lane.source.steps
    return [(step - lane.rotate) % steps for step in range(steps)]


def _bench(line: LaneLine, played: Played, score: Score, first: int, end: int) -> Bench:
    inside = _inside(line, played, first, end)
    return Bench.model_construct(
        id=line.lane.id,
        fields=bench(Speech(line)),
        strips=[_strip_picture(at, line, played, inside) for at in strips_of(line.lane)],
        comes_round_after=_comes_round_after(line, score),
        settles=settled(line),
    )


def _strip_picture(at: StripAt, line: LaneLine, played: Played, inside: slice) -> StripPicture:
    strip = at.present
    plain = plain_value(at, line.lane)
    values = own_values(strip, line.steps, plain)
    own = [int(value is not None) for value in strip.values[: values.size]]
    return StripPicture.model_construct(
        name=at.name,
        path=at.path,
        low=at.kind.low,
        high=at.kind.high,
        plain=plain,
        unit=at.kind.unit,
        is_free=strip.free is not None,
        is_plain=at.strip is None,
        values=values.tolist(),
        own=own + [0] * (values.size - len(own)),
        places=value_places(strip, at.kind, played.stretch)[inside].tolist() if strip.free else [],
        words=strip_words(at),
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


def _columns(model: type[Columns], of: Events | Controls) -> Columns:
    return model.model_construct(**{name: getattr(of, name).tolist() for name in model.model_fields})


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
