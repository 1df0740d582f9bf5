"""A stretch of steps: chosen by a drag with Shift, then cleared, copied, rolled, linked, replaced by a burst."""

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BAR
from tests.browser.test_strips import STEP, heard


@pytest.fixture
def thud(musician):
    musician.open("Night Ferry")
    musician.type_number("Piece: swing", "50")
    musician.choose("thud")
    return musician


def choose_steps(musician, lane, first, last):
    """Drag with Shift from one step of bar 1 to another; two bars are in view."""
    page = musician.page
    box = page.locator(f"[data-lane={lane}] .thread").bounding_box()
    width = (box["width"] - 28) / 32
    page.keyboard.down("Shift")
    page.mouse.move(box["x"] + 14 + first * width, box["y"] + 20)
    page.mouse.down()
    page.mouse.move(box["x"] + 14 + last * width, box["y"] + 22, steps=5)
    page.mouse.up()
    page.keyboard.up("Shift")


def press(musician, name):
    musician.page.get_by_role("toolbar", name="Chosen steps").get_by_role(
        "button", name=name, exact=True
    ).click()


def test_steps_are_chosen_cleared_and_let_go(thud):
    page = thud.page
    choose_steps(thud, "thud", 0, 4)
    expect(page.get_by_role("toolbar", name="Chosen steps")).to_contain_text("5 steps of Thud")
    press(thud, "clear")
    thud.expect_hits("Thud", [9, 13], 16)
    page.keyboard.press("Escape")
    expect(page.get_by_role("toolbar", name="Chosen steps")).to_have_count(0)
    page.keyboard.press("Control+z")
    thud.expect_hits("Thud", [1, 5, 9, 13], 16)


def test_a_burst_is_heard_in_place_of_the_hits_and_taken_back(thud):
    choose_steps(thud, "thud", 4, 7)
    press(thud, "burst")
    expect(thud.sentence("thud")).to_contain_text("a burst of 5")
    starts = [start for start, _, _ in heard(thud, "thud", bars=1)]
    fifth = STEP * 4 / 5
    assert starts == [0, *[round(4 * STEP + note * fifth) for note in range(5)], 8 * STEP, 12 * STEP]
    thud.alternative("Thud: bursts, a burst of 5 in bar 1 of 8", "remove all: the lane's own hits come back")
    expect(thud.sentence("thud")).not_to_contain_text("a burst")
    assert [start for start, _, _ in heard(thud, "thud", bars=1)] == [0, 4 * STEP, 8 * STEP, 12 * STEP]


def test_linked_hits_sound_together_or_not_at_all(thud):
    thud.type_number("Thud on the bench: chance", "50")
    choose_steps(thud, "thud", 0, 12)
    press(thud, "link")
    expect(thud.sentence("thud")).to_contain_text("4 linked")
    starts = [start for start, _, _ in heard(thud, "thud", bars=6)]
    counts = [sum(bar * BAR <= start < (bar + 1) * BAR for start in starts) for bar in range(6)]
    assert set(counts) <= {0, 4}


def test_steps_are_copied_into_another_lane(thud):
    page = thud.page
    choose_steps(thud, "thud", 0, 7)
    page.keyboard.press("Control+c")
    expect(page.get_by_role("status").last).to_contain_text("Copied")
    choose_steps(thud, "chain", 8, 9)
    page.keyboard.press("Control+v")
    thud.expect_hits("Chain", [5, 9, 13], 16)


def test_ratchets_repeats_and_throws_of_chosen_steps(thud):
    page = thud.page
    choose_steps(thud, "thud", 0, 3)
    press(thud, "ratchet")
    expect(thud.sentence("thud")).to_contain_text("ratchet on 1")
    press(thud, "repeat")
    expect(thud.sentence("thud")).to_contain_text("ratchet on 2")
    choose_steps(thud, "thud", 0, 15)
    page.keyboard.press("t")
    expect(thud.sentence("thud")).to_contain_text("by hand")
    assert len(heard(thud, "thud", bars=1)) in (4, 6, 8)  # four hits; a ratchet stays on its step
