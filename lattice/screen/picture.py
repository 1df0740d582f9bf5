"""Everything that a screen draws of a window, from the same steps that sound."""

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lattice.cache import MEGABYTE, cached
from lattice.document.arpeggio import HeldPool
from lattice.document.chance import LETTERS
from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.document.source import Drawn, Made
from lattice.render.detours import away, has_detours
from lattice.render.events import away_notes, louder_lanes
from lattice.render.feel import feel_of
from lattice.render.held_keys import held_pools
from lattice.render.lane import Layout, Played, PlayedPart
from lattice.render.notes import note_of
from lattice.render.pipeline import REMEMBERED_STEPS, lane_spans, play_all, play_lane
from lattice.render.size import check_movements, check_notes, check_work
from lattice.render.sounding import port_of
from lattice.render.stages.bursts import BurstNotes, awake, burst_ticks
from lattice.render.stages.pitch import degrees_of
from lattice.render.window import Window
from lattice.screen.beads import beads_of
from lattice.screen.benches import bench_of
from lattice.screen.chords import chord_pictures
from lattice.screen.moves import joined, movement_pictures
from lattice.screen.periods import length_of
from lattice.screen.pictures import (
    AwayPicture,
    AwayStretch,
    BurstPicture,
    KeptPicture,
    LanePicture,
    Meeting,
    PropertyName,
    Rendering,
)
from lattice.screen.properties import all_in_the_strip, property_of, shown_values
from lattice.screen.staff import folded_row, staff_of
from lattice.sentence import Speech, busy_word, sentence, standing
from lattice.sentence.detours import say_detour
from lattice.sentence.lengths import say_bars, say_every, say_progression
from lattice.steps.lane_steps import LaneSteps, steps_as, steps_of_lane
from lattice.steps.meeting import CannotTellError, cycle_starts, meeting
from lattice.steps.muting import silent_lanes
from lattice.steps.step_window import StepWindow
from lattice.theory.chords import scale_chords
from lattice.units import TICKS_PER_QUARTER, Ticks, ticks

__all__ = ["lane_picture", "picture"]


def picture(
    score: Score, dice: int, window: Window, chosen: Sequence[str] = (), shown: PropertyName | None = None
) -> Rendering:
    """Return all that is drawn of *window*. Pure, like `render`, whose notes it shows.

    *chosen*: ids of the lanes whose benches are wanted; if there are several, the meeting is of those alone.
    *shown*: the property whose value is wanted at every step.
    Raises DocumentError if the window holds too many steps.
    """
    first, end = window.ticks(score.meter.bar_ticks)
    played = play_all(score, dice, window)
    silent = silent_lanes(score.lanes)
    all_lane_steps = [lane_steps for lane_steps, _ in played]
    of_chosen = [lane_steps for lane_steps in all_lane_steps if lane_steps.lane.id in set(chosen)]
    # What is built here is ours and correct by construction: no second validation of thousands of numbers.
    return Rendering.model_construct(
        first_tick=first,
        end_tick=end,
        bar_ticks=score.meter.bar_ticks,
        beat_ticks=int(score.meter.beat_quarters * TICKS_PER_QUARTER),
        standing=standing(score, dice),
        chords=chord_pictures(score, first, end),
        progression=say_progression(score.progression, score.meter),
        scale_chords=list(scale_chords(score.scale.root, score.scale.semitones)),
        away=_stretches(score, first, end),
        property=property_of(shown) if shown else None,
        lanes=[
            _with_louder(
                _lane_picture(lane_steps, steps, lane_steps.lane.id in silent, score, first, end, shown),
                others,
                score,
            ).model_copy(update={"away": notes})
            for (lane_steps, steps), notes, others in zip(
                played, _away(score, dice, window), louder_lanes(score, played), strict=True
            )
        ],
        benches=[
            bench_of(lane_steps, steps, _inside(lane_steps, steps.step_window, first, end), score, first, end)
            for lane_steps, steps in played
            if lane_steps.lane.id in set(chosen)
        ],
        meeting=_meeting(score, of_chosen if len(of_chosen) > 1 else all_lane_steps, first, end),
    )


