import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import Meter
from lattice.steps.euclidean import euclidean
from lattice.steps.measures import distance, evenness, metrical_units, syncopation

rhythms = st.integers(1, 64).flatmap(
    lambda steps: st.tuples(st.sets(st.integers(0, steps - 1)).map(sorted), st.just(steps))
)
SIXTEENTH = 3360


@given(rhythms)
def test_nothing_is_more_even_than_the_euclidean_rhythm(rhythm):
    hits, steps = rhythm
    assert 0 < evenness(hits, steps) <= 1
    assert evenness(euclidean(len(hits), steps), steps) == pytest.approx(1)


@given(rhythms, st.integers(0, 63))
def test_turning_a_necklace_does_not_change_its_evenness(rhythm, by):
    hits, steps = rhythm
    turned = sorted((hit + by) % steps for hit in hits)
    assert evenness(turned, steps) == pytest.approx(evenness(hits, steps))


def test_crowded_hits_are_less_even_than_spread_ones():
    assert evenness((0, 1, 2), 16) < evenness((0, 3, 6), 16) < evenness((0, 5, 10), 16) <= 1


@pytest.mark.parametrize(
    ("meter", "smallest", "units"),
    [
        (Meter(numerator=3), 6720, [40320, 13440, 6720]),
        (Meter(numerator=7, denominator=8), 3360, [47040, 6720, 3360]),
        (Meter(numerator=12, denominator=8), 6720, [80640, 40320, 20160, 6720]),
    ],
)
def test_a_bar_is_divided_as_its_meter_says(meter, smallest, units):
    assert metrical_units(meter, smallest) == units


def at(*steps):
    return np.array(steps, np.int64) * SIXTEENTH


@pytest.mark.parametrize(
    ("onsets", "expected"),
    [
        # on the beats: no stronger place passes by
        (at(0, 4, 8, 12), 0),
        (at(0), 0),
        (at(), 0),
        # off the beat by an eighth, held over a beat: levels 3 over 2, 3 over 1, 3 over 2, 3 over 0
        (at(2, 6, 10, 14), (1 + 2 + 1 + 3) / 4 / 5),
        # one sixteenth before the bar line, held over it: four levels
        (at(15), 4 / 5),
    ],
)
def test_syncopation_is_how_much_stronger_a_place_passes_by(onsets, expected):
    assert syncopation(onsets, 16 * SIXTEENTH, Meter(), SIXTEENTH) == pytest.approx(expected)


@given(st.sets(st.integers(0, 63), min_size=1).map(sorted))
def test_syncopation_lies_between_nothing_and_all(steps):
    assert 0 <= syncopation(at(*steps), 64 * SIXTEENTH, Meter(), SIXTEENTH) <= 1


def test_a_rhythm_shifted_off_the_beat_is_more_syncopated():
    straight = syncopation(at(0, 4, 8, 12), 16 * SIXTEENTH, Meter(), SIXTEENTH)
    clave = syncopation(at(0, 3, 6, 10, 12), 16 * SIXTEENTH, Meter(), SIXTEENTH)
    assert straight < clave


def test_distance_is_the_share_of_steps_that_differ():
    steps = np.arange(16)
    one = [(steps, np.array([0, 4, 8, 12]))]
    assert distance(one, one) == 0
    assert distance(one, [(steps, np.array([0, 4, 8, 13]))]) == 2 / 16
    assert distance(one, [(np.array([]), np.array([]))]) == 4 / 16
    assert distance([], []) == 0


@given(st.sets(st.integers(0, 31)), st.sets(st.integers(0, 31)))
def test_distance_is_the_same_both_ways(here, there):
    steps = np.arange(32)
    one, other = ([(steps, np.array(sorted(hits), np.int64))] for hits in (here, there))
    assert distance(one, other) == distance(other, one) == len(here ^ there) / 32
