"""The running order: rows of patterns one after the other, each from its own beginning."""

from bisect import bisect_right
from collections.abc import Sequence
from fractions import Fraction
from typing import Any, NamedTuple

import numpy as np

from lattice.document.lane import Lane
from lattice.document.order import MAX_REPEATS, OrderRow, PlacedRow
from lattice.document.piece import DICE, Pattern, Piece, Score, score_of
from lattice.document.problems import DocumentError
from lattice.document.timing import MAX_BARS_OF_A_PATTERN
from lattice.render.events import render
from lattice.render.overlaps import Events
from lattice.render.size import MAX_NOTES_AT_ONCE, check_rows
from lattice.render.window import Window
from lattice.units import Ticks, half_up

__all__ = ["OrderEvents", "Stand", "in_row", "order_events", "row_score", "stands", "written"]


class Stand(NamedTuple):
    """Where a row stands in its order: its place, its first bar and how many, the ticks from which to before which."""

    place: int
    row: OrderRow
    first_bar: int
    bars: int
    start: int
    end: int

    @property
    def bar_ticks(self) -> int:
        """The length of one of its bars."""
        return (self.end - self.start) // self.bars


class OrderEvents(NamedTuple):
    """What sounds of an order, in ticks from its beginning. *rows*: which row each of the *events* is of.

    The events' lanes are those of the row's pattern.
    """

    rows: Ticks
    events: Events


def stands(piece: Piece) -> list[Stand]:
    """Return where the rows of a piece stand, one after the other."""
    found: list[Stand] = []
    bar = tick = 0
    patterns = {pattern.id: pattern for pattern in piece.patterns}
    for place, row in enumerate(piece.order):
        pattern = patterns[row.pattern]
        bars = row.repeats * (row.bars or pattern.bars)
        end = tick + bars * pattern.meter.bar_ticks
        found.append(Stand(place, row, bar, bars, tick, end))
        bar, tick = bar + bars, end
    return found


def in_row(score: Score, dice: int, placed: PlacedRow) -> tuple[Score, int]:
    """Return *score*, one of a pattern, and its *dice* as they are in a row.

    The row's repeats are passes of its bars, at its pace, in its scale, transposed; then it ends. Its place is added
    to the dice.
    """
    row = placed.row
    bars = row.bars or score.bars
    changed: dict[str, Any] = {
        "bars": bars,
        "pace": row.pace,
        "scale": row.scale or score.scale,
        "ends_after": row.repeats * bars,
        "lanes": tuple(_lane_in(lane, row, score.meter.bar_quarters, bars) for lane in score.lanes),
    }
    most = DICE[1] + 1
    there = score.transposed(row.degrees_up, row.semitones_up).model_copy(update=changed)
    return there, (dice + placed.place) % most


def _lane_in(lane: Lane, row: OrderRow, bar: Fraction, bars: int) -> Lane:
    changed: dict[str, Any] = {}
    begins_too_late = lane.once is not None and lane.once.offset_quarters(bar) >= bars * bar
    if lane.id in row.mutes or begins_too_late:
        # A row's mute goes before moved muting.
        left = tuple(one for one in lane.movements if one.control != "mute")
        changed |= {"mute": True, "movements": left}
    if begins_too_late:
        changed["once"] = None
    return lane.model_copy(update=changed) if changed else lane


def row_score(piece: Piece, place: int) -> tuple[Score, int]:
    """Return what the row at a *place* plays, and its dice."""
    row = piece.order[place]
    pattern = piece.pattern(row.pattern)
    return in_row(score_of(piece, pattern), pattern.dice, PlacedRow(row=row, place=place))


def order_events(piece: Piece, window: Window) -> OrderEvents:
    """Return what sounds in a *window* of a piece's running order; its bars are counted over all rows.

    Pure, and windows join, as with `render`. Row after row is rendered by itself: a row far on costs what the first
    does. Raises DocumentError if the window holds too many notes.
    """
    first, end = window.first_bar, window.first_bar + window.bars
    rows: list[Ticks] = []
    parts: list[Events] = []
    count = 0
    standing = _standing(stands(piece), first, end)
    check_rows(sum(len(piece.pattern(stand.row.pattern).lanes) for stand in standing))
    for stand in standing:
        score, dice = row_score(piece, stand.place)
        begin, stop = max(first - stand.first_bar, 0), min(end - stand.first_bar, stand.bars)
        events = later(render(score, dice, Window(first_bar=begin, bars=stop - begin)), stand.start)
        count += len(events)
        if count > MAX_NOTES_AT_ONCE:
            message = f"more than {MAX_NOTES_AT_ONCE:,} notes are asked for at once: ask for fewer bars"
            raise DocumentError.of("order", message)
        parts.append(events)
        rows.append(np.full(len(events), stand.place))
    return OrderEvents(np.concatenate([np.empty(0, np.int64), *rows]), Events.join(parts))


def _standing(all_of_them: Sequence[Stand], first: int, end: int) -> Sequence[Stand]:
    """Return the rows of which bars lie from bar *first* to before *end*."""
    begins = [stand.first_bar for stand in all_of_them]
    return [
        stand
        for stand in all_of_them[max(0, bisect_right(begins, first) - 1) :]
        if stand.first_bar < end and stand.first_bar + stand.bars > first
    ]


def later(events: Events, ticks: int) -> Events:
    """Return *events* so many ticks later."""
    columns = {name: getattr(events, name) for name in Events.__dataclass_fields__}
    return Events(**columns | {"starts": events.starts + ticks, "straights": events.straights + ticks})


def written(pattern: Pattern, ticks: int) -> OrderRow:
    """Return the row that plays *pattern* for as many ticks, to whole bars: passes of it where they come out even.

    >>> row = written(Pattern(id="a", name="A", bars=4), 8 * 53760)
    >>> row.repeats, row.bars, written(Pattern(id="a", name="A", bars=4), 6 * 53760 + 5).bars
    (2, None, 6)
    """
    bars = min(max(1, half_up(ticks, pattern.meter.bar_ticks)), MAX_REPEATS)
    if bars % pattern.bars == 0:
        return OrderRow(pattern=pattern.id, repeats=bars // pattern.bars)
    if bars <= MAX_BARS_OF_A_PATTERN:
        return OrderRow(pattern=pattern.id, bars=bars)
    return OrderRow(pattern=pattern.id, bars=1, repeats=bars)
