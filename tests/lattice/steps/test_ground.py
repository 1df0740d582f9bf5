from fractions import Fraction
from itertools import pairwise, product

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import GroundSource, Meter
from lattice.render.events import render
from lattice.render.window import Window
from lattice.steps.ground import ground_meter, ground_step, place_on, places_of
from lattice.steps.lane_steps import steps_of_lanes
from lattice.steps.measures import syncopation
from lattice.theory.grounds import GROUNDS, ground_text
from tests.lattice.lane_fields import on_grounds
from tests.lattice.scores import lane, score

EACH_GROUND = pytest.mark.parametrize("ground", GROUNDS)
NET = range(0, 101, 5)
VELOCITIES = {0: 12, 1: 48, 2: 84, 3: 120}


def hits(ground, part, x, y):
    return place_on(GroundSource(ground=ground, part=part, x=x, y=y)).hits


@EACH_GROUND
def test_at_each_stand_exactly_that_stand_is_played(ground):
    text = ground_text(ground)
    for stand, (x, y) in zip(text.stands, places_of(ground), strict=True):
        for part in text.parts:
            row = stand.strengths(part, text.steps)
            place = place_on(GroundSource(ground=ground, part=part, x=x, y=y))
            assert place.hits == tuple(np.flatnonzero(row)), f"{part} of {stand.name}"
            assert [place.velocity(step) for step in range(text.steps)] == [VELOCITIES[one] for one in row]


@EACH_GROUND
def test_anywhere_on_the_net_there_is_a_beat_that_changes_little_by_little(ground):
    parts = ground_text(ground).parts
    counts = {(x, y): {part: len(hits(ground, part, x, y)) for part in parts} for x, y in product(NET, NET)}
    for (x, y), here in counts.items():
        assert any(here.get(part) for part in ("low", "back", "hat")), f"silent at {x}, {y}"
        for there in filter(None, (counts.get((x + 5, y)), counts.get((x, y + 5)))):
            assert all(abs(here[part] - there[part]) <= 5 for part in parts), f"a leap at {x}, {y}"


@EACH_GROUND
def test_stands_lie_by_their_ranks_in_syncopation_and_in_hits(ground):
    text = ground_text(ground)
    step = int(ground_step(text) * 13440)
    measured = []
    for stand in text.stands:
        rows = [np.flatnonzero(row) * step for row in stand.parts.values()]
        mean = np.mean([syncopation(row, text.steps * step, ground_meter(text), step) for row in rows])
        measured.append((mean, sum(row.size for row in rows)))
    for axis in (0, 1):
        along = sorted(zip((place[axis] for place in places_of(ground)), measured, strict=True))
        assert [place for place, _ in along] == [
            round(100 * rank / (len(text.stands) - 1)) for rank in range(len(text.stands))
        ]
        assert all(one[axis] <= other[axis] + 1e-9 for (_, one), (_, other) in pairwise(along))


@EACH_GROUND
def test_each_quarter_of_the_plane_has_stands(ground):
    quarters = [(x > 50, y > 50) for x, y in places_of(ground)]
    assert all(quarters.count(one) >= 2 for one in product((False, True), repeat=2))


def test_there_are_four_grounds_of_16_steps_one_of_12_and_one_of_14():
    assert sorted(ground_text(ground).steps for ground in GROUNDS) == [12, 14, 16, 16, 16, 16]
    assert len({stand.name for ground in GROUNDS for stand in ground_text(ground).stands}) == 60


@given(source=on_grounds)
def test_merits_are_the_means_that_shepard_says(source):
    """By exact fractions, as the definition is written."""
    text = ground_text(source.ground)
    squares = [(source.x - x) ** 2 + (source.y - y) ** 2 for x, y in places_of(source.ground)]
    if 0 in squares:
        weights = [Fraction(square == 0) for square in squares]
    else:
        weights = [Fraction(1, square * square) for square in squares]
    rows = [stand.strengths(source.part, text.steps) for stand in text.stands]
    place = place_on(source)
    for step in range(text.steps):
        mean = sum(w * row[step] for w, row in zip(weights, rows, strict=True)) / sum(weights)
        assert Fraction(place.merits[step], place.unit) == mean
        assert place.velocity(step) == int(12 + 36 * mean + Fraction(1, 2))
    count = sum(w * sum(map(bool, row)) for w, row in zip(weights, rows, strict=True)) / sum(weights)
    assert len(place.hits) == int(count + Fraction(1, 2))
    left_out = set(range(text.steps)) - set(place.hits)
    assert all(place.merits[one] >= place.merits[other] for one in place.hits for other in left_out)


def test_a_lane_on_a_ground_is_struck_as_hard_as_its_place_says_louder_and_softer_by_its_velocity():
    source = GroundSource(ground="quayside", part="back", x=100, y=33)  # Last tram: ....X..-....X...
    assert struck(lane(source=source)) == [120, 48, 120]
    assert struck(lane(source=source, velocity=50)) == [60, 24, 60]


def test_its_velocities_and_merits_turn_with_it():
    source = GroundSource(ground="quayside", part="back", x=100, y=33)
    turned = lane(source=source, rotate=-4, busy=-34)
    assert render(score(turned), 1, Window(bars=1)).starts.tolist() == [0, 26880]  # the ghost falls away
    assert struck(lane(source=source, rotate=-4)) == [120, 48, 120]


@given(source=on_grounds, busy=st.integers(-100, -1))
def test_sparser_on_a_ground_leaves_the_hits_of_most_merit(source, busy):
    place = place_on(source)
    one = lane(source=source, busy=busy)
    meter = ground_meter(ground_text(source.ground))
    stay = set(steps_of_lanes(score(one, meter=meter), 1)[0].rule_hits)
    gone = set(place.hits) - stay
    assert stay <= set(place.hits)
    assert all(place.merits[s] >= place.merits[g] for s in stay for g in gone)


def struck(one):
    return render(score(one), 1, Window(bars=1)).velocities.tolist()


def test_a_ground_in_another_meter_drifts_against_the_bar():
    source = GroundSource(ground="crosswind", part="low", x=44, y=0)  # Slack sheet: X.......X.....
    starts = render(score(lane(source=source), meter=Meter()), 1, Window(bars=2)).starts
    assert (starts // 3360).tolist() == [0, 8, 14, 22, 28]
