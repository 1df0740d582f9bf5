"""What is drawn agrees with what sounds."""

import pytest
from hypothesis import assume, given

from lattice.document import (
    BarRestart,
    BarSpan,
    Burst,
    ChanceStrip,
    Drawn,
    Echo,
    Edit,
    Euclidean,
    EveryBars,
    LaneSwing,
    Once,
    StepValue,
    Thin,
)
from lattice.render import Window, render
from lattice.screen import picture, sounds
from tests.lattice.scores import dice, is_light, lane, score, scores


@given(scores(), dice)
def test_every_event_is_drawn_as_a_sounding_hit(score, dice):
    # Steps as far around as a note may stray from its own.
    bars = 5 + int(60 / score.meter.bar_quarters)
    assume(is_light(score, bars=max(20, bars)))
    window = Window(first_bar=3, bars=2)
    events = render(score, dice, window)
    assert sounds(score, dice, window).events.starts == events.starts.tolist()
    around = picture(score, dice, Window(bars=bars))
    stretches = {
        index: [(start, start + 1) for start in one.kept.starts]
        if one.kept
        else [
            (onset, onset + length)
            for onset, length, sounds in zip(onsets(one), one.lengths, one.sounds, strict=True)
            if sounds and not one.silent
        ]
        + [
            (note, note + 1)
            for burst in one.bursts
            for note in burst.notes
            if burst.sounds and not one.silent
        ]
        for index, one in enumerate(around.lanes)
    }
    for index, start in zip(events.lanes.tolist(), events.starts.tolist(), strict=True):
        assert any(first <= start < end for first, end in stretches[index])


def onsets(lane):
    """Return when the hits of a lane's picture begin."""
    return lane.onsets or [lane.starts[step] for step in lane.hits]


@given(scores(), dice)
def test_columns_of_a_lane_belong_together(score, dice):
    straight = {"swing": LaneSwing()}
    lanes = tuple(one.model_copy(update=straight) for one in score.lanes)
    drawn = picture(score.model_copy(update={"lanes": lanes}), dice, Window(first_bar=1, bars=2))
    for one in drawn.lanes:
        assert len(one.starts) == len(one.numbers)
        assert {len(column) for column in (one.sounds, one.velocities, one.lengths, one.chances)} == {
            len(one.hits)
        }
        plain_or_all = (
            one.onsets,
            one.ratchets,
            one.accents,
            one.ties,
            one.octaves,
            one.letters,
            one.covered,
            one.louder,
        )
        assert {len(column) for column in plain_or_all} <= {0, len(one.hits)}
        assert one.starts == sorted(one.starts)
        assert all(number < one.steps for number in one.numbers)
        assert set(one.cycle_starts) <= set(one.starts)
        assert all(start <= end for start, end in zip(one.cycle_starts, one.cycle_ends, strict=True))
        assert all(0 <= chance <= 100 for chance in one.chances)


def test_a_hit_that_a_louder_one_of_the_same_voice_covers_says_which_lane_is_heard():
    loud = lane("thud", source=Euclidean(hits=4, steps=16), velocity=110, name="Front")
    soft = lane("back", source=Euclidean(hits=8, steps=16), velocity=60)
    front, back = picture(score(loud, soft), 1, Window(bars=1)).lanes
    assert front.louder == []
    assert back.louder == ["Front", ""] * 4


def test_a_muted_lane_covers_nothing():
    muted = lane("thud", source=Euclidean(hits=4, steps=16), velocity=110, mute=True)
    soft = lane("back", source=Euclidean(hits=8, steps=16), velocity=60)
    assert picture(score(muted, soft), 1, Window(bars=1)).lanes[1].louder == []


def test_the_meeting_is_given_in_bars_and_where_it_falls():
    sixteen, seven = lane("thud"), lane("bell", source=Euclidean(hits=3, steps=7))
    met = picture(score(sixteen, seven), 1, Window(bars=8)).meeting
    assert met.says == "all lanes line up every 7 bars"
    assert met.at == [0, 7 * 53760]


def test_one_lane_repeats_and_none_say_nothing():
    assert picture(score(lane()), 1, Window(bars=1)).meeting.says == "repeats every bar"
    assert picture(score(), 1, Window(bars=1)).meeting.says == ""


