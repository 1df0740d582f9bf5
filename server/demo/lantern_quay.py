"""Lantern Quay: melodies in seven over a progression, each made in another way."""

from demo.writing import euclidean, lane, lanes
from lattice.document import (
    Accent,
    Arpeggio,
    BarSpan,
    ChordPool,
    ChordStrip,
    Drawn,
    Free,
    HeldKey,
    HeldPool,
    Keys,
    LanePool,
    LengthStrip,
    Meter,
    NoteSpan,
    OctaveStrip,
    Pattern,
    Pedal,
    Piece,
    PitchStrip,
    PlacedChord,
    Progression,
    Scale,
    StepValue,
)
from lattice.starters.rows import at

__all__ = ["LANTERN_QUAY"]


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
            lanes=lanes(
                lane(
                    "glass",
                    euclidean(5, 8),
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
                lane(
                    "lantern",
                    euclidean(9, 14),
                    name="Lantern",
                    voice="lantern",
                    arpeggio=Arpeggio(pool=ChordPool(), order="inward", octaves=2, restart="chord"),
                    velocity=76,
                    chance_percent=85,
                    octave_strip=OctaveStrip(values=at({6: 1, 11: 1})),
                    pan=-30,
                    level_db=-4,
                ),
                lane(
                    "reed",
                    euclidean(3, 7),
                    name="Low reed",
                    voice="low-reed",
                    follows="root",
                    step_value=StepValue(note=8),
                    velocity=92,
                    length_strip=LengthStrip(values=at({0: 0, 2: 150})),
                    pitch_strip=PitchStrip(values=at({2: 4, 4: -1, 5: 2})),
                ),
                lane(
                    "foghorn",
                    euclidean(2, 5),
                    name="Foghorn",
                    voice="foghorn",
                    span=BarSpan(bars=1),
                    follows="nearest",
                    pitch_strip=PitchStrip(values=(0, 2, 4, 2, 6), free=Free(advance="hit")),
                    chord_strip=ChordStrip(values=at({0: 2})),
                    velocity=58,
                    length_percent=180,
                    chance_percent=70,
                    level_db=-8,
                ),
                lane(
                    "halyard",
                    euclidean(5, 14),
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
                lane("thud", Drawn(steps=14, hits=(0, 6, 10)), velocity=104),
                lane("rail", euclidean(5, 14), rotate=3, velocity=56, chance_percent=80),
                lane(
                    "gull",
                    euclidean(1, 4),
                    step_value=StepValue(note=8, kind="dotted"),
                    rotate=1,
                    velocity=44,
                    chance_percent=30,
                ),
            ),
        ),
    ),
)
