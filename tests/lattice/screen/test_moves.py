"""What is drawn and heard of movements."""

from itertools import pairwise

from hypothesis import assume, given

from lattice.document import Drawn, Euclidean, Lane, StepValue
from lattice.document.movement import CONTROLS, Movement, Point, control_limits
from lattice.render import Window
from lattice.screen import picture, sounds
from tests.lattice.moves import BAR, as_if, edges
from tests.lattice.render.test_movements import any_moved, light, moves
from tests.lattice.scores import dice, lane, score

BEAT = BAR // 4


@given(any_moved, dice)
def test_what_is_drawn_of_a_stretch_is_what_is_drawn_where_it_had_always_been_so(asked, its_dice):
    assume(light(asked, 8))
    bar = asked.meter.bar_ticks
    every = [*asked.movements, *(its for one in asked.lanes for its in one.movements)]
    cut = sorted(
        {0, 2 * bar} | {tick for one in every for tick in edges(one, bar, 2 * bar) if tick < 2 * bar}
    )
    drawn = picture(asked, its_dice, Window(bars=2))
    for number, mine in enumerate(drawn.lanes):
        if asked.lanes[number].clip:
            continue
        seen = [
            (mine.starts[hit], velocity) for hit, velocity in zip(mine.hits, mine.velocities, strict=True)
        ]
        wanted = []
        for start, stop in pairwise(cut):
            there = picture(as_if(asked, start), its_dice, Window(bars=2)).lanes[number]
            wanted += [
                (there.starts[hit], velocity)
                for hit, velocity in zip(there.hits, there.velocities, strict=True)
                if start <= there.starts[hit] < stop
            ]
        if asked.swing.percent == 50 and not asked.lanes[number].swing and not _swings(asked):
            assert seen == wanted


def _swings(asked) -> bool:
    return any(one.control == "swing.percent" for one in asked.movements)


def test_a_line_is_drawn_from_point_to_point_and_says_its_values():
    hat = lane("hiss", voice="hiss", source=Euclidean(hits=1, steps=1), busy=10,
               movements=(moves("busy", (BEAT, 40), (3 * BEAT, -100), loop_bars=1),))  # fmt: skip
    drawn = picture(score(hat), 1, Window(bars=2)).lanes[0].movements[0]
    assert (drawn.places, drawn.ticks) == ([-1, 0, 1, 0, 1], [0, BEAT, 3 * BEAT, 5 * BEAT, 7 * BEAT])
    assert drawn.says == ["10 %", "40 %", "-100 %", "40 %", "-100 %"]
    assert drawn.shares == [0.55, 0.7, 0, 0.7, 0]
    assert (drawn.name, drawn.low, drawn.high, drawn.options) == ("busy-ness", -100, 100, [])


def test_what_is_no_number_moves_between_its_options():
    triplets = StepValue(note=16, kind="dotted")
    hat = lane("hiss", voice="hiss", movements=(moves("step_value", (0, triplets)),))
    drawn = picture(score(hat), 1, Window(bars=1)).lanes[0].movements[0]
    assert triplets in [option.value for option in drawn.options]
    assert drawn.options[0].says == "1/8"
    assert drawn.says == ["1/16 dotted"]
    arpeggio = lane("reed", voice="low-reed", arpeggio={"pool": {"kind": "scale"}},
                    movements=(moves("arpeggio.order", (BEAT, "all")),))  # fmt: skip
    drawn = picture(score(arpeggio), 1, Window(bars=1)).lanes[0].movements[0]
    assert drawn.says == ["up", "all"]
    assert drawn.shares == [0, 1]


def test_a_sound_is_struck_with_the_settings_that_it_has_by_then():
    four = lane("thud", source=Drawn(steps=16, hits=(0, 4, 8, 12)), level_db=-3,
                movements=(moves("level_db", (BEAT, -12)), moves("pan", (2 * BEAT, 60))))  # fmt: skip
    heard = sounds(score(four), 1, Window(bars=1))
    struck = [heard.settings[at] for at in heard.events.settings]
    assert [(one.level_db, one.pan) for one in struck] == [(-3, 0), (-12, 0), (-12, 60), (-12, 60)]


def test_every_control_is_drawn():
    for control, known in CONTROLS.items():
        value = StepValue() if known.is_step_value else known.words[0] if known.words else 1
        if value == 1:
            value = control_limits(known, Lane)[1]
        mine = lane("thud", movements=(Movement(control=control, points=(Point(0, value),)),))
        assert picture(score(mine), 1, Window(bars=1)).lanes[0].movements[0].says != [""]
