"""After how long what a lane plays repeats: what is said, against the notes."""

from fractions import Fraction

import pytest
from hypothesis import assume, given, reject

from lattice.document import (
    Accent,
    Arpeggio,
    BarRestart,
    BarSpan,
    Burst,
    ChordPool,
    ControlStrip,
    CycleRule,
    DocumentError,
    Drawn,
    Euclidean,
    EveryBars,
    EveryCycle,
    Free,
    Keys,
    LaneClip,
    LanePool,
    LaneSwing,
    Meter,
    Note,
    Once,
    Pedal,
    PitchStrip,
    PlacedChord,
    Progression,
    Score,
    StepValue,
    Thin,
    TypedPool,
    VelocityStrip,
)
from lattice.render import Window, render
from lattice.render.controls import controls_of
from lattice.render.feel import feel_of
from lattice.render.periods import period_of
from lattice.render.pipeline import play_all
from lattice.render.pitch_context import pitch_context_of
from lattice.screen.periods import pool_round, repeats_every
from lattice.steps.lane_steps import steps_of_lanes
from lattice.units import TICKS_PER_QUARTER
from tests.lattice.render.test_movements import moves
from tests.lattice.scores import dice, lane, score, scores

FOUR = Euclidean(hits=4, steps=16)
ONE_IN_THREE = Euclidean(hits=1, steps=3)
TRIAD = TypedPool(notes=(60, 64, 67))
PAIR = Progression(chords=(PlacedChord(chord="Dm", lasts=BarSpan(bars=2)), PlacedChord(chord="G")))


def said(asked: Score) -> str:
    lane_steps = steps_of_lanes(asked, 1)[0]
    return repeats_every(
        lane_steps, feel_of(lane_steps.lane, asked), pitch_context_of(lane_steps.lane, asked, 1), asked, 0
    )


def period(asked: Score, dice: int = 1) -> Fraction:
    """Return after how many bars the first lane is said to repeat."""
    lane_steps = steps_of_lanes(asked, dice)[0]
    context = pitch_context_of(lane_steps.lane, asked, dice)
    return period_of(lane_steps, feel_of(lane_steps.lane, asked), context, 0) / asked.meter.bar_quarters


def sounding(asked: Score, first: Fraction, bars: Fraction, dice: int = 1) -> list[tuple[int, ...]]:
    """Return all that sounds and is sent from a bar on, perhaps within it, for so many, counted from there in ticks."""
    begin, end = (int(bar * asked.meter.bar_ticks) for bar in (first, first + bars))
    window = Window(first_bar=int(first), bars=int(bars) + 2)
    events = render(asked, dice, window)
    sent = controls_of(asked, window, play_all(asked, dice, window)).sends
    notes = zip(events.starts, events.lengths, events.pitches, events.velocities, events.tunes, strict=True)
    moves = zip(sent.ticks, sent.controllers, sent.values, strict=True)
    rows = [tuple(map(int, row)) for row in (*notes, *moves)]
    return [(start - begin, *row) for start, *row in rows if begin <= start < end]


def shortest(asked: Score, said: Fraction) -> Fraction:
    """Return, by brute force, after how many bars all is the same again: what is *said*, or fewer cycles."""
    late = 2 * said + 4  # when nothing is heard of the beginning any more
    cycle = steps_of_lanes(asked, 1)[0].clock.cycle_quarters / asked.meter.bar_quarters
    cycles = [count * cycle for count in range(1, int(said / cycle) + 1)]
    first = sounding(asked, late, said)
    return next(bars for bars in (*cycles, said) if sounding(asked, late + bars, said) == first)


