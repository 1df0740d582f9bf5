from fractions import Fraction
from math import ceil, floor

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from lattice.around import candidate
from lattice.document import DocumentError, Drawn, Euclidean, Score, read
from lattice.document.detour import (
    PACES,
    WAY_NAMES,
    HeldDetour,
    OnlyDetour,
    PaceDetour,
    PatternDetour,
    RepeatDetour,
    ShiftDetour,
    Variation,
)
from lattice.document.feel import Humanise
from lattice.document.step_value import StepValue
from lattice.render.events import render
from lattice.render.window import Window
from tests.lattice.scores import dice, is_light, lane, score, scores

BAR, BEAT, SIXTEENTH = 53760, 13440, 3360
FOUR = lane("thud", source=Drawn(steps=16, hits=(0, 4, 8, 12)))
RUN = lane("bell", voice="bell", source=Euclidean(hits=7, steps=13), chance_percent=60)
SUNG = lane("reed", voice="low-reed", source=Euclidean(hits=3, steps=8))
BEAT_OF_THREE = score(FOUR, RUN, SUNG, bars=4)


def of_pattern(detour, **fields) -> PatternDetour:
    return PatternDetour(detour=detour, **{"bars": 1, "every": 2} | fields)


def rows(asked: Score, bars: int = 4, first: int = 0, its_dice: int = 5) -> list[tuple[int, ...]]:
    events = render(asked, its_dice, Window(first_bar=first, bars=bars))
    columns = (
        events.lanes,
        events.starts,
        events.lengths,
        events.pitches,
        events.velocities,
        events.straights,
    )
    return list(zip(*(column.tolist() for column in columns), strict=True))


def with_(asked: Score, *detours: PatternDetour, held: tuple[HeldDetour, ...] = ()) -> Score:
    return asked.model_copy(update={"detours": detours, "held_detours": held})


lengths = st.sampled_from(
    [StepValue(note=4), StepValue(note=8), StepValue(note=16, kind="triplet"), StepValue(note=2, divisor=7)]
)
detours = (
    st.builds(Variation, distance=st.integers(1, 100), throw=st.integers(1, 99), number=st.integers(0, 99))
    | st.builds(RepeatDetour, length=lengths)
    | st.builds(ShiftDetour, degrees=st.integers(-7, 7), semitones=st.integers(-7, 7))
    | st.builds(PaceDetour, times=st.sampled_from(list(PACES)))
    | st.just(OnlyDetour(lanes=("lane-0",)))
)
of_patterns = st.integers(1, 3).flatmap(
    lambda every: st.builds(
        PatternDetour, detour=detours, bars=st.integers(1, every), every=st.just(every), fresh=st.booleans()
    )
)
ticks = st.integers(0, 6 * BAR)
by_hand = st.tuples(ticks, st.integers(1, 2 * BAR), detours).map(
    lambda row: HeldDetour(detour=row[2], start=row[0], end=row[0] + row[1])
)


@given(
    scores(min_lanes=1),
    dice,
    st.lists(of_patterns, max_size=2),
    st.lists(by_hand, max_size=2),
    st.integers(1, 3),
)
def test_windows_join(asked, its_dice, own, held, cut):
    assume(is_light(asked, bars=20))
    there = with_(asked, *own, held=tuple(held))
    whole = rows(there, 4, its_dice=its_dice)
    assert whole == rows(there, cut, its_dice=its_dice) + rows(there, 4 - cut, cut, its_dice)


@given(scores(min_lanes=1), dice, st.lists(by_hand, min_size=1, max_size=3))
def test_before_and_after_it_every_note_is_where_it_would_have_been(asked, its_dice, held):
    assume(is_light(asked, bars=20))
    plain = rows_uncut(asked, its_dice)
    after = rows_uncut(with_(asked, held=tuple(held)), its_dice)

    def elsewhere(row):
        return not any(one.start <= row[5] < one.end for one in held)

    # Cut by other notes or not, they begin where they began, as hard and as high.
    for row in filter(elsewhere, plain):
        assert row in after
    for row in filter(elsewhere, after):
        assert row in plain


def rows_uncut(asked: Score, its_dice: int) -> set[tuple[int, ...]]:
    """Notes without their lengths, each lane on a channel of its own, so that none becomes one with another."""
    apart = tuple(
        one.model_copy(update={"channel": at + 1, "mute": False, "solo": False})
        for at, one in enumerate(asked.lanes)
    )
    asked = asked.model_copy(update={"lanes": apart})
    return {(row[0], row[1], 0, row[3], 0, row[5]) for row in rows(asked, 3, its_dice=its_dice)}


