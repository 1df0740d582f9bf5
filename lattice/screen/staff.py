"""How a melodic lane's pitches are drawn: between which of them, and along which lines."""

from collections.abc import Iterable

import numpy as np

from lattice.render.pitch_context import PitchContext
from lattice.screen.pictures import Staff
from lattice.theory.names import note_name
from lattice.theory.scales import HIGHEST_NOTE, OCTAVE, folded, in_scale

__all__ = ["folded_row", "staff_of"]


def staff_of(context: PitchContext, pitches: Iterable[int]) -> Staff:
    """Return the staff that holds *pitches*: whole octaves around the lane's note, so that it seldom changes."""
    found = [*pitches, context.note]
    low, high = min(found), max(found)
    low = max(0, context.note - -(-(context.note - low) // OCTAVE) * OCTAVE)
    high = min(HIGHEST_NOTE, context.note + max(1, -(-(high - context.note) // OCTAVE)) * OCTAVE)
    root, degrees = context.scale.root, context.scale.semitones
    rows = np.arange(low, high + 1)
    lines = rows[in_scale(rows, root, degrees)].tolist()
    return Staff.model_construct(
        low=low,
        high=high,
        note=context.note,
        lines=lines,
        roots=[pitch for pitch in lines if pitch % OCTAVE == root],
        names=[note_name(pitch, root, degrees) for pitch in rows.tolist()],
    )


def folded_row(row: tuple[int, ...]) -> list[int]:
    """Return the pitches of one hit as they sound."""
    return folded(np.array(row, np.int64)).tolist() if row else []
