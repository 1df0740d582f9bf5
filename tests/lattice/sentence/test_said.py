"""What lanes do, in words."""

import pytest

from lattice.document import (
    Accent,
    BarRestart,
    BarSpan,
    Burst,
    ChanceStrip,
    ControlStrip,
    CycleRule,
    Drawn,
    Echo,
    Edit,
    Euclidean,
    EveryBars,
    EveryCycle,
    Free,
    Humanise,
    LaneSwing,
    LengthStrip,
    Link,
    NoteSpan,
    NudgeStrip,
    Numbered,
    OctaveStrip,
    Once,
    PassRestart,
    RatchetStrip,
    Reply,
    Rests,
    Spread,
    StepRange,
    StepRule,
    StepValue,
    Thin,
    Thrown,
    VelocityStrip,
)
from lattice.sentence import (
    say_step_value,
)
from tests.lattice.scores import lane
from tests.lattice.speaking import text


@pytest.mark.parametrize(
    ("fields", "said"),
    [
        ({}, "4 in 16"),
        ({"source": Drawn(steps=16, hits=(0, 4))}, "drawn, 16 steps"),
        ({"source": Drawn(steps=1)}, "drawn, 1 step"),
        ({"rotate": -2}, "4 in 16 · rotated -2"),
        ({"complement": True}, "4 in 16 · its rests"),
        ({"step_value": StepValue(note=8)}, "4 in 16 · step 1/8"),
        ({"step_value": StepValue(note=8, kind="dotted")}, "4 in 16 · step 1/8 dotted"),
        ({"step_value": StepValue(note=2, divisor=7)}, "4 in 16 · 7 in a 1/2"),
        ({"step_value": StepValue(note=8, kind="dotted", divisor=3)}, "4 in 16 · 3 in a 1/8 dotted"),
        ({"step_value": StepValue(note=8, multiplier=5)}, "4 in 16 · step 5 × 1/8"),
        ({"source": Numbered(hits=5, steps=16, number="1204")}, "5 in 16, no. 1,205 of 4,368"),
        ({"source": Numbered(hits=5, steps=16, number="4368")}, "5 in 16, no. 1 of 4,368"),
        ({"source": Thrown(hits=5, steps=16, throw=3)}, "5 in 16, throw 3"),
        ({"thin": Thin()}, "4 in 16 · only each 3rd hit"),
        (
            {"thin": Thin(keeps="without", every=2, first=2, each_cycle=True)},
            "4 in 16 · without each 2nd hit of a cycle, from the 2nd",
        ),
        (
            {"edits": (Edit(step=1, hit=True), Edit(step=20, hit=True))},
            "4 in 16 · 1 by hand (1 beyond its steps)",
        ),
        ({"edits": (Edit(step=20, hit=True),)}, "4 in 16 · 1 by hand, beyond its steps"),
        ({"span": BarSpan(bars=1)}, "4 in 16 · over 1 bar"),
        ({"span": BarSpan(bars=3)}, "4 in 16 · over 3 bars"),
        ({"span": NoteSpan(value=StepValue(note=2))}, "4 in 16 · over 1/2"),
        ({"once": Once()}, "4 in 16 · once"),
        ({"once": Once(count=3)}, "4 in 16 · once, from 3/4"),
        ({"once": Once(bars=2, count=1, note=8)}, "4 in 16 · once, from 2 bars + 1/8"),
        ({"step_range": StepRange(first=2, last=8)}, "4 in 16 · steps 3–9"),
        ({"step_range": StepRange(first=2, last=99)}, "4 in 16 · steps 3–16"),
        ({"direction": "backward"}, "4 in 16 · backward"),
        ({"direction": "to-and-fro"}, "4 in 16 · to and fro"),
        ({"direction": "wander"}, "4 in 16 · wandering"),
        ({"restart": BarRestart(bars=2)}, "4 in 16 · restarts every 2 bars"),
        ({"restart": PassRestart()}, "4 in 16 · restarts with each pass"),
        ({"velocity": 72}, "4 in 16 · velocity 72"),
        ({"velocity": 72, "velocity_strip": VelocityStrip(spread=Spread(by=9))}, "4 in 16 · velocity 72 ±9"),
        (
            {"velocity_strip": VelocityStrip(values=(None, 50, 60, *(9,) * 14))},
            "4 in 16 · velocity 100, on 15",
        ),
        (
            {"velocity_strip": VelocityStrip(values=(50, None), free=Free(advance="hit"))},
            "4 in 16 · velocity 100, 2 values at each hit",
        ),
        ({"accent": Accent(velocity=110)}, "4 in 16 · accent 110 on each 3rd hit"),
        ({"accent": Accent(every=4, first=2)}, "4 in 16 · accent 120 on each 4th hit, from the 2nd"),
        ({"beat_weight": 40, "evened": 30}, "4 in 16 · beat weight 40 % · evened 30 %"),
        ({"ratchet_strip": RatchetStrip(values=(3, None, 2))}, "4 in 16 · ratchet on 2"),
        ({"length_strip": LengthStrip(values=(0,))}, "4 in 16 · length 100 %, on 1"),
        ({"nudge_strip": NudgeStrip(values=(5,), spread=Spread(by=3))}, "4 in 16 · nudged on 1 ±3"),
        ({"octave_strip": OctaveStrip(values=(1,))}, "4 in 16 · octaves on 1"),
        (
            {
                "control_strips": (
                    ControlStrip(controller=74, values=(9,) * 5, free=Free()),
                    ControlStrip(controller=1),
                )
            },
            "4 in 16 · 74 brightness 5 values at each step, 1 modulation",
        ),
        ({"chance_percent": 45, "chance_strip": ChanceStrip(values=(50,))}, "4 in 16 · chance 45 %, on 1"),
        ({"links": (Link(step=1), Link(step=2), Link(step=5))}, "4 in 16 · 3 linked"),
        ({"links": (Link(step=1, letter="b"), Link(step=2))}, "4 in 16 · 1 a, 1 b linked"),
        ({"cycle_rule": CycleRule()}, "4 in 16 · cycle 1 of 4"),
        ({"step_rules": (StepRule(step=0, rule=CycleRule()),)}, "4 in 16 · cycles on 1"),
        ({"swing": LaneSwing(percent=58)}, "4 in 16 · swing 58 % of 1/16"),
        ({"swing": LaneSwing(percent=58, own_steps=True)}, "4 in 16 · swing 58 % of its own steps"),
        ({"humanise": Humanise()}, "4 in 16 · humanise 6 ms, 4 velocity"),
        ({"bursts": (Burst(),)}, "4 in 16 · a burst of 5 in bar 1 of 16"),
        ({"bursts": (Burst(bars=1, comes=EveryBars(bars=4)),)}, "4 in 16 · a burst of 5 in bar 2 of every 4"),
        ({"bursts": (Burst(comes=EveryCycle()),)}, "4 in 16 · a burst of 5 in each cycle"),
        ({"bursts": (Burst(), Burst(bars=63))}, "4 in 16 · 2 bursts (1 beyond the end)"),
        ({"level_db": -6, "pan": 30}, "4 in 16 · level -6 dB · pan 30"),
        ({"pan": -30}, "4 in 16 · pan -30"),
        ({"channel": 3, "note": 40}, "4 in 16 · channel 3 · note 40"),
        ({"luck_bars": 2}, "4 in 16 · luck repeats every 2 bars"),
        ({"anchored": True}, "4 in 16 · anchored"),
        (
            {"source": Thrown(hits=5, steps=16, throw=3, was=Euclidean(hits=5, steps=16))},
            "5 in 16, throw 3, was 5 in 16",
        ),
        ({"length_percent": 60}, "4 in 16 · length 60 %"),
        (
            {"rotate": 2, "complement": True, "chance_percent": 45, "velocity": 90},
            "4 in 16 · rotated 2 · its rests · velocity 90 · chance 45 %",
        ),
    ],
)
def test_a_lane_says_what_it_does_in_order(fields, said):
    assert text(lane(**fields)) == said


@pytest.mark.parametrize(
    ("source", "said"),
    [
        (Rests(of="chain"), "rests of Chain"),
        (Echo(of="chain", shift=3), "echo of Chain, 3 later"),
        (Reply(of="chain"), "reply to Chain"),
        (Reply(of="chain", every=2), "reply to Chain, each 2nd hit"),
    ],
)
def test_a_made_lane_says_whom_it_follows(source, said):
    assert text(lane("bottle", source=source), lane("chain")) == said


def test_the_patterns_step_is_said_the_same_way():
    assert say_step_value(StepValue(note=16)) == "1/16"
