"""One lane in a stretch of time: what it is laid out as, and what it plays of that by some dice."""

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.cache import MEGABYTE, cached
from lattice.document.lane import Lane
from lattice.render.feel import Feel
from lattice.render.notes import Notes
from lattice.render.pitch_context import PitchContext
from lattice.render.stages import earliest_and_latest, longest_note
from lattice.render.stages.bursts import BurstNotes
from lattice.render.stages.length import MAX_TIE_BARS, may_tie
from lattice.render.stages.pitch import Pitched
from lattice.render.stages.times import NoteTimes
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.step_window import StepWindow
from lattice.units import Ticks

__all__ = [
    "Layout",
    "Played",
    "PlayedPart",
    "Span",
    "moves_pitch",
    "reach",
]


class Span(NamedTuple):
    """Steps *first* to before *end* are looked at; notes that begin from *first_tick* to before *end_tick* are played.

    *exactly*: with times that are not rounded yet, beside the others.
    """

    first: int
    end: int
    first_tick: int
    end_tick: int
    exactly: bool


@dataclass(frozen=True, eq=False)  # known by what it is, not by comparing its columns
class Layout:
    """What a lane would play if every hit sounded, bursts apart: the same for all dice, unless luck moves it.

    *step_window*: the steps that were looked at; *starts*: when they begin after swing, in ticks; *chances*: of each;
    *may_sound*: which of them neither a burst nor an empty pool silences. *hits*: the steps that are hits, by their
    index; *pitches* and *times*: of their notes. *note_of_pitch*: which of *times* each pitch sounds in, *velocities*:
    how hard it is struck. *notes*: those that begin in the ticks of *span*, *of*: the step, by its index, of each.
    """

    step_window: StepWindow
    feel: Feel
    context: PitchContext | None
    span: Span
    starts: Ticks
    chances: Ticks
    may_sound: NDArray[np.bool_]
    hits: Ticks
    pitches: Pitched
    times: NoteTimes
    note_of_pitch: Ticks
    velocities: Ticks
    of: Ticks
    notes: Notes

    @property
    def weighs(self) -> int:
        """About how many bytes it takes."""
        return self.step_window.weighs + 100 * self.hits.size + 120 * self.velocities.size


@dataclass(frozen=True, eq=False)
class Played:
    """What a lane plays by some dice. *layout*: what was laid out; *step_window*: as there, by these.

    *sound*: which of its steps sound, if they are hits. *parts*: what it plays in each stretch, where movements cut its
    time; only *notes* takes them into account.
    """

    layout: Layout
    step_window: StepWindow
    sound: NDArray[np.bool_]
    bursts: BurstNotes
    notes: Notes
    parts: "tuple[PlayedPart, ...]" = ()

    @property
    def context(self) -> PitchContext | None:
        """Where its pitches come from."""
        return self.layout.context

    @property
    def starts(self) -> Ticks:
        """When the steps begin after swing, in ticks."""
        return self.layout.starts

    @property
    def weighs(self) -> int:
        """About how many bytes it takes beside its layout."""
        return 1000 + self.sound.size + 60 * (self.notes.starts.size + self.bursts.starts.size)


@dataclass(frozen=True, eq=False)
class PlayedPart:
    """What a lane plays from tick *start* to before *end*, and perhaps around; there it is the lane of *lane_steps*."""

    start: int
    end: int
    lane_steps: LaneSteps
    played: Played


def reach(lane_steps: LaneSteps, feel: Feel, end_tick: int) -> int:
    """Return for how long after *end_tick* a note of the lane may last that begins before, in ticks."""
    return _reach(lane_steps if lane_steps.is_random else lane_steps.laid, feel, end_tick)


@cached(8 * MEGABYTE)
def _reach(lane_steps: LaneSteps, feel: Feel, end_tick: int) -> int:
    longest = longest_note(lane_steps, feel)
    if may_tie(lane_steps):
        early, late = earliest_and_latest(lane_steps, feel)
        most = MAX_TIE_BARS * lane_steps.frame.meter.bar_ticks
        # The first hit whose note cannot begin before: what begins before is tied to it at the latest.
        following = lane_steps.next_hit(lane_steps.clock.first_at(end_tick + early))
        if following is not None:
            most = min(most, int(lane_steps.clock.starts(np.array([following]))[0]) + late - end_tick)
        longest = max(longest, most)
    return longest


def moves_pitch(lane: Lane) -> bool:
    """Return whether notes of *lane* may differ in pitch."""
    return lane.is_melodic or lane.octave_strip is not None
