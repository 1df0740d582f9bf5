"""What movements and orders cost."""

import statistics
from time import perf_counter
from typing import Any

from demo.pieces import PIECES

from lattice.cache import forget_all
from lattice.document import Piece, Score
from lattice.document.movement import Movement, Point
from lattice.document.order import OrderRow
from lattice.order.rows import order_events, stands
from lattice.render import Window, render
from lattice.screen import picture
from lattice.screen.order import order_picture
from tests.browser.schedule import QUARTER
from timings.conftest import tell
from timings.test_edit import edits, open_with
from timings.test_engine import SCORE

POINTS = 200
EIGHTH = QUARTER // 2
# Of what hands move most: nothing that lays the lane out anew, and what does.
OF_A_STEP = ("velocity", "chance_percent", "length_percent")
LAID_OUT = ("busy",)


def moved(score: Score, controls: tuple[str, ...]) -> Score:
    """Return *score* with 200 points of movement in its first eight bars, dealt out over its lanes."""
    each = POINTS // len(score.lanes) + 1
    lanes = []
    left = POINTS
    for place, lane in enumerate(score.lanes):
        count = min(each, left)
        left -= count
        control = controls[place % len(controls)]
        points = tuple(
            Point((at * 64 // each) * EIGHTH + place, 30 + (at * 7 + place) % 60) for at in range(count)
        )
        lanes.append(
            lane.model_copy(update={"movements": (Movement(control=control, points=points),)})
            if points
            else lane
        )
    return score.model_copy(update={"lanes": tuple(lanes)})


def milliseconds(score: Score, times: int = 9) -> float:
    """Return the median of drawing and rendering eight bars of *score*, of which nothing is known."""
    taken = []
    for _ in range(times):
        forget_all()
        start = perf_counter()
        picture(score, 1, Window(bars=8))
        render(score, 1, Window(bars=8))
        taken.append(1000 * (perf_counter() - start))
    return statistics.median(taken)


def test_two_hundred_points_of_movement_in_view() -> None:
    """Timed: picture and notes of 16 lanes x 8 bars, nothing known, beside the same without movements."""
    plain = milliseconds(SCORE)
    for said, controls in (
        ("velocity, chance and length", OF_A_STEP),
        ("busy-ness too", (*OF_A_STEP, *LAID_OUT)),
    ):
        there = moved(SCORE, controls)
        assert sum(len(one.points) for lane in there.lanes for one in lane.movements) == POINTS
        assert (
            render(there, 1, Window(bars=8)).velocities.tolist()
            != render(SCORE, 1, Window(bars=8)).velocities.tolist()
        )
        ratio = milliseconds(there) / plain
        tell(f"200 points of movement of {said}, 16 lanes x 8 bars", f"{ratio:.1f} x the same without", "2 x")


def test_a_row_far_on_costs_what_the_first_does() -> None:
    """Timed: a bar of an order of 10,000 bars, at its end and at its beginning, nothing known."""
    piece: Piece = next(piece for piece in PIECES if piece.name == "Night Ferry")
    rows = tuple(OrderRow(pattern="a", repeats=25) for _ in range(50))
    long = piece.model_copy(update={"order": rows})
    bars = sum(stand.bars for stand in stands(long))
    assert bars == 10_000

    def taken(first_bar: int) -> float:
        found = []
        for number in range(8):
            forget_all()
            start = perf_counter()
            assert len(order_events(long, Window(first_bar=first_bar + number, bars=1)).events)
            found.append(perf_counter() - start)
        return statistics.median(found)

    taken(0)
    tell("bar 9,990 of an order beside bar 1", f"{taken(9_990) / taken(0):.1f} x", "1 x")


def test_an_order_of_sixty_rows_is_drawn() -> None:
    """Timed: the map and the words of 60 rows."""
    piece: Piece = next(piece for piece in PIECES if piece.name == "Night Ferry")
    sixty = piece.model_copy(update={"order": (piece.order * 6)[:60]})
    taken = []
    for _ in range(9):
        start = perf_counter()
        drawn = order_picture(sixty)
        taken.append(1000 * (perf_counter() - start))
    assert len(drawn.rows) == 60
    tell("an order of 60 rows drawn", f"{statistics.median(taken):.0f} ms", "50 ms")


def test_from_a_key_to_the_redrawn_thread_with_an_order(musician: Any) -> None:
    """Timed: an edit of 16 lanes x 8 bars in a piece with an order of 60 rows."""
    page = open_with(musician, SCORE)
    page.keyboard.press("o")
    page.get_by_role("button", name="+ row of A").click()
    for number in range(2, 61):
        page.keyboard.press("n")
        page.wait_for_function(f"jolly.piece().order.length === {number}")
    page.get_by_role("link", name="Lattice", exact=True).click()
    page.locator(".thread").first.wait_for()
    page.wait_for_timeout(1500)
    tell("edit to redraw with an order of 60 rows", edits(page, 80), "p95 under 50 ms")
