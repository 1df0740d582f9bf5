from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.sentence.lengths import say_bars
from lattice.steps.meeting import CannotTellError, Moments, cycle_starts, meeting
from lattice.steps.step_clock import StepClock

cycles = st.lists(st.fractions(Fraction(1, 64), 64, max_denominator=1000), min_size=1, max_size=6)
# Short ones in sixteenths of a quarter, so that all that begins can be listed.
lengths = st.integers(1, 24).map(lambda length: Fraction(length, 4))


@st.composite
def courses(draw):
    step, cycle = Fraction(draw(st.integers(1, 4)), 4), draw(st.integers(1, 9))
    period = draw(st.none() | st.integers(1, 6).map(Fraction))
    if period is None:
        return StepClock(step, cycle)
    offset = draw(st.integers(0, int(period * 4) - 1).map(lambda quarter: Fraction(quarter, 4)))
    return draw(
        st.sampled_from([StepClock(step, cycle, period), StepClock(step, cycle, period, offset, once=True)])
    )


def free(lengths):
    return meeting([Moments(length) for length in lengths]).every


def listed(clock: StepClock, end: int) -> set[Fraction]:
    """Return when cycles begin before *end* quarters, from the steps themselves."""
    count = clock.first_at(end * 13440)
    places = clock.cycle_and_place(np.arange(count))[1]
    starts = clock.starts(np.arange(count))[places == 0]
    return {Fraction(start, 13440) for start in starts.tolist()}


@given(cycles)
def test_every_cycle_divides_the_meeting(cycles):
    assert all((free(cycles) / cycle).denominator == 1 for cycle in cycles)


@given(cycles)
def test_there_is_no_earlier_meeting(cycles):
    counts = [int(free(cycles) / cycle) for cycle in cycles]
    assert all(any(count % prime for count in counts) for prime in (2, 3, 5, 7, 11, 13))


@given(st.lists(courses(), min_size=1, max_size=3))
def test_the_moments_of_a_meeting_are_all_that_lanes_with_restarts_and_one_shots_have_in_common(courses):
    end = 300
    common = set.intersection(*(listed(clock, end) for clock in courses))
    moments = meeting([cycle_starts(clock) for clock in courses])
    assert list(moments.within(Fraction(0), Fraction(end))) == sorted(common)
    after = moments.next_after(Fraction(0))
    later = [moment for moment in sorted(common) if moment > 0]
    assert (after is None and not common) or (after is not None and (after >= end or after == later[0]))


def test_seven_sixteenths_meet_four_quarters_after_seven_bars():
    assert free([Fraction(7, 4), Fraction(4)]) == 7 * 4


def test_a_meeting_is_exact_however_far_off():
    primes = [Fraction(prime) for prime in (101, 103, 107, 109, 113, 127, 131, 137, 139, 149)]
    assert free(primes) == 101 * 103 * 107 * 109 * 113 * 127 * 131 * 137 * 139 * 149


def test_a_restart_that_changes_nothing_counts_as_none():
    assert cycle_starts(StepClock(Fraction(1, 4), 4, period=Fraction(8))) == Moments(Fraction(1))


def test_what_would_take_too_long_to_compare_is_refused():
    def often(bars: int) -> Moments:
        return cycle_starts(StepClock(Fraction(1, 384), 7, period=Fraction(4 * bars)))

    with pytest.raises(CannotTellError):
        meeting([often(61), often(59), often(53)])


@pytest.mark.parametrize("cycles", [[], [Fraction(0)], [Fraction(4), Fraction(-1)]])
def test_a_cycle_of_no_length_is_refused(cycles):
    with pytest.raises(ValueError, match="longer than 0"):
        meeting([Moments(cycle) for cycle in cycles])


@pytest.mark.parametrize(
    ("bars", "said"),
    [
        (Fraction(1), "1 bar"),
        (Fraction(1, 2), "1/2 bar"),
        (Fraction(231), "231 bars"),
        (Fraction(15, 2), "7 1/2 bars"),
        (Fraction(10_000), "10,000 bars"),
        (Fraction(45045), "more than 10,000 bars: some 27 hours of playing"),
        (Fraction(400_000), "more than 10,000 bars: some 10 days of playing"),
        (Fraction(10**9), "more than 10,000 bars: some 68 years of playing"),
        (Fraction(10**15), "more than 10,000 bars: millions of years of playing"),
    ],
)
def test_a_length_is_said_as_musicians_say_it(bars, said):
    assert say_bars(bars, Fraction(112), Fraction(4)) == said
