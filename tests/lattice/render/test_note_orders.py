"""The orders of arpeggios by hand-worked tables, and what holds of all of them."""

from collections import Counter
from itertools import pairwise
from typing import get_args

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import HeldKey, Keys, Sustain
from lattice.document.arpeggio import ORDERS, Latch
from lattice.edits.contours import CONTOURS, contour
from lattice.render.held_keys import gathered, held_pools
from lattice.render.note_orders import PoolNote, ordered, with_octaves
from tests.lattice.lane_fields import keys_played

CHORD = [PoolNote(pitch) for pitch in (67, 60, 64)]  # as it was played

TABLE = {
    ("up", 1): "60 64 67",
    ("down", 1): "67 64 60",
    ("up-and-down", 1): "60 64 67 64",
    ("up-and-down-twice", 1): "60 64 67 67 64 60",
    ("as-played", 1): "67 60 64",
    ("inward", 1): "60 67 64",
    ("outward", 1): "64 67 60",
    ("shuffled", 1): "60 64 67",
    ("random", 1): "60 64 67",
    ("all", 1): "60 64 67",
    ("up", 2): "60 64 67 72 76 79",
    ("as-played", 2): "67 60 64 79 72 76",
    ("up-and-down", 2): "60 64 67 72 76 79 76 72 67 64",
    ("inward", 2): "60 79 64 76 67 72",
}


@pytest.mark.parametrize(("asked", "row"), TABLE.items())
def test_orders_are_those_of_the_table(asked, row):
    order, octaves = asked
    assert [note.pitch for note in ordered(CHORD, octaves, order)] == [int(pitch) for pitch in row.split()]


def test_the_table_has_every_order():
    assert {order for order, _ in TABLE} == set(ORDERS)


pools = st.lists(st.builds(PoolNote, st.integers(0, 100), st.integers(1, 127)), max_size=9)


@given(pools, st.sampled_from(ORDERS), st.integers(1, 4))
def test_nothing_is_outside_the_pool_and_its_octaves_and_nothing_is_missing(pool, order, octaves):
    allowed = {note.pitch + 12 * octave for note in pool for octave in range(octaves)}
    assert {note.pitch for note in ordered(pool, octaves, order)} == allowed


@given(pools, st.sampled_from([one for one in ORDERS if not one.startswith("up-and")]), st.integers(1, 4))
def test_each_note_comes_as_often_as_any_other(pool, order, octaves):
    counts = Counter(note.pitch for note in ordered(pool, octaves, order))
    if order == "as-played":
        expected = Counter(note.pitch + 12 * octave for note in pool for octave in range(octaves))
        assert counts == expected
    else:
        assert set(counts.values()) <= {1}


@given(pools, st.integers(1, 4))
def test_up_and_down_turns_at_its_ends(pool, octaves):
    rising = with_octaves(pool, octaves, "up")
    once, twice = (ordered(pool, octaves, order) for order in ("up-and-down", "up-and-down-twice"))
    assert len(twice) == 2 * len(rising)
    assert len(once) == max(len(rising), 2 * len(rising) - 2)


# ---- Held keys ----


def keys(*rows, sustained=(), let_go=()):
    held = tuple(HeldKey(start=start, end=end, key=key, velocity=90) for start, end, key in rows)
    pedals = tuple(Sustain(start=start, end=end) for start, end in sustained)
    return Keys(held=held, sustained=pedals, let_go=let_go)


def pools_over_time(performance, latch):
    found = held_pools(performance, latch)
    rows = zip(found.changes.tolist(), found.pools, strict=True)
    return {tick: [note.pitch for note in pool] for tick, pool in rows}


def test_without_a_latch_a_pool_is_what_is_held():
    played = keys((0, 100, 60), (10, 50, 64))
    assert pools_over_time(played, "off") == {0: [60], 10: [60, 64], 50: [60], 100: []}


def test_a_latch_that_replaces_keeps_a_chord_until_the_next_one():
    played = keys((0, 100, 60), (0, 80, 64), (200, 300, 62), (210, 290, 65))
    assert pools_over_time(played, "replace") == {0: [60, 64], 200: [62], 210: [62, 65]}


def test_a_latch_that_adds_keeps_all_until_it_is_let_go():
    played = keys((0, 100, 60), (200, 300, 62), let_go=(250, 400))
    assert pools_over_time(played, "add") == {0: [60], 200: [60, 62], 250: [62], 400: []}


def test_a_new_hand_begins_where_none_was_held():
    played = keys((0, 100, 60), (50, 150, 64), (150, 200, 62), (300, None, 65))
    # The third is struck where the second is let go: no key is held there, so it begins anew.
    assert held_pools(played, "off").begins.tolist() == [0, 150, 300]


def test_the_pedal_holds_what_is_let_go_while_it_is_down():
    played = keys((0, 100, 60), (120, 140, 64), sustained=((50, 130),))
    assert pools_over_time(played, "off") == {0: [60], 120: [60, 64], 130: [64], 140: []}


def test_a_stroke_of_no_length_is_there_for_latches_only():
    played = keys((0, 0, 60), (0, 0, 64))
    assert pools_over_time(played, "off") == {}
    assert pools_over_time(played, "replace") == {0: [60, 64]}


