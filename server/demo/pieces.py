"""The demo's pieces: music for the night crossing of a harbour ferry."""

from lattice.document import (
    BarRestart,
    Drawn,
    Echo,
    Euclidean,
    Lane,
    Meter,
    NoteSpan,
    Numbered,
    Once,
    Pattern,
    Piece,
    Reply,
    Rests,
    StepChance,
    StepValue,
    Thin,
)
from lattice.document.source import Source

__all__ = ["PIECES"]


def _lanes(*lanes: Lane) -> tuple[Lane, ...]:
    return tuple(lane.model_copy(update={"ink": number % 8}) for number, lane in enumerate(lanes))


def _lane(voice: str, source: Source, **fields: object) -> Lane:
    return Lane.model_validate(
        {"id": voice, "name": voice.title(), "voice": voice, "source": source} | fields
    )


def _in(hits: int, steps: int) -> Euclidean:
    return Euclidean(hits=hits, steps=steps)


NIGHT_FERRY = Piece(
    name="Night Ferry",
    tempo=112,
    patterns=(
        Pattern(
            id="a",
            name="A",
            dice=7081,
            lanes=_lanes(
                _lane("thud", _in(4, 16), velocity=112, anchored=True),
                _lane("chain", Drawn(steps=16, hits=(4, 12)), velocity=104),
                _lane("bottle", _in(5, 16), rotate=2, velocity=86),
                _lane("clink", Rests(of="bottle"), thin=Thin(every=3), velocity=64),
                _lane("hiss", _in(7, 12), complement=True, velocity=58, length_percent=60),
                _lane(
                    "shell", _in(3, 7), span=NoteSpan(value=StepValue(note=2)), velocity=70, chance_percent=75
                ),
                _lane("winch", _in(4, 11), direction="backward", velocity=90, chance_percent=65),
                _lane("rope", Echo(of="winch", shift=3), velocity=46, chance_percent=70),
                _lane(
                    "rail",
                    _in(3, 8),
                    step_value=StepValue(note=8),
                    direction="wander",
                    velocity=52,
                    chance_percent=60,
                    luck_bars=4,
                ),
                _lane("bell", Drawn(steps=8, hits=(0, 3, 6)), once=Once(bars=7), velocity=74),
            ),
            bars=8,
        ),
        Pattern(
            id="b",
            name="B",
            dice=1402,
            bars=8,
            lanes=_lanes(
                _lane("thud", Drawn(steps=16, hits=(0, 6, 10)), velocity=110, anchored=True),
                _lane("chain", Drawn(steps=16, hits=(4, 12)), velocity=104),
                _lane("bottle", Numbered(hits=5, steps=16, number="1204"), velocity=80),
                _lane("clink", Reply(of="bottle"), velocity=68),
                _lane(
                    "hiss",
                    _in(9, 14),
                    velocity=56,
                    length_percent=60,
                    restart=BarRestart(bars=2),
                    step_chances=(StepChance(step=3, percent=50), StepChance(step=9, percent=25)),
                ),
                _lane("plank", _in(3, 10), direction="to-and-fro", velocity=84),
                _lane("gull", _in(1, 4), step_value=StepValue(note=2, kind="dotted"), rotate=1, velocity=50),
            ),
        ),
    ),
)

LANTERN_QUAY = Piece(
    name="Lantern Quay",
    tempo=96,
    patterns=(
        Pattern(
            id="a",
            name="A",
            dice=412,
            meter=Meter(numerator=7, denominator=8),
            lanes=_lanes(
                _lane("thud", Drawn(steps=14, hits=(0, 6, 10)), velocity=104),
                _lane("plank", _in(3, 7), rotate=2, step_value=StepValue(note=8), velocity=82),
                _lane("bell", _in(4, 9), velocity=66, length_percent=200),
                _lane("rail", _in(5, 14), rotate=3, velocity=60, chance_percent=80),
                _lane(
                    "gull",
                    _in(1, 4),
                    step_value=StepValue(note=8, kind="dotted"),
                    rotate=1,
                    velocity=48,
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
            lanes=_lanes(
                _lane("thud", Drawn(steps=16, hits=(0, 6, 10)), velocity=112),
                _lane("chain", Drawn(steps=16, hits=(4, 12)), velocity=106),
                _lane("clink", _in(16, 16), velocity=56, chance_percent=70, length_percent=50),
                _lane(
                    "rope",
                    _in(11, 24),
                    step_value=StepValue(note=16, kind="triplet"),
                    velocity=64,
                    chance_percent=55,
                ),
                _lane("rail", _in(7, 15), velocity=70, chance_percent=60),
                _lane("winch", _in(2, 5), step_value=StepValue(note=8, kind="dotted"), velocity=92),
            ),
        ),
    ),
)

PIECES = (SLACK_WATER, LANTERN_QUAY, NIGHT_FERRY)  # the last one made lies first on the shelf
