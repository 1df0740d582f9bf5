"""Edges of the engine that were found by reading its definitions anew: each beside what it should be, worked by hand."""

import numpy as np
import pytest
from hypothesis import assume, given

from lattice.document import (
    Arpeggio,
    BarSpan,
    Burst,
    ChordStrip,
    ControlStrip,
    Drawn,
    Echo,
    Euclidean,
    Free,
    HeldKey,
    HeldPool,
    Keys,
    Lane,
    LanePool,
    LengthStrip,
    NudgeStrip,
    Pedal,
    PitchStrip,
    PlacedChord,
    Progression,
    RatchetStrip,
    Scale,
    ScalePool,
    StepRange,
    StepValue,
    Thin,
    TypedPool,
    VelocityStrip,
    read,
)
from lattice.document.problems import DocumentError
from lattice.render import Window, render
from lattice.render.controls import controls_of
from lattice.render.pipeline import play_all
from lattice.steps.lane_steps import steps_of_lanes
from lattice.steps.settle import settled
from lattice.theory.chords import parse_chord
from lattice.theory.voicing import voiced
from tests.lattice.scores import dice, is_light, lane, score, scores

BAR = 53760
TIED = LengthStrip(values=(0,) * 128)
C_MAJOR = Scale(root=0, name="major")


def reed(lane_id: str = "reed", **fields) -> Lane:
    return lane(lane_id, **{"voice": "low-reed", "note": 60, "source": Euclidean(hits=8, steps=8)} | fields)


def pitches(one: Lane, bars: int = 1, **fields) -> list[int]:
    return render(score(one, **{"scale": C_MAJOR} | fields), 1, Window(bars=bars)).pitches.tolist()


# ---- Ties and windows ----


def test_a_tie_to_nothing_lasts_as_long_as_a_tie_may():
    every = lane("a", source=Drawn(steps=4, hits=(0, 1, 2, 3)), step_value=StepValue(note=1))
    once = lane("b", voice="bell", source=Echo(of="a", shift=1), complement=True, length_strip=TIED)
    events = render(score(every, once), 1, Window(bars=1))
    assert events.lengths[events.lanes == 1].tolist() == [64 * BAR]


def test_a_tied_note_is_cut_by_a_burst_far_behind_the_window():
    one = lane(
        source=Drawn(steps=128, hits=(0,)), length_strip=TIED, bursts=(Burst(bars=7, notes=4, length=4),)
    )
    alone, whole = (render(score(one), 1, Window(bars=bars)).lengths[0] for bars in (1, 8))
    assert alone == whole == 7 * BAR


def test_a_tied_note_whose_hit_comes_early_is_cut_where_it_would_be_in_a_longer_window():
    """The hit on the bar line is nudged into the bar before, and its tie reaches over many bars."""
    one = lane(
        source=Drawn(steps=128, hits=(16, 127)),
        length_strip=TIED,
        nudge_strip=NudgeStrip(values=(-50,) * 128),
    )
    alone, whole = (render(score(one), 1, Window(bars=bars)).lengths.tolist()[0] for bars in (1, 8))
    assert alone == whole == (127 - 16) * 3360


def test_a_cascade_does_not_hear_what_was_cut():
    source = lane(
        "a",
        voice="buoy",
        note=60,
        step_value=StepValue(note=4),
        source=Drawn(steps=4, hits=(0, 1)),
        length_strip=LengthStrip(values=(400, 50)),
    )
    over = reed("b", step_value=StepValue(note=8), arpeggio=Arpeggio(pool=LanePool(of="a")), channel=5)
    events = render(score(source, over), 1, Window(bars=1))
    assert events.starts[events.lanes == 1].tolist() == [0, 6720, 13440]


# ---- Pools ----


def test_a_pool_of_more_notes_than_can_sound_at_once_is_refused_with_its_size():
    with pytest.raises(DocumentError, match="29 notes over 3 octaves has 87: at most 64"):
        read(Arpeggio, {"pool": {"kind": "scale", "low": 0, "high": 28}, "octaves": 3})
    assert Arpeggio(pool=ScalePool(low=0, high=15), octaves=4)


def test_the_pedal_note_sounds_with_a_chord_on_the_same_hit():
    one = reed(
        source=Euclidean(hits=2, steps=2),
        arpeggio=Arpeggio(pool=TypedPool(notes=(60, 64)), pedal=Pedal(every=2, note=40)),
        chord_strip=ChordStrip(values=(3, None)),
        step_value=StepValue(note=2),
    )
    assert pitches(one) == [40, 60, 64, 60]


def test_a_pedal_note_stays_where_it_is_under_pitch_strip_and_degrees():
    one = reed(
        source=Euclidean(hits=2, steps=2),
        arpeggio=Arpeggio(pool=TypedPool(notes=(60,)), pedal=Pedal(every=2, note=41)),
        pitch_strip=PitchStrip(values=(3, 3)),
        degrees_up=1,
        step_value=StepValue(note=2),
    )
    assert pitches(one) == [41, 67]


def test_one_key_struck_at_two_velocities_sounds_at_both():
    held = tuple(HeldKey(start=tick, key=60, velocity=hard) for tick, hard in ((0, 30), (0, 99)))
    one = reed(
        source=Euclidean(hits=4, steps=4),
        step_value=StepValue(note=4),
        arpeggio=Arpeggio(pool=HeldPool(), order="as-played", velocity="keys"),
        keys=Keys(held=held),
    )
    events = render(score(one), 1, Window(bars=1))
    assert events.velocities.tolist() == [30, 99, 30, 99]


