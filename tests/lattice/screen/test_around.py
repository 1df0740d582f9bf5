"""What screens are told of detours and of what lies around a pattern."""

from lattice.document import Drawn, Euclidean, Rests
from lattice.document.detour import (
    DETOURS,
    HeldDetour,
    OnlyDetour,
    PaceDetour,
    PatternDetour,
    RepeatDetour,
    ShiftDetour,
    Variation,
)
from lattice.document.step_value import StepValue
from lattice.render import Window, render
from lattice.screen import picture
from lattice.screen.around import around
from lattice.sentence.detours import say_detour
from tests.lattice.scores import lane, score

BAR = 53760
FOUR = lane("thud", source=Drawn(steps=16, hits=(0, 4, 8, 12)))
SEVEN = lane("bell", source=Euclidean(hits=7, steps=16))


def test_what_a_detour_plays_is_drawn_over_its_bars_as_it_is_heard():
    own = PatternDetour(detour=RepeatDetour(length=StepValue(note=8)), bars=1, every=2)
    asked = score(FOUR, SEVEN, detours=(own,))
    drawn = picture(asked, 1, Window(bars=4))
    heard = render(asked, 1, Window(bars=4))
    assert [(one.start, one.end, one.by_hand) for one in drawn.away] == [
        (BAR, 2 * BAR, False),
        (3 * BAR, 4 * BAR, False),
    ]
    for index, one in enumerate(drawn.lanes):
        away = heard.take((heard.lanes == index) & ((heard.starts // BAR) % 2 == 1))
        assert one.away.starts == away.starts.tolist()
        assert one.away.velocities == away.velocities.tolist()


def test_a_hand_that_holds_a_detour_is_drawn_up_to_where_the_window_ends():
    held = HeldDetour(detour=OnlyDetour(lanes=("bell",)), start=BAR // 2)
    drawn = picture(score(FOUR, SEVEN, held_detours=(held,)), 1, Window(bars=1))
    assert [(one.start, one.end, one.says, one.by_hand) for one in drawn.away] == [
        (BAR // 2, BAR, "only Bell", True)
    ]
    assert drawn.lanes[0].away is None


def test_a_detour_of_the_pattern_is_said_in_red_and_its_numbers_move():
    own = PatternDetour(detour=Variation(distance=40), bars=2, every=8, fresh=True)
    (part,) = [one for one in picture(score(FOUR, detours=(own,)), 1, Window(bars=1)).standing if one.red]
    said = "".join(word.text for word in part.words)
    assert said == "in the last 2 bars of every 8: a variation up to 40 % away, a fresh one each time"
    assert [word.field for word in part.words if word.kind == "number"] == [
        "detours.0.bars",
        "detours.0.every",
        "detours.0.detour.distance",
    ]
    assert part.plain == {"detours": []}


def test_each_kind_is_said():
    assert [
        say_detour(one, (FOUR,))
        for one in (
            PaceDetour(times="3/2"),
            RepeatDetour(length=StepValue(note=16, kind="triplet")),
            Variation(distance=12),
            ShiftDetour(degrees=1, semitones=-2),
            OnlyDetour(lanes=("gone",)),
            OnlyDetour(lanes=("thud", "gone")),
            ShiftDetour(),
        )
    ] == [
        "at x 3/2 the pace",
        "1/16t again and again",
        "a variation up to 12 % away",
        "shifted 1 degree and -2 semitones",
        "only lanes that are gone",
        "only Thud",
        "shifted by nothing",
    ]


def test_all_kinds_of_detour_are_offered_with_what_they_begin_as():
    offered = around().detours
    assert {one.kind for one in offered} == set(DETOURS)
    for one in offered:
        assert one.plain.kind == one.kind
        assert bool(one.field) + bool(one.options) == (one.kind != "only")
        assert all(option.detour.kind == one.kind for option in one.options)


def test_the_hand_on_busy_ness_knows_its_limits_and_a_made_lane_has_none():
    drawn = picture(score(FOUR, lane("bell", source=Rests(of="thud"))), 1, Window(bars=1)).lanes
    assert (drawn[0].busy.low, drawn[0].busy.high, drawn[1].busy) == (-100, 100, None)