CASES = {
    "a cycle of a bar": ({"source": FOUR}, 1),
    "a cycle of three sixteenths": ({"source": ONE_IN_THREE}, Fraction(3, 16)),
    "once, in each third pass": ({"source": FOUR, "once": Once(), "cycle_rule": CycleRule(nth=1, of=3)}, 3),
    "restarting, six cycles a bar, each fourth": (
        {"source": ONE_IN_THREE, "restart": BarRestart(bars=1), "cycle_rule": CycleRule(nth=1, of=4)},
        2,
    ),
    "restarting, four cycles a bar, each fourth": (
        {
            "source": Euclidean(hits=1, steps=5),
            "restart": BarRestart(bars=1),
            "cycle_rule": CycleRule(nth=1, of=4),
        },
        1,
    ),
    "a pool of one note and a pedal": (
        {
            "voice": "low-reed",
            "arpeggio": Arpeggio(pool=TypedPool(notes=(60,)), pedal=Pedal(every=3, note=40)),
        },
        3,
    ),
    "three notes on four hits": ({"voice": "low-reed", "arpeggio": Arpeggio(pool=TRIAD)}, 3),
    "three notes and a pedal on each fourth": (
        {"voice": "low-reed", "arpeggio": Arpeggio(pool=TRIAD, pedal=Pedal(every=4, note=40))},
        1,
    ),
    "three notes and a pedal on each third": (
        {"voice": "low-reed", "arpeggio": Arpeggio(pool=TRIAD, pedal=Pedal(every=3, note=40))},
        9,
    ),
    "a pedal after which the order begins again": (
        {"voice": "low-reed", "arpeggio": Arpeggio(pool=TRIAD, pedal=Pedal(every=5, note=40, again=True))},
        5,
    ),
    "an order that begins with each cycle": (
        {"voice": "low-reed", "arpeggio": Arpeggio(pool=TRIAD, restart="cycle")},
        1,
    ),
    "the chords of a progression of three bars": (
        {"voice": "low-reed", "arpeggio": Arpeggio(pool=ChordPool(), restart="chord")},
        3,
    ),
    "accents on each third of four hits": ({"accent": Accent(every=3, velocity=127)}, 3),
    "thinned to each third": ({"thin": Thin(every=3)}, 3),
    "thinned in each cycle": ({"thin": Thin(every=3, each_cycle=True)}, 1),
    "a burst in each pass": ({"bursts": (Burst(notes=3),)}, 8),
    "a burst in every third bar": ({"bursts": (Burst(notes=3, comes=EveryBars(bars=3)),)}, 3),
    "a burst in each cycle": (
        {"source": Euclidean(hits=3, steps=5), "bursts": (Burst(notes=3, length=2, comes=EveryCycle()),)},
        Fraction(5, 16),
    ),
    "swing over a cycle of three sixteenths": (
        {"source": ONE_IN_THREE, "swing": LaneSwing(percent=60)},
        Fraction(3, 8),
    ),
    "triplets that swing": (
        {
            "source": Euclidean(hits=1, steps=3),
            "step_value": StepValue(note=8, kind="triplet"),
            "swing": LaneSwing(percent=60, own_steps=True),
        },
        Fraction(1, 2),
    ),
    "beat weight over five sixteenths": (
        {"source": Euclidean(hits=1, steps=5), "beat_weight": 80},
        Fraction(5, 4),
    ),
    "a strip of three values by step": (
        {"velocity_strip": VelocityStrip(values=(1, 50, 90), free=Free())},
        3,
    ),
    "a strip of five values by hit": (
        {"velocity_strip": VelocityStrip(values=(1, 20, 50, 70, 90), free=Free(advance="hit"))},
        5,
    ),
    "a controller of three values by hit": (
        {"control_strips": (ControlStrip(controller=1, values=(1, 20, 50), free=Free(advance="hit")),)},
        3,
    ),
    "pitches of three values over a progression": (
        {
            "voice": "low-reed",
            "follows": "root",
            "pitch_strip": PitchStrip(values=(0, 1, 2), free=Free(advance="hit")),
        },
        3,
    ),
}


@pytest.mark.parametrize("name", CASES)
def test_it_repeats_when_the_notes_do_and_no_sooner(name):
    fields, bars = CASES[name]
    asked = score(lane(**{"source": FOUR} | fields), bars=8, progression=PAIR)
    if fields.get("once"):
        asked = score(lane(**fields), bars=1)
    assert period(asked) == bars
    assert shortest(asked, Fraction(bars)) == bars


def test_in_a_meter_that_swing_does_not_divide_it_repeats_with_the_bar():
    asked = score(
        lane(source=Drawn(steps=1, hits=(0,)), swing=LaneSwing(percent=66)),
        meter=Meter(numerator=7, denominator=16),
    )
    assert period(asked) == 1
    assert sounding(asked, Fraction(3), Fraction(1)) == sounding(asked, Fraction(4), Fraction(1))


