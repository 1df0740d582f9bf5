"""Patterns to begin from: lanes of the other starters, put together."""

from lattice.document import Meter, Pattern, StepValue
from lattice.starters.named import lanes_named
from lattice.starters.starter import Starter

__all__ = ["PATTERNS"]

# name, tags, lanes, meter, bars, dice
_ROWS: tuple[tuple[str, str, str, Meter, int, int], ...] = (
    ("Still water", "steady sparse", "Half tide, Two lamps, Even keel", Meter(), 4, 11),
    ("Night shift", "steady busy", "Quay stones, Two lamps, Every rivet, Off the mooring", Meter(), 4, 27),
    (
        "Loading",
        "against busy",
        "Harbour pulse, Two lamps, Five crates, Strong and weak, Seven ropes",
        Meter(),
        8,
        404,
    ),
    ("Three ferries", "drift", "Quay stones, Seven over, Five over, Eleven over", Meter(), 8, 311),
    (
        "Slow swell",
        "polyrhythm sparse",
        "Half tide, Three for four, Slow five, Perhaps a gull",
        Meter(),
        8,
        58,
    ),
    (
        "Tight ropes",
        "ratchet busy",
        "Harbour pulse, Chain over the side, Rolling hats, Winch takes up",
        Meter(),
        4,
        902,
    ),
    (
        "Ghost crossing",
        "ghost human",
        "Quay stones, Ghosts on the stair, By lantern light, Octave buoy",
        Meter(),
        8,
        77,
    ),
    (
        "Loose cargo",
        "chance busy",
        "Harbour pulse, Two lamps, Dice on deck, Three together, Once in four",
        Meter(),
        8,
        1402,
    ),
    (
        "Fog signal",
        "chance sparse",
        "Half tide, Lost in the fog, Thirteen gulls, Bell at the end",
        Meter(),
        4,
        640,
    ),
    (
        "Triplet pier",
        "triplet swing",
        "Quay stones, Two lamps, Triplet wash, Two finger hats",
        Meter(),
        4,
        33,
    ),
    (
        "Seven lanterns",
        "odd sparse",
        "Seven over, Gangway, Perhaps a gull",
        Meter(numerator=7, denominator=8),
        4,
        78,
    ),
    (
        "Five lanterns",
        "odd busy",
        "Five over, Every rivet, Gangway, Nine of sixteen",
        Meter(numerator=5, denominator=4),
        4,
        54,
    ),
    (
        "Low tide fill",
        "burst fill",
        "Harbour pulse, Behind the beat, Long and short, Five in two eighths",
        Meter(),
        2,
        220,
    ),
)

PATTERNS: tuple[Starter, ...] = tuple(
    Starter(
        name=name,
        tags=tuple(tags.split()),
        pattern=Pattern(
            id="starter",
            name=name,
            lanes=lanes_named(lanes),
            meter=meter,
            bars=bars,
            dice=dice,
            step_value=StepValue(),
        ),
    )
    for name, tags, lanes, meter, bars, dice in _ROWS
)
