"""Pitches played into a lane, step by step and along with the loop; contours; another scale."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import (
    Arpeggio,
    DocumentError,
    Drawn,
    Euclidean,
    Free,
    HeldKey,
    Lane,
    OctaveStrip,
    Pattern,
    Piece,
    PitchStrip,
    PlacedChord,
    Progression,
    RatchetStrip,
    Scale,
    Score,
    TypedPool,
    read,
)
from lattice.edits import (
    change_strip,
    copied,
    draw_contour,
    enter_note,
    enter_rest,
    enter_tie,
    paste,
    record_keys,
    rescaled,
    throw_strip,
)
from lattice.render import Window, render
from lattice.render.pitch_context import pitch_context_of
from lattice.steps.lane_steps import steps_of_lane
from tests.lattice.lane_fields import scales
from tests.lattice.scores import lane, score

D_DORIAN = Scale(root=2, name="dorian")
STEP = 3360


def reed(**fields: Any) -> Lane:
    return lane("reed", **{"voice": "low-reed", "note": 50, "source": Drawn(steps=8)} | fields)


def asked(one: Lane, **fields: Any) -> Score:
    return score(one, **{"scale": D_DORIAN} | fields)


def with_patch(one: Lane, patch: dict[str, Any]) -> Lane:
    return read(Lane, one.model_dump(mode="json") | patch)


def entered(one: Lane, step: int, pitch: int, velocity: int | None = None, **fields: Any) -> Lane:
    whole = asked(one, **fields)
    lane_steps, context = steps_of_lane(whole, 1, one.id), pitch_context_of(one, whole, 1)
    return with_patch(one, enter_note(lane_steps, context, step, pitch, velocity))


def sounding(one: Lane, **fields: Any) -> list[tuple[int, int]]:
    found = render(asked(one, **fields), 1, Window(bars=1))
    rows = zip(found.starts.tolist(), found.pitches.tolist(), strict=True)
    return [(start // STEP, pitch) for start, pitch in rows if start < 8 * STEP]


def test_a_note_entered_on_a_step_sounds_there():
    one = entered(entered(reed(), 0, 53), 3, 62, velocity=70)
    assert sounding(one) == [(0, 53), (3, 62)]
    assert one.pitch_strip == PitchStrip(values=(2, None, None, 7))
    assert one.velocity_strip is not None
    assert one.velocity_strip.values == (None, None, None, 70)


def test_a_note_outside_the_scale_has_an_accidental_of_its_own_and_moves_no_other():
    one = entered(entered(reed(), 0, 55), 2, 54)
    assert one.pitch_strip == PitchStrip(values=(3, None, 2), accidentals=(0, 0, 1, 0, 0, 0, 0, 0))
    assert sounding(one) == [(0, 55), (2, 54)]
    # The row still follows the scale, the accidental its degree.
    assert sounding(one, scale=Scale(root=2, name="major")) == [(0, 55), (2, 55)]
    # A note of the scale entered in its place takes the accidental away.
    again = entered(one, 2, 53).pitch_strip
    assert again == PitchStrip(values=(3, None, 2))


def test_an_accidental_goes_with_its_value():
    one = entered(entered(reed(), 0, 55), 2, 54)
    lane_steps = steps_of_lane(asked(one), 1, "reed")
    later = with_patch(one, change_strip(lane_steps, "pitch", "later")).pitch_strip
    assert later is not None
    assert (later.values[:4], later.accidentals[:4]) == ((None, 3, None, 2), (0, 0, 0, 1))
    pasted = with_patch(one, paste(lane_steps, 4 * STEP, copied(lane_steps, [0, 1, 2])))
    assert sounding(pasted) == [(0, 55), (2, 54), (4, 55), (6, 54)]
    thrown = with_patch(one, throw_strip(lane_steps, "pitch", 0, 4, "even", 1)).pitch_strip
    assert thrown is not None
    assert thrown.accidentals == ()


def test_pasting_a_ratchet_takes_its_fade_and_climb_along():
    one = lane(
        "thud",
        source=Drawn(steps=8, hits=(0,)),
        ratchet_strip=RatchetStrip(values=(4,), fade_from=30, climb=2),
    )
    other = lane("bell", source=Drawn(steps=8))
    both = score(one, other)
    rows = copied(steps_of_lane(both, 1, "thud"), [0])
    laid = with_patch(other, paste(steps_of_lane(both, 1, "bell"), 0, rows)).ratchet_strip
    assert laid == RatchetStrip(values=(4,), fade_from=30, climb=2)
    # Where the other lane has ratchets of its own, they stay what they are.
    own = other.model_copy(update={"ratchet_strip": RatchetStrip(values=(None, 2), fade_to=50)})
    kept = with_patch(own, paste(steps_of_lane(score(one, own), 1, "bell"), 0, rows)).ratchet_strip
    assert kept == RatchetStrip(values=(4, 2), fade_to=50)


@given(
    scales,
    st.lists(st.integers(40, 70), min_size=1, max_size=8),
    st.integers(-3, 3),
    st.integers(-5, 5),
    st.sampled_from([{}, {"degrees_up": 3}, {"semitones_up": -2}]),
)
def test_whatever_is_entered_is_what_sounds(scale, pitches, degrees_up, semitones_up, whole):
    one = reed(degrees_up=degrees_up, semitones_up=semitones_up)
    for step, pitch in enumerate(pitches):
        try:
            one = entered(one, step, pitch, scale=scale, **whole)
        except DocumentError as refusal:
            assert "too far" in str(refusal)  # noqa: PT017
            return
    assert sounding(one, scale=scale, **whole) == list(enumerate(pitches))


def test_a_rest_and_a_tie_are_entered_too():
    one = entered(entered(reed(), 0, 50), 2, 52)
    whole = asked(one)
    rested = with_patch(one, enter_rest(steps_of_lane(whole, 1, "reed"), 2))
    assert sounding(rested) == [(0, 50)]
    tied = with_patch(rested, enter_tie(steps_of_lane(asked(rested), 1, "reed"), 1))
    assert render(asked(tied), 1, Window(bars=1)).lengths.tolist()[0] == 2 * STEP


def test_a_tie_lasts_to_its_last_tied_step_and_not_over_the_rests_after_it():
    """Note, tie, rest, rest, note; and a note longer than four steps."""
    one = entered(reed(), 0, 50)
    for enter, step in ((enter_tie, 1), (enter_rest, 2), (enter_rest, 3)):
        one = with_patch(one, enter(steps_of_lane(asked(one), 1, "reed"), step))
    one = entered(one, 4, 52)
    assert render(asked(one), 1, Window(bars=1)).lengths.tolist()[:2] == [2 * STEP, STEP]
    long = entered(reed(), 0, 50)
    for step in range(1, 7):
        long = with_patch(long, enter_tie(steps_of_lane(asked(long), 1, "reed"), step))
    assert render(asked(long), 1, Window(bars=1)).lengths.tolist()[0] == 7 * STEP


def test_a_tie_needs_a_note_before_it():
    with pytest.raises(DocumentError, match="no note before it"):
        enter_tie(steps_of_lane(asked(reed()), 1, "reed"), 0)


@pytest.mark.parametrize(
    ("fields", "said"),
    [
        ({"arpeggio": Arpeggio()}, "fills its pool"),
        ({"follows": "root"}, "keep its own notes"),
        ({"pitch_strip": PitchStrip(values=(1, 2), free=Free())}, "a length of its own"),
    ],
)
def test_a_lane_that_takes_no_pitches_says_why(fields, said):
    progression = Progression(chords=(PlacedChord(chord="i"),))
    with pytest.raises(DocumentError, match=said):
        entered(reed(**fields), 0, 50, progression=progression)


def test_a_voice_of_the_kit_is_struck_whatever_the_key():
    chain = reed(voice="chain", source=Drawn(steps=4, hits=()))
    struck = entered(chain, 2, 61)
    assert (struck.source, struck.edits, struck.pitch_strip) == (Drawn(steps=4, hits=(2,)), (), None)
    lane_steps = steps_of_lane(asked(chain), 1, "reed")
    played = [HeldKey(start=3 * STEP + 100, key=40, velocity=90, end=4 * STEP)]
    laid = with_patch(chain, record_keys(lane_steps, None, played, over=False, nudges=True).patch)
    assert render(asked(laid), 1, Window(bars=1)).velocities.tolist()[0] == 90
    assert laid.nudge_strip.values[3] > 0


def test_a_pitch_too_far_from_the_lanes_note_is_refused_with_both():
    with pytest.raises(DocumentError, match="120 is too far from the lane's note, 50"):
        entered(reed(), 0, 120)


def test_an_octave_strip_gives_way_on_the_step():
    one = entered(reed(octave_strip=OctaveStrip(values=(1, 1))), 0, 53)
    assert sounding(one)[0] == (0, 53)


# ---- With the loop ----


def key(start: float, end: float, pitch: int, velocity: int = 90) -> HeldKey:
    return HeldKey(start=round(start * STEP), end=round(end * STEP), key=pitch, velocity=velocity)


def recorded(one: Lane, *keys: HeldKey, over: bool = False, nudges: bool = False) -> Lane:
    whole = asked(one)
    lane_steps, context = steps_of_lane(whole, 1, one.id), pitch_context_of(one, whole, 1)
    return with_patch(one, record_keys(lane_steps, context, keys, over=over, nudges=nudges).patch)


def test_keys_land_on_the_step_nearest_to_them():
    one = recorded(reed(), key(0.3, 1, 50), key(1.6, 2.1, 57, 60), key(8 + 3.9, 13, 53))
    assert sounding(one) == [(0, 50), (2, 57), (4, 53)]
    assert one.velocity_strip is not None
    assert one.velocity_strip.values == (90, None, 60, None, 90)
    assert one.length_strip is not None
    assert one.length_strip.values[2] == 50
    assert one.nudge_strip is None


def test_nudges_are_kept_where_it_is_wanted():
    one = recorded(reed(), key(2.25, 3, 50), key(5.8, 6.5, 52), nudges=True)
    assert one.nudge_strip is not None
    assert one.nudge_strip.values == (None, None, 25, None, None, None, -20)


def left_out(one: Lane, *keys: HeldKey) -> int:
    whole = asked(one)
    lane_steps, context = steps_of_lane(whole, 1, one.id), pitch_context_of(one, whole, 1)
    return record_keys(lane_steps, context, keys, over=False, nudges=False).left_out


def test_of_several_keys_on_one_step_the_later_go_to_the_next_that_are_free():
    chord = key(1.9, 3, 50), key(2, 3, 53), key(2.1, 3, 57)
    assert sounding(recorded(reed(), *chord)) == [(2, 50), (3, 53), (4, 57)]
    busy = reed(source=Drawn(steps=8, hits=(3,)))
    assert [step for step, _ in sounding(recorded(busy, *chord))] == [2, 3, 4, 5]
    assert left_out(busy, *chord) == 0


def test_what_finds_no_room_within_a_beat_is_counted():
    full = reed(source=Drawn(steps=8, hits=(3, 4, 5, 6)))
    assert left_out(full, key(2, 3, 50), key(2.1, 3, 53)) == 1
    assert sounding(recorded(full, key(2, 3, 50), key(2.1, 3, 53)))[0] == (2, 50)


def test_the_same_pitch_twice_on_a_step_is_a_ratchet():
    one = recorded(reed(), key(2, 2.4, 50), key(2.45, 3, 50))
    assert one.ratchet_strip is not None
    assert one.ratchet_strip.values[2] == 2
    assert sounding(one) == [(2, 50), (2, 50)]
    assert left_out(reed(), *(key(2 + at / 40, 3, 50) for at in range(14))) == 2


def test_a_key_of_a_later_pass_takes_the_place_of_an_earlier_one():
    one = recorded(reed(), key(2, 3, 50), key(8 + 2, 8 + 3, 57))
    assert sounding(one) == [(2, 57)]


@pytest.mark.parametrize("source", [Drawn(steps=8, hits=(0, 5)), Euclidean(hits=3, steps=8)])
def test_recording_over_leaves_nothing_of_what_was_and_adding_all(source):
    before = reed(source=source)
    over, added = (recorded(before, key(3, 4, 57), over=how) for how in (True, False))
    assert sounding(over) == [(3, 57)]
    assert {step for step, _ in sounding(added)} == {step for step, _ in sounding(before)} | {3}


# ---- Contours and strips ----


def test_a_contour_gives_each_hit_a_pitch_and_leaves_rests_alone():
    one = reed(source=Drawn(steps=8, hits=(1, 4, 6)), pitch_strip=PitchStrip(values=(9,)))
    drawn = with_patch(one, draw_contour(steps_of_lane(asked(one), 1, "reed"), "rise", 0, 4, 7, 1))
    assert drawn.pitch_strip is not None
    assert drawn.pitch_strip.values[:8] == (9, 0, None, None, 2, None, 4, None)


def test_pitches_are_mirrored_and_moved():
    one = reed(pitch_strip=PitchStrip(values=(0, 2, None, 6)))
    lane_steps = steps_of_lane(asked(one), 1, "reed")
    turned = with_patch(one, change_strip(lane_steps, "pitch", "upside down")).pitch_strip
    higher = with_patch(one, change_strip(lane_steps, "pitch", "up")).pitch_strip
    assert turned is not None
    assert higher is not None
    assert turned.values[:4] == (6, 4, None, 0)
    assert higher.values[:4] == (1, 3, None, 7)


def test_a_contour_beyond_the_strip_is_refused():
    lane_steps = steps_of_lane(asked(reed()), 1, "reed")
    with pytest.raises(DocumentError, match="between -28 and 28"):
        draw_contour(lane_steps, "rise", 5, 40, 1, 1)
    with pytest.raises(DocumentError, match="there is no such strip"):
        draw_contour(steps_of_lane(score(lane()), 1, "thud"), "rise", 0, 4, 1, 1)


# ---- Another scale ----


def piece(**fields: Any) -> Piece:
    progression = Progression(
        chords=(PlacedChord(chord="i"), PlacedChord(chord="G7"), PlacedChord(chord="VII"))
    )
    typed = reed(arpeggio=Arpeggio(pool=TypedPool(chord="iv7")))
    patterns = (
        Pattern(id="a", name="A", lanes=(typed,), progression=progression),
        Pattern(id="b", name="B", scale=Scale(root=0), progression=progression),
    )
    return Piece(name="Night Ferry", scale=D_DORIAN, patterns=patterns, **fields)


def test_in_another_scale_of_seven_notes_numerals_are_read_anew():
    changed = rescaled(piece(), Scale(root=4, name="phrygian"))
    assert changed.scale.root == 4
    assert changed.patterns[0].progression == piece().patterns[0].progression


def test_in_a_scale_without_numerals_the_chords_stay_what_they_were():
    changed = rescaled(piece(), Scale(root=2, name="minor-pentatonic"))
    first, second = changed.patterns
    assert first.progression is not None
    assert list(first.progression.written()) == ["Dm", "G7", "C"]
    assert first.lanes[0].arpeggio is not None
    assert first.lanes[0].arpeggio.pool == TypedPool(chord="Gm7")
    assert second == piece().patterns[1]  # it has a scale of its own
    assert read(Piece, changed.model_dump(mode="json")) == changed


def test_one_pattern_alone_gets_a_scale_of_its_own():
    changed = rescaled(piece(), Scale(root=9, name="minor"), "a")
    assert changed.scale == D_DORIAN
    assert changed.patterns[0].scale == Scale(root=9, name="minor")
    with pytest.raises(DocumentError, match="no pattern 'z'"):
        rescaled(piece(), Scale(), "z")
