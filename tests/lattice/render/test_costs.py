"""Small questions that would take long are refused at once, with what is too much; the like within bounds are answered."""

from itertools import pairwise

import pytest

from lattice.around import candidates
from lattice.around.ways import WAY_NAMES
from lattice.document import Arpeggio, DocumentError, Drawn, Echo, Euclidean, LanePool, Piece, StepValue
from lattice.document.detour import HeldDetour, RepeatDetour, Variation
from lattice.document.kit import DOCKSIDE
from lattice.document.movement import Movement, Point
from lattice.document.order import OrderRow
from lattice.document.piece import Pattern
from lattice.order.rows import order_events
from lattice.render import Window, pipeline, render
from tests.lattice.scores import lane, score

LANES = [lane(f"lane-{number}", note=number) for number in range(64)]
TRIPLET = StepValue(note=64, kind="triplet")


def variations(count: int) -> tuple[HeldDetour, ...]:
    return tuple(
        HeldDetour(detour=Variation(number=number), start=number * 200, end=number * 200 + 200)
        for number in range(count)
    )


def cascade(count: int, points: int = 0):
    """A lane, and *count* that play the notes of the one before; with *points*, each is moved so often a bar."""
    moved = tuple(
        Point(tick=53760 * at // max(1, points), value=StepValue(note=16 if at % 2 else 8))
        for at in range(points)
    )
    fields = {"movements": (Movement(control="step_value", points=moved, loop_bars=1),)} if points else {}
    lanes = [lane("reed-0", voice="low-reed", source=Drawn(steps=16, hits=tuple(range(16))), **fields)]
    for number in range(1, count + 1):
        pool = Arpeggio(pool=LanePool(of=f"reed-{number - 1}"))
        lanes.append(
            lanes[0].model_copy(update={"id": f"reed-{number}", "arpeggio": pool, "channel": number % 16 + 1})
        )
    return score(*lanes, bars=4)


def order(rows: int) -> Piece:
    silent = Pattern(
        id="a", name="A", bars=64, lanes=tuple(one.model_copy(update={"mute": True}) for one in LANES)
    )
    return Piece(name="x", tempo=112, kit=DOCKSIDE, patterns=(silent,), order=(OrderRow(pattern="a"),) * rows)


def made(count: int):
    lanes = [LANES[0].model_copy(update={"source": Euclidean(hits=5, steps=16)})]
    lanes += [
        one.model_copy(update={"source": Echo(of=before.id, shift=1)})
        for before, one in pairwise(LANES[:count])
    ]
    return score(*lanes)


@pytest.mark.parametrize(
    ("ask", "says"),
    [
        (
            lambda: render(score(*LANES, held_detours=variations(110)), 1, Window(bars=4)),
            "110 variations of 64 lanes",
        ),
        (
            lambda: render(
                score(*LANES, held_detours=(HeldDetour(detour=RepeatDetour(length=TRIPLET), start=0),)),
                1,
                Window(bars=4),
            ),
            "detours begin 385 times for 64 lanes",
        ),
        (lambda: render(cascade(3, 125), 1, Window(bars=4)), "movements cut time into"),
        (lambda: order_events(order(300), Window(bars=64 * 300)), "the rows have 19,200 lanes together"),
        (lambda: candidates(made(64), 1_000, 30, WAY_NAMES, 1), "63 lanes are made from others"),
    ],
    ids=["variations", "repeats", "moved cascades", "rows", "a field of a chain"],
)
def test_what_would_take_long_is_refused_before_any_lane_is_laid_out(ask, says, monkeypatch):
    laid_out = []
    monkeypatch.setattr(pipeline, "layout", lambda *of: laid_out.append(of))
    with pytest.raises(DocumentError, match=says):
        ask()
    assert laid_out == []


def test_a_long_cascade_costs_the_same_far_out(monkeypatch):
    """Each of its lanes is laid out for itself, and once for all that play its notes: not anew for each of them."""
    counts = []
    original = pipeline.layout
    for bar in (0, 500):
        laid_out = []
        monkeypatch.setattr(pipeline, "layout", lambda *of, kept=laid_out: kept.append(of) or original(*of))
        render(cascade(40), 77 + bar, Window(first_bar=bar, bars=1))
        counts.append(len(laid_out))
    assert counts[1] <= 2 * 41 + 1
    assert counts[1] <= 2 * counts[0] + 1


def test_what_is_within_bounds_is_answered():
    assert len(render(score(*LANES, held_detours=variations(3)), 1, Window(bars=1)))
    assert len(render(cascade(2, 20), 1, Window(bars=1)))
    assert len(candidates(made(8), 20, 30, WAY_NAMES, 1).found)
