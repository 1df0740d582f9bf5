"""Every starter sounds, says what it does, and can be begun from."""

import numpy as np
import pytest

from lattice.document import (
    DOCKSIDE,
    BarSpan,
    DocumentError,
    Lane,
    PlacedChord,
    Progression,
    Scale,
    Score,
    read,
    score_of,
)
from lattice.render import Window, render
from lattice.sentence import Speech, sentence
from lattice.starters import GROUND_BEATS, LANES, MELODIES, PATTERNS, PIECES, Starter, starting_fields
from lattice.steps.lane_steps import steps_of_lanes

SINGLE = [*LANES, *MELODIES]
SOUNDING = [*SINGLE, *PATTERNS, *GROUND_BEATS]
ALL = [*SOUNDING, *PIECES]


def progression_of(*chords):
    return Progression(chords=tuple(PlacedChord(chord=chord, lasts=BarSpan(bars=2)) for chord in chords))


MINOR = progression_of("i", "VII")


def sounding(starter):
    if starter.lane:
        return Score(
            tempo=112.0,
            kit=DOCKSIDE,
            bars=4,
            lanes=(starter.lane,),
            scale=Scale(name="minor"),
            progression=MINOR,
        )
    pattern = starter.pattern
    return Score(tempo=112.0, kit=DOCKSIDE, bars=pattern.bars, meter=pattern.meter, lanes=pattern.lanes)


def test_there_are_as_many_as_a_shelf_needs_and_no_two_alike():
    assert len(LANES) >= 30
    assert len(PATTERNS) >= 12
    assert len(MELODIES) >= 24
    assert len(PIECES) >= 8
    assert len({starter.name for starter in ALL}) == len(ALL)
    fields = [repr(starting_fields(starter.lane)) for starter in SINGLE]
    assert len(set(fields)) == len(fields)


@pytest.mark.parametrize("starter", SOUNDING, ids=lambda starter: starter.name)
def test_every_starter_is_heard_in_each_of_its_lanes(starter):
    score = sounding(starter)
    heard = set(render(score, 7, Window(bars=64)).lanes.tolist())
    assert heard == set(range(len(score.lanes)))
    assert starter.tags


@pytest.mark.parametrize("starter", SINGLE, ids=lambda starter: starter.name)
def test_a_lane_that_begins_from_it_plays_it_with_its_own_voice(starter):
    voice = starter.lane.voice if starter.lane.is_melodic else "gull"
    own = Lane(id="mine", name="Mine", voice=voice, source=starter.lane.source, channel=3, pan=20, mute=True)
    begun = read(Lane, own.model_dump(mode="json") | starting_fields(starter.lane))
    assert (begun.id, begun.voice, begun.channel, begun.pan, begun.mute) == ("mine", voice, 3, 20, True)
    was, now = (
        steps_of_lanes(sounding(Starter(name="x", lane=lane)), 1)[0] for lane in (starter.lane, begun)
    )
    assert np.array_equal(was.hits(0, 200), now.hits(0, 200)) or was.is_random
    stays = ("pan", "channel", "room")
    said, says = (
        [part.words for part in sentence(Speech(lane_steps)).parts if part.setting not in stays]
        for lane_steps in (was, now)
    )
    assert said == says


@pytest.mark.parametrize(
    ("document", "says"),
    [
        ({"name": "x"}, "a starter is a lane, a pattern or a piece"),
        (
            {
                "name": "x",
                "lane": {"id": "a", "name": "A", "voice": "a", "source": {"kind": "rests", "of": "b"}},
            },
            "draw it as it stands first",
        ),
        ({"name": "x", "tags": ["a,b"], "lane": None}, "tags.1"),
    ],
)
def test_what_is_no_starter_is_refused(document, says):
    with pytest.raises(DocumentError, match=says):
        read(Starter, document)


# ---- Melodies ----
KINDS = ("bass", "sequence", "arpeggio", "pad", "lead")


def test_each_kind_of_melody_has_several():
    for kind in KINDS:
        assert sum(kind in starter.tags for starter in MELODIES) >= 4, kind
    assert all(len(set(KINDS) & set(starter.tags)) == 1 for starter in MELODIES)


def pitches(lane, scale, *chords):
    score = Score(
        tempo=112.0, kit=DOCKSIDE, bars=4, lanes=(lane,), scale=scale, progression=progression_of(*chords)
    )
    return render(score, 7, Window(bars=8)).pitches.tolist()


@pytest.mark.parametrize("starter", MELODIES, ids=lambda starter: starter.name)
def test_a_melody_follows_scale_and_progression(starter):
    dorian, lydian = Scale(root=2, name="dorian"), Scale(root=5, name="lydian")
    one = pitches(starter.lane, dorian, "i", "IV")
    assert {pitch % 12 for pitch in one} <= {(2 + degree) % 12 for degree in dorian.semitones}
    assert one != pitches(starter.lane, dorian, "i", "i")
    assert {pitch % 12 for pitch in pitches(starter.lane, lydian, "I", "II")} <= {
        (5 + degree) % 12 for degree in lydian.semitones
    }


# ---- Pieces ----
@pytest.mark.parametrize("starter", PIECES, ids=lambda starter: starter.name)
def test_a_piece_plays_each_of_its_patterns_in_order_and_each_of_its_lanes_sounds(starter):
    piece = starter.piece
    for pattern in piece.patterns:
        heard = set(render(score_of(piece, pattern), pattern.dice, Window(bars=64)).lanes.tolist())
        assert heard == set(range(len(pattern.lanes)))
        assert pattern.progression
    assert {row.pattern for row in piece.order} == {pattern.id for pattern in piece.patterns}
    assert len({pattern.dice for pattern in piece.patterns}) == len(piece.patterns)
