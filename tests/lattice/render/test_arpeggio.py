"""Arpeggios: which notes of which pools they play, when they begin again, and what uses a note up."""

from collections import Counter

from hypothesis import given
from hypothesis import strategies as st

from lattice.document import (
    Arpeggio,
    BarRestart,
    ChordPool,
    ChordStrip,
    Drawn,
    Euclidean,
    HeldKey,
    HeldPool,
    Keys,
    LanePool,
    LengthStrip,
    Pedal,
    PitchStrip,
    PlacedChord,
    Progression,
    ScalePool,
    StepValue,
    TypedPool,
)
from lattice.render import Window, render
from lattice.screen import picture
from tests.lattice.lane_fields import arpeggios
from tests.lattice.reeds import D_DORIAN, FOUR_CHORDS, heard, pitches, reed
from tests.lattice.scores import dice, score


def held(*rows) -> Keys:
    return Keys(held=tuple(HeldKey(start=a, end=b, key=key, velocity=hard) for a, b, key, hard in rows))


TRIAD = TypedPool(notes=(60, 64, 67))


def test_a_rest_uses_no_note():
    one = reed(source=Drawn(steps=8, hits=(0, 3, 4, 7)), arpeggio=Arpeggio(pool=TRIAD))
    assert pitches(one) == [60, 64, 67, 60, 64, 67, 60, 64]


