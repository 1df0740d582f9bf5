from itertools import pairwise
from time import perf_counter

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from lattice.document import DocumentError, Drawn, Euclidean, Lane, Rests, Score, StepValue, read
from lattice.document.movement import CONTROLS, MAX_POINTS, Movement, Point, control_limits
from lattice.render.events import render
from lattice.render.notes import note_of
from lattice.render.overlaps import Events, resolve_overlaps
from lattice.render.pipeline import play_all
from lattice.render.stages import of_the_sound
from lattice.render.window import Window
from lattice.steps.muting import silent_lanes
from lattice.theory.scales import folded
from tests.lattice.moves import as_if, edges, moved, movement
from tests.lattice.scores import dice, is_light, lane, score, scores

BAR, BEAT, SIXTEENTH = 53760, 13440, 3360
NAMES = ("lanes", "starts", "lengths", "pitches", "velocities", "straights")


def rows(asked: Score, bars: int = 4, first: int = 0, its_dice: int = 5) -> list[tuple[int, ...]]:
    return _rows(render(asked, its_dice, Window(first_bar=first, bars=bars)))


def _rows(events: Events) -> list[tuple[int, ...]]:
    return list(zip(*(getattr(events, name).tolist() for name in NAMES), strict=True))


def moves(control: str, *points: tuple[int, object], **fields: object) -> Movement:
    return Movement(control=control, points=tuple(Point(*point) for point in points), **fields)


def light(asked: Score, bars: int = 8) -> bool:
    """Whether it may be rendered at once whatever its movements make of it."""
    every = [*asked.movements, *(its for one in asked.lanes for its in one.movements)]
    bar = asked.meter.bar_ticks
    ends = {tick for one in every for tick in edges(one, bar, bars * bar)}
    return len(ends) < 60 and all(is_light(as_if(asked, tick), bars) for tick in {0, *ends})


def literally(asked: Score, its_dice: int, bars: int) -> list[tuple[int, ...]]:
    """Cut time at all points, play each stretch as if all had always been so, take the notes whose steps lie in it."""
    bar = asked.meter.bar_ticks
    end = (bars + 6) * bar
    cut = {0, end}
    for one in (*asked.movements, *(mine for its in asked.lanes for mine in its.movements)):
        cut |= {tick for tick in edges(one, bar, end) if 0 < tick < end}
    parts = []
    ticks = sorted(cut)
    for start, stop in pairwise(ticks):
        there = as_if(asked, start)
        silent = silent_lanes(there.lanes)
        for number, (line, played) in enumerate(play_all(there, its_dice, Window(bars=bars + 12))):
            if line.lane.id in silent:
                continue
            notes = played.notes.take((played.notes.straights >= start) & (played.notes.straights < stop))
            channel, note = note_of(line.lane, there)
            size = notes.starts.size
            parts.append(
                Events(
                    np.full(size, number), notes.starts, notes.ends - notes.starts,
                    folded(note + notes.intervals), notes.velocities, notes.tunes,
                    np.full(size, channel), notes.straights,
                )
            )  # fmt: skip
    resolved = resolve_overlaps(Events.join(parts))
    return _rows(resolved.take(resolved.starts < bars * bar))


any_moved = scores(min_lanes=1).flatmap(moved)


@given(any_moved, dice)
def test_each_stretch_is_played_as_if_it_had_always_been_so(asked, its_dice):
    assume(light(asked, 16))
    assert rows(asked, 3, its_dice=its_dice) == literally(asked, its_dice, 3)


