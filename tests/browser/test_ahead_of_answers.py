"""Hands that are faster than the engine's answers: what they do counts all the same, in the order in which it was done."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.gate import gate


@pytest.fixture
def slow(musician):
    """Night Ferry, whose engine answers half a second late."""
    musician.open("Night Ferry")
    expect(musician.page.get_by_role("region", name="Bench of Thud")).to_be_visible()
    gate.delay = 0.5
    return musician


def test_keys_reach_a_lane_that_was_only_just_added(slow):
    page = slow.page
    for key in ("n", "Escape", "ArrowRight", "ArrowRight", "Enter", "+"):
        page.keyboard.press(key)
    lane = page.evaluate("jolly.piece().patterns[0].lanes.at(-1).name")
    slow.expect_hits(lane, [1, 2, 3, 5, 7], 8)
    assert slow.moments()[:2] == [f"{lane}: hits 3 → 4", f"{lane}: step 2 hit"]


def test_keys_reach_a_lane_whose_voice_was_looked_at(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("n")
    page.wait_for_function("document.activeElement.closest('.v-overlay')")
    for key in ("Escape", "ArrowRight", "ArrowRight", "Enter", "+"):
        page.keyboard.press(key)
    lane = page.evaluate("jolly.piece().patterns[0].lanes.at(-1).name")
    musician.expect_hits(lane, [1, 2, 3, 5, 7], 8)


def test_a_lane_that_was_only_just_chosen_plays_faster_and_takes_what_is_typed(slow):
    page = slow.page
    slow.choose("thud")
    page.keyboard.press("w")
    page.wait_for_function("jolly.piece().patterns[0].lanes[0].step_value !== null")
    slow.choose("thud", "bottle")
    slow.type_number("Thud: velocity", "71")
    page.wait_for_function(
        "jolly.piece().patterns[0].lanes.filter(({velocity}) => velocity === 71).length === 2"
    )


def test_chords_are_begun_before_they_were_offered(slow):
    page = slow.page
    page.get_by_role("button", name="Pattern C", exact=True).click()
    page.get_by_role("button", name="+ chords").click()
    page.wait_for_function("jolly.piece().patterns[2].progression !== null")


def test_a_key_on_a_lane_that_was_only_just_chosen_strikes_the_kit(slow):
    page = slow.page
    slow.choose("chain")
    page.keyboard.press("j")
    page.evaluate("jolly.controller().key(36, true)")
    page.wait_for_function("async () => (await jolly.level()) > 0.001")


def focused_field(page):
    page.keyboard.press("g")
    field = page.get_by_role("application", name=re.compile("^Field:"))
    expect(field).to_have_attribute("aria-busy", "false")
    field.focus()
    return field


def test_arrows_and_enter_are_for_the_field_that_was_only_just_thrown(slow):
    page = slow.page
    field = focused_field(page)
    for key in ("t", "ArrowDown", "ArrowDown", "Enter"):
        page.keyboard.press(key)
    expect(field).to_have_attribute("aria-busy", "true")
    expect(page.locator(".side h2")).to_contain_text("No. ")
    expect(page.locator(".side h2")).to_have_text("The start")  # of the field around what it became
    assert re.fullmatch(r"Field: No\. \d+", slow.moments()[0])


def test_what_is_pointed_at_becomes_a_pattern_before_it_is_shown(slow):
    page = slow.page
    field = focused_field(page)
    page.keyboard.press("ArrowDown")
    become = page.get_by_role("group", name="What it becomes")
    become.get_by_role("button", name="Around this one").click()
    expect(page.get_by_text("Around a place beside pattern A.")).to_be_visible()
    page.get_by_role("button", name="Where I started").click()
    field.focus()
    page.keyboard.press("ArrowDown")
    become.get_by_role("button", name="New pattern").click()
    expect(page.get_by_role("button", name="Pattern C", exact=True)).to_be_visible()