def test_a_lane_carries_its_cycle_and_its_sentence():
    turned = lane(source=Drawn(steps=5, hits=(0,)), rotate=2, step_value=StepValue(note=8))
    (one,) = picture(score(turned), 1, Window(bars=2)).lanes
    assert (one.steps, one.cycle_hits, one.cycle_ticks) == (5, [2], 5 * 6720)
    assert one.cycle_length == "5/8 bar"
    assert [part.setting for part in one.sentence.parts] == ["source", "rotate", "step value"]


@given(scores())
def test_a_step_of_a_drawn_lane_says_which_drawn_step_it_shows(score):
    plain = {"thin": None, "edits": (), "complement": False, "step_range": None, "direction": "forward"}
    plain |= {"restart": None, "once": None, "busy": 0}
    score = score.model_copy(update={"lanes": tuple(one.model_copy(update=plain) for one in score.lanes)})
    for one, shown in zip(score.lanes, picture(score, 1, Window(bars=1)).lanes, strict=True):
        if isinstance(one.source, Drawn):
            assert [
                step for step, drawn in enumerate(shown.draws) if drawn in one.source.hits
            ] == shown.cycle_hits
        else:
            assert shown.draws == []


@pytest.mark.parametrize(
    "turn", [{"complement": True}, {"thin": Thin()}, {"edits": (Edit(step=0, hit=True),)}], ids=str
)
def test_where_a_drawn_step_is_not_what_is_heard_a_touch_is_a_hand_edit(turn):
    turned = lane(source=Drawn(steps=5, hits=(0, 2)), **turn)
    (shown,) = picture(score(turned), 1, Window(bars=1)).lanes
    assert shown.draws == []


def test_the_meeting_of_chosen_lanes_is_theirs_alone():
    sixteen, seven, five = (
        lane("thud"),
        lane("bell", source=Euclidean(hits=3, steps=7)),
        lane("rope", source=Euclidean(hits=2, steps=5)),
    )
    asked = score(sixteen, seven, five)
    assert picture(asked, 1, Window(bars=1)).meeting.says == "all lanes line up every 35 bars"
    met = picture(asked, 1, Window(bars=8), chosen=["thud", "rope"]).meeting
    assert (met.says, met.of) == ("Thud and Rope line up every 5 bars", ["thud", "rope"])
    assert met.at == [0, 5 * 53760]


def test_lanes_that_can_never_meet_say_so():
    late = lane("bell", once=Once(count=1, note=16))
    steady = lane(source=Euclidean(hits=1, steps=4))
    assert picture(score(steady, late), 1, Window(bars=1)).meeting.says == "the lanes never line up"


def test_a_lane_that_sounds_once_is_silent_for_the_rest_of_the_pass():
    once = lane(source=Euclidean(hits=4, steps=4), once=Once(bars=1, count=1, note=4))
    (drawn,) = picture(score(once, bars=4), 1, Window(bars=8)).lanes
    begins = 53760 + 13440
    assert drawn.starts[:4] == [begins + step * 3360 for step in range(4)]
    assert (drawn.cycle_starts, drawn.cycle_ends) == (
        [begins, begins + 4 * 53760],
        [begins + 13440, begins + 4 * 53760 + 13440],
    )
    assert drawn.is_gapped


def test_a_restart_cuts_the_cycle_that_is_drawn():
    (drawn,) = picture(
        score(lane(source=Euclidean(hits=3, steps=12), restart=BarRestart(bars=1))), 1, Window(bars=1)
    ).lanes
    assert (drawn.cycle_starts, drawn.cycle_ends) == ([0, 12 * 3360], [12 * 3360, 53760])


def test_the_bench_shows_every_setting_and_what_repeats():
    turned = lane(
        source=Euclidean(hits=3, steps=8),
        thin=Thin(every=2),
        chance_strip=ChanceStrip(values=(None, None, None, 40)),
    )
    (bench,) = picture(score(turned), 1, Window(bars=1), chosen=["thud"]).benches
    said = {field.setting: "".join(word.text for word in field.words) for field in bench.fields}
    assert said["thin"] == "only each 2nd hit"
    assert said["rotate"] == "0"
    assert said["direction"] == "forward"
    chance = next(strip for strip in bench.strips if strip.name == "chance")
    assert chance.values == [100, 100, 100, 40, 100, 100, 100, 100]
    assert chance.own == [0, 0, 0, 1, 0, 0, 0, 0]
    assert bench.repeats == "repeats every bar"  # two cycles of eight


