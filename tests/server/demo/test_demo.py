"""The demo shows what the engine can do so far."""

from demo.pieces import LANTERN_QUAY, NIGHT_FERRY, PIECES, SLACK_WATER

from lattice.document import Euclidean, score_of
from lattice.render import Window, picture
from lattice.render.played import cycle_of


def test_night_ferry_has_drift_tuplets_rests_and_chances():
    (pattern,) = NIGHT_FERRY.patterns
    cycles = [cycle_of(lane, pattern) for lane in pattern.lanes]
    tuplets = [lane for lane in pattern.lanes if lane.step_value and lane.step_value.divisor in (3, 5, 7)]
    assert (NIGHT_FERRY.tempo, len(pattern.lanes) >= 7) == (112, True)
    assert len({cycle.quarters for cycle in cycles}) >= 4
    assert len(tuplets) == 2
    assert any(lane.complement for lane in pattern.lanes)
    assert sum(lane.chance_percent < 100 for lane in pattern.lanes) >= 2
    assert Euclidean(hits=5, steps=16) in [lane.source for lane in pattern.lanes]


def test_the_others_stand_where_the_ferry_does():
    assert (LANTERN_QUAY.tempo, LANTERN_QUAY.patterns[0].meter.bar_quarters) == (96, 3.5)
    assert SLACK_WATER.tempo == 148


def test_every_demo_piece_sounds_in_every_lane_within_eight_bars():
    for piece in PIECES:
        pattern = piece.patterns[0]
        drawn = picture(score_of(piece, pattern), pattern.dice, Window(bars=8))
        assert set(drawn.events.lanes) == set(range(len(pattern.lanes)))
