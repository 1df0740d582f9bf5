"""Which MIDI notes lanes play."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.document.pitched import PITCHED
from lattice.render.pitch_context import home_note
from lattice.units import Ticks

__all__ = ["Notes", "note_of"]


@dataclass(frozen=True, eq=False)
class Notes:
    """What sounds, in columns: *starts*, *ends*, *straights* in ticks; *intervals*: semitones above the lane's note.

    *tunes*: semitones by which the built-in sound is higher, as in `lattice.document.notes.Note`.
    *exact_starts*, *exact_ends*, *exact_straights*: the times as Fractions of ticks, where they are to be moved before
    they are rounded; otherwise None.
    """

    starts: Ticks
    ends: Ticks
    velocities: Ticks
    intervals: Ticks
    tunes: Ticks
    straights: Ticks
    exact_starts: Ticks | None = None
    exact_ends: Ticks | None = None
    exact_straights: Ticks | None = None

    def take(self, which: NDArray[np.bool_]) -> "Notes":
        """Return the notes picked by a mask."""
        columns: dict[str, Ticks] = {
            name: column[which] for name, column in vars(self).items() if column is not None
        }
        return Notes(**columns)

    @classmethod
    def join(cls, parts: "list[Notes]") -> "Notes":
        """Return the notes of all *parts*, of which there is one at least, one after the other."""
        names = [name for name, column in vars(parts[0]).items() if column is not None]
        return cls(**{name: np.concatenate([vars(part)[name] for part in parts]) for name in names})

    def and_those(self, others: "Notes") -> "Notes":
        """Return these notes and *others* after them."""
        return Notes.join([self, others])


def note_of(lane: Lane, score: Score) -> tuple[int, int]:
    """Return the MIDI channel and note number that a lane plays: its own, or else its voice's.

    The note of a melodic lane is that of its degree 0, before it is moved into the scale.
    """
    if lane.is_melodic:
        channel = PITCHED[lane.voice].channel or score.kit.channel
        return channel if lane.channel is None else lane.channel, home_note(lane, score)
    voice = score.kit.voice(lane.voice)
    if voice is None:  # a Score checks this when it is made
        raise KeyError(lane.voice)
    return (
        score.kit.channel if lane.channel is None else lane.channel,
        voice.pitch if lane.note is None else lane.note,
    )
