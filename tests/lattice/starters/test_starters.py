"""Every starter sounds, says what it does, and can be begun from."""

import numpy as np
import pytest

from lattice.document import DOCKSIDE, DocumentError, Lane, Score, read
from lattice.render import Window, render
from lattice.sentence import Speech, sentence
from lattice.starters import GROUND_BEATS, LANES, PATTERNS, Starter, starting_fields
from lattice.steps.lane_steps import lines_of

ALL = [*LANES, *PATTERNS, *GROUND_BEATS]


def score_of(starter):
    if starter.lane:
        return Score(tempo=112.0, kit=DOCKSIDE, bars=4, lanes=(starter.lane,))
    pattern = starter.pattern
    return Score(tempo=112.0, kit=DOCKSIDE, bars=pattern.bars, meter=pattern.meter, lanes=pattern.lanes)


def test_there_are_as_many_as_a_shelf_needs_and_no_two_alike():
    assert len(LANES) >= 30
    assert len(PATTERNS) >= 12
    assert len({starter.name for starter in ALL}) == len(ALL)
    fields = [repr(starting_fields(starter.lane)) for starter in LANES]
    assert len(set(fields)) == len(fields)


@pytest.mark.parametrize("starter", ALL, ids=lambda starter: starter.name)
def test_every_starter_is_heard_in_each_of_its_lanes(starter):
    score = score_of(starter)
    heard = set(render(score, 7, Window(bars=64)).lanes.tolist())
    assert heard == set(range(len(score.lanes)))
    assert starter.tags


@pytest.mark.parametrize("starter", LANES, ids=lambda starter: starter.name)
def test_a_lane_that_begins_from_it_plays_it_with_its_own_voice(starter):
    own = Lane(id="mine", name="Mine", voice="gull", source=starter.lane.source, channel=3, pan=20, mute=True)
    begun = read(Lane, own.model_dump(mode="json") | starting_fields(starter.lane))
    assert (begun.id, begun.voice, begun.channel, begun.pan, begun.mute) == ("mine", "gull", 3, 20, True)
    was, now = (lines_of(score_of(Starter(name="x", lane=lane)), 1)[0] for lane in (starter.lane, begun))
    assert np.array_equal(was.hits(0, 200), now.hits(0, 200)) or was.is_random
    parts = [part.words for part in sentence(Speech(was)).parts]
    assert parts == [
        part.words for part in sentence(Speech(now)).parts if part.setting not in ("pan", "channel")
    ]


@pytest.mark.parametrize(
    ("document", "says"),
    [
        ({"name": "x"}, "a starter is a lane or a pattern"),
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
