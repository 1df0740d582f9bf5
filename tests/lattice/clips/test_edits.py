"""Edits of a clip: what each does to the notes it is about, and that it does nothing to others."""

import json

import numpy as np
import pytest
from hypothesis import assume, given, reject
from hypothesis import strategies as st
from pydantic import TypeAdapter

from lattice.clips import Action, Clip, Note, Track, edited, joined
from lattice.clips.clip import Control, TempoChange, TrackSound
from lattice.clips.edits.facts import SetClip, SetControls, SetTrack
from lattice.clips.edits.feel import Harder, Humanised, Paint, Quantise, Ramp, Swung, unswung
from lattice.clips.edits.notes import Add, Delete, Move, Paste, Resize, SetNotes, Transpose, plain_pitch
from lattice.clips.edits.shape import Crop, Lengthen, Pace, Repeat, Scatter
from lattice.clips.sheet import Sheet
from lattice.document import DOCKSIDE, DocumentError, Meter, StepValue, Swing, read
from tests.lattice.clips.actions import anything, grids, percents, throws
from tests.lattice.clips.clips import BAR, clip, clips_and_chosen, row, starts

STEP = 3360


def done(one: Clip, action, chosen):
    """The clip after an edit that it takes."""
    try:
        return edited(one, action, chosen)
    except DocumentError:
        reject()


@given(clips_and_chosen(), anything)
def test_whatever_is_done_a_clip_comes_out_whole(made, action):
    """In order, within its length, valid when read again, and no two notes of one pitch and channel at once."""
    one, chosen = made
    after = done(one, action, chosen)
    assert read(Clip, after.clip.model_dump(mode="json")) == after.clip
    for track, places in zip(after.clip.tracks, after.chosen, strict=True):
        order = [(note.start, note.pitch) for note in track.notes]
        assert order == sorted(order)
        assert all(note.start < after.clip.length_ticks for note in track.notes)
        assert all(0 <= place < len(track.notes) for place in places)
    sounding: dict[tuple[int, int], int] = {}
    events = sorted(
        (note.start, note.start + note.length, track.channel, note.pitch)
        for track in after.clip.tracks
        for note in track.notes
    )
    for start, end, channel, pitch in events:
        assert sounding.get((channel, pitch), 0) <= start
        sounding[channel, pitch] = end
    assert after.label


@given(clips_and_chosen(), anything)
def test_notes_that_are_not_chosen_keep_their_places_and_what_they_are(made, action):
    one, chosen = made
    assume(any(chosen) and not isinstance(action, Pace | Lengthen | Repeat))
    after = done(one, action, chosen).clip
    found = {(at, note.start, note.pitch) for at, track in enumerate(after.tracks) for note in track.notes}
    for at, (track, places) in enumerate(zip(one.tracks, chosen, strict=True)):
        for place, note in enumerate(track.notes):
            assert place in places or (at, note.start, note.pitch) in found


@given(clips_and_chosen(), anything)
def test_each_note_says_which_it_was(made, action):
    """What was chosen is chosen still, and what was not is what it was."""
    one, chosen = made
    assume(any(chosen))
    after = done(one, action, chosen)
    before = [(at, note) for at, track in enumerate(one.tracks) for note in track.notes]
    firsts = np.cumsum([0, *(len(track.notes) for track in one.tracks)]).tolist()
    meant = {first + place for first, places in zip(firsts, chosen, strict=False) for place in places}
    then = iter(after.came_from)
    for at, (track, places) in enumerate(zip(after.clip.tracks, after.chosen, strict=True)):
        for place, note in enumerate(track.notes):
            was = next(then)
            assert (place in places) == (was in meant or (was == -1 and isinstance(action, Repeat)))
            if place not in places and not isinstance(action, Pace):
                assert (at, note.start, note.pitch) == (
                    before[was][0],
                    before[was][1].start,
                    before[was][1].pitch,
                )
    assert next(then, None) is None
    kept = [was for was in after.came_from if was >= 0]
    assert len(kept) == len(set(kept))


def test_a_note_that_moves_past_another_changes_its_place_and_a_new_one_came_from_none():
    one = clip(row(0, 100, 200))
    assert edited(one, Move(ticks=250), ((0,),)).came_from == (1, 2, 0)
    assert edited(one, Add(track=0, tick=150, pitch=50)).came_from == (0, 1, -1, 2)
    assert edited(one, Delete(), ((1,),)).came_from == (0, 2)