def _stretches(score: Score, first: int, end: int) -> list[AwayStretch]:
    return [
        AwayStretch(
            start=max(one.start, first),
            end=min(one.end, end),
            says=say_detour(one.detour, score.lanes),
            by_hand=one.by_hand,
        )
        for one in away(score, first, end)
    ]


def _away(score: Score, dice: int, window: Window) -> list[AwayPicture | None]:
    """Return what detours play in each lane's stead."""
    if not has_detours(score):
        return [None] * len(score.lanes)
    events = away_notes(score, dice, window)
    pictures: list[AwayPicture | None] = []
    for index in range(len(score.lanes)):
        own = events.take(events.lanes == index)
        columns = {name: getattr(own, name).tolist() for name in AwayPicture.model_fields}
        pictures.append(AwayPicture.model_construct(**columns) if len(own) else None)
    return pictures


def lane_picture(score: Score, dice: int, lane_id: str, window: Window) -> LanePicture:
    """Return the picture of one lane alone. Raises DocumentError if there is no such lane, or it has too many notes."""
    lane_steps = steps_of_lane(score, dice, lane_id)
    first, end = window.ticks(score.meter.bar_ticks)
    check_movements(score, first, end)
    asked = lane_spans(lane_steps, score, dice, first, end)
    check_notes(score, asked)
    check_work(score, asked)
    played = play_lane(lane_steps, feel_of(lane_steps.lane, score), score, dice, first, end)
    return _lane_picture(lane_steps, played, False, score, first, end, None)


def _lane_picture(
    lane_steps: LaneSteps,
    played: Played,
    is_silent: bool,
    score: Score,
    first: int,
    end: int,
    shown: PropertyName | None,
) -> LanePicture:
    if played.parts:
        whole = _lane_picture(lane_steps, replace(played, parts=()), is_silent, score, first, end, shown)
        inside = [part for part in played.parts if part.start < end and part.end > first]
        return joined(whole, [_part_picture(part, is_silent, score, first, end, shown) for part in inside])
    asked = (played.layout, is_silent, score.quarters_per_minute, first, end, shown)
    is_short = played.starts.size <= REMEMBERED_STEPS
    picture = _remembered(*asked) if is_short else _draw(*asked)
    steps = played.layout.hits[
        _hits_inside(played.layout, _inside(lane_steps, played.step_window, first, end))
    ]
    return picture.model_copy(
        update={
            "sounds": played.sound[steps].astype(int).tolist(),
            "bursts": _burst_pictures(lane_steps, played.bursts, end),
            "kept": _kept_picture(lane_steps, played, first, end),
            "port": port_of(lane_steps.lane, score.kit),
            "plays_on": note_of(lane_steps.lane, score)[0],
        }
    )


def _with_louder(picture: LanePicture, others: dict[int, int], score: Score) -> LanePicture:
    """Return *picture* with the names of the lanes that are heard instead of its hits. *others*: by the tick."""
    if not others:
        return picture
    begins = picture.onsets or [picture.starts[step] for step in picture.hits]
    names = [score.lanes[others[tick]].name if tick in others else "" for tick in begins]
    return picture.model_copy(update={"louder": names}) if any(names) else picture


def _part_picture(
    part: PlayedPart, is_silent: bool, score: Score, first: int, end: int, shown: PropertyName | None
) -> LanePicture:
    """Return what is drawn of one stretch of a lane whose time movements cut."""
    begin, stop = max(first, part.start), min(end, part.end)
    drawn = _lane_picture(part.lane_steps, part.played, is_silent, score, begin, stop, shown)
    return drawn.model_copy(update={"bursts": [burst for burst in drawn.bursts if burst.start >= part.start]})


@cached(48 * MEGABYTE)
def _remembered(*asked: Any) -> LanePicture:
    return _draw(*asked)


