import subprocess
import sys

import numpy as np
import pytest
from hypothesis import given, reject
from hypothesis import strategies as st

from lattice.around import candidate, candidates
from lattice.around.ways import WAY_NAMES
from lattice.document import (
    Accent,
    DocumentError,
    Drawn,
    Euclidean,
    GroundSource,
    Numbered,
    Rests,
    Score,
    Thrown,
    VelocityStrip,
    read,
)
from lattice.document.source import Made
from lattice.screen.measured import measures
from lattice.steps.lane_steps import steps_of_lanes
from lattice.steps.numbered import number_of
from lattice.steps.source_hits import source_hits
from tests.lattice.scores import lane, score, scores

FIVE = lane("thud", source=Euclidean(hits=5, steps=16))
BACKBEAT = lane("chain", source=Drawn(steps=16, hits=(4, 12)))
BY_NUMBER = lane("clink", source=Numbered(hits=7, steps=16, number="77"))
RESTS = lane("bell", source=Rests(of="thud"))
BEAT = score(FIVE, BACKBEAT, BY_NUMBER, RESTS, bars=2)

some_ways = st.sets(st.sampled_from(WAY_NAMES), min_size=1).map(sorted)


def changed(asked: Score, changes) -> Score:
    lanes = tuple(one.model_copy(update=changes.get(one.id, {})) for one in asked.lanes)
    return read(Score, asked.model_copy(update={"lanes": lanes}).model_dump(mode="json"))


def heard(asked: Score) -> list[object]:
    """When each lane that is heard hits in the first bars, before chance, and how hard before feel."""
    end = asked.bars * asked.meter.bar_ticks
    return [
        None if is_unheard(asked, lane_steps.lane) else struck(lane_steps, end)
        for lane_steps in steps_of_lanes(asked, 0)
    ]


def is_unheard(asked: Score, lane) -> bool:
    solo = any(one.solo for one in asked.lanes)
    moved = any(one.control == "mute" and not one.off for one in lane.movements)
    pools = [one.arpeggio.pool for one in asked.lanes if one.arpeggio]
    silent = (lane.mute and not moved) or (solo and not lane.solo)
    return silent and all(getattr(pool, "of", None) != lane.id for pool in pools)


def struck(lane_steps, end: int) -> object:
    lane, strip, found = lane_steps.lane, lane_steps.lane.velocity_strip, []
    counts = np.arange(lane_steps.clock.first_at(end))
    for number, hit in zip(
        lane_steps.numbers(counts).tolist(), lane_steps.hits(0, counts.size).tolist(), strict=True
    ):
        if not hit:
            found.append(None)
            continue
        values = strip.values if strip else ()
        own = values[number] if number < len(values) else None
        plain = (
            lane_steps.velocities
            if isinstance(lane_steps.velocities, int)
            else int(lane_steps.velocities[number])
        )
        found.append(plain if own is None else own)
    is_free = strip is not None and strip.free is not None
    given = set(strip.values if is_free else found) - {None}
    says = lane.accent is not None and (
        None in strip.values if is_free else False or given - {lane.accent.velocity}
    )
    hits = [one is not None for one in found]
    return lane_steps.steps, hits, strip.values if is_free else found, lane.accent if says else None


def found_of(asked, *rest, **limits):
    try:
        return candidates(asked, *rest, **limits)
    except DocumentError:
        reject()


@given(scores(min_lanes=1), st.integers(1, 100), some_ways, st.integers(1, 10**6))
def test_candidates_are_documents_distinct_and_leave_what_is_not_free_alone(asked, distance, ways, throw):
    answer = found_of(asked, 12, distance, ways, throw)
    seen = [heard(asked)]
    for one in answer.found:
        there = changed(asked, one.changes)
        assert heard(there) not in seen
        seen.append(heard(there))
        for before, after in zip(asked.lanes, there.lanes, strict=True):
            if before.anchored or isinstance(before.source, Made) or before.clip:
                assert before == after


