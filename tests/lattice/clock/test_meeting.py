from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.clock.meeting import meeting, say_bars

cycles = st.lists(st.fractions(Fraction(1, 64), 64, max_denominator=1000), min_size=1, max_size=6)


@given(cycles)
def test_every_cycle_divides_the_meeting(cycles):
    assert all((meeting(cycles) / cycle).denominator == 1 for cycle in cycles)


@given(cycles)
def test_there_is_no_earlier_meeting(cycles):
    counts = [int(meeting(cycles) / cycle) for cycle in cycles]
    assert all(any(count % prime for count in counts) for prime in (2, 3, 5, 7, 11, 13))


def test_seven_sixteenths_meet_four_quarters_after_seven_bars():
    assert meeting([Fraction(7, 4), Fraction(4)]) == 7 * 4


@pytest.mark.parametrize("cycles", [[], [Fraction(0)], [Fraction(4), Fraction(-1)]])
def test_a_cycle_of_no_length_is_refused(cycles):
    with pytest.raises(ValueError, match="longer than 0"):
        meeting(cycles)


@pytest.mark.parametrize(
    ("bars", "said"),
    [
        (Fraction(1), "1 bar"),
        (Fraction(1, 2), "1/2 bar"),
        (Fraction(231), "231 bars"),
        (Fraction(15, 2), "7 1/2 bars"),
        (Fraction(45045), "45,045 bars, some 27 hours"),
        (Fraction(400_000), "400,000 bars, some 10 days"),
        (Fraction(10**12), "more than 10,000 bars: years of playing"),
    ],
)
def test_a_length_is_said_as_musicians_say_it(bars, said):
    assert say_bars(bars, Fraction(112), Fraction(4)) == said
