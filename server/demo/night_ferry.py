"""Night Ferry: three minutes of a crossing, in three patterns and a running order."""

from demo.writing import euclidean, lane, lanes, moves
from lattice.document import (
    Accent,
    Arpeggio,
    BarRestart,
    Before,
    ChanceStrip,
    CycleRule,
    Drawn,
    Echo,
    Free,
    GroundSource,
    Humanise,
    LanePool,
    Link,
    NoteSpan,
    Numbered,
    OctaveStrip,
    Once,
    Pattern,
    Piece,
    PitchStrip,
    RatchetStrip,
    Reply,
    Rests,
    Scale,
    Spread,
    StepValue,
    Swing,
    Thin,
    VelocityStrip,
)
from lattice.document.detour import PatternDetour, Variation
from lattice.document.order import OrderRow, RowPace
from lattice.document.perform import BigControl
from lattice.starters.rows import at

__all__ = ["NIGHT_FERRY"]


# Dark water and one light; out of the harbour; the crossing; a lull; and home by another key.
NIGHT_FERRY_ORDER = (
    OrderRow(pattern="a", mutes=("hiss", "shell", "winch", "rope", "rail")),
    OrderRow(pattern="a"),
    OrderRow(pattern="b"),
    OrderRow(pattern="c"),
    OrderRow(pattern="c", degrees_up=3),
    OrderRow(pattern="b", mutes=("gull",)),
    OrderRow(pattern="a", bars=4, pace=RowPace(times=2, over=3)),
    OrderRow(pattern="c", scale=Scale(root=2, name="minor")),
    OrderRow(pattern="c", degrees_up=3, mutes=("chain",)),
    OrderRow(pattern="b"),
    OrderRow(pattern="a", mutes=("winch", "rope")),
)