def _draw(
    layout: Layout, is_silent: bool, tempo: Fraction, first: int, end: int, shown: PropertyName | None
) -> LanePicture:
    """Return all of a lane's picture that luck has no part in, or that was laid out by it."""
    step_window, context = layout.step_window, layout.context
    lane_steps = step_window.lane_steps
    lane, clock = lane_steps.lane, lane_steps.clock
    bar = lane_steps.frame.meter.bar_quarters
    inside = _inside(lane_steps, step_window, first, end)
    beads = beads_of(layout, _hits_inside(layout, inside))
    steps = beads.steps
    cycle_starts, cycle_ends = clock.cycles_from(clock.first_at(first), clock.first_at(end))
    pitches = [folded_row(row) for row in beads.pitches]
    return LanePicture.model_construct(
        id=lane.id,
        silent=is_silent,
        steps=lane_steps.steps,
        first_step=int(lane_steps.range[0]),
        last_step=int(lane_steps.range[-1]),
        cycle_hits=_cycle_hits(lane_steps),
        step_ticks=float(clock.step * TICKS_PER_QUARTER),
        cycle_ticks=float(clock.cycle_quarters * TICKS_PER_QUARTER),
        cycle_length=say_bars(clock.cycle_quarters / bar, tempo, bar),
        is_gapped=clock.once,
        follows=lane.source.of if isinstance(lane.source, Made) else None,
        starts=layout.starts[inside].tolist(),
        numbers=step_window.numbers[inside].tolist(),
        hits=(steps - inside.start).tolist(),
        sounds=[],
        velocities=beads.velocities.tolist(),
        lengths=(beads.ends - beads.starts).tolist(),
        chances=(beads.chances / 100).tolist(),
        onsets=_unless_plain(beads.starts, layout.starts[steps]),
        ratchets=_unless_plain(beads.ratchets, 1),
        accents=_unless_plain(beads.are_accents.astype(int), 0),
        ties=_unless_plain(beads.are_tied.astype(int), 0),
        octaves=_unless_plain(beads.octaves, 0),
        letters=[LETTERS[at] if at >= 0 else "" for at in beads.letters.tolist()] if lane.links else [],
        covered=_unless_plain(beads.are_covered.astype(int), 0),
        louder=[],
        bursts=[],
        values=shown_values(step_window, shown)[inside].tolist() if shown else [],
        painted_on=all_in_the_strip(lane_steps) if shown == "chance" else None,
        pitches=pitches,
        degrees=degrees_of(step_window)[steps].tolist() if context else [],
        staff=staff_of(context, (pitch for row in pitches for pitch in row)) if context else None,
        folded=sum(list(row) != now for row, now in zip(beads.pitches, pitches, strict=True)),
        held=_held(lane),
        tone=lane.tone,
        cycle_starts=cycle_starts.tolist(),
        cycle_ends=cycle_ends.tolist(),
        draws=_draws(lane),
        edited=[edit.step for edit in lane.edits if edit.step < lane_steps.steps],
        ruled=_ruled(lane_steps),
        kept=None,
        away=None,
        port="",
        plays_on=0,
        sentence=sentence(Speech(lane_steps, context)),
        busy=busy_word(Speech(lane_steps, context)),
        movements=movement_pictures(lane, first, end, lane_steps.frame.meter.bar_ticks),
    )


def _cycle_hits(lane_steps: LaneSteps) -> list[int]:
    """Return the numbers of the steps that are hits in a lane's first cycle."""
    first_cycle = min(lane_steps.clock.cycle, lane_steps.clock.per_run or lane_steps.clock.cycle)
    hits: list[int] = np.unique(
        lane_steps.numbers(np.arange(first_cycle))[lane_steps.hits(0, first_cycle)]
    ).tolist()
    return hits


def _ruled(lane_steps: LaneSteps) -> list[int]:
    """Return the steps forced by hand that are hits without that."""
    edited = {edit.step for edit in lane_steps.lane.edits}
    if not edited:
        return []
    return [
        hit
        for hit in _cycle_hits(steps_as(lane_steps, lane_steps.lane.model_copy(update={"edits": ()})))
        if hit in edited
    ]