def test_a_repeat_plays_a_stretch_again_and_again_from_its_next_multiple_on():
    held = HeldDetour(detour=RepeatDetour(length=StepValue(note=8)), start=BEAT + 5000, end=2 * BAR)
    plain, heard = rows(BEAT_OF_THREE), rows(with_(BEAT_OF_THREE, held=(held,)))
    begins, length = BEAT + 2 * SIXTEENTH, 2 * SIXTEENTH  # at 5000 after the beat: the next eighth
    expected = [row for row in plain if row[5] < begins or row[5] >= 2 * BAR]
    for again in range(ceil((2 * BAR - begins) / length)):
        by = again * length
        expected += [
            (row[0], row[1] + by, row[2], row[3], row[4], row[5] + by)
            for row in plain
            if begins <= row[5] < begins + length and row[5] + by < 2 * BAR
        ]
    starts = sorted(row[1] for row in heard)
    assert starts == sorted(row[1] for row in expected)


@pytest.mark.parametrize("times", PACES)
def test_a_pace_plays_from_the_next_beat_on_faster_or_slower(times):
    held = HeldDetour(detour=PaceDetour(times=times), start=100, end=BAR + 77)
    heard = rows(with_(BEAT_OF_THREE, held=(held,)))
    plain = rows(BEAT_OF_THREE, 8)
    expected = [
        floor(BEAT + (row[1] - BEAT) / PACES[times] + Fraction(1, 2))
        for row in plain
        if BEAT <= row[5] < BEAT + (BAR + 77 - BEAT) * PACES[times]
    ]
    assert [row[1] for row in heard if BEAT <= row[5] < BAR + 77] == sorted(expected)
    assert [row for row in heard if row[5] < BEAT] == [row for row in plain if row[5] < BEAT]


def rounded(ticks: Fraction) -> int:
    return floor(ticks + Fraction(1, 2))


fractional = st.builds(StepValue, note=st.sampled_from([4, 8]), divisor=st.sampled_from([5, 7, 9, 11, 13]))


@given(fractional, fractional, st.integers(0, BEAT))
def test_a_repeat_of_no_whole_ticks_has_each_of_its_notes_once_each_time(step, length, pressed):
    steady = lane("thud", source=Euclidean(hits=1, steps=1), step_value=step)
    held = HeldDetour(detour=RepeatDetour(length=length), start=pressed)
    every, lasts = step.quarters * BEAT, length.quarters * BEAT
    since = ceil(pressed / lasts) * lasts
    wanted = [count * every for count in range(ceil(BAR / every)) if count * every < since]
    again = [
        one * every for one in range(ceil((since + lasts) / every)) if since <= one * every < since + lasts
    ]
    wanted += [since + count * lasts + one - since for count in range(ceil(BAR / lasts) + 1) for one in again]
    found = [row[1] for row in rows(with_(score(steady), held=(held,)), bars=1)]
    # The detour begins at a whole tick: one that stands between is still heard as it was.
    assert found == sorted({at for one in wanted if (at := rounded(one)) < BAR})


@given(fractional, st.sampled_from(sorted(PACES)))
def test_under_a_pace_each_time_is_rounded_once(step, times):
    steady = lane("thud", source=Euclidean(hits=1, steps=1), step_value=step)
    held = HeldDetour(detour=PaceDetour(times=times), start=0)
    every = step.quarters * BEAT / PACES[times]
    starts = [row[1] for row in rows(with_(score(steady), held=(held,)), bars=1)]
    assert starts == [at for count in range(ceil(BAR / every) + 1) if (at := rounded(count * every)) < BAR]


def test_a_shift_moves_melodic_lanes_alone_by_degrees_and_semitones():
    held = HeldDetour(detour=ShiftDetour(degrees=2, semitones=1), start=0, end=BAR)
    heard, plain = rows(with_(BEAT_OF_THREE, held=(held,)), 1), rows(BEAT_OF_THREE, 1)
    moved = BEAT_OF_THREE.lanes[2].model_copy(update={"degrees_up": 2, "semitones_up": 1})
    sung = rows(BEAT_OF_THREE.model_copy(update={"lanes": (FOUR, RUN, moved)}), 1)
    assert heard == sung != plain


def test_only_the_chosen_lanes_sound():
    held = HeldDetour(detour=OnlyDetour(lanes=("bell", "gone")), start=0, end=BAR)
    heard, plain = rows(with_(BEAT_OF_THREE, held=(held,))), rows(BEAT_OF_THREE)
    assert [row for row in heard if row[5] < BAR] == [row for row in plain if row[5] < BAR and row[0] == 1]
    gone = HeldDetour(detour=OnlyDetour(lanes=("gone",)), start=0, end=BAR)
    assert rows(with_(BEAT_OF_THREE, held=(gone,))) == plain