said = st.one_of(
    anything,
    st.just(Paint(values=((0, 0, 5),))),
    st.just(SetControls(track=0, controller=74, first_tick=0, end_tick=9, points=((0, 9), (5, 8)))),
    st.just(Paste(tick=4, notes=((0, 10, 50, 36, 90),))),
    st.just(Add(track=0, tick=7, step=StepValue())),
    st.just(Crop(first_tick=0, end_tick=9)),
    st.just(SetTrack(track=0, lane="Gull")),
    st.just(SetClip(tempo=90.5)),
    st.just(Delete()),
)


@given(said)
def test_every_edit_can_be_said_in_json(action):
    assert TypeAdapter(Action).validate_python(json.loads(action.model_dump_json())) == action


@given(clips_and_chosen(), anything)
def test_the_same_edit_gives_the_same_clip(made, action):
    assert edited(made[0], action, made[1]) == edited(made[0], action, made[1])


def test_a_note_is_added_on_the_step_that_was_pointed_at_and_chosen():
    after = edited(clip(row(0)), Add(track=0, tick=2 * STEP + 3000, step=StepValue()), ((0,),))
    assert starts(after.clip) == [0, 2 * STEP]
    assert after.clip.tracks[0].notes[1] == Note(2 * STEP, STEP, 36, 100)
    assert after.chosen == ((1,),)
    free = edited(clip(row(0)), Add(track=0, tick=77, pitch=50, length=9, velocity=3)).clip
    assert free.tracks[0].notes[1] == Note(77, 9, 50, 3)


def test_only_chosen_notes_are_deleted_and_without_a_choice_none():
    assert starts(edited(clip(row(0, 100, 200)), Delete(), ((0, 2),)).clip) == [100]
    with pytest.raises(DocumentError, match="choose the notes first"):
        edited(clip(row(0)), Delete())


def test_notes_move_together_and_stop_together_at_the_edge():
    after = edited(clip(row(STEP, 3 * STEP)), Move(steps=-4), ((0, 1),)).clip
    assert starts(after) == [0, 2 * STEP]
    assert starts(edited(clip(row(0, 100), bars=1), Move(ticks=10 * BAR), ((0, 1),)).clip) == [
        BAR - 101,
        BAR - 1,
    ]
    assert starts(edited(clip(row(0)), Move(steps=3, step=StepValue(note=2, divisor=7)), ((0,),)).clip) == [
        11520
    ]


def test_a_note_moved_to_another_track_plays_what_that_plays():
    two = clip(row(0, pitch=36), row(100, 200, pitch=42))
    after = edited(two, Move(rows=1), ((0,),))
    assert after.clip.tracks[1].notes[0] == Note(0, 100, 42, 100)
    assert after.chosen == ((), (0,))
    assert starts(edited(two, Move(rows=-5), ((), (0,))).clip, 0) == [0, 100]


def test_pitches_are_transposed_by_a_group_and_folded_by_transposing():
    high = clip(tracks=(Track(lane="Low reed", channel=2, notes=(Note(0, 9, 120, 1), Note(1, 9, 100, 1))),))
    assert [note.pitch for note in edited(high, Move(semitones=20)).clip.tracks[0].notes] == [127, 107]
    assert [note.pitch for note in edited(high, Transpose(semitones=10)).clip.tracks[0].notes] == [118, 110]


def test_drums_stay_where_they_are_when_all_is_transposed():
    drums = Track(lane="Thud", notes=row(0, pitch=36))
    both = clip(tracks=(drums, Track(lane="Low reed", channel=2, notes=row(0, pitch=50))))
    after = edited(both, Transpose(semitones=7))
    assert [track.notes[0].pitch for track in after.clip.tracks] == [36, 57]
    assert after.label == "1 note transposed by +7"
    with pytest.raises(DocumentError, match="drag a note up or down"):
        edited(both, Transpose(semitones=7), ((0,),))


def test_lengths_change_down_to_a_tick():
    assert edited(clip(row(0)), Resize(steps=1)).clip.tracks[0].notes[0].length == STEP + 100
    assert edited(clip(row(0)), Resize(ticks=-500)).clip.tracks[0].notes[0].length == 1


def test_exact_values_are_given_and_the_earliest_goes_to_the_start():
    after = edited(clip(row(100, 300)), SetNotes(start=50, length=7, pitch=60, velocity=9)).clip
    assert after.tracks[0].notes == (Note(50, 7, 60, 9), Note(250, 7, 60, 9))


