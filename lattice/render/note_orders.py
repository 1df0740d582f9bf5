"""In which order the notes of a pool are read."""

from collections.abc import Callable, Sequence
from typing import NamedTuple

from lattice.document.arpeggio import NoteOrder
from lattice.theory.scales import OCTAVE

__all__ = ["PoolNote", "ordered", "with_octaves"]


class PoolNote(NamedTuple):
    """A note that lies ready. *velocity*: of the key or note that it comes from; 0 where that has none.

    *is_pedal*: whether it is the pedal note, which degrees do not move.
    """

    pitch: int
    velocity: int = 0
    is_pedal: bool = False


Row = tuple[PoolNote, ...]


def with_octaves(pool: Sequence[PoolNote], octaves: int, order: NoteOrder) -> Row:
    """Return *pool* and the same again 1 to *octaves* - 1 octaves higher: from the lowest up, no pitch twice.

    Of two of one pitch the last stays. As played: the pool as it was played, then all of it an octave higher ...

    >>> [note.pitch for note in with_octaves([PoolNote(67), PoolNote(60), PoolNote(79)], 2, "up")]
    [60, 67, 72, 79, 91]
    """
    row = [
        PoolNote(note.pitch + octave * OCTAVE, note.velocity) for octave in range(octaves) for note in pool
    ]
    if order == "as-played":
        return tuple(row)
    return tuple(sorted({note.pitch: note for note in row}.values()))


def ordered(pool: Sequence[PoolNote], octaves: int, order: NoteOrder) -> Row:
    """Return one round of the notes of *pool*, its octaves added, in *order*.

    Shuffled, random and all at once: from the lowest up; luck, or nothing, chooses among them.

    >>> [note.pitch for note in ordered([PoolNote(60), PoolNote(64), PoolNote(67), PoolNote(71)], 1, "inward")]
    [60, 71, 64, 67]
    """
    row = with_octaves(pool, octaves, order)
    return _ORDERS[order](row) if order in _ORDERS else row


def _inward(row: Row) -> Row:
    """Lowest, highest, next lowest, next highest ..."""
    return tuple(row[place // 2] if place % 2 == 0 else row[-1 - place // 2] for place in range(len(row)))


_ORDERS: dict[NoteOrder, Callable[[Row], Row]] = {
    "down": lambda row: row[::-1],
    "up-and-down": lambda row: row + row[-2:0:-1],
    "up-and-down-twice": lambda row: row + row[::-1],
    "inward": _inward,
    "outward": lambda row: _inward(row)[::-1],
}
