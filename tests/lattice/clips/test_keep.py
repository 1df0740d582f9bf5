import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.clips import NothingToKeepError, Tape, keep_bars, keep_last
from lattice.clips.clip import Control, Note
from lattice.clips.keep import TapeTrack
from lattice.document import DocumentError, Meter, read

BAR = 4 * 13440


def tape(now: int, *starts: int, begun: int = 0, meter: Meter | None = None) -> Tape:
    notes = tuple(Note(start, 3360, 36, 100) for start in starts)
    return Tape(
        from_tick=begun, now_tick=now, meter=meter or Meter(), tracks=(TapeTrack(lane="Thud", notes=notes),)
    )


@pytest.mark.parametrize("bars", [1, 2, 4, 8])
def test_the_last_bars_end_at_the_last_bar_line_passed(bars):
    starts = [bar * BAR for bar in range(11)]
    kept = keep_last(tape(10 * BAR + 5000, *starts), bars)
    assert (kept.first_bar, kept.bars) == (10 - bars, bars)
    assert [note.start for note in kept.tracks[0].notes] == [bar * BAR for bar in range(bars)]


def test_a_bar_counts_as_passed_on_its_line():
    assert keep_last(tape(BAR, 0), 4).bars == 1
    with pytest.raises(NothingToKeepError):
        keep_last(tape(BAR - 1, 0), 4)


def test_fewer_bars_are_kept_if_fewer_have_sounded():
    assert keep_last(tape(3 * BAR, 0, BAR), 8).bars == 3


def test_a_bar_that_playing_began_within_did_not_sound_whole():
    kept = keep_last(tape(4 * BAR, BAR, 2 * BAR, begun=BAR + 1), 8)
    assert (kept.first_bar, kept.bars) == (2, 2)


def test_a_note_that_rings_over_the_end_keeps_its_length():
    kept = keep_last(tape(BAR, BAR - 10), 1)
    assert kept.tracks[0].notes == (Note(BAR - 10, 3360, 36, 100),)


def test_lanes_that_did_not_sound_leave_no_track():
    assert keep_bars(tape(2 * BAR, 0), 1, 2).tracks == ()


def test_a_chosen_stretch_is_kept_as_far_as_it_sounded():
    starts = [bar * BAR for bar in range(6)]
    kept = keep_bars(tape(5 * BAR + 1, *starts), 3, 9)
    assert (kept.first_bar, kept.bars) == (3, 2)


def test_bars_are_those_of_the_meter():
    seven_eight = Meter(numerator=7, denominator=8)
    assert keep_last(tape(2 * 47040, 0, 47040, meter=seven_eight), 1).tracks[0].notes[0].start == 0


def test_a_note_that_strays_belongs_to_the_bar_of_its_step():
    """The first came early, before its bar; the second of the next bar came early, into this one."""
    notes = (Note(BAR - 50, 100, 36, 90), Note(2 * BAR - 40, 100, 36, 91))
    track = TapeTrack(lane="Thud", notes=notes, straights=(BAR, 2 * BAR))
    heard = Tape(from_tick=0, now_tick=3 * BAR, meter=Meter(), tracks=(track,))
    assert keep_bars(heard, 1, 2).tracks[0].notes == (Note(0, 100, 36, 90),)
    assert [note.start for note in keep_bars(heard, 2, 3).tracks[0].notes] == [0]


def test_controls_are_kept_and_begin_with_what_is_held():
    controls = (Control(0, 74, 10), Control(BAR - 5, 1, 5), Control(BAR, 74, 30), Control(BAR + 9, 74, 40))
    track = TapeTrack(lane="Thud", controls=controls)
    heard = Tape(from_tick=0, now_tick=3 * BAR, meter=Meter(), tracks=(track,))
    kept = keep_bars(heard, 1, 2).tracks[0].controls
    assert kept == (Control(0, 74, 30), Control(0, 1, 5), Control(9, 74, 40))
    assert keep_bars(heard, 2, 3).tracks[0].controls == (Control(0, 74, 40), Control(0, 1, 5))


@given(
    st.integers(0, 20 * BAR), st.integers(0, 20 * BAR), st.integers(1, 16), st.sets(st.integers(0, 20 * BAR))
)
def test_what_is_kept_lies_in_whole_bars_that_sounded(begun, lasted, bars, starts):
    heard = tape(begun + lasted, *sorted(starts), begun=begun)
    try:
        kept = keep_last(heard, bars)
    except NothingToKeepError:
        assert lasted < 2 * BAR
        return
    assert kept.first_bar * BAR >= begun
    assert (kept.first_bar + kept.bars) * BAR <= begun + lasted
    inside = {start for start in starts if kept.first_bar * BAR <= start < (kept.first_bar + kept.bars) * BAR}
    assert {note.start + kept.first_bar * BAR for track in kept.tracks for note in track.notes} == inside


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"now_tick": -1}, "now_tick"),
        ({"from_tick": 9, "now_tick": 8}, "cannot have come to 8"),
        ({"tracks": [{"lane": "Thud", "notes": [[0, 0, 36, 100]]}]}, "tracks.Thud.notes.1.2: .* got 0"),
        ({"tracks": [{"lane": "Thud", "notes": [[0, 1, 128, 100]]}]}, "tracks.Thud.notes.1.3: .* got 128"),
        (
            {"tracks": [{"lane": "Thud", "notes": [[0, 1, 36, 100]], "straights": [0, 1]}]},
            "2 straight times do not fit 1 notes",
        ),
        ({"tracks": [{"lane": "Thud", "controls": [[0, 120, 3]]}]}, "tracks.Thud.controls.1.2"),
        ({"speed": 2}, "speed: there is no such field"),
    ],
)
def test_a_tape_that_cannot_be_is_refused(change, says):
    with pytest.raises(DocumentError, match=says):
        read(Tape, {"from_tick": 0, "now_tick": 8, "meter": {}} | change)
