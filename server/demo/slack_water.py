"""Slack Water: fast, with bursts, ratchets and luck."""

from demo.writing import euclidean, lane, lanes
from lattice.document import (
    Accent,
    Burst,
    ControlStrip,
    CycleRule,
    Drawn,
    Free,
    Humanise,
    LengthStrip,
    Link,
    Pattern,
    Piece,
    RatchetStrip,
    StepRule,
    StepValue,
    VelocityStrip,
)
from lattice.starters.rows import at

__all__ = ["SLACK_WATER"]


SLACK_WATER = Piece(
    name="Slack Water",
    tempo=148,
    patterns=(
        Pattern(
            id="a",
            name="A",
            dice=90210,
            bars=4,
            lanes=lanes(
                lane("thud", Drawn(steps=16, hits=(0, 6, 10)), velocity=112),
                lane(
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
                lane(
                    "clink",
                    euclidean(16, 16),
                    velocity=60,
                    chance_percent=85,
                    length_percent=50,
                    beat_weight=60,
                    accent=Accent(velocity=100, every=5),
                    ratchet_strip=RatchetStrip(
                        values=at({3: 2, 7: 3, 10: 2, 14: 4}), fade_from=60, fade_to=110, climb=1
                    ),
                    humanise=Humanise(ms=3, velocity=5),
                    pan=-15,
                ),
                lane(
                    "rope",
                    euclidean(11, 24),
                    step_value=StepValue(note=16, kind="triplet"),
                    velocity=64,
                    chance_percent=70,
                    velocity_strip=VelocityStrip(
                        values=(70, 44, 56, 38, 62), free=Free(direction="to-and-fro")
                    ),
                    evened=20,
                    pan=35,
                ),
                lane(
                    "rail",
                    euclidean(7, 15),
                    velocity=70,
                    chance_percent=80,
                    links=(Link(step=0, letter="a"), Link(step=2, letter="a"), Link(step=4, letter="a")),
                    length_strip=LengthStrip(values=at({0: 0, 6: 200})),
                ),
                lane(
                    "winch",
                    euclidean(2, 5),
                    step_value=StepValue(note=8, kind="dotted"),
                    velocity=92,
                    control_strips=(
                        ControlStrip(controller=74, values=(40, 64, 90, 110, 76), free=Free(advance="hit")),
                    ),
                ),
                lane(
                    "bell",
                    euclidean(1, 8),
                    step_value=StepValue(note=2),
                    velocity=58,
                    step_rules=(StepRule(step=0, rule=CycleRule(nth=2, of=2)),),
                    level_db=-6,
                ),
            ),
        ),
    ),
)