def test_a_key_struck_twice_is_in_the_pool_twice_each_with_its_velocity():
    twice = Keys(held=(HeldKey(start=0, key=60, velocity=30), HeldKey(start=10, key=60, velocity=99)))
    assert held_pools(twice, "off").pools[-1] == (PoolNote(60, 30), PoolNote(60, 99))
    assert ordered(held_pools(twice, "off").pools[-1], 1, "as-played") == (PoolNote(60, 30), PoolNote(60, 99))
    assert ordered(held_pools(twice, "off").pools[-1], 1, "up") == (PoolNote(60, 99),)


def test_pedals_that_touch_are_one():
    played = keys((0, 60, 60), sustained=((50, 100), (90, 200)))
    assert pools_over_time(played, "off") == {0: [60], 200: []}


def test_a_pool_has_the_notes_that_were_struck_last():
    played = keys(*((tick, None, 20 + tick) for tick in range(100)))
    assert pools_over_time(played, "off")[99] == list(range(56, 120))


@given(keys_played(), st.sampled_from(get_args(Latch)))
def test_no_pool_has_a_note_that_was_never_struck_or_more_often_than_it_was(performance, latch):
    struck = Counter((one.key, one.velocity) for one in performance.held)
    for pool in held_pools(performance, latch).pools:
        assert Counter((note.pitch, note.velocity) for note in pool) <= struck


def test_a_long_performance_is_reckoned_on_from_what_is_known():
    """Block by block, the same pools as by the definition: what is held at a tick, by looking at every key."""
    rows = [(tick * 7, tick * 7 + (tick * 37) % 90, 30 + tick * 11 % 60) for tick in range(1500)]
    found = held_pools(keys(*rows, sustained=((500, 900), (5000, 5600))), "off")
    for tick in range(0, 10_500, 53):
        sounding = []
        for start, end, key in rows:
            held = next((up for down, up in ((500, 900), (5000, 5600)) if down <= end < up), end)
            if start <= tick < held:
                sounding.append(key)
        at = int(found.which_at(np.array([tick]))[0])
        assert [note.pitch for note in found.pools[at]] == sounding[-64:], tick


@given(keys_played(), st.sampled_from(get_args(Latch)), st.integers(0, 300_000), st.integers(0, 50_000))
def test_what_is_gathered_sounds_as_it_did_from_there_on(performance, latch, at, begin):
    before, after = held_pools(performance, latch), held_pools(gathered(performance, latch, at, begin), latch)

    def pool(found, tick):
        which = int(found.which_at(np.array([tick]))[0])
        return found.pools[which] if which >= 0 else ()

    for tick in (0, 1, 3360, 6720, 10_000, 40_320, 200_000, 10**9):
        assert pool(after, begin + tick) == pool(before, at + tick), tick


def test_after_all_that_hands_did_a_replaced_chord_is_gone():
    played = keys((0, 100, 60), (200, 300, 62), (210, None, 65))
    left = gathered(played, "replace")
    assert [(one.start, one.end, one.key) for one in left.held] == [(0, 0, 62), (0, None, 65)]
    assert pools_over_time(left, "add") == {0: [62, 65]}


# ---- Contours ----


@given(
    st.sampled_from(CONTOURS),
    st.integers(0, 40),
    st.integers(-28, 28),
    st.integers(0, 20),
    st.integers(1, 12),
    st.integers(1, 999_999),
)
def test_contours_keep_between_their_ends_and_within_their_leap(kind, count, low, span, leap, throw):
    row = contour(kind, count, low, low + span, leap, throw, "reed")
    assert len(row) == count
    assert all(low <= value <= low + span for value in row)
    assert all(abs(later - earlier) <= leap for earlier, later in pairwise(row))
    assert row == contour(kind, count, low, low + span, leap, throw, "reed")


def test_contours_have_the_shapes_that_their_names_say():
    shapes = {kind: contour(kind, 9, 0, 8, 99, 1, "reed") for kind in CONTOURS}
    assert shapes["rise"] == (0, 1, 2, 3, 4, 5, 6, 7, 8)
    assert shapes["fall"] == (8, 7, 6, 5, 4, 3, 2, 1, 0)
    assert shapes["arch"] == (0, 2, 4, 6, 8, 6, 4, 2, 0)
    assert shapes["wave"] == (4, 6, 8, 6, 4, 2, 0, 2, 4)
    assert len({contour("throw", 9, 0, 8, 99, throw, "reed") for throw in range(1, 9)}) > 4


def test_a_contour_with_nothing_between_its_ends_is_refused():
    with pytest.raises(ValueError, match="low=5, high=2"):
        contour("rise", 4, 5, 2, 1, 1, "reed")


def test_a_contour_that_wanders_begins_in_the_middle_and_a_thrown_one_anywhere():
    begins = {
        kind: {contour(kind, 4, -3, 8, 5, throw, "reed")[0] for throw in range(60)}
        for kind in ("wander", "throw")
    }
    assert begins == {"wander": {2}, "throw": set(range(-3, 9))}
