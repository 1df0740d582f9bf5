"""Lanes to begin from, from steady to unruly."""

from typing import Any

from lattice.document import (
    Accent,
    BarRestart,
    BarSpan,
    Burst,
    ChanceStrip,
    CycleRule,
    Free,
    Humanise,
    Lane,
    LaneSwing,
    LengthStrip,
    Link,
    NoteSpan,
    NudgeStrip,
    Numbered,
    OctaveStrip,
    Once,
    RatchetStrip,
    Spread,
    StepRange,
    StepValue,
    Thin,
    VelocityStrip,
)
from lattice.starters.rows import at, drawn, spread_over
from lattice.starters.starter import Starter

__all__ = ["LANES"]


_EIGHTH = StepValue(note=8)
_TRIPLET = StepValue(note=16, kind="triplet")

# name, tags, voice, fields
_ROWS: tuple[tuple[str, str, str, dict[str, Any]], ...] = (
    # Steady ground
    ("Quay stones", "steady low", "thud", spread_over(4, 16, velocity=112)),
    ("Two lamps", "steady backbeat", "chain", drawn("....x.......x...", velocity=104)),
    ("Harbour pulse", "steady low syncopated", "thud", drawn("x.....x...x.....", velocity=108)),
    ("Even keel", "steady hats", "clink", spread_over(8, 16, velocity=62, beat_weight=50)),
    (
        "Every rivet",
        "steady busy hats",
        "clink",
        spread_over(16, 16, velocity=56, beat_weight=60, length_percent=50),
    ),
    ("Half tide", "steady sparse", "thud", spread_over(2, 16, velocity=110)),
    # Against it
    ("Gangway", "against tresillo", "plank", spread_over(3, 8, velocity=84)),
    ("Five crates", "against bell", "bottle", spread_over(5, 16, rotate=2, velocity=80)),
    ("Seven ropes", "against busy", "rope", spread_over(7, 16, velocity=58)),
    (
        "Off the mooring",
        "against offbeat",
        "hiss",
        spread_over(4, 16, rotate=2, velocity=70, length_percent=80),
    ),
    ("Nine of sixteen", "against busy", "rail", spread_over(9, 16, velocity=60)),
    (
        "Low number",
        "against numbered",
        "bottle",
        {"source": Numbered(hits=5, steps=16, number="1204"), "velocity": 76},
    ),
    # Lengths that drift
    ("Seven over", "drift odd", "shell", spread_over(3, 7, velocity=72)),
    ("Five over", "drift odd", "winch", spread_over(2, 5, step_value=_EIGHTH, velocity=88)),
    ("Eleven over", "drift odd", "winch", spread_over(4, 11, velocity=80)),
    ("Thirteen gulls", "drift odd sparse", "gull", spread_over(2, 13, velocity=46, length_percent=300)),
    ("Three for four", "polyrhythm", "rail", spread_over(3, 3, span=BarSpan(bars=1), velocity=66)),
    (
        "Seven to the half",
        "polyrhythm busy",
        "shell",
        spread_over(5, 7, span=NoteSpan(value=StepValue(note=2)), velocity=64),
    ),
    ("Slow five", "polyrhythm sparse", "bell", spread_over(5, 5, span=BarSpan(bars=2), velocity=60)),
    (
        "Triplet wash",
        "triplet busy",
        "hiss",
        spread_over(7, 12, step_value=_TRIPLET, velocity=58, length_percent=60),
    ),
    # Accents, ghosts, values that run
    (
        "Strong and weak",
        "accent hats",
        "clink",
        spread_over(16, 16, velocity=52, accent=Accent(velocity=104, every=3)),
    ),
    (
        "Ghosts on the stair",
        "ghost backbeat chance",
        "chain",
        drawn(
            "....x..x.x..x..x",
            velocity=106,
            velocity_strip=VelocityStrip(values=at({7: 36, 9: 30, 15: 42})),
            chance_strip=ChanceStrip(values=at({7: 75, 9: 75, 15: 60})),
        ),
    ),
    (
        "Five over seven",
        "accent drift",
        "plank",
        spread_over(
            7, 12, velocity_strip=VelocityStrip(values=(112, 48, 80, 60, 94), free=Free(advance="hit"))
        ),
    ),
    (
        "Two finger hats",
        "accent swing hats",
        "clink",
        spread_over(
            12, 16, velocity=64, accent=Accent(velocity=110, every=4, first=2), swing=LaneSwing(percent=58)
        ),
    ),
    (
        "Long and short",
        "length",
        "hiss",
        spread_over(8, 16, rotate=2, velocity=60, length_strip=LengthStrip(values=(40, 100) * 8)),
    ),
    (
        "Behind the beat",
        "nudge backbeat",
        "chain",
        drawn("....x.......x...", velocity=104, nudge_strip=NudgeStrip(values=at({4: 12, 12: 18}))),
    ),
    (
        "By lantern light",
        "human hats",
        "clink",
        spread_over(8, 16, velocity=66, humanise=Humanise(ms=9, velocity=9), beat_weight=30),
    ),
    # Rolls and bursts
    (
        "Chain over the side",
        "ratchet fade",
        "chain",
        drawn(
            "....x.......x..x",
            velocity=100,
            ratchet_strip=RatchetStrip(values=at({15: 4}), fade_from=100, fade_to=40),
        ),
    ),
    (
        "Winch takes up",
        "ratchet climb",
        "winch",
        spread_over(
            3,
            8,
            velocity=86,
            ratchet_strip=RatchetStrip(values=at({3: 3, 6: 2}), fade_from=60, fade_to=110, climb=2),
        ),
    ),
    (
        "Rolling hats",
        "ratchet hats busy",
        "clink",
        spread_over(
            16, 16, velocity=54, beat_weight=50, ratchet_strip=RatchetStrip(values=at({7: 3, 14: 2}))
        ),
    ),
    (
        "Five in two eighths",
        "burst fill",
        "bottle",
        spread_over(
            4, 16, velocity=78, bursts=(Burst(count=6, value=_EIGHTH, length=2, notes=5, fade_from=50),)
        ),
    ),
    # Luck
    (
        "Perhaps a gull",
        "chance sparse",
        "gull",
        spread_over(1, 8, velocity=44, chance_percent=35, length_percent=200),
    ),
    (
        "Dice on deck",
        "chance busy",
        "rope",
        spread_over(
            11, 16, velocity=60, chance_percent=60, velocity_strip=VelocityStrip(spread=Spread(by=22))
        ),
    ),
    (
        "Three together",
        "chance linked",
        "rail",
        drawn(
            "x..x..x.........",
            velocity=74,
            chance_percent=50,
            links=(Link(step=0), Link(step=3), Link(step=6)),
        ),
    ),
    (
        "Once in four",
        "cycle sparse",
        "bell",
        spread_over(1, 16, velocity=70, cycle_rule=CycleRule(nth=4, of=4)),
    ),
    (
        "Luck repeats",
        "chance repeats",
        "shell",
        spread_over(9, 16, velocity=64, chance_percent=55, luck_bars=2),
    ),
    (
        "Lost in the fog",
        "chance wandering",
        "rail",
        spread_over(5, 8, step_value=_EIGHTH, direction="wander", velocity=56, chance_percent=80),
    ),
    # Ways through
    ("There and back", "direction", "plank", spread_over(3, 10, direction="to-and-fro", velocity=80)),
    (
        "Shuffled cargo",
        "direction luck",
        "bottle",
        spread_over(6, 16, direction="shuffled", velocity=72, luck_bars=4),
    ),
    ("Back to the pier", "restart odd", "winch", spread_over(4, 11, restart=BarRestart(bars=1), velocity=82)),
    ("Bell at the end", "once fill", "bell", drawn("x..x..x.", once=Once(bars=3), velocity=76)),
    ("Every third wave", "thin drift", "hiss", spread_over(7, 16, thin=Thin(every=3), velocity=66)),
    (
        "Inner harbour",
        "range",
        "plank",
        spread_over(9, 16, step_range=StepRange(first=2, last=8), velocity=70),
    ),
    (
        "Octave buoy",
        "octave",
        "rail",
        spread_over(5, 16, velocity=64, octave_strip=OctaveStrip(values=at({6: 1, 12: -1}))),
    ),
)

LANES: tuple[Starter, ...] = tuple(
    Starter(
        name=name,
        tags=tuple(tags.split()),
        lane=Lane(id=voice, name=voice.title(), voice=voice, **fields),
    )
    for name, tags, voice, fields in _ROWS
)