# ---- Pitch, read anew ----


def test_a_semitone_strip_counts_from_the_lanes_own_note_in_the_scale_or_not():
    one = reed(note=61, pitch_strip=PitchStrip(values=(0, 1, 2, -1), unit="semitones"))
    assert pitches(one)[:4] == [61, 62, 63, 60]


def test_an_inversion_puts_the_lowest_notes_up_one_octave_ninths_included():
    ninth = parse_chord("C9", 0, ())
    assert [voiced(ninth, turn, 60) for turn in range(3)] == [
        (60, 64, 67, 70, 74),
        (64, 67, 70, 72, 74),
        (67, 70, 72, 74, 76),
    ]


@pytest.mark.parametrize(
    ("follows", "expected"),
    [("none", [60, 62, 64]), ("nearest", [60, 60, 64]), ("tones", [60, 64, 67]), ("root", [60, 62, 64])],
)
def test_a_climb_in_degrees_is_added_before_chord_tones_and_snapping(follows, expected):
    one = reed(
        source=Drawn(steps=8, hits=(0,)),
        follows=follows,
        ratchet_strip=RatchetStrip(values=(3,), climb=1, climb_unit="degrees"),
    )
    progression = Progression(chords=(PlacedChord(chord="C", lasts=BarSpan(bars=1)),))
    assert pitches(one, progression=progression)[:3] == expected


def test_a_control_strip_by_hit_changes_at_the_hit_and_holds_until_the_next():
    strip = ControlStrip(controller=74, values=(10, 20, 30), free=Free(advance="hit"))
    one = lane(source=Drawn(steps=16, hits=(2, 5, 11)), control_strips=(strip,))
    asked, window = score(one), Window(bars=1)
    sent = controls_of(asked, window, play_all(asked, 1, window)).sends
    rows = zip(sent.ticks.tolist(), sent.values.tolist(), strict=True)
    assert list(rows) == [(2 * 3360, 10), (5 * 3360, 20), (11 * 3360, 30)]


# ---- Settling under "evened" ----


def velocities(one: Lane, bars: int = 3) -> list[tuple[int, int]]:
    events = render(score(one), 1, Window(bars=bars))
    return list(zip(events.starts.tolist(), events.velocities.tolist(), strict=True))


@pytest.mark.parametrize(
    "fields",
    [
        {"step_range": StepRange(first=0, last=3)},
        {"step_range": StepRange(first=5, last=1), "direction": "backward"},
        {"direction": "to-and-fro"},
        {"step_range": StepRange(first=0, last=2), "thin": Thin(every=2)},
    ],
)
def test_a_lane_settled_under_evened_velocities_sounds_the_same(fields):
    strip = VelocityStrip(values=(40, 60, 80, 100, 1, 1, 1, 1))
    one = lane(source=Euclidean(hits=8, steps=8), velocity_strip=strip, evened=50, **fields)
    lane_steps = steps_of_lanes(score(one), 1)[0]
    after = read(Lane, one.model_dump(mode="json") | settled(lane_steps))
    assert isinstance(after.source, Drawn)
    assert velocities(after) == velocities(one)


def test_a_settled_lane_that_fills_all_the_steps_there_may_be_is_evened_as_before():
    """Half of its 128 steps are played, and the other half is set aside for the mean: that is exactly as many."""
    strip = VelocityStrip(values=(*(40,) * 64, *(100,) * 64))
    one = lane(
        source=Euclidean(hits=128, steps=128),
        velocity_strip=strip,
        evened=50,
        step_range=StepRange(first=0, last=63),
    )
    (lane_steps,) = steps_of_lanes(score(one), 1)
    drawn = read(Lane, one.model_dump(mode="json") | settled(lane_steps))
    assert drawn.source.steps == 128
    assert velocities(drawn, bars=9) == velocities(one, bars=9)


def test_the_settled_example_is_evened_towards_the_mean_of_all_eight():
    strip = VelocityStrip(values=(40, 60, 80, 100, 1, 1, 1, 1))
    one = lane(
        source=Euclidean(hits=8, steps=8),
        velocity_strip=strip,
        evened=50,
        step_range=StepRange(first=0, last=3),
    )
    assert [hard for _, hard in velocities(one)][:4] == [38, 48, 58, 68]


# ---- Bursts that come again ----


def test_a_burst_comes_in_every_second_bar():
    one = lane(
        source=Drawn(steps=16, hits=()), bursts=(Burst(bars=1, notes=2, comes={"kind": "bars", "bars": 2}),)
    )
    starts = render(score(one), 1, Window(bars=6)).starts
    assert np.unique(starts // BAR).tolist() == [1, 3, 5]


@given(scores(min_lanes=1), dice)
def test_windows_join_over_long_ties(asked, dice):
    """As in the pipeline's own test, with everything tied, which reaches furthest."""
    lanes = tuple(one.model_copy(update={"length_strip": TIED, "clip": None}) for one in asked.lanes)
    asked = asked.model_copy(update={"lanes": lanes})
    assume(is_light(asked))
    whole = render(asked, dice, Window(bars=3))
    parts = [render(asked, dice, Window(first_bar=bar, bars=1)) for bar in range(3)]
    for column in ("starts", "lengths", "pitches", "velocities"):
        joined = np.concatenate([getattr(part, column) for part in parts])
        assert getattr(whole, column).tolist() == joined.tolist()
