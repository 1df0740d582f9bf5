"""What a lane plays whose notes were kept: its clip, going round from the pattern's start."""

from typing import Any

import numpy as np

from lattice.cache import MEGABYTE, cached
from lattice.document.lane_clip import LaneClip
from lattice.render.notes import Notes
from lattice.units import Ticks

__all__ = ["kept_count", "kept_longest", "kept_moves", "kept_notes"]


def kept_notes(clip: LaneClip, note: int, first_tick: int, end_tick: int, *, exactly: bool = False) -> Notes:
    """Return the notes of *clip* that begin from *first_tick* to before *end_tick*.

    *note*: what the lane plays plainly; intervals are counted from it. *exactly*: with times that are not rounded.
    """
    starts, lengths, pitches, velocities, tunes = _columns(clip)
    at, which = _around(starts, clip.length_ticks, first_tick, end_tick)
    return Notes(
        starts=at,
        ends=at + lengths[which],
        velocities=velocities[which],
        intervals=pitches[which] - note,
        tunes=tunes[which],
        straights=at,
        exact_starts=at if exactly else None,
        exact_ends=at + lengths[which] if exactly else None,
        exact_straights=at if exactly else None,
    )


def kept_moves(
    clip: LaneClip, first_tick: int, end_tick: int
) -> tuple[list[tuple[int, int, int]], dict[int, int]]:
    """Return what is sent from *first_tick* to before *end_tick*, and what each controller holds before.

    Sent: (tick, controller, value). Held: what was sent last before *first_tick*, by controller.
    """
    points = np.array(clip.controls, np.int64).reshape(-1, 3)
    at, which = _around(points[:, 0], clip.length_ticks, first_tick, end_tick)
    sent = [
        (tick, *points[place, 1:].tolist()) for tick, place in zip(at.tolist(), which.tolist(), strict=True)
    ]
    before, earlier = _around(
        points[:, 0], clip.length_ticks, max(0, first_tick - clip.length_ticks), first_tick
    )
    held = {int(points[place, 1]): int(points[place, 2]) for place in earlier.tolist()} if before.size else {}
    return sent, held


def kept_count(clip: LaneClip, first_tick: int, end_tick: int) -> int:
    """Return how many notes and controls may come from *first_tick* to before *end_tick*, and times round, at most."""
    return (1 + len(clip.notes) + len(clip.controls)) * ((end_tick - first_tick) // clip.length_ticks + 2)


def kept_longest(clip: LaneClip) -> int:
    """Return the length of the longest note, in ticks."""
    return int(_columns(clip)[1].max(initial=0))


@cached(16 * MEGABYTE)
def _columns(clip: LaneClip) -> Any:
    return np.array(clip.notes, np.int64).reshape(-1, 5).T


def _around(starts: Ticks, length: int, first_tick: int, end_tick: int) -> tuple[Ticks, Ticks]:
    """Return when things at *starts* of a loop come from *first_tick* to before *end_tick*, and which they are.

    What starts after the loop's end comes that much after the beginning of each further time round.
    """
    first = max(0, (first_tick - int(starts.max(initial=0))) // length)
    end = -(-end_tick // length)
    passes = np.arange(first, end) * length
    at = (passes[:, None] + starts).ravel()
    which = np.tile(np.arange(starts.size), passes.size)
    inside = (at >= first_tick) & (at < end_tick)
    return at[inside], which[inside]
