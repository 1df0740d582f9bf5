"""Which MIDI notes lanes play, and which lanes are silent."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lattice.document.lane import Lane
from lattice.document.movement import Movement
from lattice.document.piece import Score
from lattice.document.pitched import PITCHED
from lattice.render.pitch_context import home_note
from lattice.steps.moving import held, moving
from lattice.units import Ticks

__all__ = ["Notes", "note_of", "silent_lanes", "unmuted"]


@dataclass(frozen=True, eq=False)
class Notes:
    """What sounds, in columns: *starts*, *ends*, *straights* in ticks; *intervals*: semitones above the lane's note.

    *tunes*: semitones by which the built-in sound is higher, as in `lattice.document.notes.Note`.
    """

    starts: Ticks
    ends: Ticks
    velocities: Ticks
    intervals: Ticks
    tunes: Ticks
    straights: Ticks

    def take(self, which: NDArray[np.bool_]) -> "Notes":
        """Return the notes picked by a mask."""
        return Notes(**{name: column[which] for name, column in vars(self).items()})

    @classmethod
    def join(cls, parts: "list[Notes]") -> "Notes":
        """Return the notes of all *parts*, of which there is one at least, one after the other."""
        return cls(**{name: np.concatenate([vars(part)[name] for part in parts]) for name in vars(parts[0])})

    def and_those(self, others: "Notes") -> "Notes":
        """Return these notes and *others* after them."""
        return Notes.join([self, others])


def silent_lanes(lanes: tuple[Lane, ...]) -> frozenset[str]:
    """Return the ids of the lanes that are muted, or not among the soloed ones where there are any.

    One whose muting is moved is heard at times: see `unmuted`.
    """
    any_solo = any(lane.solo for lane in lanes)
    return frozenset(
        lane.id for lane in lanes if (lane.mute and _muting(lane) is None) or (any_solo and not lane.solo)
    )


def unmuted(lane: Lane, straights: Ticks, bar_ticks: int) -> NDArray[np.bool_] | None:
    """Return which notes, by when their steps stand, no moved muting silences; None where nothing moves it."""
    movement = _muting(lane)
    if movement is None:
        return None
    values = np.array([*(point.value == "muted" for point in movement.points), lane.mute])
    result: NDArray[np.bool_] = ~values[held(movement, straights, bar_ticks)]
    return result


def _muting(lane: Lane) -> Movement | None:
    return next((one for one in moving(lane.movements) if one.control == "mute"), None)


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
