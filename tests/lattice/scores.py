"""Scores for tests: any at all, and a few that are known."""

from typing import Any

from hypothesis import strategies as st

from lattice.document import (
    DOCKSIDE,
    BarRestart,
    BarSpan,
    Drawn,
    Echo,
    Edit,
    Euclidean,
    Lane,
    Meter,
    Moved,
    NoteSpan,
    Numbered,
    Once,
    PassRestart,
    Reply,
    Rests,
    Score,
    StepChance,
    StepRange,
    StepValue,
    Thin,
    Thrown,
)
from lattice.document.step_value import KINDS, NOTES
from lattice.document.timing import DIRECTIONS

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
throw_numbers = st.integers(1, 999_999)
throwns = st.builds(
    lambda count, throw: Thrown(hits=count[0], steps=count[1], throw=throw), counts, throw_numbers
)
partly_thrown = st.builds(
    lambda of, percent, throw, was: Thrown(
        hits=len(of.hits), steps=of.steps, throw=throw, moved=Moved(percent=percent, of=of), was=was
    ),
    drawn,
    st.integers(0, 100),
    throw_numbers,
    st.none() | euclideans | numbereds,
)
rules = drawn | euclideans | numbereds | throwns | partly_thrown
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
lengths_of_steps = (
    st.just({})
    | step_values.map(lambda value: {"step_value": value})
    | spans.map(lambda span: {"span": span})
)
onces = st.builds(Once, count=st.integers(0, 3), note=st.just(64))  # within the shortest of bars
orders = st.fixed_dictionaries(
    {},
    optional={
        "once": onces,
        "step_range": st.builds(StepRange, first=st.integers(0, 127), last=st.integers(0, 127)),
        "direction": st.sampled_from(DIRECTIONS),
        "restart": st.builds(BarRestart, bars=st.integers(1, 5)) | st.builds(PassRestart),
    },
)
clocks = st.builds(lambda length, order: length | order, lengths_of_steps, orders)


def _by_step(model, **fields):
    return st.dictionaries(st.integers(0, 127), st.builds(dict, **fields), max_size=4).map(
        lambda rows: tuple(model(step=step, **row) for step, row in sorted(rows.items()))
    )


edits = _by_step(Edit, hit=st.booleans())
step_chances = _by_step(StepChance, percent=st.integers(0, 100))


@st.composite
def lanes_called(draw: st.DrawFn, lane_id: str, others: tuple[str, ...] = ()) -> Lane:
    """Any lane of that id; perhaps made from one of *others*."""
    made = st.nothing()
    if others:
        of = st.sampled_from(others)
        made = (
            st.builds(Rests, of=of)
            | st.builds(Echo, of=of, shift=st.integers(0, 127))
            | st.builds(Reply, of=of, every=st.integers(1, 32))
        )
    source = draw(rules | made)
    clock = {} if isinstance(source, Rests | Echo | Reply) else draw(clocks)
    return Lane(
        id=lane_id,
        name=lane_id,
        voice=draw(st.sampled_from(VOICES)),
        source=source,
        rotate=draw(st.integers(-127, 127)),
        complement=draw(st.booleans()),
        thin=draw(st.none() | thins),
        edits=draw(edits),
        **clock,
        velocity=draw(st.integers(1, 127)),
        length_percent=draw(st.integers(1, 400)),
        chance_percent=draw(st.integers(0, 100)),
        step_chances=draw(step_chances),
        luck_bars=draw(st.none() | st.integers(1, 8)),
        anchored=draw(st.booleans()),
        mute=draw(st.booleans()),
        solo=draw(st.booleans()),
    )


meters = st.builds(Meter, numerator=st.integers(1, 9), denominator=st.sampled_from([2, 4, 8, 16]))
dice = st.integers(0, 999_999_999)


@st.composite
def scores(draw: st.DrawFn, min_lanes: int = 0, *, made: bool = True) -> Score:
    """Any score of up to four lanes, some of them *made* from those before."""
    count = draw(st.integers(min_lanes, 4))
    ids = tuple(f"lane-{number}" for number in range(count))
    lanes = tuple(
        draw(lanes_called(lane_id, ids[:number] if made else ())) for number, lane_id in enumerate(ids)
    )
    return score(*lanes, meter=draw(meters), step_value=draw(step_values), bars=draw(st.integers(1, 8)))
