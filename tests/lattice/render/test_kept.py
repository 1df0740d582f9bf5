"""A clip in place of its lane: its notes go round, and the lane itself is silent."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import Control, DocumentError, LaneClip, Note, Score, read
from lattice.render import Window, render
from lattice.render.controls import controls_of
from lattice.render.kept_clip import kept_moves, kept_notes
from lattice.render.pipeline import play_all
from lattice.screen import picture
from tests.lattice.lane_fields import lane_clips
from tests.lattice.scores import lane, score

BAR = 53760
ticks = st.integers(0, 10**6)


@given(lane_clips(), ticks, st.integers(1, 10**5))
def test_notes_go_round_from_the_start(clip, first, length):
    end = first + length
    expected = [
        (time, note.length, note.pitch - 36, note.velocity, note.tune)
        for turn in range(end // clip.length_ticks + 1)
        for note in clip.notes
        if first <= (time := turn * clip.length_ticks + note.start) < end
    ]
    found = kept_notes(clip, 36, first, end)
    columns = (found.starts, found.ends - found.starts, found.intervals, found.velocities, found.tunes)
    assert list(zip(*(column.tolist() for column in columns), strict=True)) == expected
    assert found.straights.tolist() == found.starts.tolist()


@given(lane_clips(), ticks, st.integers(1, 10**5))
def test_what_a_controller_holds_is_what_came_last_before(clip, first, length):
    end = first + length
    moves = [
        (turn * clip.length_ticks + point.tick, point.controller, point.value)
        for turn in range(end // clip.length_ticks + 1)
        for point in clip.controls
    ]
    sent, held = kept_moves(clip, first, end)
    assert sent == [move for move in moves if first <= move[0] < end]
    assert held == {controller: value for time, controller, value in moves if time < first}


def test_a_note_that_begins_after_the_end_sounds_late_in_each_further_time_round_and_never_before_the_first():
    """Its hit stood before the last bar line and was heard after it."""
    clip = LaneClip(name="Kept", length_ticks=BAR, notes=(Note(0, 10, 36, 90), Note(BAR + 700, 10, 40, 77)))
    kept = score(lane(clip=clip))
    events = render(kept, 1, Window(bars=3))
    assert list(zip(events.starts.tolist(), events.pitches.tolist(), strict=True)) == [
        (0, 36),
        (BAR, 36),
        (BAR + 700, 40),
        (2 * BAR, 36),
        (2 * BAR + 700, 40),
    ]
    assert render(kept, 1, Window(first_bar=2, bars=1)).starts.tolist() == [2 * BAR, 2 * BAR + 700]


def test_nothing_sounds_twice():
    clip = LaneClip(name="Last crossing", length_ticks=BAR, notes=(Note(100, 50, 40, 77),))
    kept = score(lane(velocity=100, clip=clip), lane("chain"))
    events = render(kept, 1, Window(bars=2))
    own = events.take(events.lanes == 0)
    assert own.starts.tolist() == [100, BAR + 100]
    assert set(own.pitches.tolist()) == {40}
    muted = kept.model_copy(
        update={"lanes": (kept.lanes[0].model_copy(update={"mute": True}), kept.lanes[1])}
    )
    assert set(render(muted, 1, Window(bars=2)).lanes.tolist()) == {1}


def test_its_controls_take_the_place_of_the_strips():
    clip = LaneClip(name="Kept", length_ticks=BAR, controls=(Control(7, 74, 3),))
    kept = score(lane(clip=clip))
    window = Window(first_bar=1, bars=1)
    sent = controls_of(kept, window, play_all(kept, 1, window))
    assert (sent.sends.ticks.tolist(), sent.sends.values.tolist()) == ([BAR + 7], [3])
    assert (sent.held.ticks.tolist(), sent.held.values.tolist()) == ([BAR], [3])


def test_it_is_drawn_and_said_in_red():
    clip = LaneClip(name="Last crossing", length_ticks=2 * BAR, notes=(Note(100, 50, 40, 77),))
    drawn = picture(score(lane(clip=clip)), 1, Window(first_bar=1, bars=4)).lanes[0]
    assert (drawn.kept.starts, drawn.kept.pitches, drawn.kept.begins) == (
        [2 * BAR + 100, 4 * BAR + 100][:2],
        [4, 4],
        [2 * BAR, 4 * BAR],
    )
    said = [part for part in drawn.sentence.parts if part.setting == "clip"]
    assert ["".join(word.text for word in part.words) for part in said] == ["plays clip “Last crossing”"]
    assert said[0].red


@pytest.mark.parametrize(
    ("clip", "says"),
    [
        ({"length_ticks": 0}, "length_ticks"),
        ({"length_ticks": 9, "notes": [[5, 1, 36, 100], [4, 1, 36, 100]]}, "in the order of time"),
        ({"length_ticks": 9, "controls": [[9, 1, 36]]}, "a control at tick 9"),
        ({"length_ticks": 9, "notes": [[0, 1, 36, 1]] * 20_001}, "20,?000"),
    ],
)
def test_a_kept_lane_that_cannot_be_is_refused(clip, says):
    with pytest.raises(DocumentError, match=says):
        read(LaneClip, {"name": "Kept"} | clip)


def test_a_score_keeps_it():
    clip = LaneClip(name="Kept", length_ticks=BAR, notes=(Note(0, 1, 36, 1),))
    kept = score(lane(clip=clip))
    assert Score.model_validate_json(kept.model_dump_json()) == kept
