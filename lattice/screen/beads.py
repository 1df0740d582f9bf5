"""The beads of a lane: what is drawn of each hit, from what the stages say of it."""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.document.strip import TIED
from lattice.render.lane import Layout
from lattice.render.stages.bursts import covered
from lattice.render.stages.chance import letters_of
from lattice.render.stages.pitch import Pitched, octaves_of
from lattice.render.stages.velocity import accents_of
from lattice.units import Ticks

__all__ = ["Beads", "beads_of"]


class Beads(NamedTuple):
    """Hits in columns. *steps*: indices of theirs among the steps played; *starts*, *ends*: of their notes, in ticks.

    *velocities*: of the first note; *chances*: in 1/10,000; *ratchets*: notes; *are_tied*: whether they last until the
    next hit; *letters*: place of the letter of linked ones in the alphabet, else -1; *are_covered*: whether a burst
    plays in their place; *pitches*: of a melodic lane, all that begin with each, before they are folded into what MIDI
    has; else nothing.
    """

    steps: Ticks
    starts: Ticks
    ends: Ticks
    velocities: Ticks
    chances: Ticks
    ratchets: Ticks
    are_tied: NDArray[np.bool_]
    are_accents: NDArray[np.bool_]
    octaves: Ticks
    letters: Ticks
    are_covered: NDArray[np.bool_]
    pitches: list[tuple[int, ...]]


def beads_of(layout: Layout, which: NDArray[np.bool_]) -> Beads:
    """Return the beads of those hits of *layout*."""
    step_window, times = layout.step_window, layout.times
    steps = layout.hits[which]
    return Beads(
        steps=steps,
        starts=times.starts[times.firsts][which],
        ends=times.ends[times.lasts][which],
        velocities=_velocities(layout)[which],
        chances=layout.chances[steps],
        ratchets=times.counts[which],
        are_tied=times.lengths[which] == TIED,
        are_accents=accents_of(step_window)[steps],
        octaves=octaves_of(step_window)[steps],
        letters=letters_of(step_window)[steps],
        are_covered=covered(step_window)[steps],
        pitches=_pitches(layout.pitches, which) if layout.context else [],
    )


def _velocities(layout: Layout) -> Ticks:
    """Return the velocity of each hit's first pitch; 1 where it has none."""
    of_note = layout.times.of[layout.note_of_pitch]
    firsts = np.flatnonzero(np.diff(of_note, prepend=-1) != 0)
    result = np.ones(layout.hits.size, np.int64)
    result[of_note[firsts]] = layout.velocities[firsts]
    return result


def _pitches(pitches: Pitched, which: NDArray[np.bool_]) -> list[tuple[int, ...]]:
    each = np.arange(int(pitches.counts.sum()))
    moved = (pitches.raised(each, np.zeros_like(each)) + np.repeat(pitches.after, pitches.counts)).tolist()
    ends = (pitches.firsts + pitches.counts).tolist()
    rows = zip(pitches.firsts.tolist(), ends, which.tolist(), strict=True)
    return [tuple(moved[first:end]) for first, end, is_shown in rows if is_shown]
