"""The demo's pieces: music for the night crossing of a harbour ferry."""

from lattice.document import (
    Accent,
    Arpeggio,
    BarRestart,
    BarSpan,
    Before,
    Burst,
    ChanceStrip,
    ChordPool,
    ChordStrip,
    ControlStrip,
    CycleRule,
    Drawn,
    Echo,
    Euclidean,
    Free,
    GroundSource,
    HeldKey,
    HeldPool,
    Humanise,
    Keys,
    Lane,
    LanePool,
    LengthStrip,
    Link,
    Meter,
    NoteSpan,
    Numbered,
    OctaveStrip,
    Once,
    Pattern,
    Pedal,
    Piece,
    PitchStrip,
    PlacedChord,
    Progression,
    RatchetStrip,
    Reply,
    Rests,
    Scale,
    Spread,
    StepRule,
    StepValue,
    Swing,
    Thin,
    VelocityStrip,
)
from lattice.document.detour import PatternDetour, Variation
from lattice.document.ground import Source
from lattice.document.movement import Movement, Point
from lattice.document.order import OrderRow, RowPace
from lattice.document.perform import BigControl

__all__ = ["PIECES"]


def _lanes(*lanes: Lane) -> tuple[Lane, ...]:
    return tuple(lane.model_copy(update={"ink": number % 8}) for number, lane in enumerate(lanes))


def _lane(lane_id: str, source: Source, **fields: object) -> Lane:
    """Return a lane that is called after its voice, unless *fields* say otherwise."""
    return Lane.model_validate(
        {"id": lane_id, "name": lane_id.title(), "voice": lane_id, "source": source} | fields
    )


def _at(values: dict[int, int]) -> tuple[int | None, ...]:
    """Values of a strip by step, counted from 0; the others are plain."""
    return tuple(values.get(step) for step in range(max(values) + 1))


def _in(hits: int, steps: int) -> Euclidean:
    return Euclidean(hits=hits, steps=steps)


def _bar(bars: float) -> int:
    return int(bars * Meter().bar_ticks)


