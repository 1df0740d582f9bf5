"""Scores for tests: any at all, and a few that are known."""

from typing import Any

from hypothesis import strategies as st

from lattice.document import (
    DOCKSIDE,
    BarSpan,
    Drawn,
    Edit,
    Euclidean,
    Lane,
    Meter,
    NoteSpan,
    Numbered,
    Score,
    StepValue,
    Thin,
    Thrown,
)
from lattice.document.step_value import KINDS, NOTES

VOICES = [voice.id for voice in DOCKSIDE.voices]


def lane(lane_id: str = "thud", **fields: Any) -> Lane:
    """Return a lane of four in sixteen, or as *fields* say."""
    voice = lane_id if lane_id in VOICES else "thud"
    return Lane(
        **{"id": lane_id, "name": lane_id.title(), "voice": voice, "source": Euclidean(hits=4, steps=16)}
        | fields
    )


def score(*lanes: Lane, **fields: Any) -> Score:
    """Return a score of *lanes* in 4/4 at 112."""
    return Score(**{"tempo": 112.0, "kit": DOCKSIDE, "lanes": lanes} | fields)


# Notes longer than a 16th of a 64th, so that no window holds more steps than a test has patience for.
step_values = st.builds(
    StepValue,
    note=st.sampled_from([note for note in NOTES if note <= 32]),
    kind=st.sampled_from(list(KINDS)),
    multiplier=st.integers(1, 16),
    divisor=st.integers(1, 7),
)
drawn = st.integers(1, 128).flatmap(
    lambda steps: st.builds(
        Drawn,
        steps=st.just(steps),
        hits=st.sets(st.integers(0, steps - 1)).map(lambda hits: tuple(sorted(hits))),
    )
)
euclideans = st.integers(1, 128).flatmap(
    lambda steps: st.builds(Euclidean, hits=st.integers(0, steps), steps=st.just(steps))
)


counts = st.integers(1, 128).flatmap(lambda steps: st.tuples(st.integers(0, steps), st.just(steps)))
numbereds = st.builds(
    lambda count, number: Numbered(hits=count[0], steps=count[1], number=str(number)),
    counts,
    st.integers(0, 10**39),
)
throwns = st.builds(
    lambda count, throw: Thrown(hits=count[0], steps=count[1], throw=throw), counts, st.integers(1, 999_999)
)
sources = drawn | euclideans | numbereds | throwns
thins = st.integers(2, 32).flatmap(
    lambda every: st.builds(
        Thin,
        keeps=st.sampled_from(["only", "without"]),
        every=st.just(every),
        first=st.integers(1, every),
        each_cycle=st.booleans(),
    )
)
spans = st.builds(BarSpan, bars=st.integers(1, 16)) | st.builds(NoteSpan, value=step_values)
timings = (
    st.just({})
    | step_values.map(lambda value: {"step_value": value})
    | spans.map(lambda span: {"span": span})
)
edits = st.dictionaries(st.integers(0, 127), st.booleans(), max_size=4).map(
    lambda forced: tuple(Edit(step=step, hit=hit) for step, hit in sorted(forced.items()))
)


def _lanes_called(lane_id: str, timing: dict[str, Any]) -> st.SearchStrategy[Lane]:
    return st.builds(
        Lane,
        id=st.just(lane_id),
        name=st.just(lane_id),
        voice=st.sampled_from(VOICES),
        source=sources,
        rotate=st.integers(-127, 127),
        complement=st.booleans(),
        thin=st.none() | thins,
        edits=edits,
        **{field: st.just(value) for field, value in timing.items()},
        velocity=st.integers(1, 127),
        length_percent=st.integers(1, 400),
        chance_percent=st.integers(0, 100),
        mute=st.booleans(),
        solo=st.booleans(),
    )


def lanes_called(lane_id: str) -> st.SearchStrategy[Lane]:
    """Return a strategy for any lane of that id."""
    return timings.flatmap(lambda timing: _lanes_called(lane_id, timing))


meters = st.builds(Meter, numerator=st.integers(1, 9), denominator=st.sampled_from([2, 4, 8, 16]))
dice = st.integers(0, 999_999_999)


@st.composite
def scores(draw: st.DrawFn, min_lanes: int = 0) -> Score:
    """Any score of up to four lanes."""
    count = draw(st.integers(min_lanes, 4))
    lanes = tuple(draw(lanes_called(f"lane-{number}")) for number in range(count))
    return score(*lanes, meter=draw(meters), step_value=draw(step_values))
