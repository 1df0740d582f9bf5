"""What every pattern keeps to, however it is expressed, and worked examples of each word."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import (
    Accent,
    ChanceStrip,
    CycleRule,
    Drawn,
    Euclidean,
    Free,
    Humanise,
    LaneSwing,
    LengthStrip,
    Link,
    Meter,
    NudgeStrip,
    OctaveStrip,
    Once,
    RatchetStrip,
    Spread,
    StepRule,
    StepValue,
    Swing,
    VelocityStrip,
)
from lattice.render import Window, render
from lattice.render.feel import feel_of
from lattice.render.pipeline import play
from lattice.render.stages.chance import letters_of
from lattice.render.stages.times import Placing
from lattice.screen import picture
from lattice.steps.lane_steps import steps_of_lanes
from lattice.steps.step_window import StepWindow
from tests.lattice.scores import dice, lane, scores
from tests.lattice.scores import score as score_with

BAR = 53760
STEP = 3360
SIXTEEN = Euclidean(hits=16, steps=16)
firsts = st.integers(0, 3) | st.integers(0, 100_000)


def heard(one, count=1, dice=1, **fields):
    """Render the first *count* bars of one lane."""
    return render(score_with(one, **fields), dice, Window(bars=count))


def with_changed(score, lane_id, dice, **fields):
    """Return the line of a lane after setting *fields* of it."""
    lanes = tuple(one.model_copy(update=fields) if one.id == lane_id else one for one in score.lanes)
    return next(
        lane_steps
        for lane_steps in steps_of_lanes(score.model_copy(update={"lanes": lanes}), dice)
        if lane_steps.lane.id == lane_id
    )


def velocities(bars=1, **fields):
    return heard(lane(source=SIXTEEN, **fields), bars).velocities.tolist()


# ---- Properties ----


@given(scores(), dice, firsts)
def test_velocities_pitches_and_starts_are_within_what_midi_has(score, dice, first):
    events = render(score, dice, Window(first_bar=first, bars=2))
    assert ((events.velocities >= 1) & (events.velocities <= 127)).all()
    assert ((events.pitches >= 0) & (events.pitches <= 127)).all()
    assert ((events.channels >= 1) & (events.channels <= 16)).all()
    assert (events.starts >= 0).all()
    assert (events.lengths >= 1).all()


@given(scores(), dice, firsts)
def test_linked_steps_sound_together_or_not_at_all(score, dice, first):
    for one in score.lanes:
        lane_steps = with_changed(score, one.id, dice, bursts=(), step_rules=())
        begin, end = Window(first_bar=first, bars=3).ticks(score.meter.bar_ticks)
        played = play(lane_steps, feel_of(lane_steps.lane, score), None, begin, end)
        steps = played.layout.hits
        cycles, letters = played.step_window.cycles[steps], letters_of(played.step_window)[steps]
        for letter in set(letters.tolist()) - {-1}:
            linked = letters == letter
            for cycle in set(cycles[linked].tolist()):
                assert len(set(played.sound[steps][linked & (cycles == cycle)].tolist())) == 1


@given(scores(), dice, firsts)
def test_chance_0_never_sounds_and_100_always(score, dice, first):
    plain = {"cycle_rule": None, "step_rules": (), "bursts": (), "links": (), "chance_strip": None}
    begin, end = Window(first_bar=first, bars=2).ticks(score.meter.bar_ticks)
    for one in score.lanes:
        for percent in (0, 100):
            lane_steps = with_changed(score, one.id, dice, chance_percent=percent, **plain)
            played = play(lane_steps, feel_of(lane_steps.lane, score), None, begin, end)
            sound = played.sound[played.layout.hits]
            assert sound.all() if percent else not sound.any()


@given(scores(min_lanes=1), dice, firsts)
def test_ratchets_and_swung_steps_sum_to_what_they_divide(score, dice, first):
    """A step's notes follow each other without a gap, and each step ends where the next one begins."""
    for one in score.lanes:
        lane_steps = with_changed(score, one.id, dice, nudge_strip=None, humanise=None)
        begin = lane_steps.clock.first_at(first * score.meter.bar_ticks)
        step_window = StepWindow(lane_steps, begin, begin + 40)
        whole = np.arange(39)
        same_run = step_window.runs[1:] == step_window.runs[:-1]
        for ratchets in (1, 5, 12):
            placing = Placing(step_window, feel_of(lane_steps.lane, score), np.full(40, ratchets))
            ends = placing.ends(whole, np.full(39, ratchets - 1), np.full(39, 100))
            assert (ends == placing.grid[1:])[same_run].all()
            for note in range(ratchets - 1):
                stops = placing.ends(whole, np.full(39, note), np.full(39, 100))
                assert (stops == placing.starts(whole, np.full(39, note + 1))).all()