def test_a_skipped_hit_uses_its_note_up():
    one = reed(chance_percent=50, arpeggio=Arpeggio(pool=TRIAD))
    found = heard(one, bars=4)
    by_step = [60, 64, 67]
    assert 0 < len(found) < 64
    for start, pitch in zip(found.starts.tolist(), found.pitches.tolist(), strict=True):
        assert pitch == by_step[start // 3360 % 3]


def test_it_begins_again_with_each_cycle_or_each_chord_or_runs_on():
    eight = {"source": Euclidean(hits=8, steps=8)}
    on, cycle = (reed(**eight, arpeggio=Arpeggio(pool=TRIAD, restart=how)) for how in ("free", "cycle"))
    assert pitches(on, count=10) == [60, 64, 67, 60, 64, 67, 60, 64, 67, 60]
    assert pitches(cycle, count=10) == [60, 64, 67, 60, 64, 67, 60, 64, 60, 64]
    chord = reed(**eight, arpeggio=Arpeggio(pool=TRIAD, restart="chord"))
    short = Progression(chords=(PlacedChord(chord="i", lasts={"kind": "note", "value": StepValue(note=4)}),))
    assert pitches(chord, count=8, progression=short) == [60, 64, 67, 60] * 2


def test_a_lane_that_begins_again_begins_its_arpeggio_again():
    one = reed(source=Euclidean(hits=5, steps=5), restart=BarRestart(bars=1), arpeggio=Arpeggio(pool=TRIAD))
    found = heard(one, bars=3)
    firsts = [
        pitch
        for start, pitch in zip(found.starts.tolist(), found.pitches.tolist(), strict=True)
        if start % 53760 == 0
    ]
    assert firsts == [60, 60, 60]


def test_a_pedal_note_returns_and_takes_no_turn_of_the_order():
    pedal = Pedal(every=3, note=40)
    assert pitches(reed(arpeggio=Arpeggio(pool=TRIAD, pedal=pedal))) == [40, 60, 64, 40, 67, 60, 40, 64]
    again = pedal.model_copy(update={"again": True})
    assert pitches(reed(arpeggio=Arpeggio(pool=TRIAD, pedal=again))) == [40, 60, 64, 40, 60, 64, 40, 60]
    second = pedal.model_copy(update={"first": 2, "note": None})
    assert pitches(reed(arpeggio=Arpeggio(pool=TRIAD, pedal=second))) == [60, 50, 64, 67, 50, 60, 64, 50]


def test_the_pool_is_what_is_held_when_the_hit_stands():
    keys = held((0, 6720, 60, 80), (0, 13440, 64, 90), (6721, None, 70, 100))
    one = reed(arpeggio=Arpeggio(velocity="keys"), keys=keys)
    found = heard(one, bars=1)
    # The first two steps 60 and 64; the third only 64; from the fourth 64 and 70; from the fifth 70.
    assert found.pitches.tolist()[:6] == [60, 64, 64, 70, 70, 70]
    assert found.velocities.tolist()[:6] == [80, 90, 90, 100, 100, 100]


def test_an_empty_pool_rests_and_counts_and_says_so():
    keys = held((26880, None, 60, 90), (26880, None, 64, 90), (26880, None, 67, 90))
    one = reed(arpeggio=Arpeggio(), keys=keys)
    found = heard(one, bars=1)
    assert found.starts.tolist()[0] == 26880
    assert found.pitches.tolist()[0] == 67  # eight hits were used: the ninth plays the third note
    shown = picture(score(reed(arpeggio=Arpeggio()), scale=D_DORIAN), 1, Window(bars=1), ["reed"])
    assert shown.benches[0].pool == "an empty pool: hold keys to fill it"
    assert set(shown.lanes[0].sounds) == {0}
    assert shown.lanes[0].pitches == [[]] * 16


def test_new_hands_begin_the_order_again_where_it_is_said():
    keys = held(
        (0, 6720, 60, 90), (0, 6720, 64, 90), (0, 6720, 67, 90), (10080, None, 62, 90), (10080, None, 65, 90)
    )
    one = reed(arpeggio=Arpeggio(restart="chord"), keys=keys)
    assert pitches(one, count=4) == [60, 64, 62, 65]


@given(arpeggios(), dice, st.integers(0, 200))
def test_nothing_is_outside_pool_octaves_and_pedal(arpeggio, dice, first_bar):
    keys = held((0, None, 50, 70), (0, None, 57, 80), (0, None, 65, 90))
    one = reed(arpeggio=arpeggio, keys=keys)
    fields = {"scale": D_DORIAN, "progression": FOUR_CHORDS}
    found = render(score(one, **fields), dice, Window(first_bar=first_bar, bars=2))
    match arpeggio.pool:
        case HeldPool():
            pool = {50, 57, 65}
        case TypedPool(notes=notes) if notes:
            pool = set(notes)
        case _:
            return
    allowed = {pitch + 12 * octave for pitch in pool for octave in range(arpeggio.octaves)}
    if arpeggio.pedal:
        allowed.add(50 if arpeggio.pedal.note is None else arpeggio.pedal.note)
    for pitch in found.pitches.tolist():
        assert any(pitch == one or (one > 127 and (one - pitch) % 12 == 0) for one in allowed)


@given(st.sampled_from(["up", "down", "inward", "outward", "shuffled"]), st.integers(1, 3), dice)
def test_over_a_whole_round_each_note_comes_as_often_as_any_other(order, octaves, dice):
    arpeggio = Arpeggio(pool=TRIAD, order=order, octaves=octaves)
    count = 3 * octaves
    found = render(score(reed(arpeggio=arpeggio)), dice, Window(bars=16)).pitches.tolist()
    for begin in range(0, len(found) - count, count):
        assert set(Counter(found[begin : begin + count]).values()) == {1}


def test_all_at_once_and_a_chord_on_a_step_sound_the_whole_pool():
    both = heard(reed(arpeggio=Arpeggio(pool=TRIAD, order="all")), bars=1)
    assert both.pitches.tolist()[:6] == [60, 64, 67] * 2
    on_one = reed(arpeggio=Arpeggio(pool=TRIAD), chord_strip=ChordStrip(values=(None, 3)))
    assert pitches(on_one, count=5) == [60, 60, 64, 67, 67]


def test_the_pool_of_the_chord_moves_with_it_and_is_led_closely():
    led = FOUR_CHORDS.model_copy(update={"leading": "nearest", "chords": FOUR_CHORDS.chords[:2]})
    one = reed(source=Euclidean(hits=4, steps=16), arpeggio=Arpeggio(pool=ChordPool()))
    assert pitches(one, bars=2, progression=led) == [50, 53, 57, 50, 55, 59, 50, 55]


def test_the_scale_over_a_range_is_a_pool():
    one = reed(arpeggio=Arpeggio(pool=ScalePool(low=0, high=7)))
    assert pitches(one) == [50, 52, 53, 55, 57, 59, 60, 62]


def test_a_cascade_plays_what_sounds_in_another_lane_and_ends():
    slow = reed(
        "slow", source=Euclidean(hits=4, steps=4), step_value=StepValue(note=4), arpeggio=Arpeggio(pool=TRIAD)
    )
    over = reed("over", arpeggio=Arpeggio(pool=LanePool(of="slow"), octaves=2), channel=5)
    third = reed(
        "third", arpeggio=Arpeggio(pool=LanePool(of="over"), order="down"), channel=6, semitones_up=12
    )
    found = heard(slow, over, third, bars=1)
    of = {index: found.pitches[found.lanes == index].tolist() for index in range(3)}
    assert of[0] == [60, 64, 67, 60]
    assert of[1] == [60, 72, 60, 72, 64, 76, 64, 76, 67, 79, 67, 79, 60, 72, 60, 72]
    assert of[2] == [pitch + 12 for pitch in of[1]]


def test_a_muted_lane_still_fills_the_pool_of_a_cascade():
    slow = reed("slow", mute=True, pitch_strip=PitchStrip(values=(0, 2)))
    over = reed("over", arpeggio=Arpeggio(pool=LanePool(of="slow")), channel=5)
    assert pitches(over, slow, count=2) == [50, 53]


def test_an_arpeggio_may_play_the_whole_kit():
    one = reed(voice="whole-kit", arpeggio=Arpeggio(pool=TypedPool(notes=(36, 42, 38))))
    found = heard(one)
    assert found.pitches.tolist()[:3] == [36, 38, 42]
    assert set(found.channels.tolist()) == {10}


def test_a_tie_lasts_to_the_next_hit_of_an_arpeggio_too():
    one = reed(
        source=Drawn(steps=8, hits=(0, 4)),
        length_strip=LengthStrip(values=(0,)),
        arpeggio=Arpeggio(pool=TRIAD),
    )
    assert heard(one).lengths.tolist()[0] == 4 * 3360


def test_rate_octaves_and_order_move_without_losing_the_place():
    """Seen from any bar, a changed lane plays what it would have played had it always been so."""
    one = reed(arpeggio=Arpeggio(pool=TRIAD))
    for changed in (
        one.model_copy(update={"step_value": StepValue(note=16, kind="triplet")}),
        one.model_copy(update={"arpeggio": Arpeggio(pool=TRIAD, order="down", octaves=3)}),
    ):
        whole = render(score(changed), 1, Window(bars=9))
        late = render(score(changed), 1, Window(first_bar=5, bars=4))
        assert whole.pitches[whole.starts >= 5 * 53760].tolist() == late.pitches.tolist()


def test_velocities_of_keys_are_evened_towards_the_middle_of_what_a_key_can_give():
    keys = held((0, None, 60, 20), (0, None, 64, 120))
    struck = {
        evened: heard(
            reed(
                source=Drawn(steps=2, hits=(0, 1)),
                keys=keys,
                evened=evened,
                velocity=3,
                arpeggio=Arpeggio(pool=HeldPool(), velocity="keys"),
            )
        ).velocities.tolist()[:2]
        for evened in (0, 50, 100)
    }
    assert struck == {0: [20, 120], 50: [42, 92], 100: [64, 64]}
