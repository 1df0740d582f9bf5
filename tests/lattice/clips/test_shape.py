"""Clips repeated, cropped, joined, grown and played at another pace."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from lattice.clips import edited, joined
from lattice.clips.clip import MeterChange, TempoChange
from lattice.clips.edits.notes import Delete
from lattice.clips.edits.shape import Crop, Lengthen, Pace, Repeat
from lattice.document import DocumentError, Meter
from tests.lattice.clips.clips import BAR, clip, clips, row, starts


@given(clips(), st.integers(1, 3))
def test_a_whole_clip_is_repeated_with_all_it_holds(one, times):
    after = edited(one, Repeat(times=times)).clip
    assert after.length_ticks == (times + 1) * one.length_ticks
    for before, track in zip(one.tracks, after.tracks, strict=True):
        expected = sorted(
            note.start + turn * one.length_ticks for turn in range(times + 1) for note in before.notes
        )
        assert sorted(note.start for note in track.notes) == expected
        assert len(track.controls) == (times + 1) * len(before.controls)


@given(clips(), st.integers(0, 2 * BAR), st.integers(1, 2 * BAR))
def test_what_is_cropped_begins_at_its_first_tick(one, first, length):
    assume(first < one.length_ticks)
    end = min(first + length, one.length_ticks)
    after = edited(one, Crop(first_tick=first, end_tick=first + length)).clip
    assert after.length_ticks == end - first
    for before, track in zip(one.tracks, after.tracks, strict=True):
        inside = [note.start - first for note in before.notes if first <= note.start < end]
        assert [note.start for note in track.notes] == inside
        held = [one.value for one in before.controls if one.tick <= first]
        moves = [(one.tick - first, one.value) for one in before.controls if first < one.tick < end]
        assert [(one.tick, one.value) for one in track.controls] == [
            (0, value) for value in held[-1:]
        ] + moves


@given(clips(), clips())
def test_one_clip_after_another_and_each_is_cropped_out_again(one, other):
    both = joined(one, other)
    assert both.length_ticks == one.length_ticks + other.length_ticks
    assert both.note_count == one.note_count + other.note_count
    second = edited(both, Crop(first_tick=one.length_ticks, end_tick=both.length_ticks)).clip
    heard = {(track.lane, track.channel): track.notes for track in second.tracks if track.notes}
    assert heard == {(track.lane, track.channel): track.notes for track in other.tracks if track.notes}


def test_a_joined_clip_of_another_tempo_keeps_it_from_there_on():
    both = joined(clip(row(0)), clip(row(0), tempo=90.0))
    assert both.tempo_changes == (TempoChange(2 * BAR, 90.0),)
    assert edited(both, Crop(first_tick=2 * BAR, end_tick=4 * BAR)).clip.tempo == 90.0


@given(clips())
def test_at_half_the_pace_all_is_twice_as_long_and_double_brings_it_back(one):
    slow = edited(one, Pace(pace="half")).clip
    assert slow.length_ticks == 2 * one.length_ticks
    assert starts(slow) == [2 * start for start in starts(one)]
    back = edited(slow, Pace(pace="double")).clip
    # Notes that begin together may stand in another order.
    assert [sorted(track.notes) for track in back.tracks] == [sorted(track.notes) for track in one.tracks]
    assert [track.controls for track in back.tracks] == [track.controls for track in one.tracks]
    assert (back.length_ticks, back.name) == (one.length_ticks, one.name)


def test_an_edit_says_how_many_notes_are_gone():
    one = clip(row(0, BAR, 2 * BAR), bars=3)
    assert edited(one, Crop(), ((1, 2),)).lost == 1
    merged = edited(clip(row(1, 2, length=1)), Pace(pace="double"))
    assert (merged.lost, len(merged.clip.tracks[0].notes)) == (1, 1)
    two = clip(row(0, 100, 200))
    assert edited(two, Delete(), ((0, 2),)).lost == 2
    assert edited(two, Repeat(), ()).lost == 0


def test_a_clip_grows_no_shorter_than_its_notes():
    one = clip(row(0, 2 * BAR), bars=4)
    assert edited(one, Lengthen(bars=3)).clip.length_ticks == 3 * BAR
    with pytest.raises(DocumentError, match="1 note begins after bar 2: choose the bars to keep"):
        edited(one, Lengthen(bars=2))


def test_double_pace_puts_no_change_of_meter_in_the_middle_of_a_bar():
    sevens = Meter(numerator=7, denominator=8)
    one = clip(row(0), bars=4).model_copy(update={"meter_changes": (MeterChange(BAR, sevens),)})
    with pytest.raises(DocumentError, match="in the middle of a bar"):
        edited(one, Pace(pace="double"))
    even = one.model_copy(update={"meter_changes": (MeterChange(2 * BAR, sevens),)})
    assert edited(even, Pace(pace="double")).clip.meter_changes == (MeterChange(BAR, sevens),)
