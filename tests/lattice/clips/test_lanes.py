"""A clip as lanes: what they play is what the clip holds."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.clips import Note, Track, take, take_clip
from lattice.clips.clip import Control, MeterChange, TempoChange
from lattice.clips.lanes import lane_offers, left_out, pattern_of
from lattice.document import (
    DOCKSIDE,
    DocumentError,
    Drawn,
    Euclidean,
    Lane,
    LaneSwing,
    Meter,
    NudgeStrip,
    PassRestart,
    Piece,
    StepValue,
    Swing,
    VelocityStrip,
    score_of,
)
from lattice.document.port import Program
from lattice.render import Window, render
from tests.lattice.clips.clips import BAR, clip
from tests.lattice.scores import lane, score

STEP = 3360
STRAIGHT = Swing()
steps = st.sampled_from(
    [StepValue(), StepValue(note=8), StepValue(note=8, kind="triplet"), StepValue(note=2, divisor=7)]
)


def played(one, pattern, swing=STRAIGHT):
    """Return (start, pitch, velocity, length) of all that *pattern* plays where *one* would be played first."""
    piece = Piece(name="Made", tempo=one.tempo, swing=swing, patterns=(pattern,))
    heard = render(score_of(piece, pattern), pattern.dice, Window(bars=one.bars))
    columns = (heard.starts, heard.pitches, heard.velocities, heard.lengths)
    return sorted(zip(*(column.tolist() for column in columns), strict=True))


def notes_of(one):
    return sorted(
        (note.start, note.pitch, note.velocity, note.length) for track in one.tracks for note in track.notes
    )


@st.composite
def taken_clips(draw):
    """Bars of a few lanes, as they would be kept."""
    lanes = []
    for at, name in enumerate(draw(st.sets(st.sampled_from(["thud", "bell", "clink"]), min_size=1))):
        count = draw(st.integers(2, 16))
        fields = {"source": Euclidean(hits=draw(st.integers(1, count)), steps=count), "chance_percent": 80}
        fields["step_value"] = draw(steps)
        if draw(st.booleans()):
            fields["velocity_strip"] = VelocityStrip(
                values=tuple(draw(st.lists(st.integers(1, 127), min_size=3, max_size=9)))
            )
        if draw(st.booleans()):
            fields["swing"] = LaneSwing(percent=draw(st.integers(50, 75)))
        if draw(st.booleans()):
            fields["nudge_strip"] = NudgeStrip(values=(0, 8, -6))
        lanes.append(lane(name, channel=at + 1, **fields))
    whole = score(*lanes)
    dice = draw(st.integers(0, 99))
    window = Window(first_bar=3, bars=draw(st.integers(1, 4) | st.just(16)))
    return take_clip(take(whole, dice, window), "P", "A")


@given(taken_clips(), st.booleans())
def test_the_lanes_play_the_notes_of_the_clip(one, is_shorter):
    """Starts within half a % of a step, velocities exactly; said at length, or by the shortest way."""
    if not one.note_count:
        return
    offers = lane_offers(one)
    chosen = frozenset(range(len(offers))) if is_shorter else frozenset()
    found, expected = played(one, pattern_of(one, offers, chosen, "a")), notes_of(one)
    assert [
        (pitch, velocity) for _, pitch, velocity, _ in sorted(found, key=lambda row: (row[1], row[0]))
    ] == [(pitch, velocity) for _, pitch, velocity, _ in sorted(expected, key=lambda row: (row[1], row[0]))]
    longest = max(offer.lane.step_value.quarters for offer in offers) * 13440
    for heard, meant in zip(
        sorted(found, key=lambda r: (r[1], r[0])), sorted(expected, key=lambda r: (r[1], r[0])), strict=True
    ):
        assert abs(heard[0] - meant[0]) <= longest / 200 + 1


def row(*places, **fields):
    return tuple(Note(place, STEP, 36, 100)._replace(**fields) for place in places)


def offer_of(*places, bars=1, **fields):
    (offer,) = lane_offers(clip(row(*places, **fields), bars=bars))
    return offer


def test_a_euclidean_rhythm_is_recognised_with_its_rotation():
    places = [((hit + 3) % 8) * STEP for hit in (0, 2, 3, 5, 6)]
    offer = offer_of(*sorted(places + [place + 8 * STEP for place in places]))
    assert offer.this_is == "5 in 8, rotated 3"
    assert (offer.shorter.source, offer.shorter.rotate) == (Euclidean(hits=5, steps=8), 3)
    assert offer.step == "1/16"


def test_a_shorter_pattern_that_repeats_is_recognised():
    offer = offer_of(*(bar * BAR + at * STEP for bar in range(2) for at in (0, 1, 2, 9)), bars=2)
    assert offer.this_is == "16 steps that repeat"
    assert (offer.lane.source.steps, offer.shorter.source.steps) == (32, 16)


def test_what_does_not_repeat_has_no_shorter_way():
    offer = offer_of(0, STEP, 3 * STEP, 9 * STEP)
    assert (offer.this_is, offer.shorter) == ("", None)


def test_septuplets_are_found():
    offer = offer_of(*(round(at * 26880 / 7) for at in range(14)))
    assert offer.step == "7 in a 1/2"
    assert offer.worst_off_percent < 0.1


def test_how_far_notes_lie_off_is_told_and_becomes_a_nudge():
    offer = offer_of(0, STEP + 336, 3 * STEP, 6 * STEP)
    assert offer.worst_off_percent == 10.0
    assert offer.mean_off_percent == 2.5
    assert offer.lane.nudge_strip.values[:2] == (0, 10)


def test_alike_notes_need_no_strip_and_others_get_one():
    alike = offer_of(0, STEP, 5 * STEP, velocity=77).lane
    assert (alike.velocity, alike.velocity_strip, alike.length_percent) == (77, None, 100)
    mixed = lane_offers(clip((*row(0, STEP, 4 * STEP), Note(5 * STEP, 2 * STEP, 36, 50)), bars=1))[0].lane
    assert mixed.velocity_strip.values[:6] == (100, 100, None, None, 100, 50)
    assert mixed.length_strip.values[5] == 200


def test_every_note_number_of_a_track_becomes_a_lane_unless_octaves_apart():
    drums = lane_offers(clip(row(0) + row(STEP, pitch=38), bars=1))
    assert [(offer.lane.name, offer.lane.voice) for offer in drums] == [
        ("Lane 1 36", "thud"),
        ("Lane 1 38", "chain"),
    ]
    (melody,) = lane_offers(clip(row(0, pitch=48) + row(STEP, pitch=60), bars=1))
    assert melody.lane.octave_strip.values[:2] == (0, 1)


def test_a_long_clip_is_shared_out_over_lanes_that_sound_once():
    places = [at * STEP for at in range(160) if at % 7 not in (3, 5) and at != 90]
    offers = lane_offers(clip(row(*places), bars=10))
    assert [offer.lane.once.bars for offer in offers] == [0, 8]
    whole = clip(row(*places), bars=10)
    assert played(whole, pattern_of(whole, offers, frozenset(), "a")) == notes_of(whole)


def test_a_cycle_that_drifts_over_the_bars_is_found():
    places = [at * STEP for at in range(64) if at % 7 in (0, 2, 4, 6)]
    offer = offer_of(*places, bars=4)
    assert offer.this_is == "4 in 7, beginning again with each pass"
    assert (offer.shorter.source, offer.shorter.restart) == (Euclidean(hits=4, steps=7), PassRestart())
    whole = clip(row(*places), bars=4)
    assert played(whole, pattern_of(whole, [offer], frozenset({0}), "a")) == notes_of(whole)


@pytest.mark.parametrize(("bars", "count"), [(1, 6), (2, 11), (3, 16)])
def test_dotted_eighths_are_found_where_bars_cut_them_off_too(bars, count):
    places = [3 * STEP * at for at in range(count)]
    whole = clip(row(*places, length=3 * STEP // 4), bars=bars)
    (offer,) = lane_offers(whole)
    assert (offer.step, offer.this_is) == ("1/8 dotted", "a hit on every step")
    for chosen in (frozenset(), frozenset({0})):
        assert played(whole, pattern_of(whole, [offer], chosen, "a")) == notes_of(whole)


def test_three_in_eight_is_no_run_of_dotted_quarters():
    offer = offer_of(0, 6 * STEP, 12 * STEP)
    assert (offer.step, offer.this_is) == ("1/8", "3 in 8")


@given(st.integers(53, 69), st.sampled_from([8, 16]), st.data())
def test_swung_notes_become_a_swung_lane(percent, note, data):
    count = 32 * note // 16
    late = data.draw(st.sets(st.integers(0, count // 2 - 1), min_size=2))
    hits = tuple(sorted({*range(0, count, 2)} | {2 * at + 1 for at in late}))
    swung = lane(
        source=Drawn(steps=count, hits=hits),
        step_value=StepValue(note=note),
        swing=LaneSwing(percent=percent, note=note),
    )
    whole = take_clip(take(score(swung), 1, Window(bars=2)), "P", "A")
    offers = lane_offers(whole)
    assert [offer.lane.swing for offer in offers] == [LaneSwing(percent=percent, note=note)]
    assert f"swing {percent} %" in offers[0].step
    assert (offers[0].lane.nudge_strip, offers[0].lane.length_strip) == (None, None)
    assert played(whole, pattern_of(whole, offers, frozenset(), "a")) == notes_of(whole)


def test_straight_lanes_stay_straight_in_a_piece_that_swings():
    whole = clip(row(0, STEP, 3 * STEP), bars=1)
    piece_swing = Swing(percent=60)
    pattern = pattern_of(whole, lane_offers(whole), frozenset(), "a", piece_swing)
    assert played(whole, pattern, piece_swing) == notes_of(whole)


def test_a_bar_played_sixteen_times_is_one_bar():
    bar = (0, 3, 4, 10)
    places = [turn * BAR + at * STEP for turn in range(16) for at in bar]
    whole = clip(row(*places), bars=16)
    offers = lane_offers(whole)
    assert [offer.lane.source for offer in offers] == [Drawn(steps=16, hits=bar)]
    pattern = pattern_of(whole, offers, frozenset(), "a")
    assert pattern.bars == 1
    assert played(whole, pattern) == notes_of(whole)


def test_what_no_lane_has_is_said():
    moves = (TempoChange(BAR, 90.0), TempoChange(2 * BAR, 80.0))
    track = Track(lane="Hiss", channel=10, notes=(Note(0, 1, 46, 9, 4),), controls=(Control(0, 74, 9),))
    one = clip(tracks=(track,), bars=4, tempo_changes=moves, meter_changes=(MeterChange(BAR, Meter()),))
    assert left_out(one) == ["2 changes of tempo", "1 change of meter", "1 move of a controller"]
    assert lane_offers(one)[0].remarks == ["what its ratchets climb is left out"]
    assert left_out(clip(row(0))) == []


def test_voices_that_a_kit_does_not_have_are_found_by_their_notes():
    alone = clip(tracks=(Track(lane="Odd", channel=10, notes=(Note(0, STEP, 61, 90),)),), bars=1)
    (drum,) = lane_offers(alone)
    assert DOCKSIDE.voice(drum.lane.voice)
    assert drum.lane.note == 61
    tune = clip(tracks=(Track(lane="Melody", channel=1, notes=(Note(0, STEP, 61, 90),)),), bars=1)
    (sung,) = lane_offers(tune)
    assert isinstance(sung.lane, Lane)
    assert (sung.lane.is_melodic, sung.lane.channel) == (True, 1)


@pytest.mark.parametrize(
    ("one", "says"),
    [
        (clip(row(0), bars=65), "at most 64 bars, the clip has 65"),
        (clip(()), "no notes"),
        (clip(tuple(Note(0, 1, pitch, 1) for pitch in range(70)), bars=1), "more than the 64 lanes"),
        (clip(row(0, 1), bars=1), "quantise"),
        (clip(row(0, 8), bars=1, length_ticks=BAR + 1, meter=Meter()), "no step value"),
    ],
)
def test_what_does_not_fit_is_refused_and_says_what_helps(one, says):
    with pytest.raises(DocumentError, match=says):
        lane_offers(one)


def test_a_lane_of_a_track_goes_to_its_port_and_chooses_its_program():
    program = Program(number=9, bank=2)
    notes = tuple(Note(at * 13440, 6720, 60, 100) for at in range(4))
    track = Track(lane="Reed", channel=4, port="Reed box", program=program, notes=notes)
    (offer,) = lane_offers(clip(bars=1).model_copy(update={"tracks": (track,)}))
    assert (offer.lane.port, offer.lane.program, offer.lane.channel) == ("Reed box", program, 4)
