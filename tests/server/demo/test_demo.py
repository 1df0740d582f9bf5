"""The demo shows what the engine can do so far."""

import pytest
from clips.models import Clip
from demo.pieces import LANTERN_QUAY, NIGHT_FERRY, PIECES, SLACK_WATER
from demo.services import demo_musician
from takes.models import Take

from lattice.document import Euclidean, Lane, score_of
from lattice.render import Window
from lattice.screen import sounds
from lattice.steps.lane_steps import steps_of_lanes


def test_night_ferry_shows_every_way_to_make_a_rhythm():
    lanes = [lane for pattern in NIGHT_FERRY.patterns for lane in pattern.lanes]
    assert {lane.source.kind for lane in lanes} >= {
        "drawn",
        "euclidean",
        "numbered",
        "rests",
        "echo",
        "reply",
    }
    for field in (
        "rotate",
        "thin",
        "span",
        "once",
        "direction",
        "restart",
        "chance_strip",
        "luck_bars",
        "anchored",
    ):
        assert any(getattr(lane, field) != Lane.model_fields[field].default for lane in lanes), field
    assert Euclidean(hits=5, steps=16) in [lane.source for lane in lanes]


def test_night_ferry_drifts():
    pattern = NIGHT_FERRY.patterns[0]
    assert (NIGHT_FERRY.tempo, len(pattern.lanes)) == (112, 10)
    assert len({lane_steps.clock.cycle_quarters for lane_steps in steps_of_lanes(pattern, 1)}) >= 4


def test_the_others_stand_where_the_ferry_does():
    assert (LANTERN_QUAY.tempo, LANTERN_QUAY.patterns[0].meter.bar_quarters) == (96, 3.5)
    assert SLACK_WATER.tempo == 148


def test_every_demo_piece_sounds_in_every_lane_within_eight_bars():
    every = [(piece, pattern) for piece in PIECES for pattern in piece.patterns]
    for piece, pattern in every:
        heard = sounds(score_of(piece, pattern), pattern.dice, Window(bars=8))
        assert set(heard.events.lanes) == set(range(len(pattern.lanes)))


@pytest.mark.django_db
def test_every_piece_has_kept_takes_and_clips_that_were_worked_on():
    user = demo_musician()
    for piece in PIECES:
        clips = Clip.objects.filter(owner=user, from_piece=piece.name)
        assert clips.count() >= 2
        assert clips.exclude(set_name="").exists()
        assert Take.objects.filter(sheet__piece_name=piece.name, clip__isnull=False).exists()
    crossing = Clip.objects.get(owner=user, name="Last crossing")
    assert crossing.stands_at > 1
    assert demo_musician() == user
    assert Clip.objects.filter(owner=user, name="Last crossing").count() == 1
