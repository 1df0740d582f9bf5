"""Adding, moving and deleting single notes, and giving them exact values."""

from collections import Counter
from typing import Annotated, Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from lattice.clips.clip import MAX_TRACKS, Clip
from lattice.clips.edits.action import By, ClipAction, Pitch, Place, Velocity, said_notes
from lattice.clips.sheet import Sheet, step_parts
from lattice.clips.sounds import plays_drums
from lattice.document.base import Row
from lattice.document.notes import MAX_NOTES, Tuned
from lattice.document.problems import DocumentError
from lattice.document.step_value import StepValue
from lattice.theory.scales import folded
from lattice.units import half_up

__all__ = ["Add", "CopiedNote", "Delete", "Move", "Paste", "Resize", "SetNotes", "Transpose"]

MAX_STEPS_MOVED = 100_000
TrackNumber = Annotated[int, Field(ge=0, lt=MAX_TRACKS)]


class Add(ClipAction):
    """A note where a hand pointed: on the step of the grid that holds *tick*; without a *step*, at the tick itself.

    *pitch*: none for what the track plays plainly; *length*: none for a step.
    """

    kind: Literal["add"] = "add"
    track: TrackNumber
    tick: Place
    step: StepValue | None = None
    pitch: Pitch | None = None
    length: Annotated[int | None, Field(ge=1)] = None
    velocity: Velocity = 100

    def apply(self, sheet: Sheet) -> Sheet:
        _check_track(sheet.clip, self.track)
        numerator, denominator = step_parts(self.step or StepValue())
        start = self.tick
        if self.step:
            start = half_up(start * denominator // numerator * numerator, denominator)
        pitch = plain_pitch(sheet.clip, self.track) if self.pitch is None else self.pitch
        length = self.length or max(1, numerator // denominator)
        row = [np.array([one]) for one in (self.track, start, length, pitch, self.velocity, 0)]
        return _alone(sheet).joined(Sheet.rows(sheet.clip, row, np.ones(1, bool)))

    def label(self, sheet: Sheet) -> str:
        return f"A note on {sheet.clip.tracks[self.track].lane}"


class Delete(ClipAction):
    """Deletes the chosen notes; none if none is chosen."""

    kind: Literal["delete"] = "delete"

    def apply(self, sheet: Sheet) -> Sheet:
        if not sheet.chosen.any():
            raise DocumentError.of("chosen", "choose the notes first that are to go")
        return sheet.take(~sheet.chosen)

    def label(self, sheet: Sheet) -> str:
        return f"{said_notes(sheet.meant_count)} deleted"


class Move(ClipAction):
    """Moves notes by *steps* of the grid plus *ticks*, *rows* of tracks down, *semitones* up.

    Notes move together: the first one to reach an edge stops all. On another track they play what that plays plainly.
    """

    kind: Literal["move"] = "move"
    steps: Annotated[int, Field(ge=-MAX_STEPS_MOVED, le=MAX_STEPS_MOVED)] = 0
    step: StepValue = StepValue()
    ticks: By = 0
    rows: Annotated[int, Field(gt=-MAX_TRACKS, lt=MAX_TRACKS)] = 0
    semitones: Annotated[int, Field(ge=-127, le=127)] = 0

    def apply(self, sheet: Sheet) -> Sheet:
        meant = sheet.meant
        if not meant.any():
            return sheet
        starts, tracks, pitches = sheet.starts[meant], sheet.tracks[meant], sheet.pitches[meant]
        by = _between(_ticks_of(self.steps, self.step) + self.ticks, starts, sheet.clip.length_ticks)
        rows = _between(self.rows, tracks, len(sheet.clip.tracks))
        pitches = pitches + _between(self.semitones, pitches, 128)
        if rows:
            tracks = tracks + rows
            plain = [plain_pitch(sheet.clip, track) for track in range(len(sheet.clip.tracks))]
            pitches = np.array(plain)[tracks]
        return sheet.at(meant, starts=starts + by, tracks=tracks, pitches=pitches)

    def label(self, sheet: Sheet) -> str:
        return f"{said_notes(sheet.meant_count)} moved"


class Transpose(ClipAction):
    """*semitones* up; what leaves MIDI's range is folded by octaves. Drums stay: another note is another drum."""

    kind: Literal["transpose"] = "transpose"
    semitones: Annotated[int, Field(ge=-127, le=127)]

    def apply(self, sheet: Sheet) -> Sheet:
        pitched = self._pitched(sheet)
        if sheet.meant.any() and not pitched.any():
            message = "drums have no pitch to transpose: drag a note up or down to move it to another drum"
            raise DocumentError.of("notes", message)
        return sheet.at(pitched, pitches=folded(sheet.pitches[pitched] + self.semitones))

    def label(self, sheet: Sheet) -> str:
        message = said_notes(int(self._pitched(sheet).sum()))
        return f"{message} transposed by {self.semitones:+}".replace("-", "−")

    @staticmethod
    def _pitched(sheet: Sheet) -> NDArray[np.bool_]:
        is_drum = np.array([plays_drums(track) for track in sheet.clip.tracks], bool)
        pitched: NDArray[np.bool_] = sheet.meant & ~is_drum[sheet.tracks]
        return pitched


class Resize(ClipAction):
    """Makes notes longer by *steps* of the grid plus *ticks*; never shorter than a tick."""

    kind: Literal["resize"] = "resize"
    steps: Annotated[int, Field(ge=-MAX_STEPS_MOVED, le=MAX_STEPS_MOVED)] = 0
    step: StepValue = StepValue()
    ticks: By = 0

    def apply(self, sheet: Sheet) -> Sheet:
        meant = sheet.meant
        lengths = sheet.lengths[meant] + _ticks_of(self.steps, self.step) + self.ticks
        return sheet.at(meant, lengths=np.maximum(1, lengths))

    def label(self, sheet: Sheet) -> str:
        return (
            f"{said_notes(sheet.meant_count)} made {'longer' if self.steps + self.ticks > 0 else 'shorter'}"
        )


class SetNotes(ClipAction):
    """Exact values. *start*: of the earliest note, the others keep their distance; the rest is each note's own."""

    kind: Literal["set"] = "set"
    start: Place | None = None
    length: Annotated[int | None, Field(ge=1)] = None
    pitch: Pitch | None = None
    velocity: Velocity | None = None

    def apply(self, sheet: Sheet) -> Sheet:
        meant = sheet.meant
        if self.start is not None and meant.any():
            starts = sheet.starts[meant]
            by = _between(self.start - int(starts.min()), starts, sheet.clip.length_ticks)
            sheet = sheet.at(meant, starts=starts + by)
        columns = {"lengths": self.length, "pitches": self.pitch, "velocities": self.velocity}
        return sheet.at(meant, **{name: value for name, value in columns.items() if value is not None})

    def label(self, sheet: Sheet) -> str:
        values = {"start": self.start, "length": self.length, "pitch": self.pitch, "velocity": self.velocity}
        names = " and ".join(name for name, one in values.items() if one is not None)
        return f"{names} of {said_notes(sheet.meant_count)}"


class CopiedNote(NamedTuple):
    """A note to paste: as it was on its *track*, by number."""

    track: TrackNumber
    start: Place
    length: Annotated[int, Field(ge=1)]
    pitch: Pitch
    velocity: Velocity
    tune: Tuned = 0


class Paste(ClipAction):
    """Copied *notes*, the earliest at *tick*. The clip grows by whole bars where they reach beyond its end.

    *tick*: none for the bar line after the chosen notes; with none chosen, the clip's beginning.
    """

    kind: Literal["paste"] = "paste"
    tick: Place | None = None
    notes: Annotated[Row[CopiedNote], Field(min_length=1, max_length=MAX_NOTES)]

    def apply(self, sheet: Sheet) -> Sheet:
        if not sheet.clip.tracks:
            raise DocumentError.of("track", "the clip has no track to paste to")
        columns = np.array(self.notes, np.int64).T
        columns[0] = np.minimum(columns[0], len(sheet.clip.tracks) - 1)
        bar = sheet.clip.meter.bar_ticks
        following = (int(sheet.starts[sheet.chosen].max()) // bar + 1) * bar if sheet.chosen.any() else 0
        columns[1] += (following if self.tick is None else self.tick) - columns[1].min()
        pasted = Sheet.rows(sheet.clip, list(columns), np.ones(len(self.notes), bool))
        return _alone(sheet).joined(pasted).grown()

    def label(self, sheet: Sheet) -> str:
        return f"{len(self.notes):,} pasted"


def plain_pitch(clip: Clip, track: int) -> int:
    """Return what a track plays plainly: its lane's note, or else the one that it plays most."""
    one = clip.tracks[track]
    if one.sound:
        return one.sound.note
    counted = Counter(note.pitch for note in one.notes)
    return min(counted, key=lambda pitch: (-counted[pitch], pitch)) if counted else 60


def _ticks_of(steps: int, step: StepValue) -> int:
    numerator, denominator = step_parts(step)
    return half_up(steps * numerator, denominator)


def _between(by: int, values: np.ndarray[tuple[int], np.dtype[np.int64]], end: int) -> int:
    """Return *by*, or as much of it as leaves all of *values* at 0 or more and below *end*."""
    if not values.size:
        return 0
    return int(min(max(by, -int(values.min())), max(0, end - 1 - int(values.max()))))


def _alone(sheet: Sheet) -> Sheet:
    """Return the same notes, none of them chosen."""
    return sheet.at(sheet.chosen, chosen=False)


def _check_track(clip: Clip, track: int) -> None:
    if track >= len(clip.tracks):
        raise DocumentError.of("track", f"the clip has {len(clip.tracks)} tracks, got number {track + 1}")