def rich(control: str) -> Score:
    """A score in which *control* has something to move, on a lane that another reads."""
    fields = {
        "source": Euclidean(hits=5, steps=12), "chance_percent": 80, "thin": {"every": 3, "first": 2, "keeps": "without"},
        "accent": {"every": 4, "first": 3}, "humanise": {"ms": 12, "velocity": 9}, "swing": {"percent": 58},
        "velocity_strip": {"values": [40, None, 90]}, "length_strip": {"values": [None, 500, 30]},
    }  # fmt: skip
    if control.startswith("arpeggio"):
        fields["arpeggio"] = {"pool": {"kind": "scale", "low": 0, "high": 4}}
    if control in ("source.x", "source.y"):
        fields["source"] = {"kind": "ground", "ground": "quayside", "part": "low", "x": 40, "y": 40}
    reed = read(
        Lane, lane("reed").model_dump(mode="json") | {"voice": "low-reed"} | {
            name: value.model_dump(mode="json") if isinstance(value, Euclidean) else value
            for name, value in fields.items()
        },
    )  # fmt: skip
    rests = lane("hiss", voice="hiss", source=Rests(of="reed"))
    reader = lane("buoy", voice="buoy", arpeggio={"pool": {"kind": "lane", "of": "reed"}})
    return score(reed, rests, reader, bars=2)


