"""Takes: made again from their score, dice and bars, measured, and compared."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.clips import Clip, differences, edited, is_lucky, take, take_clip, varied
from lattice.clips.edits.notes import Delete
from lattice.document import DocumentError, Euclidean, LaneClip, Note, NudgeStrip, Score
from lattice.render import Window, render
from tests.lattice.scores import dice, lane, score, scores

WINDOW = Window(first_bar=1, bars=2)
BAR = 53760


@given(scores(min_lanes=1), dice)
def test_a_take_is_made_again_from_what_is_stored(score, dice):
    first = take_clip(take(score, dice, WINDOW), "Night Ferry", "A")
    stored = Clip.model_validate_json(first.model_dump_json()).origin
    window = Window(first_bar=stored.first_bar, bars=stored.bars)
    again = take(stored.score, stored.dice, window, stored.lanes)
    assert take_clip(again, "Night Ferry", "A") == first


@given(scores(min_lanes=2), dice)
def test_chosen_lanes_sound_alone_and_as_they_would_among_all(score, dice):
    apart = score.model_copy(
        update={
            "lanes": tuple(
                one.model_copy(update={"channel": at + 1, "mute": False, "solo": False})
                for at, one in enumerate(score.lanes)
            )
        }
    )
    whole = take(apart, dice, WINDOW).tracks
    chosen = apart.lanes[-1].id
    assert take(apart, dice, WINDOW, (chosen,)).tracks == tuple(one for one in whole if one.lane_id == chosen)


def test_a_muted_lane_sounds_when_it_is_chosen():
    muted = score(lane(mute=True), lane("bell"))
    assert [one.lane_id for one in take(muted, 1, WINDOW, ("thud",)).tracks] == ["thud"]


def test_tracks_know_the_sounds_of_their_lanes():
    taken = take(score(lane("bell", note=60, level_db=-3, pan=20)), 1, WINDOW)
    clip = take_clip(taken, "Night Ferry", "A")
    sound = clip.tracks[0].sound
    assert (sound.voice.id, sound.note, sound.level_db, sound.pan) == ("bell", 60, -3, 20)


def test_measures_count_what_sounded():
    four = score(lane(source=Euclidean(hits=4, steps=16)))
    taken = take(four, 1, Window(bars=2))
    measured = taken.measures(taken)
    assert (measured.notes, measured.hits_a_bar, measured.syncopation, measured.distance) == (
        8,
        4.0,
        0.0,
        0.0,
    )


def test_a_rhythm_off_the_beat_is_more_syncopated():
    on, off = (score(lane(source=Euclidean(hits=4, steps=16), rotate=turn)) for turn in (0, 2))
    first, second = take(on, 1, WINDOW), take(off, 1, WINDOW)
    assert second.measures(first).syncopation > first.measures(first).syncopation
    assert second.measures(first).distance == pytest.approx(16 / 32)


def test_distance_is_the_share_of_steps_that_differ():
    lucky = score(lane(source=Euclidean(hits=16, steps=16), chance_percent=50))
    first, second = take(lucky, 1, WINDOW), take(lucky, 2, WINDOW)
    heard = [set(one.rows[0][1].tolist()) for one in (first, second)]
    assert second.measures(first).distance == len(heard[0] ^ heard[1]) / 32


@given(dice, dice)
def test_what_differs_and_what_does_not_make_up_each_take(one_dice, other_dice):
    lucky = score(lane(chance_percent=50), lane("bell", chance_percent=50, source=Euclidean(hits=7, steps=9)))
    one, other = take(lucky, one_dice, WINDOW).tracks, take(lucky, other_dice, WINDOW).tracks
    found = differences(one, other)
    for tracks, others, places in ((one, other, found.only_one), (other, one, found.only_other)):
        theirs = {(track.lane_id, note.start, note.pitch) for track in others for note in track.notes}
        for track, only in zip(tracks, places, strict=True):
            for at, note in enumerate(track.notes):
                assert (at in only) == ((track.lane_id, note.start, note.pitch) not in theirs)


@given(scores(min_lanes=1), dice)
def test_a_take_in_place_of_its_lanes_sounds_as_it_did(score, dice):
    """Every lane of the take, kept, and set in place of itself: the same notes, over and over."""
    score = Score.model_validate(
        score.model_dump()
        | {"lanes": tuple(one.model_copy(update={"channel": at + 1}) for at, one in enumerate(score.lanes))}
    )
    clip = take_clip(take(score, dice, WINDOW), "Night Ferry", "A")
    notes = {track.lane_id: track.notes for track in clip.tracks}
    kept = score.model_copy(
        update={
            "lanes": tuple(
                one.model_copy(
                    update={
                        "clip": LaneClip(
                            name=clip.name, length_ticks=clip.length_ticks, notes=notes.get(one.id, ())
                        )
                    }
                )
                for one in score.lanes
            )
        }
    )
    heard = render(kept, 99, Window(first_bar=2, bars=2))
    begin = 2 * score.meter.bar_ticks
    found = sorted(
        (index, start - begin, pitch)
        for index, start, pitch in zip(
            heard.lanes.tolist(), heard.starts.tolist(), heard.pitches.tolist(), strict=True
        )
    )
    silent = {
        one.id for one in score.lanes if one.mute or (any(x.solo for x in score.lanes) and not one.solo)
    }
    assert found == sorted(
        (index, note.start, note.pitch)
        for index, one in enumerate(score.lanes)
        if one.id not in silent
        for note in notes.get(one.id, ())
    )


@pytest.mark.parametrize(("lanes", "says"), [(("gull",), "no lane 'gull'"), ((), "at least one lane")])
def test_lanes_that_are_not_there_are_refused(lanes, says):
    with pytest.raises(DocumentError, match=says):
        take(score(lane()), 1, WINDOW, lanes)


@given(st.integers(0, 3))
def test_an_edited_clip_still_says_where_it_came_from(place):
    four = score(lane())
    clip = take_clip(take(four, 1, WINDOW), "Night Ferry", "A")
    after = edited(clip, Delete(), ((place,),)).clip
    assert after.origin == clip.origin
    assert after.note_count == clip.note_count - 1
    assert isinstance(after.tracks[0].notes[0], Note)


@given(scores(min_lanes=1), dice, dice)
def test_takes_without_luck_are_the_same_whatever_the_dice(score, one, other):
    if not is_lucky(score):
        assert take(score, one, WINDOW).tracks == take(score, other, WINDOW).tracks


def test_takes_are_varied_by_throws_of_their_own():
    still = score(lane("thud", source=Euclidean(hits=5, steps=16)), lane("rail", anchored=True))
    assert not is_lucky(still)
    assert varied(still, 40, 1) == varied(still, 0, 2) == still
    second, third = (take(varied(still, 40, number), 7, WINDOW) for number in (2, 3))
    begun = take(still, 7, WINDOW)
    assert len({tuple(one.tracks[0].notes) for one in (begun, second, third)}) == 3
    assert begun.tracks[1] == second.tracks[1] == third.tracks[1]
    assert len(second.tracks[0].notes) == len(begun.tracks[0].notes)


def test_a_hit_that_sounds_before_the_take_begins_belongs_to_it_and_one_after_its_end_does_not():
    early = lane(source=Euclidean(hits=1, steps=16), nudge_strip=NudgeStrip(values=(-50,)))
    (track,) = take(score(early), 1, Window(first_bar=4, bars=2)).tracks
    assert [note.start for note in track.notes] == [0, BAR - 1680]
