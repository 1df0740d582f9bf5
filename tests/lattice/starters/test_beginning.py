"""Beginning from a starter."""

import pytest

from lattice.document import DOCKSIDE, DocumentError, Drawn, Euclidean, Kit, Lane, Once, Pattern, Piece, Scale
from lattice.starters import GROUND_BEATS, LANES, MELODIES, PATTERNS, PIECES, Starter, begun, begun_piece

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


@pytest.mark.parametrize("starter", [*LANES, *MELODIES, *PATTERNS, *GROUND_BEATS], ids=lambda one: one.name)
def test_every_starter_that_ships_can_be_begun_from(starter):
    assert begun(HERE, starter, DOCKSIDE, "bell").lanes


def test_what_cannot_begin_says_why():
    lane = Lane(id="gull", name="Gull", voice="gull", source=Drawn(steps=4), once=Once(bars=5))
    with pytest.raises(DocumentError, match="no lane 'gone'"):
        begun(HERE, Starter(name="Late", lane=lane), DOCKSIDE, "gone")
    with pytest.raises(DocumentError, match=r"once|begin"):
        begun(HERE.model_copy(update={"bars": 2}), Starter(name="Late", lane=lane), DOCKSIDE, "thud")


REED = Lane(
    id="low-reed",
    name="Low reed",
    voice="low-reed",
    source=Euclidean(hits=5, steps=16),
    follows="root",
    pan=-20,
)


def test_without_a_lane_it_is_a_new_one_with_an_id_of_its_own():
    starter = Starter(name="Bass", lane=REED)
    once = begun(HERE, starter, DOCKSIDE, None)
    twice = begun(once, starter, DOCKSIDE, None)
    assert [lane.id for lane in twice.lanes] == ["thud", "bell", "low-reed", "low-reed-2"]
    assert twice.lanes[:2] == HERE.lanes
    assert twice.lanes[2] == REED.model_copy(update={"ink": 2})


def test_a_lane_of_the_kit_that_begins_a_melody_takes_its_voice():
    thud = THUD.model_copy(update={"note": 36})
    here = HERE.model_copy(update={"lanes": (thud, BELL.model_copy(update={"name": "My bell"}), REED)})
    starter = Starter(
        name="Bass", lane=REED.model_copy(update={"id": "x", "voice": "undertow", "name": "Undertow"})
    )
    now = [
        begun(here, starter, DOCKSIDE, lane).lanes[at] for at, lane in enumerate(("thud", "bell", "low-reed"))
    ]
    assert [(lane.name, lane.voice, lane.note) for lane in now] == [
        ("Undertow", "undertow", None),
        ("My bell", "undertow", None),  # what was named by hand keeps its name
        ("Low reed", "low-reed", None),  # what is melodic sounds as it did
    ]
    assert {lane.follows for lane in now} == {"root"}


@pytest.mark.parametrize("starter", PIECES, ids=lambda one: one.name)
def test_a_piece_brings_all_but_its_name_and_kit(starter):
    kit = Kit(name="Two", voices=DOCKSIDE.voices[:2])
    piece = Piece(name="Mine", kit=kit, patterns=(Pattern(id="x", name="X"),))
    after = begun_piece(piece, starter)
    assert (after.name, after.kit) == ("Mine", kit)
    assert (after.tempo, after.scale, after.order) == (
        starter.piece.tempo, starter.piece.scale, starter.piece.order
    )  # fmt: skip
    assert [pattern.progression for pattern in after.patterns] == [
        pattern.progression for pattern in starter.piece.patterns
    ]


def test_a_piece_begins_no_pattern_and_a_lane_no_piece():
    with pytest.raises(DocumentError, match="is a whole piece"):
        begun(HERE, PIECES[0], DOCKSIDE, None)
    with pytest.raises(DocumentError, match="is no whole piece"):
        begun_piece(Piece(name="Mine", patterns=(HERE,)), LANES[0])


def test_what_plays_chords_brings_two_where_there_are_none():
    pad = next(starter for starter in MELODIES if starter.name == "Fog bank")
    scale = Scale(root=2, name="dorian")
    after = begun(HERE, pad, DOCKSIDE, None, scale)
    assert [placed.chord for placed in after.progression.chords] == ["i", "IV"]
    again = begun(after, pad, DOCKSIDE, "bell", Scale(root=4, name="phrygian"))
    assert again.progression == after.progression
    bass = next(starter for starter in MELODIES if starter.name == "Mooring post")
    assert begun(HERE, bass, DOCKSIDE, None, scale).progression is None
