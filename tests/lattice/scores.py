"""Scores for tests: any at all, and a few that are known."""

from typing import Any

from hypothesis import assume
from hypothesis import strategies as st

from lattice.document import (
    DOCKSIDE,
    Echo,
    Euclidean,
    Lane,
    Meter,
    Reply,
    Rests,
    Score,
)
from lattice.document.pitched import PITCHED
from lattice.render.size import MAX_NOTES_AT_ONCE, notes_of_lane
from lattice.steps.lane_steps import steps_of_lanes
from tests.lattice.lane_fields import (
    clocks,
    edits,
    expression,
    keys_played,
    melodies,
    progressions,
    rules,
    scales,
    step_values,
    swings,
    thins,
)

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
@st.composite
def lanes_called(draw: st.DrawFn, lane_id: str, others: tuple[str, ...] = ()) -> Lane:
    """Any lane of that id; perhaps made from one of *others*, or playing its notes."""
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
        voice=draw(st.sampled_from(VOICES) | st.sampled_from(list(PITCHED))),
        **draw(melodies(others)),
        source=source,
        rotate=draw(st.integers(-127, 127)),
        complement=draw(st.booleans()),
        busy=0 if isinstance(source, Rests | Echo | Reply) else draw(st.just(0) | st.integers(-100, 100)),
        thin=draw(st.none() | thins),
        edits=draw(edits),
        **clock,
        velocity=draw(st.integers(1, 127)),
        length_percent=draw(st.integers(1, 400)),
        chance_percent=draw(st.integers(0, 100)),
        **draw(expression),
        keys=draw(keys_played()),
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
    drawn = score(
        *lanes,
        meter=draw(meters),
        step_value=draw(step_values),
        bars=draw(st.integers(1, 8)),
        swing=draw(swings),
        scale=draw(scales),
        progression=draw(st.none() | progressions),
    )
    assume(is_light(drawn))
    return drawn


def is_light(asked: Score, bars: int = 4) -> bool:
    """Return whether several times so many bars of a score can be rendered at once."""
    end = bars * asked.meter.bar_ticks
    return (
        sum(notes_of_lane(lane_steps, asked, 0, end) for lane_steps in steps_of_lanes(asked, 1))
        < MAX_NOTES_AT_ONCE / 8
    )
