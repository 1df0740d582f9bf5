"""Beginning from a starter."""

import pytest

from lattice.document import DOCKSIDE, DocumentError, Drawn, Euclidean, Kit, Lane, Once, Pattern
from lattice.starters import GROUND_BEATS, LANES, PATTERNS, Starter, begun

THUD = Lane(
    id="thud",
    name="Thud",
    voice="thud",
    ink=3,
    pan=20,
    port="Quay drums",
    room=15,
    source=Drawn(steps=8, hits=(0,)),
)
BELL = Lane(id="bell", name="Bell", voice="bell", source=Drawn(steps=8, hits=(4,)))
HERE = Pattern(id="b", name="B", dice=7, lanes=(THUD, BELL))


def test_a_lane_stays_who_it_is_and_where_it_sounds_and_the_others_stay_as_they_are():
    lane = Lane(id="gull", name="Gull", voice="gull", velocity=84, source=Euclidean(hits=5, steps=16))
    after = begun(HERE, Starter(name="Gangway", lane=lane), DOCKSIDE, "thud")
    now = after.lanes[0]
    assert (now.id, now.name, now.voice, now.ink, now.pan) == ("thud", "Thud", "thud", 3, 20)
    assert (now.port, now.room) == ("Quay drums", 15)
    assert (now.source, now.velocity) == (lane.source, 84)
    assert after.lanes[1] == BELL
    assert (after.id, after.name, after.dice) == ("b", "B", 7)


def test_a_pattern_brings_its_lanes_with_voices_that_the_kit_has():
    kit = Kit(name="Two", voices=DOCKSIDE.voices[:2])
    names = ("thud", "gull", "rope")
    lanes = tuple(Lane(id=name, name=name, voice=name, source=Drawn(steps=4)) for name in names)
    reed = Lane(id="reed", name="reed", voice="low-reed", source=Drawn(steps=4))
    whole = Pattern(id="a", name="A", bars=3, lanes=(*lanes, reed))
    after = begun(HERE, Starter(name="Swell", pattern=whole), kit, None)
    assert [lane.voice for lane in after.lanes] == ["thud", "chain", "thud", "low-reed"]
    assert (after.id, after.bars) == ("b", 3)


@pytest.mark.parametrize("starter", [*LANES, *PATTERNS, *GROUND_BEATS], ids=lambda one: one.name)
def test_every_starter_that_ships_can_be_begun_from(starter):
    assert begun(HERE, starter, DOCKSIDE, "bell").lanes


def test_what_cannot_begin_says_why():
    lane = Lane(id="gull", name="Gull", voice="gull", source=Drawn(steps=4), once=Once(bars=5))
    with pytest.raises(DocumentError, match="no lane 'gone'"):
        begun(HERE, Starter(name="Late", lane=lane), DOCKSIDE, "gone")
    with pytest.raises(DocumentError, match=r"once|begin"):
        begun(HERE.model_copy(update={"bars": 2}), Starter(name="Late", lane=lane), DOCKSIDE, "thud")
