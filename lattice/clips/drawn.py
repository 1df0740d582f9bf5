"""Which notes of a clip a small drawing shows: those that would lie on each other are drawn once."""

from collections.abc import Sequence

__all__ = ["MOST_DRAWN", "drawn_notes"]

MOST_DRAWN = 1000  # in one drawing
_FINEST = 640  # places along it, about as many as it has points on a screen
Row = Sequence[int]


def drawn_notes(tracks: Sequence[Sequence[Row]], length_ticks: int) -> list[list[Row]]:
    """Return the notes of each track to draw, rows that begin with start, length, pitch: all where there are few.

    Of several of a pitch that begin at one place of the drawing the longest is drawn; the places grow as far as needed.
    """
    if sum(map(len, tracks)) <= MOST_DRAWN:
        return [list(notes) for notes in tracks]
    places = _FINEST
    while True:
        drawn = [_one_a_place(notes, length_ticks, places) for notes in tracks]
        if sum(map(len, drawn)) <= MOST_DRAWN or places == 1:
            return drawn
        places = max(1, places // 2)


def _one_a_place(notes: Sequence[Row], length_ticks: int, places: int) -> list[Row]:
    found: dict[tuple[int, int], Row] = {}
    for note in notes:
        start, length, pitch = note[:3]
        at = start * places // max(1, length_ticks), pitch
        if at not in found or found[at][1] < length:
            found[at] = note
    return sorted(found.values(), key=lambda note: note[0])