@pytest.mark.parametrize("control", sorted(set(CONTROLS) - of_the_sound()))
@given(data=st.data())
@settings(max_examples=3)
def test_each_control_makes_each_stretch_what_it_would_be(control, data):
    asked = rich(control)
    low, high = (0, 1) if CONTROLS[control].is_step_value else control_limits(CONTROLS[control], Lane)
    drawn = data.draw(movement(CONTROLS[control], Lane, 2 * BAR))
    if not (CONTROLS[control].words or CONTROLS[control].is_step_value):
        middle = moves(control, (BAR // 2, low + (high - low) * 2 // 3), (BAR, low + 1))
        there = with_first(asked, middle)
        assert rows(there, 2) != rows(asked, 2)
        assert rows(there, 2) == literally(there, 5, 2)
    there = with_first(asked, drawn)
    assume(light(there, 16))
    assert rows(there, 3) == literally(there, 5, 3)


def with_first(asked: Score, *movements: Movement) -> Score:
    first = asked.lanes[0].model_copy(update={"movements": movements})
    return asked.model_copy(update={"lanes": (first, *asked.lanes[1:])})


@given(any_moved, dice, st.integers(1, 3))
def test_windows_join(asked, its_dice, cut):
    assume(light(asked))
    whole = rows(asked, 4, its_dice=its_dice)
    assert whole == rows(asked, cut, its_dice=its_dice) + rows(asked, 4 - cut, cut, its_dice)


@given(scores(min_lanes=1), dice, st.sampled_from(sorted(CONTROLS)), st.data())
def test_one_value_throughout_is_the_document_with_that_value(asked, its_dice, control, data):
    drawn = data.draw(movement(CONTROLS[control], Lane))
    still = drawn.model_copy(update={"points": (Point(0, drawn.points[0].value),), "loop_bars": None})
    there = with_first(asked, still)
    assume(light(there))
    assert rows(there, 2, its_dice=its_dice) == rows(as_if(there, 0), 2, its_dice=its_dice)


def test_a_moved_step_value_never_loses_its_place_in_the_bar():
    hat = lane("hiss", voice="hiss", source=Euclidean(hits=1, steps=1),
               movements=(moves("step_value", (BEAT, StepValue(note=8, kind="triplet")), (2 * BEAT, StepValue())),))  # fmt: skip
    starts = [row[1] for row in rows(score(hat), 1)]
    assert starts == [
        *range(0, BEAT, SIXTEENTH),
        *range(BEAT, 2 * BEAT, BEAT // 3),
        *range(2 * BEAT, BAR, SIXTEENTH),
    ]


def test_a_loop_comes_again_and_holds_its_last_value_until_its_first_point():
    four = lane(
        "thud", source=Drawn(steps=16, hits=(0, 4, 8, 12)), movements=(moves("velocity", (BEAT, 20), (2 * BEAT, 60), loop_bars=1),)
    )  # fmt: skip
    assert [row[4] for row in rows(score(four), 2)] == [100, 20, 60, 60, 60, 20, 60, 60]


def test_muting_is_moved_and_no_hit_is_lost_beside_it():
    four = lane("thud", source=Drawn(steps=16, hits=(0, 4, 8, 12)), mute=True,
                movements=(moves("mute", (BEAT, "on"), (3 * BEAT, "muted")),))  # fmt: skip
    assert [row[1] for row in rows(score(four), 2)] == [BEAT, 2 * BEAT]


def test_what_is_switched_off_moves_nothing():
    four = lane("thud", movements=(moves("busy", (0, 100), off=True),))
    assert rows(score(four)) == rows(score(lane("thud")))


def test_the_transposition_of_a_pattern_moves_all_that_is_melodic_once():
    reed = lane("reed", voice="low-reed", source=Euclidean(hits=4, steps=16))
    reader = lane("buoy", voice="buoy", arpeggio={"pool": {"kind": "lane", "of": "reed"}}, length_percent=50)
    plain = score(lane("thud"), reed, reader)
    up = plain.model_copy(update={"movements": (moves("semitones_up", (BAR, 5)),)})
    before, after = rows(plain, 2), rows(up, 2)
    melodic = [one for one in zip(before, after, strict=True) if one[0][1] >= BAR and one[0][0]]
    assert {now[3] - was[3] for was, now in melodic} == {5}
    assert [row for row in before if row[0] == 0 or row[1] < BAR] == [
        row for row in after if row[0] == 0 or row[1] < BAR
    ]


def test_a_bar_far_away_costs_what_the_first_costs():
    hat = lane("hiss", voice="hiss", source=Euclidean(hits=5, steps=7),
               movements=(moves("busy", *((at * BEAT, at % 50) for at in range(64)), loop_bars=16),))  # fmt: skip

    def seconds(bar: int) -> float:
        began = perf_counter()
        rows(score(hat), 1, bar)
        return perf_counter() - began

    seconds(3)
    assert min(seconds(900_000 + at) for at in range(4)) < 20 * min(seconds(at) for at in range(4)) + 0.05


@pytest.mark.parametrize(
    ("movement", "said"),
    [
        ({"control": "busy", "points": [[0, 101]]}, "busy-ness goes from -100 to 100, got 101"),
        ({"control": "swagger", "points": [[0, 1]]}, "no control 'swagger'"),
        ({"control": "busy", "points": [[5, 1], [5, 2]]}, "in the order of time"),
        ({"control": "busy", "points": []}, "at least 1"),
        ({"control": "busy", "points": [[at, 1] for at in range(MAX_POINTS + 1)]}, "at most 4000"),
        ({"control": "step_value", "points": [[0, 3]]}, "takes the length of a step, got 3"),
        ({"control": "direction", "points": [[0, "sideways"]]}, "is one of forward"),
        ({"control": "busy", "points": [[0, {"note": 8}]]}, "got the length of a step"),
    ],
)
def test_a_movement_that_cannot_be_is_refused_by_name(movement, said):
    whole = lane("thud").model_dump(mode="json") | {"movements": [movement]}
    with pytest.raises(DocumentError, match="movements") as refusal:
        read(Score, score().model_dump(mode="json") | {"lanes": [whole]})
    assert said in str(refusal.value)
    assert refusal.value.problems[0].lane == "Thud"


def test_the_same_control_is_moved_once():
    whole = lane("thud").model_dump(mode="json")
    whole["movements"] = [{"control": "busy", "points": [[0, 1]]}] * 2
    with pytest.raises(DocumentError, match="busy-ness is moved twice"):
        read(Lane, whole)


def test_more_points_than_can_be_reckoned_with_at_once_are_refused():
    points = tuple((at * 13, at % 100) for at in range(MAX_POINTS))
    with pytest.raises(DocumentError, match="1,000 is the most: ask for fewer bars"):
        rows(score(lane("thud", movements=(moves("busy", *points),))))