def _moves(control: str, *points: tuple[float, int], loop_bars: int) -> Movement:
    """Return a movement whose points lie at bars, counted from 0."""
    return Movement(
        control=control, points=tuple(Point(_bar(at), value) for at, value in points), loop_bars=loop_bars
    )


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
            lanes=_lanes(
                _lane("thud", _in(4, 16), velocity=112, anchored=True),
                _lane(
                    "chain", Drawn(steps=16, hits=(4, 12)), velocity=104, humanise=Humanise(ms=4, velocity=3)
                ),
                _lane("bottle", _in(5, 16), rotate=2, velocity=86, pan=-25),
                _lane(
                    "clink",
                    Rests(of="bottle"),
                    thin=Thin(every=3),
                    velocity=62,
                    accent=Accent(velocity=104, every=3),
                    ratchet_strip=RatchetStrip(values=_at({11: 3}), fade_from=100, fade_to=45),
                    beat_weight=25,
                    pan=20,
                ),
                _lane(
                    "hiss",
                    _in(7, 12),
                    complement=True,
                    velocity=58,
                    length_percent=60,
                    velocity_strip=VelocityStrip(values=(58, 40, 66, 48, 54), free=Free(advance="hit")),
                ),
                _lane(
                    "shell",
                    _in(3, 7),
                    span=NoteSpan(value=StepValue(note=2)),
                    velocity=70,
                    chance_percent=75,
                    velocity_strip=VelocityStrip(spread=Spread(by=12, shape="middle")),
                    pan=45,
                ),
                _lane("winch", _in(4, 11), direction="backward", velocity=90, chance_percent=65),
                _lane("rope", Echo(of="winch", shift=3), velocity=46, chance_percent=70, pan=-40),
                _lane(
                    "rail",
                    _in(3, 8),
                    step_value=StepValue(note=8),
                    direction="wander",
                    velocity=52,
                    chance_percent=60,
                    luck_bars=4,
                    octave_strip=OctaveStrip(values=_at({3: 1, 6: -1})),
                    level_db=-4,
                ),
                _lane("bell", Drawn(steps=8, hits=(0, 3, 6)), once=Once(bars=7), velocity=74),
            ),
            bars=8,
        ),
        Pattern(
            id="b",
            name="B",
            ink=4,
            dice=1402,
            bars=8,
            lanes=_lanes(
                _lane("thud", Drawn(steps=16, hits=(0, 6, 10)), velocity=110, anchored=True),
                _lane(
                    "chain",
                    Drawn(steps=16, hits=(4, 7, 9, 12, 15)),
                    velocity=108,
                    # The ghost notes come three times in four; the last two together or not at all.
                    velocity_strip=VelocityStrip(values=_at({7: 38, 9: 30, 15: 44})),
                    chance_strip=ChanceStrip(values=_at({7: 75, 9: 75, 15: 75})),
                    links=(Link(step=7), Link(step=9)),
                    humanise=Humanise(ms=5, velocity=3),
                ),
                _lane("bottle", Numbered(hits=5, steps=16, number="1204"), velocity=80),
                _lane("clink", Reply(of="bottle"), velocity=68),
                _lane(
                    "hiss",
                    _in(9, 14),
                    velocity=56,
                    length_percent=60,
                    restart=BarRestart(bars=2),
                    chance_strip=ChanceStrip(values=_at({3: 50, 9: 25})),
                ),
                _lane(
                    "plank",
                    GroundSource(
                        ground="gangway",
                        part="mid",
                        x=64,
                        y=86,
                        was=Before(source=_in(3, 10), direction="to-and-fro"),
                    ),
                    velocity=84,
                ),
                _lane(
                    "gull",
                    _in(1, 4),
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
            lanes=_lanes(
                _lane("thud", Drawn(steps=16, hits=(0, 6, 10)), velocity=110, anchored=True),
                _lane("chain", Drawn(steps=16, hits=(4, 12)), velocity=106),
                _lane(
                    "hiss",
                    _in(9, 14),
                    velocity=54,
                    length_percent=60,
                    movements=(
                        _moves("busy", (0, -60), (2, -20), (4, 0), (5, 20), (6, 45), (7, -40), loop_bars=8),
                    ),
                ),
                _lane("bottle", _in(5, 16), rotate=2, velocity=78, pan=-25),
                _lane(
                    "reed",
                    _in(7, 16),
                    name="Low reed",
                    voice="low-reed",
                    velocity=92,
                    length_percent=85,
                    pitch_strip=PitchStrip(values=(0, None, 0, None, 4, None, 2, 0, None, -1)),
                    movements=(_moves("length_percent", (0, 40), (4, 85), (6, 150), (7, 30), loop_bars=8),),
                ),
                _lane(
                    "buoy",
                    _in(5, 12),
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


def _eighths(count: int) -> NoteSpan:
    return NoteSpan(value=StepValue.model_validate({"note": 8, "multiplier": count}))


LANTERN_QUAY = Piece(
    name="Lantern Quay",
    tempo=96,
    scale=Scale(root=4, name="phrygian"),
    patterns=(
        Pattern(
            id="a",
            name="A",
            dice=412,
            bars=8,
            meter=Meter(numerator=7, denominator=8),
            progression=Progression(
                leading="nearest",
                chords=(
                    PlacedChord(chord="i", lasts=BarSpan(bars=1)),
                    PlacedChord(chord="II", lasts=_eighths(4)),
                    PlacedChord(chord="vii", lasts=_eighths(3)),
                    PlacedChord(chord="i", lasts=_eighths(4)),
                    PlacedChord(chord="VI", lasts=_eighths(3)),
                    PlacedChord(chord="II", lasts=BarSpan(bars=1)),
                ),
            ),
            lanes=_lanes(
                _lane(
                    "glass",
                    _in(5, 8),
                    name="Glass harbour",
                    voice="glass-harbour",
                    arpeggio=Arpeggio(
                        pool=HeldPool(latch="replace"), order="up-and-down", octaves=2, velocity="keys"
                    ),
                    # A latched chord, let go where it was struck: E, B and the G above, until another takes its place.
                    keys=Keys(
                        held=(
                            HeldKey(start=0, end=0, key=64, velocity=92),
                            HeldKey(start=0, end=0, key=71, velocity=78),
                            HeldKey(start=0, end=0, key=79, velocity=84),
                        )
                    ),
                    length_percent=60,
                    accent=Accent(velocity=112, every=5),
                    pan=25,
                    level_db=-5,
                ),
                _lane(
                    "lantern",
                    _in(9, 14),
                    name="Lantern",
                    voice="lantern",
                    arpeggio=Arpeggio(pool=ChordPool(), order="inward", octaves=2, restart="chord"),
                    velocity=76,
                    chance_percent=85,
                    octave_strip=OctaveStrip(values=_at({6: 1, 11: 1})),
                    pan=-30,
                    level_db=-4,
                ),
                _lane(
                    "reed",
                    _in(3, 7),
                    name="Low reed",
                    voice="low-reed",
                    follows="root",
                    step_value=StepValue(note=8),
                    velocity=92,
                    length_strip=LengthStrip(values=_at({0: 0, 2: 150})),
                    pitch_strip=PitchStrip(values=_at({2: 4, 4: -1, 5: 2})),
                ),
                _lane(
                    "foghorn",
                    _in(2, 5),
                    name="Foghorn",
                    voice="foghorn",
                    span=BarSpan(bars=1),
                    follows="nearest",
                    pitch_strip=PitchStrip(values=(0, 2, 4, 2, 6), free=Free(advance="hit")),
                    chord_strip=ChordStrip(values=_at({0: 2})),
                    velocity=58,
                    length_percent=180,
                    chance_percent=70,
                    level_db=-8,
                ),
                _lane(
                    "halyard",
                    _in(5, 14),
                    name="Halyard",
                    voice="halyard",
                    rotate=3,
                    arpeggio=Arpeggio(pool=LanePool(of="lantern"), order="down", pedal=Pedal(every=3)),
                    velocity=62,
                    chance_percent=75,
                    degrees_up=7,
                    pan=45,
                    level_db=-7,
                ),
                _lane("thud", Drawn(steps=14, hits=(0, 6, 10)), velocity=104),
                _lane("rail", _in(5, 14), rotate=3, velocity=56, chance_percent=80),
                _lane(
                    "gull",
                    _in(1, 4),
                    step_value=StepValue(note=8, kind="dotted"),
                    rotate=1,
                    velocity=44,
                    chance_percent=30,
                ),
            ),
        ),
    ),
)

SLACK_WATER = Piece(
    name="Slack Water",
    tempo=148,
    patterns=(
        Pattern(
            id="a",
            name="A",
            dice=90210,
            bars=4,
            lanes=_lanes(
                _lane("thud", Drawn(steps=16, hits=(0, 6, 10)), velocity=112),
                _lane(
                    "chain",
                    Drawn(steps=16, hits=(4, 12)),
                    velocity=106,
                    # Five in the space of two eighths, at the end of every second time round.
                    bursts=(
                        Burst(
                            bars=3,
                            count=6,
                            value=StepValue(note=8),
                            notes=5,
                            length=2,
                            fade_from=45,
                            fade_to=110,
                        ),
                    ),
                ),
                _lane(
                    "clink",
                    _in(16, 16),
                    velocity=60,
                    chance_percent=85,
                    length_percent=50,
                    beat_weight=60,
                    accent=Accent(velocity=100, every=5),
                    ratchet_strip=RatchetStrip(
                        values=_at({3: 2, 7: 3, 10: 2, 14: 4}), fade_from=60, fade_to=110, climb=1
                    ),
                    humanise=Humanise(ms=3, velocity=5),
                    pan=-15,
                ),
                _lane(
                    "rope",
                    _in(11, 24),
                    step_value=StepValue(note=16, kind="triplet"),
                    velocity=64,
                    chance_percent=70,
                    velocity_strip=VelocityStrip(
                        values=(70, 44, 56, 38, 62), free=Free(direction="to-and-fro")
                    ),
                    evened=20,
                    pan=35,
                ),
                _lane(
                    "rail",
                    _in(7, 15),
                    velocity=70,
                    chance_percent=80,
                    links=(Link(step=0, letter="a"), Link(step=2, letter="a"), Link(step=4, letter="a")),
                    length_strip=LengthStrip(values=_at({0: 0, 6: 200})),
                ),
                _lane(
                    "winch",
                    _in(2, 5),
                    step_value=StepValue(note=8, kind="dotted"),
                    velocity=92,
                    control_strips=(
                        ControlStrip(controller=74, values=(40, 64, 90, 110, 76), free=Free(advance="hit")),
                    ),
                ),
                _lane(
                    "bell",
                    _in(1, 8),
                    step_value=StepValue(note=2),
                    velocity=58,
                    step_rules=(StepRule(step=0, rule=CycleRule(nth=2, of=2)),),
                    level_db=-6,
                ),
            ),
        ),
    ),
)

PIECES = (SLACK_WATER, LANTERN_QUAY, NIGHT_FERRY)  # the last one made lies first on the shelf
