"""What a screen draws of a running order: rows in true time, how busy they are, their chords, how long all is."""

import numpy as np
from pydantic import BaseModel

from lattice.document.piece import Piece, Score
from lattice.order.rows import Stand, row_score, stands
from lattice.screen.chords import chord_pictures
from lattice.sentence import Part, row_parts, say_pace
from lattice.steps.lane_steps import LaneSteps, steps_of_lanes
from lattice.steps.muting import silent_lanes
from lattice.units import TICKS_PER_QUARTER, Ticks

__all__ = ["ChordLine", "OrderPicture", "RowPicture", "order_picture", "say_time"]

_MOST_BARS = 64  # of a row are looked at: a longer one shows its first


class ChordLine(BaseModel):
    """A chord from one tick to before another, as it is called."""

    start: int
    end: int
    name: str


class RowPicture(BaseModel):
    """A row: where it stands in ticks and bars, and what it says, in *parts*.

    *hits*: of each of its bars, up to the 64th, before chance; *chords*: of the same bars. *dice*: those it plays by.
    *begins*: when it does, in minutes and seconds. *pace*: what it makes of a step, in words; '' where nothing.
    """

    place: int
    pattern: str
    start: int
    end: int
    first_bar: int
    bars: int
    repeat_bars: int
    bar_ticks: int
    dice: int
    parts: list[Part]
    pace: str
    begins: str
    hits: list[int]
    chords: list[ChordLine]


class OrderPicture(BaseModel):
    """The order whole: *bars* and *ticks* long. *lasts*: in minutes and seconds. *most_hits*: of the busiest bar."""

    rows: list[RowPicture]
    ticks: int
    bars: int
    lasts: str
    most_hits: int


def order_picture(piece: Piece) -> OrderPicture:
    """Return what is drawn of a piece's running order."""
    known: dict[object, tuple[list[int], list[ChordLine]]] = {}
    rows = [_row_picture(piece, stand, known) for stand in stands(piece)]
    end = rows[-1].end if rows else 0
    return OrderPicture(
        rows=rows,
        ticks=end,
        bars=sum(row.bars for row in rows),
        lasts=say_time(end, piece.tempo),
        most_hits=max((most for row in rows for most in row.hits), default=0),
    )


def _row_picture(
    piece: Piece, stand: Stand, known: dict[object, tuple[list[int], list[ChordLine]]]
) -> RowPicture:
    row = stand.row
    score, dice = row_score(piece, stand.place)
    pattern = piece.pattern(row.pattern)
    # Rows of one pattern look alike, wherever they stand.
    key = row.model_dump_json(exclude={"degrees_up", "semitones_up"})
    if key not in known:
        known[key] = _hits(score, stand), _chords(score, stand)
    hits, chords = known[key]
    return RowPicture(
        place=stand.place,
        pattern=row.pattern,
        start=stand.start,
        end=stand.end,
        first_bar=stand.first_bar,
        bars=stand.bars,
        repeat_bars=row.bars or pattern.bars,
        bar_ticks=stand.bar_ticks,
        dice=dice,
        parts=row_parts(row, pattern),
        pace=say_pace(row.pace),
        begins=say_time(stand.start, piece.tempo),
        hits=hits,
        chords=[
            chord.model_copy(update={"start": chord.start + stand.start, "end": chord.end + stand.start})
            for chord in chords
        ],
    )


def _hits(score: Score, stand: Stand) -> list[int]:
    """Return how many hits there are in each bar of a row, before chance."""
    silent = silent_lanes(score.lanes)
    bars = min(stand.bars, _MOST_BARS)
    total = np.zeros(bars, np.int64)
    for lane_steps in steps_of_lanes(score, 0):
        if lane_steps.lane.id not in silent:
            total += _hits_of(lane_steps, bars, stand.bar_ticks)
    return total.tolist()


def _hits_of(lane_steps: LaneSteps, bars: int, bar_ticks: int) -> Ticks:
    firsts = [lane_steps.clock.first_at(bar * bar_ticks) for bar in range(bars + 1)]
    hits = lane_steps.hits(firsts[0], firsts[-1])
    before = np.concatenate([[0], np.cumsum(hits)])
    result: Ticks = np.diff(before[np.array(firsts) - firsts[0]])
    return result


def _chords(score: Score, stand: Stand) -> list[ChordLine]:
    end = min(stand.bars, _MOST_BARS) * stand.bar_ticks
    return [
        ChordLine(start=chord.start, end=min(chord.end, end), name=chord.name)
        for chord in chord_pictures(score, 0, end)
    ]


def say_time(ticks: int, tempo: float) -> str:
    """Return how long so many ticks last, in minutes and seconds.

    >>> say_time(112 * 13440, 112), say_time(0, 96), say_time(200 * 60 * 13440, 60)
    ('1:00', '0:00', '3:20:00')
    """
    seconds = round(ticks / TICKS_PER_QUARTER * 60 / tempo)
    minutes, left = divmod(seconds, 60)
    hours, minutes = divmod(minutes, 60)
    return f"{hours}:{minutes:02}:{left:02}" if hours else f"{minutes}:{left:02}"
