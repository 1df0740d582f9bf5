"""Answers that come late, and in another order than they were asked for: what is seen, heard and stored is one.

JOLLY_LATE_HANDS and JOLLY_LATE_SEED: how many hands, by which luck.
"""

import os
import random
from typing import Any

from pieces.models import Piece
from playwright.sync_api import BrowserContext, expect

from lattice.document import Score, read
from lattice.edits.chosen import is_hit
from lattice.render import Window, render
from lattice.steps.lane_steps import steps_of_lane
from tests.browser.conftest import BAR, Musician
from tests.browser.gate import gate

HANDS = int(os.environ.get("JOLLY_LATE_HANDS", "36"))
SEED = int(os.environ.get("JOLLY_LATE_SEED", "1"))
KEYS = (
    *("+", "-", "t", "m", "a", "w", "Enter", "ArrowDown", "ArrowUp", "ArrowRight", "d", "Shift+T") * 2,
    *("Control+z", "Control+Shift+Z", "1", "2"),
)


def stored() -> dict[str, Any]:
    return Piece.objects.get(name="Night Ferry").document


def header_tells_the_truth(musician: Musician) -> None:
    said, document = musician.page.evaluate(
        "[document.querySelector('.piece .state')?.textContent, jolly.piece()]"
    )
    assert said != "saved" or document == stored()


def score_on_the_table(musician: Musician) -> tuple[Score, int]:
    table = musician.page.evaluate("jolly.score()")
    return read(Score, table["score"]), table["dice"]


def seen_is_what_the_engine_says(musician: Musician) -> None:
    score, dice = score_on_the_table(musician)
    for lane in score.lanes:
        steps = steps_of_lane(score, dice, lane.id)
        row = list(is_hit(steps))
        hits = [number + 1 for number, hit in enumerate(row) if hit]
        musician.expect_hits(lane.name, hits, len(row))


def heard_is_what_the_engine_says(musician: Musician) -> None:
    musician.page.wait_for_function("jolly.known() > 0")
    first = int(musician.page.evaluate("jolly.now()")) // BAR + 2
    musician.wait_for_bars(first + 1)
    score, dice = score_on_the_table(musician)
    stretch = musician.log()[-1]
    events = render(score, dice, Window(first_bar=first, bars=1))
    wanted = sorted(
        zip(events.starts.tolist(), events.pitches.tolist(), events.velocities.tolist(), strict=True)
    )
    heard = sorted(
        (note["start"], note["pitch"], note["velocity"])
        for note in (*stretch["notes"], *stretch["leftOut"])
        if first * BAR <= note["start"] < (first + 1) * BAR
    )
    assert heard == wanted


def test_late_answers_change_nothing(musician, context: BrowserContext, complaints):
    luck = random.Random(SEED)
    page = musician.open("Night Ferry").page
    page.keyboard.press("Space")
    musician.wait_for_bars(0.5)
    gate.lateness = lambda: luck.choice((0, 0.05, 0.4, 0.8))
    for hand in range(HANDS):
        page.keyboard.press(luck.choice(KEYS))
        page.wait_for_timeout(luck.choice((0, 30, 120)))
        if hand % 9 == 4:
            header_tells_the_truth(musician)
        if hand % 12 == 6:
            context.set_offline(True)
            page.keyboard.press(luck.choice(KEYS))
            page.wait_for_timeout(400)
            context.set_offline(False)
        if hand == HANDS // 2:
            page.reload()
            expect(page.locator(".thread").first).to_be_visible()
            page.keyboard.press("Space")
    gate.lateness = lambda: 0.0
    musician.wait_until_saved()
    assert page.evaluate("jolly.piece()") == stored()
    if not page.evaluate("jolly.score().score.lanes.some((lane) => lane.solo)"):
        seen_is_what_the_engine_says(musician)
    if page.get_by_role(
        "button", name="Play from bar 1"
    ).is_visible():  # it was pressed while nobody was there
        page.keyboard.press("Space")
    heard_is_what_the_engine_says(musician)
    page.keyboard.press("Space")
    complaints.clear()