def _hits_inside(layout: Layout, inside: slice) -> NDArray[np.bool_]:
    result: NDArray[np.bool_] = (layout.hits >= inside.start) & (layout.hits < inside.stop)
    return result


def _held(lane: Lane) -> list[int]:
    pool = lane.arpeggio.pool if lane.is_melodic and lane.arpeggio else None
    if not isinstance(pool, HeldPool):
        return []
    pools = held_pools(lane.keys, pool.latch).pools
    return sorted({note.pitch for note in pools[-1]}) if pools else []


def _kept_picture(lane_steps: LaneSteps, played: Played, first: int, end: int) -> KeptPicture | None:
    clip, notes = lane_steps.lane.clip, played.notes
    if clip is None:
        return None
    inside = notes.starts < end
    begins = range(-(-first // clip.length_ticks) * clip.length_ticks, end, clip.length_ticks)
    return KeptPicture.model_construct(
        name=clip.name,
        starts=notes.starts[inside].tolist(),
        lengths=(notes.ends - notes.starts)[inside].tolist(),
        pitches=notes.intervals[inside].tolist(),
        velocities=notes.velocities[inside].tolist(),
        begins=list(begins),
    )


def _inside(lane_steps: LaneSteps, step_window: StepWindow, first: int, end: int) -> slice:
    """Return which of the steps played begin in the window; the rest is there for notes that stray, or cut others."""
    begun = step_window.first
    return slice(lane_steps.clock.first_at(first) - begun, lane_steps.clock.first_at(end) - begun)


def _unless_plain(column: Ticks, plain: Ticks | int) -> list[int]:
    return [] if np.all(column == plain) else column.tolist()


def _burst_pictures(lane_steps: LaneSteps, notes: BurstNotes, end: int) -> list[BurstPicture]:
    pictures = []
    for place, burst in awake(lane_steps):
        mine = np.flatnonzero((notes.bursts == place) & (notes.starts < end))
        # One round after the other, each with its own luck; the first may lie before the window in part.
        is_other = np.diff(notes.rounds[mine]) != 0
        is_other |= np.diff(notes.starts[mine]) > burst_ticks(burst, lane_steps)
        groups = np.split(mine, np.flatnonzero(is_other) + 1)
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
    if not isinstance(lane.source, Drawn) or lane.complement or lane.busy or lane.thin or lane.edits:
        return []
    steps = lane.source.steps
    return [(step - lane.rotate) % steps for step in range(steps)]


def _meeting(score: Score, all_lane_steps: list[LaneSteps], first: int, end: int) -> Meeting:
    of = [lane_steps.lane.id for lane_steps in all_lane_steps]
    if not all_lane_steps:
        return Meeting(says="", at=[], of=of)
    who = (
        "all lanes"
        if len(all_lane_steps) == len(score.lanes)
        else " and ".join(lane_steps.lane.name for lane_steps in all_lane_steps[:2])
    )
    who = who if len(all_lane_steps) in (2, len(score.lanes)) else f"{len(all_lane_steps)} chosen lanes"
    try:
        moments = meeting([cycle_starts(lane_steps.clock) for lane_steps in all_lane_steps])
    except CannotTellError:
        return Meeting(says=f"{who} line up too rarely to say when", at=[], of=of)
    after = moments.next_after(Fraction(0))
    if after is None:
        return Meeting(says=f"{'the lanes' if who == 'all lanes' else who} never line up", at=[], of=of)
    length = length_of(after, score)
    if len(all_lane_steps) == 1:
        says = f"repeats {say_every(*length)}"
    elif 0 in moments.at:
        says = f"{who} line up {say_every(*length)}"
    else:
        says = f"{who} first line up after {say_bars(*length)}"
    within = moments.within(Fraction(first, TICKS_PER_QUARTER), Fraction(end, TICKS_PER_QUARTER))
    return Meeting(says=says, at=[ticks(moment) for moment in within], of=of)