@given(dice, st.integers(5, 95))
def test_linked_steps_sound_as_often_as_the_lowest_chance_says(dice, percent):
    """A binomial share of 512 cycles, five standard deviations either way."""
    linked = lane(
        source=SIXTEEN,
        chance_strip=ChanceStrip(values=(100, percent)),
        links=(Link(step=0), Link(step=1)),
    )
    sounding = set((heard(linked, 512, dice).starts // STEP).tolist())
    both = [cycle for cycle in range(512) if cycle * 16 in sounding]
    assert all((cycle * 16 + 1 in sounding) == (cycle * 16 in sounding) for cycle in range(512))
    share = percent / 100
    assert abs(len(both) / 512 - share) < 5 * (share * (1 - share) / 512) ** 0.5


# ---- Strips ----


def test_a_strip_goes_with_the_steps_whatever_the_direction():
    strip = VelocityStrip(values=tuple(range(1, 17)))
    assert velocities(velocity_strip=strip) == list(range(1, 17))
    assert velocities(velocity_strip=strip, direction="backward") == list(range(16, 0, -1))


def test_a_strip_of_its_own_length_drifts_over_the_steps():
    strip = VelocityStrip(values=(10, 20, 30), free=Free())
    assert velocities(bars=2, velocity_strip=strip) == [(10, 20, 30)[at % 3] for at in range(32)]
    by_hit = VelocityStrip(values=(10, 20, 30), free=Free(advance="hit"))
    five = lane(source=Euclidean(hits=5, steps=8), velocity_strip=by_hit)
    assert heard(five, 1).velocities.tolist() == [10, 20, 30, 10, 20, 30, 10, 20, 30, 10]


def test_a_restart_begins_a_strip_again():
    strip = VelocityStrip(values=(10, 20, 30), free=Free())
    once = lane(source=SIXTEEN, velocity_strip=strip, once=Once())
    assert heard(once, 2, bars=1).velocities.tolist() == [(10, 20, 30)[at % 3] for at in range(16)] * 2


def test_a_strip_to_and_fro():
    strip = VelocityStrip(values=(10, 20, 30), free=Free(direction="to-and-fro"))
    assert velocities(velocity_strip=strip)[:8] == [10, 20, 30, 20, 10, 20, 30, 20]


def test_a_skipped_hit_uses_up_its_value():
    strip = VelocityStrip(values=(10, 20), free=Free(advance="hit"))
    chances = ChanceStrip(values=(0,))
    assert velocities(velocity_strip=strip, chance_strip=chances)[:3] == [20, 10, 20]


@pytest.mark.parametrize("shape", ["even", "middle"])
def test_spread_draws_afresh_at_every_hit_within_its_bounds(shape):
    strip = VelocityStrip(spread=Spread(by=20, low=90, shape=shape))
    drawn = velocities(bars=64, velocity_strip=strip)
    assert min(drawn) == 90
    assert max(drawn) > 115
    assert set(drawn) <= set(range(90, 121))
    assert drawn[:16] != drawn[16:32]


def test_spread_that_leans_to_the_middle_strays_less():
    def far(shape):
        strip = VelocityStrip(spread=Spread(by=20, shape=shape))
        return np.abs(np.array(velocities(bars=64, velocity_strip=strip)) - 100).mean()

    assert far("middle") < 0.8 * far("even")


def test_octaves_move_the_note_and_fold_into_midi_while_a_climbing_roll_tunes_the_sound():
    one = lane(
        source=Drawn(steps=16, hits=(0, 4)),
        octave_strip=OctaveStrip(values=(1, None, None, None, -4)),
        ratchet_strip=RatchetStrip(values=(3,), climb=2),
    )
    events = heard(one)
    assert events.pitches.tolist() == [48, 48, 48, 0]  # 36 + 12; 36 - 48 up an octave
    assert events.tunes.tolist() == [0, 2, 4, 0]


# ---- Velocity ----


def test_accents_count_hits_before_chance():
    five = Euclidean(hits=16, steps=16)
    accent = Accent(velocity=120, every=3, first=2)
    expected = [120 if at % 3 == 1 else 100 for at in range(16)]
    assert velocities(accent=accent) == expected
    chance = heard(lane(source=five, accent=accent, chance_percent=50))
    assert chance.velocities.tolist() == [expected[at] for at in (chance.starts // STEP).tolist()]


def test_beat_weight_is_strong_weak_half_strong_weak():
    assert velocities(beat_weight=40)[:4] == [100, 80, 90, 80]
    six = heard(
        lane(source=Euclidean(hits=6, steps=6), beat_weight=40),
        meter=Meter(numerator=6, denominator=8),
        step_value=StepValue(note=8),
    )
    assert six.velocities.tolist() == [100, 80, 80, 100, 80, 80]  # a dotted beat: no eighth lies half-way


def test_evened_velocities_come_nearer_to_their_mean():
    strip = VelocityStrip(values=(40, 80) * 8)
    assert velocities(velocity_strip=strip, evened=50)[:2] == [50, 70]
    assert set(velocities(velocity_strip=strip, evened=100)) == {60}


def test_one_rounding_at_the_end():
    # 101 x (1 - 40 % / 4) = 90.9; half of the way to 101 is 95.95; half of the fade of it 47.975
    fade = RatchetStrip(values=(1, 1, 2), fade_from=50, fade_to=100)
    assert velocities(velocity=101, beat_weight=40, evened=50, ratchet_strip=fade)[2:4] == [48, 96]


def test_humanise_strays_by_two_spreads_at_most():
    strays = velocities(bars=256, velocity=64, humanise=Humanise(ms=0, velocity=10))
    assert min(strays) >= 44
    assert max(strays) <= 84
    assert abs(np.mean(strays) - 64) < 1
    assert 8 < np.std(strays) < 10.5  # ten, a little less for what is cut


# ---- Time ----


def test_swing_moves_the_second_of_each_pair():
    starts = heard(lane(source=SIXTEEN, swing=LaneSwing(percent=60))).starts.tolist()
    assert starts[:4] == [0, 4032, 6720, 10752]
    eighths = heard(lane(source=SIXTEEN, swing=LaneSwing(percent=60, note=8))).starts.tolist()
    assert eighths[:5] == [0, 4032, 8064, 10752, 13440]


def test_triplets_stay_straight_under_swing():
    triplets = StepValue(note=16, kind="triplet")
    swung = heard(lane(source=SIXTEEN, swing=LaneSwing(percent=70), step_value=triplets)).starts
    assert swung.tolist()[:4] == [0, 2240, 4480, 6720]


def test_a_unit_without_a_partner_at_the_bars_end_stays_straight():
    odd = heard(
        lane(source=SIXTEEN, swing=LaneSwing(percent=60)), meter=Meter(numerator=5, denominator=16)
    ).starts.tolist()
    assert odd[:5] == [0, 4032, 6720, 10752, 13440]
    assert len(odd) == 5


def test_the_lanes_swing_or_else_the_pieces():
    both = [lane(source=SIXTEEN), lane("bell", source=SIXTEEN, swing=LaneSwing())]
    events = render(score_with(*both, swing=Swing(percent=60)), 1, Window(bars=1))
    assert events.starts[events.lanes == 0].tolist()[1] == 4032
    assert events.starts[events.lanes == 1].tolist()[1] == 3360


def test_a_ratchet_divides_the_swung_step():
    rolls = lane(
        source=Drawn(steps=16, hits=(0,)),
        swing=LaneSwing(percent=60),
        ratchet_strip=RatchetStrip(values=(4,)),
    )
    events = heard(rolls)
    assert events.starts.tolist() == [0, 1008, 2016, 3024]
    assert events.lengths.tolist() == [1008] * 4


def test_a_roll_fades_and_a_restart_cuts_it_off():
    fade = RatchetStrip(values=(*(None,) * 4, 4), fade_from=100, fade_to=40)
    long = lane(
        source=Drawn(steps=5, hits=(4,)),
        step_value=StepValue(note=4, divisor=1),
        ratchet_strip=fade,
        once=Once(),
    )
    events = heard(long, 1, bars=1, meter=Meter(numerator=9, denominator=8))
    # Four notes of a quarter's step that begins half a quarter before the pass ends: the last two are dropped.
    assert events.starts.tolist() == [4 * 13440, 4 * 13440 + 3360]
    assert events.velocities.tolist() == [100, 80]


def test_nudge_moves_start_and_end_and_nothing_starts_before_the_first_moment():
    nudged = heard(lane(source=SIXTEEN, nudge_strip=NudgeStrip(values=(-50, 25))))
    assert nudged.starts.tolist()[:2] == [0, 3360 + 840]
    assert nudged.lengths.tolist()[0] == 3360
    assert nudged.lengths.tolist()[1] == 2 * 3360 - (3360 + 840)  # cut by the next of its pitch


def test_a_note_that_is_early_belongs_to_the_bar_it_begins_in():
    early = lane(source=Drawn(steps=16, hits=(0,)), nudge_strip=NudgeStrip(values=(-50,)))
    first, second = (
        render(score_with(early), 1, Window(first_bar=bar, bars=1)).starts.tolist() for bar in (0, 1)
    )
    assert first == [0, BAR - STEP // 2]
    assert second == [2 * BAR - STEP // 2]


def test_a_tied_note_lasts_until_the_next_hit():
    tied = lane(source=Drawn(steps=16, hits=(2, 9)), length_strip=LengthStrip(values=(0,) * 16))
    assert heard(tied).lengths.tolist() == [7 * STEP, 9 * STEP]
    once = tied.model_copy(update={"once": Once()})
    assert heard(once, 1, bars=1).lengths.tolist() == [7 * STEP, 7 * STEP]  # its pass ends
    rolled = tied.model_copy(update={"ratchet_strip": RatchetStrip(values=(None, None, 2))})
    assert heard(rolled).lengths.tolist() == [STEP // 2, 6 * STEP + STEP // 2, 9 * STEP]


def test_four_hundred_percent_is_cut_by_the_next_note_of_the_pitch():
    long = lane(source=SIXTEEN, length_strip=LengthStrip(values=(400,) * 16))
    assert set(heard(long).lengths.tolist()) == {STEP}
    (drawn,) = picture(score_with(long), 1, Window(bars=1)).lanes
    assert set(drawn.lengths) == {4 * STEP}  # the thread shows what is asked for


def test_humanise_strays_in_milliseconds_by_the_tempo():
    def late(tempo):
        one = lane(source=Euclidean(hits=4, steps=4), step_value=StepValue(note=4), humanise=Humanise(ms=10))
        starts = heard(one, 64, tempo=tempo).starts
        quarters = starts / 13440 - np.round(starts / 13440)
        return quarters * 60_000 / tempo

    assert np.abs(late(120.0)).max() <= 20.05
    assert 7 < late(120.0).std() < 10.5
    assert late(60.0)[8:] == pytest.approx(late(120.0)[8:], abs=0.1)


# ---- Chance ----


def test_a_cycle_rule_lets_a_lane_sound_in_one_of_so_many_cycles():
    rule = CycleRule(nth=2, of=3)
    starts = heard(lane(source=SIXTEEN, cycle_rule=rule), 6).starts
    assert set((starts // BAR).tolist()) == {1, 4}
    one = heard(lane(source=SIXTEEN, step_rules=(StepRule(step=0, rule=rule),)), 6).starts
    assert [start // BAR for start in one.tolist() if start % BAR == 0] == [1, 4]


def test_a_restart_begins_the_next_cycle_number():
    short = lane(source=Euclidean(hits=12, steps=12), once=Once(), cycle_rule=CycleRule(nth=2, of=2))
    starts = heard(short, 4, bars=1).starts
    assert set((starts // BAR).tolist()) == {1, 3}


# ---- Channel and note ----


def test_own_channel_and_note_go_before_the_kits():
    events = heard(lane(source=Drawn(steps=16, hits=(0,)), channel=3, note=61))
    assert (events.channels.tolist(), events.pitches.tolist()) == ([3], [61])