@given(scores(min_lanes=1), st.integers(1, 100), some_ways, st.integers(1, 10**6))
def test_asking_for_more_or_within_limits_changes_none(asked, distance, ways, throw):
    few, many = (found_of(asked, count, distance, ways, throw).found for count in (5, 15))
    assert [one.number for one in many[: len(few)]] == [one.number for one in few]
    assert many[: len(few)] == few
    if not many:  # nothing that is heard can change
        return
    hits = sorted(one.hits_a_bar for one in many)
    within = found_of(asked, 15, distance, ways, throw, least=hits[0], most=hits[len(hits) // 2]).found
    assert [one for one in many if one.hits_a_bar <= hits[len(hits) // 2]] == [
        one for one in within if one.number <= many[-1].number
    ]
    assert all(hits[0] <= one.hits_a_bar <= hits[len(hits) // 2] for one in within)
    for one in many:
        assert candidate(asked, distance, ways, throw, one.number) == one.changes


@given(scores(min_lanes=1), some_ways, st.integers(1, 10**6))
def test_measures_are_those_of_each_lane_by_itself(asked, ways, throw):
    asked = asked.model_copy(update={"bars": min(2, asked.bars)})
    answer = found_of(asked, 4, 60, ways, throw)
    for one in (answer.start, *answer.found):
        there = changed(asked, one.changes)
        each = [measures(there, 0, lane.id, asked, 0) for lane in there.lanes]
        hits = sum(its.hits_a_bar for its in each)
        assert one.hits_a_bar == pytest.approx(hits)
        over = hits or 1
        assert one.syncopation == pytest.approx(sum(m.hits_a_bar * m.syncopation for m in each) / over)
        if hits:
            assert one.evenness == pytest.approx(sum(m.hits_a_bar * m.evenness for m in each) / over)
        assert one.distance == pytest.approx(moved(asked, there))


def moved(one: Score, other: Score) -> float:
    """Hits a bar that moved, came or went: the larger number of those that only one of the two has."""
    end = one.bars * one.meter.bar_ticks
    total = 0
    for here, there in zip(steps_of_lanes(one, 0), steps_of_lanes(other, 0), strict=True):
        was, now = (
            set(
                lane_steps.clock.starts(
                    lane_steps.hits(0, lane_steps.clock.first_at(end)).nonzero()[0]
                ).tolist()
            )
            for lane_steps in (here, there)
        )
        total += max(len(was - now), len(now - was))
    return total / one.bars


def test_the_same_throw_finds_the_same_in_every_process():
    said = "from tests.lattice.around.test_candidates import *; print(candidates(BEAT, 20, 40, WAY_NAMES, 7))"
    there = subprocess.run(
        [sys.executable, "-c", said],
        capture_output=True,
        text=True,
        check=True,
        env={"PYTHONPATH": ".", "PYTHONHASHSEED": "7"},
    )
    assert there.stdout.strip() == str(candidates(BEAT, 20, 40, WAY_NAMES, 7))


# ---- The ways, one by one ----


def each_change(asked, way, distance=40, count=150):
    return [candidate(asked, distance, [way], 3, number) for number in range(count)]


def test_beside_moves_hits_a_step_or_two_and_no_more_than_the_target():
    for change in each_change(score(FIVE), "beside"):
        source = change["thud"]["source"]
        now, was = source_hits(source, "thud"), source_hits(FIVE.source, "thud")
        assert isinstance(source, Numbered)
        assert 1 <= len(set(was) - set(now)) <= 2  # of 5 hits at most 40 %
        for came in set(now) - set(was):
            assert any((came - gone) % 16 in (1, 2, 14, 15) for gone in set(was) - set(now))
    assert {type(change["chain"]["source"]) for change in each_change(score(BACKBEAT), "beside")} == {Drawn}


def test_a_throw_moves_as_many_as_a_throw_by_hand():
    for change in each_change(score(FIVE), "throw"):
        source = change["thud"]["source"]
        assert isinstance(source, Thrown)
        assert source.moved.percent <= 40
        assert source.was == FIVE.source


def test_busier_or_sparser_by_up_to_the_target():
    busy = [change["thud"]["busy"] for change in each_change(score(FIVE), "busier or sparser")]
    assert all(1 <= abs(one) <= 40 for one in busy)
    assert min(busy) < 0 < max(busy)
    full = lane("thud", busy=100)
    assert all(change["thud"]["busy"] <= 100 for change in each_change(score(full), "busier or sparser"))


def test_turns_go_up_to_their_share_of_the_cycle():
    turned = {change["thud"]["rotate"] for change in each_change(score(FIVE), "turn", distance=60)}
    assert turned == {-4, -3, -2, -1, 1, 2, 3, 4}
    small = {change["thud"]["rotate"] for change in each_change(score(FIVE), "turn", distance=5)}
    assert small == {-1, 1}


def test_counts_change_by_a_little_and_numbers_to_any_other():
    counted = [change["thud"]["source"] for change in each_change(score(FIVE), "count", distance=60)]
    assert {(one.hits, one.steps) for one in counted} == {
        (3, 16), (4, 16), (6, 16), (7, 16), (5, 14), (5, 15), (5, 17), (5, 18),
    }  # fmt: skip
    by_number = [int(change["clink"]["source"].number) for change in each_change(score(BY_NUMBER), "count")]
    assert len(set(by_number)) > 120
    assert 77 not in by_number


def test_two_lanes_of_as_many_steps_change_places():
    for change in each_change(score(FIVE, BACKBEAT), "exchange"):
        assert change == {"thud": {"source": BACKBEAT.source}, "chain": {"source": FIVE.source}}


def test_accents_and_velocities_move_round():
    accented = score(lane("thud", accent=Accent(every=3)))
    assert {change["thud"]["accent"].first for change in each_change(accented, "accents")} == {2, 3}
    struck = score(lane("thud", velocity_strip=VelocityStrip(values=(100, 50))))
    strips = {change["thud"]["velocity_strip"].values for change in each_change(struck, "accents")}
    assert len(strips) == 15
    assert all(sorted(map(str, one)) == sorted(map(str, (100, 50, *[None] * 14))) for one in strips)


def test_a_lane_on_a_ground_stays_on_it():
    on = lane("thud", source=GroundSource(ground="swell", part="low"))
    for change in each_change(score(on), "turn") + each_change(score(on), "busier or sparser"):
        assert "source" not in change["thud"]
    with pytest.raises(DocumentError, match="no free lane can go beside"):
        candidate(score(on), 20, ["beside"], 1, 0)


def test_a_number_is_given_to_what_a_hand_could_have_drawn():
    change = each_change(score(FIVE), "beside")[0]["thud"]["source"]
    assert int(change.number) == number_of(source_hits(change, ""), 16)


# ---- What is refused, and what says why ----


@pytest.mark.parametrize(
    ("asked", "fields", "said"),
    [
        (score(), {}, "add a lane first"),
        (score(lane("thud", anchored=True)), {}, "free one of them first"),
        (score(FIVE), {"ways": []}, "choose at least one"),
        (score(BACKBEAT), {"ways": ["count"]}, "no free lane can go count"),
        (score(FIVE), {"distance": 0}, "1 to 100 %"),
        (score(FIVE), {"count": 1001}, "1 to 1,000 at once"),
        (score(FIVE), {"least": 9, "most": 8}, "more than the most"),
    ],
)
def test_what_cannot_be_asked_says_what_to_do(asked, fields, said):
    with pytest.raises(DocumentError, match=said):
        candidates(asked, **{"count": 5, "distance": 30, "ways": WAY_NAMES, "throw": 1} | fields)


def test_limits_that_none_meets_say_how_many_are_left_out_and_what_is_nearest():
    answer = candidates(BEAT, 10, 30, WAY_NAMES, 1, least=1000)
    assert answer.found == []
    assert answer.too_few + answer.heard_already == answer.looked_at
    around = candidates(BEAT, 200, 30, WAY_NAMES, 1).found
    assert answer.nearest == max(one.hits_a_bar for one in around if one.number < answer.looked_at)