NIGHT_FERRY = Piece(
    name="Night Ferry",
    tempo=112,
    swing=Swing(percent=54),
    scale=Scale(root=2, name="dorian"),
    order=NIGHT_FERRY_ORDER,
    hands=(
        BigControl(lane="hiss", control="busy"),
        BigControl(lane="bottle", control="chance_percent"),
        BigControl(lane="chain", control="velocity"),
        BigControl(lane="clink", control="length_percent"),
        BigControl(lane="hiss", control="step_value"),
        BigControl(lane="buoy", control="arpeggio.octaves"),
        BigControl(control="degrees_up"),
        BigControl(control="swing.percent"),
    ),
    patterns=(
        Pattern(
            id="a",
            name="A",
            dice=7081,
            lanes=lanes(
                lane("thud", euclidean(4, 16), velocity=112, anchored=True),
                lane(
                    "chain", Drawn(steps=16, hits=(4, 12)), velocity=104, humanise=Humanise(ms=4, velocity=3)
                ),
                lane("bottle", euclidean(5, 16), rotate=2, velocity=86, pan=-25),
                lane(
                    "clink",
                    Rests(of="bottle"),
                    thin=Thin(every=3),
                    velocity=62,
                    accent=Accent(velocity=104, every=3),
                    ratchet_strip=RatchetStrip(values=at({11: 3}), fade_from=100, fade_to=45),
                    beat_weight=25,
                    pan=20,
                ),
                lane(
                    "hiss",
                    euclidean(7, 12),
                    complement=True,
                    velocity=58,
                    length_percent=60,
                    velocity_strip=VelocityStrip(values=(58, 40, 66, 48, 54), free=Free(advance="hit")),
                ),
                lane(
                    "shell",
                    euclidean(3, 7),
                    span=NoteSpan(value=StepValue(note=2)),
                    velocity=70,
                    chance_percent=75,
                    velocity_strip=VelocityStrip(spread=Spread(by=12, shape="middle")),
                    pan=45,
                ),
                lane("winch", euclidean(4, 11), direction="backward", velocity=90, chance_percent=65),
                lane("rope", Echo(of="winch", shift=3), velocity=46, chance_percent=70, pan=-40),
                lane(
                    "rail",
                    euclidean(3, 8),
                    step_value=StepValue(note=8),
                    direction="wander",
                    velocity=52,
                    chance_percent=60,
                    luck_bars=4,
                    octave_strip=OctaveStrip(values=at({3: 1, 6: -1})),
                    level_db=-4,
                ),
                lane("bell", Drawn(steps=8, hits=(0, 3, 6)), once=Once(bars=7), velocity=74),
            ),
            bars=8,
        ),
        Pattern(
            id="b",
            name="B",
            ink=4,
            dice=1402,
            bars=8,
            lanes=lanes(
                lane("thud", Drawn(steps=16, hits=(0, 6, 10)), velocity=110, anchored=True),
                lane(
                    "chain",
                    Drawn(steps=16, hits=(4, 7, 9, 12, 15)),
                    velocity=108,
                    # The ghost notes come three times in four; the last two together or not at all.
                    velocity_strip=VelocityStrip(values=at({7: 38, 9: 30, 15: 44})),
                    chance_strip=ChanceStrip(values=at({7: 75, 9: 75, 15: 75})),
                    links=(Link(step=7), Link(step=9)),
                    humanise=Humanise(ms=5, velocity=3),
                ),
                lane("bottle", Numbered(hits=5, steps=16, number="1204"), velocity=80),
                lane("clink", Reply(of="bottle"), velocity=68),
                lane(
                    "hiss",
                    euclidean(9, 14),
                    velocity=56,
                    length_percent=60,
                    restart=BarRestart(bars=2),
                    chance_strip=ChanceStrip(values=at({3: 50, 9: 25})),
                ),
                lane(
                    "plank",
                    GroundSource(
                        ground="gangway",
                        part="mid",
                        x=64,
                        y=86,
                        was=Before(source=euclidean(3, 10), direction="to-and-fro"),
                    ),
                    velocity=84,
                ),
                lane(
                    "gull",
                    euclidean(1, 4),
                    step_value=StepValue(note=2, kind="dotted"),
                    rotate=1,
                    velocity=50,
                    cycle_rule=CycleRule(nth=1, of=2),
                ),
            ),
            detours=(
                PatternDetour(
                    detour=Variation(distance=55, ways=("beside", "busier or sparser", "accents"), throw=12),
                    fresh=True,
                ),
            ),
        ),
        Pattern(
            id="c",
            name="C",
            ink=6,
            dice=2318,
            bars=8,
            lanes=lanes(
                lane("thud", Drawn(steps=16, hits=(0, 6, 10)), velocity=110, anchored=True),
                lane("chain", Drawn(steps=16, hits=(4, 12)), velocity=106),
                lane(
                    "hiss",
                    euclidean(9, 14),
                    velocity=54,
                    length_percent=60,
                    movements=(
                        moves("busy", (0, -60), (2, -20), (4, 0), (5, 20), (6, 45), (7, -40), loop_bars=8),
                    ),
                ),
                lane("bottle", euclidean(5, 16), rotate=2, velocity=78, pan=-25),
                lane(
                    "reed",
                    euclidean(7, 16),
                    name="Low reed",
                    voice="low-reed",
                    velocity=92,
                    length_percent=85,
                    pitch_strip=PitchStrip(values=(0, None, 0, None, 4, None, 2, 0, None, -1)),
                    movements=(moves("length_percent", (0, 40), (4, 85), (6, 150), (7, 30), loop_bars=8),),
                ),
                lane(
                    "buoy",
                    euclidean(5, 12),
                    name="Buoy",
                    voice="buoy",
                    arpeggio=Arpeggio(pool=LanePool(of="reed"), order="up", octaves=2),
                    velocity=64,
                    chance_percent=80,
                    pan=30,
                    level_db=-5,
                ),
            ),
        ),
    ),
)
