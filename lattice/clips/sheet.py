"""A clip's notes in columns, as edits work on them."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from itertools import starmap
from typing import Any, NamedTuple, Self

import numpy as np
from numpy.typing import NDArray

from lattice.clips.clip import MAX_CLIP_TICKS, Clip, Note
from lattice.document.notes import MAX_NOTES
from lattice.document.port import BUILT_IN
from lattice.document.problems import DocumentError
from lattice.document.step_value import StepValue
from lattice.render.overlaps import Events, resolve_overlaps
from lattice.units import TICKS_PER_QUARTER, Ticks

__all__ = ["Chosen", "Finished", "Sheet", "step_parts", "without_overlaps"]

# For each track the places of its chosen notes.
Chosen = tuple[tuple[int, ...], ...]
_COLUMNS = ("tracks", "starts", "lengths", "pitches", "velocities", "tunes", "chosen", "came_from")
NEW = -1


class Finished(NamedTuple):
    """A clip and the places of its chosen notes, track by track.

    *came_from*: for each note, counted through all tracks, which it was before the edit; -1 for one that is new.
    """

    clip: Clip
    chosen: Chosen
    came_from: tuple[int, ...]


@dataclass(frozen=True, eq=False)
class Sheet:
    """All notes of a *clip*: *tracks* are indices, times ticks. *chosen*: which notes a hand has chosen.

    *came_from*: which notes of *clip* they are, counted through all tracks; NEW for one that it had not. *clip* says
    everything but the notes; its own are those from before the edit.
    """

    clip: Clip
    tracks: Ticks
    starts: Ticks
    lengths: Ticks
    pitches: Ticks
    velocities: Ticks
    tunes: Ticks
    chosen: NDArray[np.bool_]
    came_from: Ticks

    @classmethod
    def of(cls, clip: Clip, chosen: Chosen = ()) -> Self:
        """Return the notes of *clip*. Raises DocumentError if a note is chosen that is not there."""
        counts = [len(track.notes) for track in clip.tracks]
        columns = np.array([note for track in clip.tracks for note in track.notes], np.int64).reshape(-1, 5).T
        is_chosen = np.zeros(sum(counts), bool)
        firsts = np.cumsum([0, *counts])
        for track, places in enumerate(chosen):
            if places and (track >= len(counts) or not 0 <= min(places) <= max(places) < counts[track]):
                raise DocumentError.of("chosen", f"track {track + 1} has no such note")
            if places:
                is_chosen[firsts[track] + np.array(places)] = True
        tracks = np.repeat(np.arange(len(counts)), counts)
        return replace(cls.rows(clip, [tracks, *columns], is_chosen), came_from=np.arange(sum(counts)))

    @classmethod
    def rows(cls, clip: Clip, columns: Sequence[Ticks], chosen: NDArray[np.bool_]) -> Self:
        """Return new notes given as columns: tracks, starts, lengths, pitches, velocities, tunes."""
        tracks, starts, lengths, pitches, velocities, tunes = columns
        new = np.full(starts.size, NEW)
        return cls(clip, tracks, starts, lengths, pitches, velocities, tunes, chosen, new)

    def __len__(self) -> int:
        return self.starts.size

    @property
    def ends(self) -> Ticks:
        """When the notes end, in ticks."""
        return self.starts + self.lengths

    @property
    def meant(self) -> NDArray[np.bool_]:
        """The notes that an edit is about: those chosen; with none chosen, all."""
        return self.chosen if self.chosen.any() else np.ones(len(self), bool)

    @property
    def meant_count(self) -> int:
        """How many notes an edit is about."""
        return int(self.meant.sum())

    def at(self, which: NDArray[np.bool_], **columns: Any) -> Self:
        """Return the same notes with other *columns* at *which*."""
        changed = {}
        for name, values in columns.items():
            column = getattr(self, name).copy()
            column[which] = values
            changed[name] = column
        return replace(self, **changed)

    def with_clip(self, **fields: Any) -> Self:
        """Return the same notes of a clip with other *fields*."""
        return replace(self, clip=self.clip.model_copy(update=fields))

    def take(self, which: NDArray[Any]) -> Self:
        """Return only the notes at *which*."""
        columns: dict[str, Any] = {name: getattr(self, name)[which] for name in _COLUMNS}
        return replace(self, **columns)

    def again(self, ticks: int) -> Self:
        """Return notes like these as new ones, *ticks* later."""
        return replace(self, starts=self.starts + ticks, came_from=np.full(len(self), NEW))

    def joined(self, other: Self) -> Self:
        """Return these notes and then those of *other*."""
        columns: dict[str, Any] = {
            name: np.concatenate([getattr(self, name), getattr(other, name)]) for name in _COLUMNS
        }
        return replace(self, **columns)

    def grown(self) -> Self:
        """Return the sheet with its clip as many whole bars longer as the notes need that begin beyond its end."""
        last = int(self.starts.max(initial=0))
        if last < self.clip.length_ticks:
            return self
        bar = self.clip.meter.bar_ticks
        return self.with_clip(length_ticks=(last // bar + 1) * bar)

    def finished(self) -> Finished:
        """Return the clip with these notes, in order and without overlaps.

        Raises DocumentError if there are too many notes, or it has become too long.
        """
        clip = self.clip
        if len(self) > MAX_NOTES:
            raise DocumentError.of(
                "notes", f"a clip holds at most {MAX_NOTES:,} notes, this makes {len(self):,}"
            )
        if clip.length_ticks > MAX_CLIP_TICKS:
            bars = MAX_CLIP_TICKS // clip.meter.bar_ticks
            raise DocumentError.of("length_ticks", f"a clip lasts at most {bars:,} bars")
        inside = self.take((self.starts >= 0) & (self.starts < clip.length_ticks))
        kept = without_overlaps(inside)
        tracks, chosen = [], []
        for index, track in enumerate(clip.tracks):
            own = kept.take(kept.tracks == index)
            columns = (own.starts, own.lengths, own.pitches, own.velocities, own.tunes)
            rows = zip(*(column.tolist() for column in columns), strict=True)
            tracks.append(track.model_copy(update={"notes": tuple(starmap(Note, rows))}))
            chosen.append(tuple(np.flatnonzero(own.chosen).tolist()))
        after = clip.model_copy(update={"tracks": tuple(tracks)})
        return Finished(after, tuple(chosen), tuple(kept.came_from.tolist()))


def without_overlaps(sheet: Sheet) -> Sheet:
    """Return the notes in order of track and time, none overlapping another of its pitch and channel."""
    channels = np.array([track.channel for track in sheet.clip.tracks], np.int64)
    events = Events(
        lanes=sheet.tracks,
        starts=sheet.starts,
        lengths=sheet.lengths,
        pitches=sheet.pitches,
        velocities=sheet.velocities,
        tunes=sheet.tunes,
        channels=channels[sheet.tracks] if len(sheet) else sheet.tracks,
        straights=np.arange(len(sheet)),  # which note it is
    )
    resolved = resolve_overlaps(events, [track.port or BUILT_IN for track in sheet.clip.tracks])
    resolved = resolved.take(np.lexsort((resolved.pitches, resolved.starts, resolved.lanes)))
    return replace(sheet.take(resolved.straights), lengths=resolved.lengths)


def step_parts(step: StepValue) -> tuple[int, int]:
    """Return the length of a step in ticks, exactly: numerator and denominator."""
    exact: Fraction = step.quarters * TICKS_PER_QUARTER
    return exact.numerator, exact.denominator
