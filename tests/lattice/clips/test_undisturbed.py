import pytest
from hypothesis import given

from lattice.clips import keep_bars, keep_last, make_clip, undisturbed
from lattice.render import Window, render
from tests.lattice.scores import dice, lane, score, scores


@given(scores(min_lanes=1), dice)
def test_the_tape_of_a_score_that_plays_undisturbed_holds_what_is_rendered(score, dice):
    window = Window(first_bar=2, bars=3)
    tape = undisturbed(score, dice, window)
    taped = sorted(note.start for track in tape.tracks for note in track.notes)
    assert taped == render(score, dice, window).starts.tolist()
    assert (tape.from_tick, tape.now_tick) == window.ticks(score.meter.bar_ticks)


@pytest.mark.parametrize(
    ("first", "end", "name"),
    [(0, 1, "Night Ferry A, bar 1"), (2, 6, "Night Ferry A, bars 3–6")],
)
def test_a_clip_is_called_by_where_it_came_from(first, end, name):
    ferry = score(lane())
    tape = undisturbed(ferry, 7, Window(bars=8))
    clip = make_clip(keep_bars(tape, first, end), tape, ferry, 7, piece="Night Ferry", pattern="A")
    assert clip.name == name
    assert clip.length_ticks == (end - first) * 53760
    assert (clip.origin.score, clip.origin.dice, clip.origin.first_bar) == (ferry, 7, first)


def test_a_very_long_name_is_shortened_and_still_says_the_bars():
    ferry = score(lane())
    tape = undisturbed(ferry, 7, Window(bars=4))
    clip = make_clip(keep_last(tape, 4), tape, ferry, 7, piece="N" * 80, pattern="A")
    assert len(clip.name) == 80
    assert clip.name.endswith("NN A, bars 1–4")
