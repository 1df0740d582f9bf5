"""Takes: bars of a score by dice numbers, made again whenever they are asked for."""

from typing import NamedTuple

import numpy as np
from pydantic import BaseModel

from lattice.clips.clip import Clip, Track
from lattice.clips.keep import Kept, Tape, keep_bars, make_clip
from lattice.clips.undisturbed import undisturbed
from lattice.document.piece import Score
from lattice.document.problems import DocumentError
from lattice.render.events import furthest_from_steps
from lattice.render.stages import is_decided_by_luck
from lattice.render.window import MAX_BARS, Window
from lattice.steps.lane_steps import steps_of_lanes
from lattice.steps.measures import distance, syncopation
from lattice.steps.muting import silent_lanes
from lattice.steps.throwing import throw_all
from lattice.units import TICKS_PER_QUARTER, Ticks

__all__ = [
    "MAX_TAKES",
    "MAX_TAKE_BARS",
    "Differences",
    "TakeMeasures",
    "Taken",
    "differences",
    "is_lucky",
    "take",
    "take_clip",
    "varied",
]

MAX_TAKES = 64  # at once
MAX_TAKE_BARS = 64


class TakeMeasures(BaseModel):
    """*hits_a_bar*: those that sounded; *syncopation*: 0-1, weighted by hits; *distance* from the first: 0-1."""

    notes: int
    hits_a_bar: float
    syncopation: float
    distance: float


class Taken(NamedTuple):
    """A take as it sounded, undisturbed: what is *kept* of the *tape*; each lane's steps and hits, in ticks, in *rows*.

    *score*, *dice*, *lanes*: what it is of; *lanes* is None for all.
    """

    kept: Kept
    tape: Tape
    rows: list[tuple[Ticks, Ticks]]
    score: Score
    dice: int
    lanes: tuple[str, ...] | None

    @property
    def tracks(self) -> tuple[Track, ...]:
        """Return what was kept of each lane, with the sound that the lane has."""
        return self.kept.sounding(self.score, self.score.meter.bar_ticks)

    def measures(self, first: "Taken") -> TakeMeasures:
        """Return how busy and how syncopated it is, and how far from the *first* of the same lanes and bars."""
        bar = self.score.meter.bar_ticks
        begin, end = self.kept.first_bar * bar, (self.kept.first_bar + self.kept.bars) * bar
        hits = [hits for _, hits in self.rows]
        counts = np.array([one.size for one in hits])
        measured = [
            syncopation(one - begin, end - begin, self.score.meter, _finest(steps))
            for steps, one in self.rows
        ]
        total = int(counts.sum())
        return TakeMeasures(
            notes=sum(len(track.notes) for track in self.kept.tracks),
            hits_a_bar=total / self.kept.bars,
            syncopation=float(np.dot(measured, counts) / total) if total else 0.0,
            distance=distance(self.rows, first.rows),
        )


def take(score: Score, dice: int, window: Window, lanes: tuple[str, ...] | None = None) -> Taken:
    """Return the take of *score* by *dice* over *window*; of the chosen *lanes*, or of all that are not muted.

    Raises DocumentError if a lane is chosen that is not there, or the window holds too many steps.
    """
    alone = _only(score, lanes)
    tape = undisturbed(alone, dice, _heard(alone, dice, window))
    kept = keep_bars(tape, window.first_bar, window.first_bar + window.bars, most=window.bars)
    first, end = window.ticks(score.meter.bar_ticks)
    rows = []
    for lane_steps, track in zip(steps_of_lanes(alone, dice), tape.tracks, strict=True):
        steps = lane_steps.clock.starts(
            np.arange(lane_steps.clock.first_at(first), lane_steps.clock.first_at(end))
        )
        hits = np.unique(np.array(track.straights, np.int64))
        hits = hits[(hits >= first) & (hits < end)]
        rows.append((np.union1d(steps, hits), hits))
    return Taken(kept, tape, rows, score, dice, lanes)


def is_lucky(score: Score, lanes: tuple[str, ...] | None = None) -> bool:
    """Return whether dice have a say in what the chosen *lanes* play, or all that are not muted."""
    alone = _only(score, lanes)
    silent = silent_lanes(alone.lanes)
    return any(
        is_decided_by_luck(lane_steps)
        for lane_steps in steps_of_lanes(alone, 0)
        if lane_steps.lane.id not in silent
    )


def varied(score: Score, percent: int, number: int) -> Score:
    """Return what the take of that *number* is of: from the second on, *percent* of the hits moved by a throw.

    The throw has the take's number; anchored lanes stay as they are, and those made from others follow.
    """
    if number == 1 or percent == 0:
        return score
    sources = throw_all(score, percent, number)
    lanes = (lane.model_copy(update={"source": sources.get(lane.id, lane.source)}) for lane in score.lanes)
    return score.model_copy(update={"lanes": tuple(lanes)})


def take_clip(taken: Taken, piece: str, pattern: str) -> Clip:
    """Return a take as a clip, called by where it came from."""
    return make_clip(
        taken.kept, taken.tape, taken.score, taken.dice, piece=piece, pattern=pattern, lanes=taken.lanes
    )


class Differences(BaseModel):
    """The places, track by track, of the notes that only one of two takes has."""

    only_one: list[list[int]]
    only_other: list[list[int]]


def differences(one: tuple[Track, ...], other: tuple[Track, ...]) -> Differences:
    """Return what differs between two takes of the same lanes: notes are the same that begin together at one pitch."""
    theirs = {track.lane_id: {(note.start, note.pitch) for note in track.notes} for track in other}
    ours = {track.lane_id: {(note.start, note.pitch) for note in track.notes} for track in one}
    return Differences(
        only_one=[_without(track, theirs.get(track.lane_id, set())) for track in one],
        only_other=[_without(track, ours.get(track.lane_id, set())) for track in other],
    )


def _without(track: Track, known: set[tuple[int, int]]) -> list[int]:
    return [at for at, note in enumerate(track.notes) if (note.start, note.pitch) not in known]


def _heard(score: Score, dice: int, window: Window) -> Window:
    """Return what has to sound for all hits of *window* to be heard: more where notes leave their steps."""
    first, end = window.ticks(score.meter.bar_ticks)
    bars = -(-furthest_from_steps(score, dice, first, end) // score.meter.bar_ticks)
    before = min(bars, window.first_bar)
    after = min(bars, MAX_BARS - window.first_bar - window.bars)
    return Window(first_bar=window.first_bar - before, bars=before + window.bars + after)


def _only(score: Score, lanes: tuple[str, ...] | None) -> Score:
    """Return *score* with all lanes but those chosen muted; chosen ones sound even if they were muted."""
    if lanes is None:
        return score
    for lane_id in lanes:
        score.lane(lane_id)
    if not lanes:
        raise DocumentError.of("lanes", "choose at least one lane")
    return score.model_copy(
        update={
            "lanes": tuple(
                lane.model_copy(update={"mute": lane.id not in lanes, "solo": False}) for lane in score.lanes
            )
        }
    )


def _finest(steps: Ticks) -> int:
    """Return the length of the finest level that counts: the shortest step, in ticks."""
    return max(1, int(np.diff(steps).min(initial=TICKS_PER_QUARTER)))
