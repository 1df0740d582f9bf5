"""Rows of a running order in words."""

from fractions import Fraction

from lattice.document.order import OrderRow, RowPace
from lattice.document.piece import Pattern
from lattice.sentence.melody import said_scale

__all__ = ["say_pace", "say_row"]


def say_pace(pace: RowPace) -> str:
    """Return what a pace makes of a step; '' where it is plain.

    >>> say_pace(RowPace(times=2, over=3)), say_pace(RowPace(times=2)), say_pace(RowPace())
    ('at 2/3 of the pace: a step lasts 3/2 as long', 'at 2 times the pace: a step lasts 1/2 as long', '')
    """
    rate = Fraction(pace.times, pace.over)
    if rate == 1:
        return ""
    said = f"{rate} times the pace" if rate.denominator == 1 else f"{rate} of the pace"
    return f"at {said}: a step lasts {1 / rate} as long"


def say_row(row: OrderRow, pattern: Pattern) -> str:
    """Return what is not plain in a row, but for its length and its pace."""
    said = []
    for up, unit in ((row.degrees_up, "degree"), (row.semitones_up, "semitone")):
        if up:
            said.append(f"{abs(up)} {unit}{'' if abs(up) == 1 else 's'} {'up' if up > 0 else 'down'}")
    if row.scale:
        said.append(" ".join(said_scale(row.scale)))
    if muted := [lane.name for lane in pattern.lanes if lane.id in row.mutes]:
        said.append(f"without {' and '.join(muted)}")
    return " · ".join(said)
