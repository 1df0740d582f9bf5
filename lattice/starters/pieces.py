"""Whole pieces to begin from: tempo, scale, chords, two or three patterns and their order."""

from typing import Any, NamedTuple

from lattice.document import Meter, Pattern, Piece, Scale
from lattice.document.feel import Swing
from lattice.document.order import OrderRow
from lattice.starters.named import lanes_named
from lattice.starters.progressions import PROGRESSIONS
from lattice.starters.starter import Starter

__all__ = ["PIECES"]


class _Row(NamedTuple):
    """*patterns*: the names of each one's lane starters. *order*: pattern by pattern, each with how often it plays.

    *chords*: the name of a progression that ships.
    """

    name: str
    tags: str
    tempo: float
    root: int
    scale: str
    chords: str
    patterns: tuple[str, ...]
    order: str
    bars: int = 8
    meter: Meter = Meter()
    swing: int = 50
    dice: int = 1


_ROWS = (
    _Row(
        "Last car deck", "steady night", 122, 9, "minor", "Down the quay",
        (
            "Quay stones, Two lamps, Every rivet, Off the mooring, Mooring post, Fog bank, Gull over the stern",
            "Quay stones, Two lamps, Even keel, Mooring post",
            "Half tide, Fog bank, Lantern row",
        ),
        "B2 A2 C1 A4", dice=41,
    ),
    _Row(
        "Ferries crossing", "drift sequence", 112, 2, "dorian", "Dorian lift",
        (
            "Harbour pulse, Two lamps, Seven over, Eleven over, Five flags, Chart table, Hull and keel",
            "Harbour pulse, Seven over, Five flags, Low water",
        ),
        "B2 A4 B1 A4", dice=307,
    ),
    _Row(
        "Slow lanterns", "sparse pad", 84, 4, "phrygian", "Under the bridge deck",
        (
            "Half tide, Behind the beat, By lantern light, Harbour glow, Slow compass, Low water, Night radio",
            "Half tide, Harbour glow, Slow compass",
        ),
        "B2 A3 B1", dice=66,
    ),
    _Row(
        "Bridge swing", "swing walking", 104, 7, "mixolydian", "Open water",
        (
            "Quay stones, Two finger hats, Ghosts on the stair, Walk to the pier, Lit windows, Call and answer",
            "Quay stones, Two finger hats, Walk to the pier",
        ),
        "B1 A3 B1 A3", swing=58, dice=905,
    ),
    _Row(
        "Engine test", "busy ratchet", 138, 5, "minor", "Home and away",
        (
            "Quay stones, Chain over the side, Rolling hats, Winch takes up, Engine room, Up the mast",
            "Quay stones, Two lamps, Rolling hats, Engine room",
            "Every rivet, Rain on the deck, Two horns",
        ),
        "B2 A2 C1 A3", dice=777,
    ),
    _Row(
        "Harbour in seven", "odd arpeggio", 96, 4, "phrygian", "Harbour lights",
        (
            "Seven over, Gangway, Low water, Inner light, Breathing water, Once a watch",
            "Seven over, Low water, Inner light",
        ),
        "B2 A4", meter=Meter(numerator=7, denominator=8), dice=711,
    ),
    _Row(
        "Triplet watch", "triplet chance", 92, 0, "lydian", "Lydian drift",
        (
            "Quay stones, Two lamps, Triplet wash, Perhaps a gull, Three in the hold, Low water, Wake, Harbour glow",
            "Quay stones, Triplet wash, Three in the hold, Low water",
        ),
        "B1 A3 B1 A2", dice=333,
    ),
    _Row(
        "Open sea", "major lead", 116, 0, "major", "Four in the round",
        (
            "Quay stones, Two lamps, Strong and weak, Two against the tide, Lantern row, Sliding mast",
            "Quay stones, Even keel, Two against the tide, Lantern row",
            "Half tide, Scattered shells, Fog bank",
        ),
        "B2 A2 C1 A2", dice=2024,
    ),
)  # fmt: skip


def _patterns(row: _Row) -> tuple[Pattern, ...]:
    chords = next(known.progression for known in PROGRESSIONS if known.name == row.chords)
    return tuple(
        Pattern(
            id=letter.lower(),
            name=letter,
            ink=place,
            lanes=lanes_named(lanes),
            meter=row.meter,
            bars=row.bars,
            progression=chords,
            dice=row.dice + place,
        )
        for place, (letter, lanes) in enumerate(zip("ABC", row.patterns, strict=False))
    )


def _piece(row: _Row) -> Piece:
    fields: dict[str, Any] = {"swing": Swing(percent=row.swing)} if row.swing != 50 else {}
    rows = [OrderRow(pattern=one[0].lower(), repeats=int(one[1:])) for one in row.order.split()]
    scale = Scale.model_validate({"root": row.root, "name": row.scale})
    return Piece(
        name=row.name, tempo=row.tempo, scale=scale, patterns=_patterns(row), order=tuple(rows), **fields
    )


PIECES: tuple[Starter, ...] = tuple(
    Starter(name=row.name, tags=tuple(row.tags.split()), piece=_piece(row)) for row in _ROWS
)
