"""Working on a whole strip."""

from hypothesis import given
from hypothesis import strategies as st

from lattice.document.strip import LENGTH, STRIPS, VELOCITY
from lattice.edits.strip_operations import OPERATIONS, reversed_values, rotated, scaled, thrown_values

kinds = st.sampled_from(list(STRIPS.values()))


@st.composite
def strips(draw):
    kind = draw(kinds)
    return kind, tuple(draw(st.lists(st.none() | st.integers(kind.low, kind.high), min_size=1, max_size=20)))


@given(strips(), st.integers(-50, 50))
def test_rotating_back_and_reversing_twice_change_nothing(strip, by):
    _, values = strip
    assert rotated(rotated(values, by), -by) == values
    assert reversed_values(reversed_values(values)) == values


@given(strips())
def test_every_operation_keeps_the_length_the_range_and_what_is_plain(strip):
    kind, values = strip
    for change in OPERATIONS.values():
        changed = change(values, kind)
        assert len(changed) == len(values)
        assert changed.count(None) == values.count(None)
        assert all(value is None or kind.low <= value <= kind.high for value in changed)


@given(strips())
def test_towards_the_middle_brings_no_value_further_from_it(strip):
    kind, values = strip
    middle = kind.twice_the_middle / 2
    for value, nearer in zip(values, scaled(values, kind, 1, 2), strict=True):
        if value is not None and value != 0:
            assert abs(nearer - middle) <= abs(value - middle) / 2 + 0.5


def test_a_tie_stays_a_tie():
    assert scaled((0, 400, None), LENGTH, 1, 2) == (0, 300, None)


@given(st.integers(1, 127), st.integers(1, 127), st.sampled_from(["even", "middle"]), st.integers(1, 999_999))
def test_a_throw_stays_between_low_and_high_and_is_the_same_again(one, other, shape, throw):
    low, high = sorted((one, other))
    thrown = thrown_values((None,) * 40, low, high, shape, throw, "bell", VELOCITY.draw_number)
    assert all(low <= value <= high for value in thrown)
    assert thrown == thrown_values((5,) * 40, low, high, shape, throw, "bell", VELOCITY.draw_number)


def test_other_throws_lanes_and_strips_throw_otherwise():
    def thrown(throw=1, lane="bell", strip=0):
        return thrown_values((None,) * 40, 1, 127, "even", throw, lane, strip)

    assert len({thrown(), thrown(throw=2), thrown(lane="gull"), thrown(strip=1)}) == 4


def test_a_throw_that_leans_to_the_middle_strays_less():
    def far(shape):
        return sum(abs(value - 64) for value in thrown_values((None,) * 128, 1, 127, shape, 3, "bell", 0))

    assert far("middle") < 0.8 * far("even")
