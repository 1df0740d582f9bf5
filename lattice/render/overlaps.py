"""What sounds: notes in whole ticks, and the rule for notes that would overlap."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Self

import numpy as np

from lattice.units import Ticks

__all__ = ["Events", "alone", "heard_lanes", "resolve_overlaps"]

_PITCHES, _CHANNELS = 128, 16


@dataclass(frozen=True)
class Events:
    """Notes in columns, in the order of time, then of lanes.

    *lanes*: index of the lane in the score; *starts*, *lengths*: ticks; *pitches*, *velocities*: as in
    MIDI; *tunes*: semitones by which the built-in sound is higher; *channels*: 1-16; *straights*: ticks at which the
    steps stand, before swing, nudge and all that strays.
    """

    lanes: Ticks
    starts: Ticks
    lengths: Ticks
    pitches: Ticks
    velocities: Ticks
    tunes: Ticks
    channels: Ticks
    straights: Ticks

    def __len__(self) -> int:
        return len(self.starts)

    @classmethod
    def join(cls, parts: list[Self]) -> Self:
        """Return all notes of *parts*, sorted."""
        names = cls.__dataclass_fields__
        empty = [np.empty(0, np.int64)]
        joined = cls(**{name: np.concatenate([getattr(p, name) for p in parts] or empty) for name in names})
        return joined.take(np.lexsort((joined.lanes, joined.starts)))

    def take(self, which: "np.ndarray[tuple[int], np.dtype[np.int64 | np.bool_]]") -> Self:
        """Return the notes picked by an index or a mask."""
        return type(self)(**{name: getattr(self, name)[which] for name in self.__dataclass_fields__})

    def with_lengths(self, lengths: Ticks) -> Self:
        """Return the same notes with other *lengths*."""
        return replace(self, lengths=lengths)


def alone(starts: Ticks, ends: Ticks, pitches: Ticks, velocities: Ticks) -> Events:
    """Return the notes of one lane as they sound without any other, in the order of time, then as they were given."""
    places = np.arange(starts.size)
    none, ones = np.zeros_like(starts), np.ones_like(starts)
    return resolve_overlaps(Events(places, starts, ends - starts, pitches, velocities, none, ones, starts))


def resolve_overlaps(events: Events, ports: Sequence[str] = ()) -> Events:
    """Return *events* without two notes of one pitch and channel sounding at once.

    *ports*: where the notes of each lane go; where nothing is said, all of them to the same: those of one never cut
    another's. Notes of one pitch and channel that start on the same tick become one: the highest velocity (on a
    tie the earlier lane), the longest end. Of two others the earlier ends where the later begins.
    """
    if not len(events):
        return events
    order, key, leads = _merged(events, ports)
    starts = events.starts[order]
    ends = starts + events.lengths[order]
    longest = np.maximum.reduceat(ends, leads)
    # Where the next note of the same pitch begins; the last of a pitch is cut by nothing.
    same_pitch_follows = np.append(key[leads[1:]] == key[leads[:-1]], False)
    next_start = np.append(starts[leads[1:]], 0)
    cut = np.where(same_pitch_follows, np.minimum(longest, next_start), longest)
    kept = events.take(order[leads])
    resolved = kept.with_lengths(cut - kept.starts)
    return resolved.take(np.lexsort((resolved.lanes, resolved.starts)))


def heard_lanes(events: Events, ports: Sequence[str]) -> Ticks:
    """Return the lane that is heard at each note's start: its own, or the one whose louder note takes its place."""
    if not len(events):
        return events.lanes
    order, _, leads = _merged(events, ports)
    lanes = np.empty_like(events.lanes)
    lanes[order] = np.repeat(events.lanes[order[leads]], np.diff(leads, append=len(events)))
    return lanes


def _merged(events: Events, ports: Sequence[str]) -> tuple[Ticks, Ticks, Ticks]:
    """Return an order of *events* in which those that become one note stand together, the one that is heard first.

    Beside it their pitches and channels as one number, in that order; and where in it each note begins.
    """
    key = events.channels * _PITCHES + events.pitches
    if len(set(ports)) > 1:
        key = key + _places(ports)[events.lanes] * _PITCHES * (_CHANNELS + 1)
    order = np.lexsort((events.lanes, -events.velocities, events.starts, key))
    key, starts = key[order], events.starts[order]
    is_new = (np.diff(key, prepend=key[0] - 1) != 0) | (np.diff(starts, prepend=starts[0] - 1) != 0)
    return order, key, np.flatnonzero(is_new)


def _places(ports: Sequence[str]) -> Ticks:
    """Return a number for each of *ports*, the same for the same."""
    known = {port: place for place, port in enumerate(dict.fromkeys(ports))}
    return np.array([known[port] for port in ports], np.int64)