@given(scores(min_lanes=1, made=False), dice)
def test_what_is_said_to_repeat_does_so(asked, dice):
    asked = asked.model_copy(update={"lanes": asked.lanes[:1]})
    one = asked.lanes[0]
    # Before chance and all other luck: without.
    plain = {
        name: strip.model_copy(update={"spread": None})
        for name, strip in one
        if name.endswith("_strip") and strip is not None
    }
    plain["bursts"] = tuple(burst.model_copy(update={"chance_percent": 100}) for burst in one.bursts)
    luckless = {"chance_percent": 100, "chance_strip": None, "humanise": None, "luck_bars": None}
    one = one.model_copy(update=plain | luckless | {"keys": Keys(), "mute": False, "clip": None, "links": ()})
    asked = asked.model_copy(update={"lanes": (one,)})
    lane_steps = steps_of_lanes(asked, dice)[0]
    assume(
        "never"
        not in repeats_every(lane_steps, feel_of(one, asked), pitch_context_of(one, asked, dice), asked, 0)
    )
    bars = period(asked, dice)
    assume(bars * asked.meter.bar_quarters / lane_steps.clock.step < 3000)
    # What is silent only at the very start, and ties that reach back into it, are over by then.
    late = bars * (100 // bars + 1)
    whole = Fraction(bars.numerator)  # whole ticks, too: times are rounded
    try:
        first, later = sounding(asked, late, bars, dice), sounding(asked, late + whole, bars, dice)
    except DocumentError:
        reject()  # longer than may be asked for at once
    assert first == later


def test_what_never_repeats_says_so_in_a_sentence():
    assert said(score(lane(direction="random"))) == "never repeats: luck decides its order"
    wandering = VelocityStrip(values=(1, 2), free=Free(direction="wander"))
    assert said(score(lane(velocity_strip=wandering))) == "never repeats: luck decides the order of a strip"
    thrown = lane(voice="low-reed", arpeggio=Arpeggio(pool=TRIAD, order="random"))
    assert said(score(thrown)) == "never repeats: luck decides the order of its notes"


@pytest.mark.parametrize(
    ("fields", "bars"),
    [
        ({"arpeggio": Arpeggio(pool=TRIAD, order="random")}, 2),
        ({"arpeggio": Arpeggio(pool=TRIAD, order="shuffled")}, 6),
        ({"velocity_strip": VelocityStrip(values=(9, 60, 120, 30), free=Free(direction="wander"))}, 2),
        ({"velocity_strip": VelocityStrip(values=(9, 60, 120), free=Free(direction="shuffled"))}, 6),
        ({"velocity_strip": VelocityStrip(values=(9, 60, 120), free=Free(direction="random"))}, 2),
        (
            {
                "velocity_strip": VelocityStrip(
                    values=(9, 60, 120, 30, 90), free=Free(direction="shuffled", advance="hit")
                )
            },
            10,
        ),
        (
            {
                "control_strips": (
                    ControlStrip(controller=74, values=(9, 60, 120), free=Free(direction="shuffled")),
                )
            },
            6,
        ),
        ({"direction": "random"}, 2),
    ],
)
def test_orders_repeat_with_luck_that_does(fields, bars):
    asked = score(lane(voice="low-reed", luck_bars=2, **fields))
    assert said(asked) == f"repeats every {bars} bars"
    once, again = (sounding(asked, Fraction(first), Fraction(bars)) for first in (bars, 3 * bars))
    assert once == again


def test_a_cascade_and_a_clip_say_with_what_they_repeat():
    over = lane("over", voice="low-reed", arpeggio=Arpeggio(pool=LanePool(of="bell")))
    assert said(score(over, lane("bell"))) == "repeats together with Bell, whose notes it plays"
    clip = LaneClip(name="kept", length_ticks=3 * 4 * TICKS_PER_QUARTER, notes=(Note(0, 100, 60, 90),))
    assert said(score(lane(clip=clip))) == "repeats every 3 bars"


def test_luck_that_repeats_counts_only_where_luck_acts():
    assert said(score(lane(luck_bars=5))) == "repeats every bar"
    assert said(score(lane(luck_bars=5, chance_percent=50))) == "repeats every 5 bars"


def test_what_moves_repeats_with_its_movement_or_never():
    busy = moves("busy", (0, -50), (4 * 13440, 20), loop_bars=3)
    hat = lane("hiss", voice="hiss", source=Euclidean(hits=5, steps=14), movements=(busy,))
    assert said(score(hat)) == "repeats every 21 bars"
    slow = moves("step_value", (0, StepValue(note=8)), (53760, StepValue()), loop_bars=2)
    assert (
        said(score(lane("thud", source=Euclidean(hits=3, steps=7), movements=(slow,))))
        == "repeats every 14 bars"
    )
    once = moves("velocity", (0, 20), (53760, 90))
    assert said(score(lane("thud", movements=(once,)))) == "never repeats: velocity is moved, once through"
    off = once.model_copy(update={"off": True})
    assert said(score(lane("thud", movements=(off,)))) == "repeats every bar"
    held = moves("velocity", (0, 20))
    assert said(score(lane("thud", movements=(held,)))) == "repeats every bar"


def test_a_pool_of_the_whole_kit_names_the_notes_that_no_voice_is_on():
    of = {"arpeggio": Arpeggio(pool=TypedPool(notes=(36, 37, 40, 41))), "source": Euclidean(hits=4, steps=16)}

    def pool(voice: str) -> str:
        asked = score(lane("all", voice=voice, **of))
        (lane_steps,) = steps_of_lanes(asked, 1)
        return pool_round(lane_steps, pitch_context_of(lane_steps.lane, asked, 1), asked, 0).says

    assert pool("whole-kit").startswith("4 notes, no voice of the kit on E2")
    assert "voice" not in pool("low-reed")
