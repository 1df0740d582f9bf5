"""The four properties that hold for every pattern, and the rule for notes that would overlap."""

import subprocess
import sys
from fractions import Fraction

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from lattice.document import (
    ChanceStrip,
    DocumentError,
    Drawn,
    Euclidean,
    Lane,
    Meter,
    Score,
    StepValue,
    Swing,
)
from lattice.render import Events, Window, render
from lattice.steps.lane_steps import steps_of_lanes
from lattice.units import TICKS_PER_QUARTER, ticks
from tests.lattice.scores import dice, lane, lanes_called, score, scores

firsts = st.integers(0, 3) | st.integers(0, 100_000)


def rows(events: Events) -> list[tuple[int, ...]]:
    columns = (
        events.lanes,
        events.starts,
        events.lengths,
        events.pitches,
        events.velocities,
        events.channels,
    )
    return list(zip(*(column.tolist() for column in columns), strict=True))


def of_lane(score: Score, lane_id: str, events: Events) -> list[tuple[int, ...]]:
    index = [lane.id for lane in score.lanes].index(lane_id)
    return [row[1:] for row in rows(events) if row[0] == index]


@given(scores(), dice, firsts, st.integers(1, 3), st.integers(1, 3))
def test_windows_join(score, dice, first, before, after):
    whole = render(score, dice, Window(first_bar=first, bars=before + after))
    parts = [
        render(score, dice, Window(first_bar=first, bars=before)),
        render(score, dice, Window(first_bar=first + before, bars=after)),
    ]
    assert rows(whole) == rows(parts[0]) + rows(parts[1])


@given(scores(min_lanes=2, made=False), st.data(), dice, firsts)
def test_luck_is_local(score, data, dice, first):
    """Replacing, adding, muting or removing one lane changes no outcome of the others."""
    window = Window(first_bar=first, bars=2)
    kept = score.lanes[-1].model_copy(update={"channel": 16, "mute": False})
    others = [lane.model_copy(update={"channel": 1, "solo": False}) for lane in score.lanes[:-1]]
    replaced = [data.draw(lanes_called(lane.id)) for lane in others]
    replaced = [lane.model_copy(update={"channel": 2, "solo": False}) for lane in replaced]
    before = score.model_copy(update={"lanes": (*others, kept)})
    after = score.model_copy(update={"lanes": (*replaced[1:], kept)})
    assert of_lane(before, kept.id, render(before, dice, window)) == of_lane(
        after, kept.id, render(after, dice, window)
    )


@given(dice, st.integers(1, 127), st.integers(1, 400), st.integers(1, 99))
def test_velocity_and_length_change_no_outcome_of_chance(dice, velocity, length, chance):
    plain = lane(source=Euclidean(hits=16, steps=16), chance_percent=chance)
    changed = plain.model_copy(update={"velocity": velocity, "length_percent": length})
    window = Window(bars=8)
    assert np.array_equal(
        render(score(plain), dice, window).starts, render(score(changed), dice, window).starts
    )


@given(scores(min_lanes=1), firsts)
def test_times_are_exact(score, first):
    """Every start is a step's exact position, rounded once from its absolute value: times how many came before."""
    kept = (
        "id",
        "name",
        "source",
        "rotate",
        "complement",
        "thin",
        "edits",
        "step_value",
        "span",
        "step_range",
    )
    lanes = tuple(
        Lane(**{field: getattr(one, field) for field in kept}, direction=one.direction, voice=voice)
        for one, voice in zip(score.lanes, ["thud", "chain", "bottle", "clink"], strict=False)
    )
    score = score.model_copy(update={"lanes": lanes, "swing": Swing()})
    window = Window(first_bar=first, bars=1)
    events = render(score, 1, window)
    begin, end = window.ticks(score.meter.bar_ticks)
    for index, lane_steps in enumerate(steps_of_lanes(score, 1)):
        step = lane_steps.clock.step
        count = max(0, int(Fraction(begin, TICKS_PER_QUARTER) / step) - 1)
        expected = []
        while (start := ticks(count * step)) < end:
            if start >= begin and lane_steps.hits(count, count + 1)[0]:
                expected.append(start)
            count += 1
        assert events.starts[events.lanes == index].tolist() == expected


@given(scores(), dice, firsts)
def test_the_same_question_has_the_same_answer(score, dice, first):
    window = Window(first_bar=first, bars=2)
    again = Score.model_validate_json(score.model_dump_json())
    assert rows(render(score, dice, window)) == rows(render(again, dice, window))


def test_another_process_gives_the_same_answer():
    asked = score(lane(source=Euclidean(hits=13, steps=16), chance_percent=50))
    code = (
        "import sys; from lattice.document import Score; from lattice.render import Window, render;"
        "score = Score.model_validate_json(sys.stdin.read());"
        "print(render(score, 7081, Window(first_bar=900, bars=8)).starts.tolist())"
    )
    said = subprocess.run(
        [sys.executable, "-c", code],
        input=asked.model_dump_json(),
        text=True,
        capture_output=True,
        check=True,
    )
    assert said.stdout.strip() == str(render(asked, 7081, Window(first_bar=900, bars=8)).starts.tolist())


def test_seven_notes_in_a_half_bar_stay_seven_equal_notes_in_bar_5000():
    sevens = lane(source=Euclidean(hits=7, steps=7), step_value=StepValue(note=2, divisor=7))
    for first_bar in (0, 4999):
        starts = render(score(sevens), 1, Window(first_bar=first_bar, bars=1)).starts - first_bar * 53760
        assert starts.tolist() == [3840 * number for number in range(14)]