def test_a_paste_grows_the_clip_by_whole_bars():
    after = edited(
        clip(row(0), bars=1), Paste(tick=BAR + 5, notes=((0, 10, 50, 36, 90), (0, 30, 50, 36, 91)))
    )
    assert starts(after.clip) == [0, BAR + 5, BAR + 25]
    assert after.clip.length_ticks == 2 * BAR
    assert after.chosen == ((1, 2),)


def test_a_paste_without_a_place_goes_to_the_bar_line_after_what_is_chosen_or_to_the_beginning():
    copied = Paste(notes=((0, 777, 50, 36, 90), (0, 797, 50, 36, 91)))
    assert starts(edited(clip(row(50), bars=3), copied).clip) == [0, 20, 50]
    assert starts(edited(clip(row(50, BAR + 9), bars=3), copied, ((0, 1),)).clip) == [
        50,
        BAR + 9,
        2 * BAR,
        2 * BAR + 20,
    ]


def test_a_crop_without_ends_is_to_the_bars_in_which_chosen_notes_begin():
    one = clip(row(0, BAR + 5, 2 * BAR + 7, 3 * BAR), bars=4)
    after = edited(one, Crop(), ((1, 2),)).clip
    assert (starts(after), after.length_ticks) == ([5, BAR + 7], 2 * BAR)


@given(st.lists(st.integers(0, 2 * BAR - 1), unique=True, max_size=6), grids)
def test_quantised_whole_every_note_lies_on_the_grid(places, grid):
    after = edited(clip(row(*sorted(places), length=1)), Quantise(step=grid)).clip
    step = grid.quarters * 13440
    for start in starts(after):
        assert abs(start - round(start / step) * step) <= 0.5
        assert (
            min(abs(start - place) for place in [*places, *(one - 2 * BAR for one in places)]) <= step / 2 + 1
        )


def test_quantised_by_half_a_note_goes_half_the_way_and_over_the_end_to_the_beginning():
    assert starts(edited(clip(row(100, 3300)), Quantise(percent=50)).clip) == [50, 3330]
    assert starts(edited(clip(row(2 * BAR - 10)), Quantise()).clip) == [0]


@given(st.integers(50, 75), st.sampled_from([8, 16]), st.integers(0, BAR - 1))
def test_swing_taken_out_again_leaves_notes_where_they_were(percent, note, place):
    swing = Swing(percent=percent, note=note)
    swung = edited(clip(row(place)), Swung(swing=swing)).clip
    back = edited(swung, Swung(swing=swing, out=True)).clip
    assert abs(starts(back)[0] - place) <= 1
    assert unswung(np.array([0]), swing, BAR).tolist() == [0]


def test_swing_delays_the_second_of_each_pair():
    swing = Swing(percent=60)
    assert starts(edited(clip(row(0, STEP, 2 * STEP, 3 * STEP)), Swung(swing=swing)).clip) == [
        0, 4032, 2 * STEP, 2 * STEP + 4032,
    ]  # fmt: skip


@given(throws)
def test_humanising_strays_no_further_than_it_says_and_by_nothing_not_at_all(throw):
    one = clip(row(*range(0, 2 * BAR, STEP)))
    assert edited(one, Humanised(percent=0, throw=throw)).clip == one
    loose = edited(one, Humanised(percent=100, throw=throw)).clip
    most = 2 * 15 / 60_000 * 112 * 13440 + 1
    assert all(abs(start - at * STEP) <= most for at, start in enumerate(starts(loose)))
    assert loose != one
    assert edited(one, Humanised(percent=100, throw=throw % 999_999 + 1)).clip != loose


def test_velocities_are_raised_ramped_and_painted():
    one = clip(row(0, 100, 200, velocity=120))
    assert [note.velocity for note in edited(one, Harder(by=20)).clip.tracks[0].notes] == [127] * 3
    assert [note.velocity for note in edited(one, Ramp(first=20, last=41)).clip.tracks[0].notes] == [
        20,
        31,
        41,
    ]
    painted = edited(one, Paint(values=((0, 1, 5),))).clip
    assert [note.velocity for note in painted.tracks[0].notes] == [120, 5, 120]
    with pytest.raises(DocumentError, match="has no note 4"):
        edited(one, Paint(values=((0, 3, 5),)))


