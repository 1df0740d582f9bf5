from fractions import Fraction

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from lattice.units import first_step_at, step_ticks, ticks
from tests.lattice.lane_fields import step_values

numbers = st.integers(0, 10_000_000)


@given(step_values, numbers, st.fractions(0, 64, max_denominator=100))
def test_many_steps_at_once_agree_with_one_at_a_time(value, number, later):
    assert step_ticks(np.array([number]), value.quarters, later)[0] == ticks(number * value.quarters + later)


@given(step_values, st.integers(0, 10**12))
def test_the_first_step_at_a_tick_is_the_first(value, tick):
    first = first_step_at(tick, value.quarters)
    assert ticks(first * value.quarters) >= tick
    assert first == 0 or ticks((first - 1) * value.quarters) < tick


def test_a_half_is_rounded_up():
    assert ticks(Fraction(1, 2 * 13440)) == 1
    assert ticks(Fraction(1, 2 * 13440) - Fraction(1, 10**9)) == 0
