"""Bursts: even notes in place of what a lane does for a while."""

from fractions import Fraction

import numpy as np

from lattice.document import Accent, Burst, Euclidean, LaneSwing, StepValue
from lattice.render import Window, render
from tests.lattice.scores import lane, score

BAR = 53760
STEP = 3360
SIXTEEN = Euclidean(hits=16, steps=16)


def heard(one, count=1, **fields):
    """Render the first *count* bars of one lane."""
    return render(score(one, **fields), 1, Window(bars=count))


def test_five_in_the_space_of_two_eighths_in_place_of_what_the_lane_does():
    burst = Burst(count=1, value=StepValue(note=8), length=2, notes=5, fade_from=100, fade_to=60)
    events = heard(lane(source=SIXTEEN, bursts=(burst,)))
    inside = (events.starts >= 2 * STEP) & (events.starts < 6 * STEP)
    assert events.starts[inside].tolist() == [6720 + number * 2688 for number in range(5)]
    assert events.velocities[inside].tolist() == [100, 90, 80, 70, 60]
    assert len(events) == 16 - 4 + 5


def test_hits_under_a_burst_are_counted_and_come_back():
    burst = Burst(length=4, notes=3)
    accent = Accent(every=3, first=3)
    with_, without = (heard(lane(source=SIXTEEN, accent=accent, bursts=bursts)) for bursts in ((burst,), ()))
    after = with_.starts >= 4 * STEP
    assert with_.velocities[after].tolist() == without.velocities[4:].tolist()


def test_a_burst_sounds_as_a_whole_once_a_pass():
    burst = Burst(length=16, notes=7, chance_percent=50)
    starts = heard(lane(source=SIXTEEN, bursts=(burst,)), 64, bars=1).starts
    counts = np.bincount(starts // BAR, minlength=64)
    assert set(counts.tolist()) == {0, 7}
    assert 15 < (counts == 7).sum() < 49


def test_a_burst_beyond_the_end_lies_dormant():
    burst = Burst(bars=3, length=16, notes=7)
    whole = heard(lane(source=SIXTEEN, bursts=(burst,)), 4, bars=4)
    cut = heard(lane(source=SIXTEEN, bursts=(burst,)), 4, bars=3)
    assert (len(whole), len(cut)) == (3 * 16 + 7, 4 * 16)


def test_a_burst_swings_at_its_ends_and_is_even_between():
    burst = Burst(count=1, value=StepValue(note=16), length=2, notes=4)
    starts = heard(lane(source=SIXTEEN, swing=LaneSwing(percent=60), bursts=(burst,))).starts.tolist()
    begin, end = 4032, 6720 + 4032
    share = Fraction(end - begin, 4)
    assert starts[1:5] == [round(begin + share * number) for number in range(4)]
