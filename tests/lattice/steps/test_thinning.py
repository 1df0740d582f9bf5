"""Thinning and hand edits, in played order."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lattice.document import Drawn, Edit, Thin
from lattice.steps.lane_steps import steps_of_lanes
from tests.lattice.lane_fields import thins
from tests.lattice.scores import lane, score, scores


def text(steps=24, **fields):
    """Return the first steps of a lane of three in eight, or as *fields* say."""
    one = lane(**{"source": Drawn(steps=8, hits=(0, 3, 6))} | fields)
    hits = steps_of_lanes(score(one), 1)[0].hits(0, steps)
    return "".join("x" if hit else "." for hit in hits)


@pytest.mark.parametrize(
    ("thin", "expected"),
    [
        # counted along the run: with three hits a cycle, each second one drifts
        (Thin(every=2), "x.....x....x....x.....x."),
        (Thin(every=2, first=2), "...x....x.....x....x...."),
        (Thin(every=2, keeps="without"), "...x....x.....x....x...."),
        # counted anew in each cycle
        (Thin(every=2, each_cycle=True), "x.....x.x.....x.x.....x."),
        (Thin(every=3, first=3, each_cycle=True), "......x.......x.......x."),
        (Thin(every=3, keeps="without"), "...x..x....x..x....x..x."),
    ],
)
def test_thinning_counts_hits_in_played_order(thin, expected):
    assert text(thin=thin) == expected


def test_edits_lie_on_top_of_thinning_and_are_not_counted():
    edits = (Edit(step=0, hit=False), Edit(step=1, hit=True))
    assert text(thin=Thin(every=2), edits=edits) == ".x....x..x.x.....x....x."


def test_edits_beyond_the_steps_lie_dormant():
    assert text(edits=(Edit(step=8, hit=True),)) == text()


@given(scores(min_lanes=1), thins, st.integers(0, 10**9))
def test_only_and_without_share_the_hits_between_them(score, thin, first):
    base = score.lanes[0].model_copy(update={"thin": None, "edits": ()})
    only, without, every = (
        steps_of_lanes(score.model_copy(update={"lanes": (base.model_copy(update={"thin": kept}),)}), 1)[
            0
        ].hits(first, first + 200)
        for kept in (
            thin.model_copy(update={"keeps": "only"}),
            thin.model_copy(update={"keeps": "without"}),
            None,
        )
    )
    assert ((only | without) == every).all()
    assert not (only & without).any()
