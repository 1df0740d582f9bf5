"""How far notes stray from their steps, how long they last and how large they get: what others reckon with holds."""

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.clips import take
from lattice.document import (
    Drawn,
    Echo,
    Euclidean,
    LengthStrip,
    Meter,
    NoteSpan,
    NudgeStrip,
    RatchetStrip,
    Spread,
    StepValue,
    Thin,
)
from lattice.document.movement import Movement, Point
from lattice.document.order import RowPace
from lattice.document.problems import DocumentError
from lattice.document.strip import LENGTH, NUDGE, RATCHET
from lattice.render import Window, render
from lattice.steps.lane_steps import steps_of_lanes
from lattice.steps.step_window import StepWindow
from lattice.steps.strip_values import extent, values_at, with_spread
from tests.lattice.scores import dice, lane, score, scores

FOUR_BARS = StepValue(note=1, multiplier=4)
WINDOW = Window(first_bar=1, bars=2)


@pytest.mark.parametrize("moved", [False, True])
def test_a_take_holds_every_hit_of_its_bars_however_far_it_is_moved(moved):
    movements = (Movement(control="step_value", points=(Point(tick=0, value=FOUR_BARS),)),)
    slow = {"movements": movements} if moved else {"step_value": FOUR_BARS}
    late = lane(source=Drawn(steps=1, hits=(0,)), nudge_strip=NudgeStrip(values=(50,)), **slow)
    assert [len(track.notes) for track in take(score(late), 1, Window(bars=1)).tracks] == [1]


@given(scores(min_lanes=1), dice)
def test_a_take_holds_what_a_longer_stretch_has_of_its_bars(asked, its_dice):
    first, end = WINDOW.ticks(asked.meter.bar_ticks)
    longer = render(asked, its_dice, Window(bars=24))
    inside = (longer.straights >= first) & (longer.straights < end)
    kept = take(asked, its_dice, WINDOW)
    assert sum(len(track.notes) for track in kept.tracks) == int(inside.sum())


@pytest.mark.parametrize(
    ("values", "spread"),
    [((4000,), Spread(by=1, high=50)), ((30,), Spread(by=1, low=200)), ((150, 4000), Spread(by=90))],
)
def test_windows_join_where_notes_are_longer_than_a_spread_lets_others_be(values, spread):
    long = score(
        lane(source=Euclidean(hits=1, steps=32), length_strip=LengthStrip(values=values, spread=spread))
    )
    whole = render(long, 1, Window(bars=8))
    apart = [render(long, 1, Window(first_bar=bar, bars=1)) for bar in range(8)]
    assert np.concatenate([one.lengths for one in apart]).tolist() == whole.lengths.tolist()


@given(scores(min_lanes=1), dice, st.sampled_from([(NUDGE, 0), (LENGTH, 100), (RATCHET, 1)]))
def test_no_step_has_a_value_beyond_what_its_strip_reaches(asked, its_dice, of):
    kind, plain = of
    for lane_steps in steps_of_lanes(asked, its_dice):
        strip = getattr(lane_steps.lane, kind.field)
        steps = StepWindow(lane_steps, 0, 64)
        values = with_spread(values_at(strip, kind, steps, plain), strip, kind, steps)
        low, high = extent(strip, kind, plain)
        assert low <= values.min()
        assert values.max() <= high


def test_times_beyond_64_bits_are_reckoned_as_exactly_as_others():
    """127 steps over sixteen whole notes / 13, eleven times as fast, in ratchets whose parts have few factors in common."""
    ratchets = (5, 7, 8, 9, 11)
    span = NoteSpan(value=StepValue(note=1, multiplier=16, divisor=13))
    fine = lane(source=Euclidean(hits=127, steps=127), span=span, ratchet_strip=RatchetStrip(values=ratchets))
    events = render(
        score(fine, meter=Meter(numerator=32, denominator=1), pace=RowPace(times=11)), 1, Window(bars=1)
    )
    step = Fraction(64, 13 * 127 * 11) * 13440
    wanted = []
    count = 0
    while count * step < 128 * 13440 - Fraction(1, 2):
        notes = [*ratchets, *[1] * 122][count % 127]
        starts = [count * step + step * Fraction(note, notes) for note in range(notes)]
        wanted += [int(start + Fraction(1, 2)) for start in starts]
        count += 1
    assert events.starts.tolist() == [start for start in wanted if start < 128 * 13440]


def test_lanes_made_from_thinned_lanes_are_right_however_far_out():
    every = (31, 29, 23)
    first = lane(
        "thud", source=Drawn(steps=127, hits=tuple(range(127))), thin=Thin(keeps="without", every=31)
    )
    second = lane("bell", source=Echo(of="thud", shift=0), thin=Thin(keeps="without", every=29))
    third = lane("hiss", source=Echo(of="bell", shift=0), thin=Thin(keeps="without", every=23))
    events = render(score(first, second, third), 1, Window(first_bar=64_300, bars=4))
    hits = np.ones(16 * 64_304, bool)
    for place, count in enumerate(every):
        hits &= (np.cumsum(hits) - hits) % count != 0
        steps = np.flatnonzero(hits)
        found = events.starts[events.lanes == place] // 3360
        assert found.tolist() == steps[steps >= 16 * 64_300].tolist()


def test_what_repeats_too_late_is_refused_with_its_lane():
    lanes = [
        lane("thud", source=Drawn(steps=127, hits=tuple(range(127))), thin=Thin(keeps="without", every=31))
    ]
    for name, of, every in (("bell", "thud", 29), ("hiss", "bell", 23), ("clink", "hiss", 19)):
        lanes.append(lane(name, source=Echo(of=of, shift=0), thin=Thin(keeps="without", every=every)))
    with pytest.raises(DocumentError, match=r"“Clink”.*repeats only after"):
        render(score(*lanes), 1, Window(bars=1))