@given(percents, throws, st.sets(st.integers(0, 31), min_size=1, max_size=20))
def test_scattering_moves_as_many_as_it_says_to_other_slots_of_the_span(percent, throw, slots):
    before = sorted(slot * STEP + 7 for slot in slots)
    after = starts(edited(clip(row(*before)), Scatter(percent=percent, throw=throw)).clip)
    span = range(min(slots), max(slots) + 1)
    assert len(after) == len(before)
    assert all(start % STEP == 7 and start // STEP in span for start in after)
    free = len(span) - len(slots)
    assert len(set(before) - set(after)) == min(free, int(percent * len(before) / 100 + 0.5))


def test_chosen_notes_are_repeated_after_the_span_that_they_fill():
    one = clip(row(0, STEP, 8 * STEP, length=STEP), bars=1)
    after = edited(one, Repeat(times=2), ((0, 1),))
    assert starts(after.clip) == [0, STEP, 2 * STEP, 3 * STEP, 4 * STEP, 5 * STEP, 8 * STEP]
    grown = edited(one, Repeat(times=2), ((0, 1, 2),)).clip
    assert grown.length_ticks == 2 * BAR
    assert starts(grown)[3:] == [9 * STEP, 10 * STEP, 17 * STEP, 18 * STEP, 19 * STEP, 26 * STEP]


def test_controls_are_painted_over_a_stretch():
    track = Track(
        lane="Bell", controls=(Control(0, 74, 1), Control(50, 74, 2), Control(60, 1, 3), Control(90, 74, 4))
    )
    one = clip(tracks=(track,))
    painting = SetControls(track=0, controller=74, first_tick=40, end_tick=80, points=((40, 9), (70, 8)))
    assert edited(one, painting).clip.tracks[0].controls == (
        Control(0, 74, 1), Control(40, 74, 9), Control(60, 1, 3), Control(70, 74, 8), Control(90, 74, 4),
    )  # fmt: skip
    with pytest.raises(DocumentError, match="must lie from tick 40"):
        edited(one, painting.model_copy(update={"points": ((39, 9),)}))


def test_tempo_key_names_and_channels_are_set():
    one = clip(row(0), tempo_changes=(TempoChange(50, 90.0),))
    assert edited(one, SetClip(tempo=130.0)).clip.tempo_changes == ()
    assert edited(edited(one, SetClip(key="Dm")).clip, SetClip(key="none")).clip.key is None
    named = edited(one, SetTrack(track=0, lane="Gull", channel=3)).clip.tracks[0]
    assert (named.lane, named.channel) == ("Gull", 3)


@pytest.mark.parametrize(
    ("action", "chosen", "says"),
    [
        (Move(steps=1), ((5,),), "track 1 has no such note"),
        (Move(steps=1), ((), (0,)), "track 2 has no such note"),
        (Add(track=4, tick=0), (), "has 1 tracks, got number 5"),
        (SetTrack(track=4, lane="x"), (), "has 1 tracks, got number 5"),
        (Crop(first_tick=50, end_tick=50), (), "nothing lies from tick 50 to 50"),
        (Scatter(percent=50, throw=1, step=StepValue(note=64, divisor=16)), (), "at most 100,000 slots"),
    ],
)
def test_what_cannot_be_is_refused_and_says_why(action, chosen, says):
    with pytest.raises(DocumentError, match=says):
        edited(clip(row(0, 1_000_000 * BAR), bars=1_000_001), action, chosen)


def test_no_edit_makes_more_notes_than_a_clip_holds():
    full = clip(tuple(Note(at, 1, 36, 1) for at in range(60_000)), bars=2)
    with pytest.raises(DocumentError, match="at most 100,000 notes, this makes 120,000"):
        edited(full, Repeat(times=1))
    with pytest.raises(DocumentError, match="100,000"):
        joined(full, full)


def test_a_track_plays_plainly_what_its_lane_does():

    bell = DOCKSIDE.voice("bell")
    sounding = clip(
        tracks=(Track(lane="Bell", sound=TrackSound(voice=bell, note=51), notes=row(0, pitch=63)),)
    )
    assert plain_pitch(sounding, 0) == 51
    assert plain_pitch(clip(row(0, 1, pitch=42) + row(2, pitch=40)), 0) == 42
    assert plain_pitch(clip(()), 0) == 60
    assert len(Sheet.of(clip((), meter=Meter()))) == 0