def test_a_lucky_order_repeats_never_but_with_its_luck():
    lucky = lane(direction="shuffled")
    (bench,) = picture(score(lucky), 1, Window(bars=1), chosen=["thud"]).benches
    assert bench.repeats == "never repeats: luck decides its order"


@pytest.mark.parametrize(
    ("fields", "chosen", "rate"),
    [
        ({}, "1/16", 2),
        ({"step_value": StepValue(note=32, kind="triplet")}, "1/32t", 5),
        ({"step_value": StepValue(note=8, kind="dotted")}, None, -1),
        ({"step_value": StepValue(note=16, kind="dotted")}, None, 0),
        ({"step_value": StepValue(note=8, divisor=2)}, "1/16", 2),
        ({"span": BarSpan()}, None, 2),
    ],
)
def test_the_bench_offers_the_steps_that_one_hand_moves_over(fields, chosen, rate):
    (bench,) = picture(score(lane(**fields)), 1, Window(bars=1), chosen=["thud"]).benches
    assert [one.text for one in bench.rates][::2] == ["1/8", "1/16", "1/32", "1/64"]
    assert [one.text for one in bench.rates if one.chosen] == ([chosen] if chosen else [])
    assert bench.rate == rate
    assert all(one.patch["span"] is None for one in bench.rates)


def test_a_lane_on_anothers_clock_has_no_step_to_move():
    both = score(lane("chain"), lane("bell", source=Echo(of="chain")))
    (bench,) = picture(both, 1, Window(bars=1), chosen=["bell"]).benches
    assert bench.rates == []


@given(scores(), dice)
def test_the_chance_that_is_shown_is_the_one_that_decides_and_painting_it_begins_from_there(score, dice):
    window = Window(bars=2)
    shown = picture(score, dice, window, shown="chance")
    for one in shown.lanes:
        if not one.kept:
            strays = next(lane for lane in score.lanes if lane.id == one.id).chance_strip
            if not (strays and strays.spread):
                assert all(
                    abs(one.values[step] - chance) <= 0.5
                    for step, chance in zip(one.hits, one.chances, strict=True)
                )
    laid = {one.id: one.painted_on or {} for one in shown.lanes}
    document = score.model_dump(mode="json")
    for row in document["lanes"]:
        assert bool(laid[row["id"]]) == (row["chance_percent"] != 100)
        row.update(laid[row["id"]])
    again = picture(type(score).model_validate(document), dice, window, shown="chance")
    assert [one.values for one in again.lanes] == [one.values for one in shown.lanes]


def test_a_step_turned_by_hand_says_what_its_rule_would_make_of_it():
    edits = (Edit(step=0, hit=True), Edit(step=1, hit=True), Edit(step=4, hit=False), Edit(step=40, hit=True))
    (seen,) = picture(score(lane(edits=edits)), 1, Window(bars=1)).lanes
    assert (seen.edited, seen.ruled) == ([0, 1, 4], [0, 4])


def test_each_round_of_a_burst_is_drawn_with_its_own_luck_however_close_they_come():
    """What is left of the bar after it is shorter than it is."""
    burst = Burst(length=14, notes=5, comes=EveryBars(bars=1), chance_percent=50)
    one = score(lane("thud", bursts=(burst,)))
    window = Window(bars=8)
    (drawn,) = picture(one, 3, window).lanes
    assert [(round_.start, len(round_.notes)) for round_ in drawn.bursts] == [
        (bar * 53760, 5) for bar in range(8)
    ]
    assert {round_.sounds for round_ in drawn.bursts} == {True, False}
    told = [note for round_ in drawn.bursts if round_.sounds for note in round_.notes]
    heard = set(render(one, 3, window).starts.tolist())
    assert set(told) <= heard
    assert not heard & {note for round_ in drawn.bursts if not round_.sounds for note in round_.notes[1:]}


def test_the_bench_says_what_a_lane_sounds_with_and_its_note():
    moved = lane("hiss", voice="hiss", note=40, channel=3)
    reed = lane("reed", voice="low-reed", note=50)
    three = score(lane(), moved, reed)
    benches = picture(three, 1, Window(bars=1), chosen=["thud", "hiss", "reed"]).benches
    assert [bench.voice for bench in benches] == [
        "Thud of Dockside, note 36, channel 10",
        "Hiss of Dockside, note 40, channel 3",
        "Low reed, note D3",
    ]