def test_a_half_of_five_sixteenths_is_rounded_from_its_absolute_value():
    elevens = lane(source=Euclidean(hits=11, steps=11), step_value=StepValue(note=4, divisor=11))
    starts = render(score(elevens), 1, Window(bars=1)).starts
    assert starts[1] == 1222  # 13440 / 11 = 1221.8
    assert starts[2] == 2444  # not 2 x 1222
    assert starts[6] == 7331  # 7330.9


@given(scores(), dice, firsts)
def test_no_two_notes_of_one_pitch_overlap(score, dice, first):
    events = render(score, dice, Window(first_bar=first, bars=2))
    for pitch, channel in set(zip(events.pitches.tolist(), events.channels.tolist(), strict=True)):
        same = events.take((events.pitches == pitch) & (events.channels == channel))
        assert (same.lengths >= 1).all()
        assert (same.starts[1:] >= (same.starts + same.lengths)[:-1]).all()


def test_the_earlier_note_ends_where_the_later_of_its_pitch_begins():
    long = lane("thud", source=Drawn(steps=16, hits=(0,)), length_percent=400)
    later = lane("second", source=Drawn(steps=16, hits=(2,)))
    events = render(score(long, later), 1, Window(bars=1))
    assert rows(events)[0][1:3] == (0, 2 * 3360)


def test_of_two_notes_on_one_tick_the_harder_velocity_and_the_longer_end_stay():
    soft = lane("thud", source=Drawn(steps=16, hits=(0,)), velocity=60, length_percent=300)
    hard = lane("second", source=Drawn(steps=16, hits=(0,)), velocity=90)
    assert rows(render(score(soft, hard), 1, Window(bars=1))) == [(1, 0, 3 * 3360, 36, 90, 10)]
    tie = hard.model_copy(update={"velocity": 60})
    assert rows(render(score(soft, tie), 1, Window(bars=1))) == [(0, 0, 3 * 3360, 36, 60, 10)]


def test_a_note_is_cut_by_one_that_begins_after_the_window():
    long = lane("thud", source=Drawn(steps=16, hits=(15,)), length_percent=400)
    next_bar = lane("second", source=Drawn(steps=16, hits=(1,)), rotate=0)
    first_bar = render(score(long, next_bar), 1, Window(bars=1))
    assert rows(first_bar)[-1][1:3] == (15 * 3360, 2 * 3360)


def test_mute_and_solo_silence_but_move_nothing():
    def voices(*lanes: Lane) -> set[int]:
        return set(render(score(*lanes), 1, Window(bars=1)).lanes.tolist())

    assert voices(lane("thud", mute=True), lane("bell"), lane("rope")) == {1, 2}
    assert voices(lane("thud"), lane("bell", solo=True), lane("rope")) == {1}
    assert voices(lane("thud"), lane("bell", solo=True, mute=True)) == set()


def test_turns_are_applied_rotate_first_then_its_rests():
    turned = lane(source=Euclidean(hits=3, steps=8), rotate=1, complement=True)
    assert steps_of_lanes(score(turned), 1)[0].rule_hits == (0, 2, 3, 5, 6)  # .x..x..x turned round


@given(st.integers(1, 99), dice)
def test_about_as_many_hits_sound_as_the_chance_says(chance, dice):
    sixteen = lane(source=Euclidean(hits=16, steps=16), chance_percent=chance)
    heard = len(render(score(sixteen), dice, Window(bars=256)))
    assert abs(heard / 4096 - chance / 100) < 5 * 0.5 / 64  # five standard deviations


def test_a_steps_chance_multiplies_the_lanes():
    halves = lane(
        source=Euclidean(hits=2, steps=2),
        chance_percent=50,
        chance_strip=ChanceStrip(values=(0, 50)),
    )
    heard = render(score(halves), 5, Window(bars=512)).starts // 3360
    assert (heard % 2 == 1).all()
    assert abs(heard.size / 4096 - 0.25) < 5 * (0.25 * 0.75 / 4096) ** 0.5


def test_luck_repeats_for_a_lane_that_drifts_over_the_bars():
    """Seven steps over bars of sixteen: the dice fall by the bar, whatever the place in the cycle."""
    drifting = lane(source=Euclidean(hits=7, steps=7), chance_percent=50, luck_bars=2)
    heard = render(score(drifting), 5, Window(bars=6)).starts
    each = [set((heard[(heard // 107520) == pair] % 107520).tolist()) for pair in range(3)]
    assert each[0] == each[1] == each[2]
    assert 4 < len(each[0]) < 28


@given(dice, dice)
def test_other_dice_throw_otherwise(one, other):
    assume(one != other)
    half = score(lane(source=Euclidean(hits=16, steps=16), chance_percent=50))
    starts = [render(half, number, Window(bars=16)).starts.tolist() for number in (one, other)]
    assert starts[0] != starts[1]


def test_a_window_of_too_many_steps_is_refused_naming_the_lane():
    fast = lane(step_value=StepValue(note=64, divisor=16))
    with pytest.raises(DocumentError, match=r"lane “Thud”: .* notes are asked for at once"):
        render(score(fast, meter=Meter(numerator=32, denominator=1)), 1, Window(bars=100))


def test_nothing_comes_of_no_lanes():
    assert len(render(score(), 1, Window(bars=8))) == 0
