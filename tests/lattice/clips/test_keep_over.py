import pytest

from lattice.clips import Clip, Heard, NothingToKeepError, Tape, keep_over
from lattice.clips.clip import Note
from lattice.clips.keep import TapeTrack
from lattice.document import Meter, Score
from tests.lattice.scores import lane, score

BAR = 53760
FOUR = Meter()


def heard(
    pattern: str, begin: float, end: float, *lanes: str, meter: Meter = FOUR, tempo: float = 112
) -> Heard:
    """A stretch from one bar to another: each lane plays on each bar line that it reaches."""
    bar = meter.bar_ticks
    first, last = round(begin * bar), round(end * bar)
    starts = [at * bar for at in range(-(-first // bar), -(-last // bar))]
    tracks = tuple(
        TapeTrack(
            lane=name,
            lane_id=name,
            ink=0,
            channel=10,
            notes=tuple(Note(start, 100, 36 + at, 90) for start in starts),
        )
        for at, name in enumerate(lanes)
    )
    tape = Tape(from_tick=first, now_tick=last, meter=meter, tracks=tracks)
    its_score: Score = score(*(lane(name) for name in lanes)).model_copy(
        update={"meter": meter, "tempo": tempo}
    )
    return Heard(pattern, tape, its_score, 1)


def bars_of(clip: Clip) -> dict[str, list[float]]:
    return {track.lane: [note.start / BAR for note in track.notes] for track in clip.tracks}


def test_bars_from_before_a_switch_are_kept_and_lanes_of_both_lie_on_one_track():
    clip = keep_over(
        [heard("A", 0, 8, "thud", "bell"), heard("B", 0, 2.5, "thud", "rope")], "Night Ferry", 4
    ).clip
    assert (clip.name, clip.length_ticks) == ("Night Ferry A to B, 4 bars", 4 * BAR)
    assert bars_of(clip) == {"thud": [0, 1, 2, 3], "bell": [0, 1], "rope": [2, 3]}
    assert clip.origin is not None
    assert (clip.origin.pattern, clip.origin.first_bar, clip.origin.bars) == ("B", 0, 2)


def test_enough_bars_since_the_switch_are_kept_as_ever():
    clip = keep_over([heard("A", 0, 8, "thud"), heard("B", 0, 4, "thud")], "Night Ferry", 4).clip
    assert (clip.name, clip.length_ticks) == ("Night Ferry B, bars 1–4", 4 * BAR)


def test_a_bar_that_the_switch_cut_short_is_kept_as_it_was_heard():
    clip = keep_over([heard("A", 0, 3.5, "thud"), heard("B", 0, 2, "rope")], "Night Ferry", 4).clip
    assert clip.length_ticks == round(4.5 * BAR)
    assert bars_of(clip) == {"thud": [0, 1, 2], "rope": [2.5, 3.5]}


def test_a_bar_that_is_carried_on_in_its_middle_counts_as_one():
    clip = keep_over([heard("A", 0, 3.5, "thud"), heard("B", 7.5, 9, "rope")], "Night Ferry", 3).clip
    assert clip.length_ticks == 3 * BAR
    assert bars_of(clip) == {"thud": [0, 1], "rope": [2]}


def test_it_goes_back_over_as_many_switches_as_it_needs_and_no_further_than_there_is():
    rows = [heard(name, 0, 1, "thud") for name in "ABC"]
    assert keep_over(rows, "Night Ferry", 2).clip.length_ticks == 2 * BAR
    assert keep_over(rows, "Night Ferry", 3).clip.name == "Night Ferry A to C, 3 bars"
    assert keep_over(rows, "Night Ferry", 8).clip.length_ticks == 3 * BAR


def test_before_the_first_bar_line_after_a_switch_it_is_what_played_before():
    clip = keep_over([heard("A", 0, 4, "thud"), heard("B", 0, 0.5, "rope")], "Night Ferry", 4).clip
    assert clip.name == "Night Ferry A, bars 1–4"
    with pytest.raises(NothingToKeepError, match="No whole bar"):
        keep_over([heard("A", 0, 0.4, "thud"), heard("B", 0, 0.5, "rope")], "Night Ferry", 4)


def test_bars_that_were_chosen_go_from_one_stretch_into_another():
    clip = keep_over(
        [heard("A", 0, 8, "thud"), heard("B", 0, 1, "bell"), heard("C", 0, 5, "rope")], "x", 1, (6, 2)
    ).clip
    assert bars_of(clip) == {"thud": [0, 1], "bell": [2], "rope": [3, 4]}


def test_another_tempo_and_meter_hold_from_the_switch_on():
    sevens = Meter(numerator=7, denominator=8)
    clip = keep_over(
        [heard("A", 0, 4, "thud"), heard("B", 0, 2, "thud", meter=sevens, tempo=96)], "x", 4
    ).clip
    assert (clip.tempo, [tuple(change) for change in clip.tempo_changes]) == (112, [(2 * BAR, 96)])
    assert [(change.tick, change.meter) for change in clip.meter_changes] == [(2 * BAR, sevens)]
    assert clip.length_ticks == 2 * BAR + 2 * sevens.bar_ticks


def test_what_came_too_late_to_be_heard_is_counted_and_kept_too_where_that_is_wanted():
    """Of the bars that are kept alone, by the steps of the notes, over a switch as well."""
    late = {
        "late": (Note(BAR + 90, 100, 50, 70), Note(2 * BAR - 5, 100, 50, 70)),
        "late_straights": (BAR, 2 * BAR),
    }
    parts = []
    for one in (heard("A", 0, 2, "thud"), heard("B", 0, 2, "rope")):
        track = one.tape.tracks[0].model_copy(update=late)
        parts.append(one._replace(tape=one.tape.model_copy(update={"tracks": (track,)})))
    single, over = keep_over(parts, "x", 2), keep_over(parts, "x", 4)
    assert (single.late, over.late) == (1, 2)
    assert bars_of(single.clip) == {"rope": [0, 1]}
    with_late = keep_over([one._replace(tape=one.tape.with_late()) for one in parts], "x", 4)
    assert with_late.late == 0
    assert [len(track.notes) for track in with_late.clip.tracks] == [3, 3]


def test_more_bars_than_are_kept_at_once_are_refused():
    with pytest.raises(NothingToKeepError, match="At most 64 bars"):
        keep_over([heard("A", 0, 60, "thud"), heard("B", 0, 20, "thud")], "x", 1, (0, 20))
