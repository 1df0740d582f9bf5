import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from lattice.luck.chance import sounds
from lattice.luck.draws import DRAW_BITS, Purpose, draws
from tests.lattice.scores import dice

places = st.integers(0, 255)
cycles = st.integers(0, 2**40)


def one(dice: int, lane_id: str, cycle: int, place: int) -> int:
    return int(draws(dice, lane_id, Purpose.CHANCE, np.array([cycle]), np.array([place]))[0])


def test_the_generator_is_the_published_one():
    """Block 0 under key 0, as the authors' reference code gives it for Philox 4x64-10."""
    philox = np.random.Philox(key=0, counter=2**256 - 1)
    assert [f"{word:016x}" for word in philox.random_raw(4).tolist()] == [
        "16554d9eca36314c",
        "db20fe9d672d0fdc",
        "d7e772cee186176b",
        "7e68b68aec7ba23b",
    ]


@given(dice, cycles, st.lists(places, min_size=1, max_size=8))
def test_a_draw_does_not_depend_on_what_else_is_asked_for(dice, cycle, together):
    many = draws(dice, "bell", Purpose.CHANCE, np.full(len(together), cycle), np.array(together))
    assert many.tolist() == [one(dice, "bell", cycle, place) for place in together]


def test_draws_over_a_very_long_stretch_agree_with_single_ones():
    run = np.arange(100_000)
    long = draws(7081, "rope", Purpose.CHANCE, run // 7, run % 7)
    assert [int(long[number]) for number in (0, 50_000, 99_999)] == [
        one(7081, "rope", number // 7, number % 7) for number in (0, 50_000, 99_999)
    ]


def test_dice_lane_cycle_and_place_each_matter():
    four = {
        one(1, "bell", 0, 0),
        one(2, "bell", 0, 0),
        one(1, "rope", 0, 0),
        one(1, "bell", 1, 0),
        one(1, "bell", 0, 1),
    }
    assert len(four) == 5


def test_draws_fill_their_range_evenly():
    run = np.arange(64_000)
    counts = np.bincount(
        (draws(3, "hiss", Purpose.CHANCE, run // 128, run % 128) >> np.uint64(DRAW_BITS - 6)).astype(int)
    )
    assert len(counts) == 64
    assert ((counts - 1000) ** 2 / 1000).sum() < 120  # chi squared, 63 degrees: one in 100,000


def test_draws_come_in_the_shape_and_order_they_are_asked_for():
    cycles, places = np.array([[9, 2], [2, 10_000]]), np.array([[1, 0], [7, 3]])
    asked = draws(5, "bell", Purpose.ORDER, cycles, places)
    assert asked.shape == (2, 2)
    for at in np.ndindex(2, 2):
        single = draws(5, "bell", Purpose.ORDER, cycles[at].reshape(1), places[at].reshape(1))
        assert asked[at] == single[0]


def test_never_and_always_are_certain():
    highest = np.array([0, 2**53 - 1], np.uint64)
    assert sounds(np.array([0, 0]), highest).tolist() == [False, False]
    assert sounds(np.array([10_000, 10_000]), highest).tolist() == [True, True]


def test_a_chance_is_met_exactly():
    """At 50 % the lower half of all draws sounds, and not one more."""
    draws_ = np.array([2**52 - 1, 2**52], np.uint64)
    assert sounds(np.array([5000, 5000]), draws_).tolist() == [True, False]
    third = 2**53 * 3333 / 10_000
    around = np.array([int(third), int(third) + 1], np.uint64)
    assert sounds(np.array([3333, 3333]), around).tolist() == [True, False]


@given(dice, st.integers(0, 9_999))
def test_what_sounds_at_a_chance_sounds_at_any_higher_one(dice, chance):
    run = np.arange(32)
    drawn = draws(dice, "bell", Purpose.CHANCE, run, run % 8)
    lower, higher = (sounds(np.full(32, each), drawn) for each in (chance, chance + 1))
    assert not (lower & ~higher).any()