def test_a_variation_is_the_candidate_of_its_number():
    asked = Variation(distance=60, throw=3, number=8)
    held = HeldDetour(detour=asked, start=0, end=BAR)
    changes = candidate(BEAT_OF_THREE, 60, WAY_NAMES, 3, 8)
    lanes = tuple(one.model_copy(update=changes.get(one.id, {})) for one in BEAT_OF_THREE.lanes)
    there = rows(BEAT_OF_THREE.model_copy(update={"lanes": lanes}))
    heard = rows(with_(BEAT_OF_THREE, held=(held,)))
    assert [row for row in heard if row[5] < BAR] == [row for row in there if row[5] < BAR]
    assert [row for row in heard if row[5] >= BAR] == [row for row in rows(BEAT_OF_THREE) if row[5] >= BAR]


def test_a_detour_of_the_pattern_holds_over_the_last_bars_of_every_so_many():
    own = of_pattern(OnlyDetour(lanes=("thud",)), bars=1, every=4)
    heard, plain = rows(with_(BEAT_OF_THREE, own), 9), rows(BEAT_OF_THREE, 9)
    away = [(row[5] // BAR) % 4 == 3 for row in plain]
    assert heard == [row for row, there in zip(plain, away, strict=True) if not there or row[0] == 0]


def test_a_variation_is_fresh_each_time_or_always_the_same():
    same, fresh = (
        rows(with_(score(FOUR, bars=1), of_pattern(Variation(distance=100, throw=5), fresh=is_fresh)), 16)
        for is_fresh in (False, True)
    )

    def bars(heard):
        return {tuple(row[1] % BAR for row in heard if row[5] // BAR == bar) for bar in range(1, 16, 2)}

    assert len(bars(same)) == 1
    assert len(bars(fresh)) > 4


def test_hands_go_before_the_pattern_and_the_later_before_the_earlier():
    own = of_pattern(OnlyDetour(lanes=("thud",)), bars=1, every=1)
    first = HeldDetour(detour=OnlyDetour(lanes=("bell",)), start=0)
    later = HeldDetour(detour=OnlyDetour(lanes=("reed",)), start=BEAT)
    heard = rows(with_(BEAT_OF_THREE, own, held=(first, later)), 1)
    assert {row[0] for row in heard if row[5] < BEAT} == {1}
    assert {row[0] for row in heard if row[5] >= BEAT} == {2}


def test_pace_and_repeat_together_repeat_what_the_pace_plays():
    held = (
        HeldDetour(detour=PaceDetour(times="2"), start=0, end=BAR),
        HeldDetour(detour=RepeatDetour(length=StepValue(note=4)), start=0, end=BAR),
    )
    heard = rows(with_(score(FOUR, bars=1), held=held), 1)
    assert [row[1] for row in heard] == [at * BEAT // 2 for at in range(8)]


def test_luck_is_as_it_would_have_been_while_it_holds():
    shift = HeldDetour(detour=ShiftDetour(degrees=1), start=0, end=BAR)
    heard, plain = rows(with_(BEAT_OF_THREE, held=(shift,))), rows(BEAT_OF_THREE)
    assert [row for row in heard if row[0] == 1] == [row for row in plain if row[0] == 1]


def test_what_strays_out_of_its_detour_still_belongs_to_it():
    loose = lane("thud", source=Drawn(steps=16, hits=(0, 15)), humanise=Humanise(ms=50))
    held = HeldDetour(detour=OnlyDetour(lanes=("bell",)), start=0, end=BAR)
    asked = with_(score(loose, lane("bell", voice="bell", source=Drawn(steps=16))), held=(held,))
    assert {row[5] // BAR for row in rows(asked, 3)} == {1, 2, 3}


@pytest.mark.parametrize(
    ("detour", "said"),
    [
        ({"kind": "repeat", "length": {"note": 64, "divisor": 16}}, "at least a triplet 64th"),
        ({"kind": "pace", "times": "7"}, "'2', '3/2' or '1/2'"),
        ({"kind": "only", "lanes": []}, "at least 1"),
        ({"kind": "variation", "ways": ["sideways"]}, "beside"),
    ],
)
def test_what_no_detour_may_be_is_refused(detour, said):
    asked = score(FOUR).model_dump(mode="json") | {"detours": [{"detour": detour}]}
    with pytest.raises(DocumentError, match=said):
        read(Score, asked)


def test_more_bars_than_every_so_many_are_refused():
    with pytest.raises(ValueError, match="more than there are"):
        PatternDetour(detour=ShiftDetour(degrees=1), bars=3, every=2)


def test_a_detour_far_out_costs_what_one_at_the_start_costs():
    own = of_pattern(Variation(distance=40), bars=1, every=8, fresh=True)
    far = render(with_(BEAT_OF_THREE, own), 1, Window(first_bar=900_000, bars=8))
    assert np.all(far.starts >= 900_000 * BAR)
    assert len(far)
