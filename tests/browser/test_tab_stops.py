"""What is many alike is one stop of the Tab key: rows of the order, voices of a kit, chords, lanes beside a ground."""

import pytest
from playwright.sync_api import expect


def of_the_order(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("link", name="Order", exact=True).click()
    rows = page.get_by_role("list", name="Rows of the order")
    expect(rows).to_be_visible()
    return rows, "[data-place]"


def of_a_kit(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("v")
    kit = page.get_by_role("region", name="Kit")
    expect(kit).to_be_visible()
    return kit.locator("tbody"), "[data-row]"


def of_a_progression(musician):
    page = musician.open("Lantern Quay").page
    page.get_by_role("button", name="8 bars in view").click()
    chords = page.get_by_role("group", name="Progression")
    expect(chords.get_by_role("button").nth(1)).to_be_visible()
    return chords, "[data-row]"


def of_a_ground(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("g")
    page.get_by_role("button", name="Ground", exact=True).click()
    lanes = page.get_by_role("region", name="Lanes and their parts").get_by_role("list")
    expect(lanes.locator("[data-row]").first).to_be_visible()
    return lanes, "[data-row]"


KEYS = {of_a_progression: ("ArrowRight", "ArrowLeft")}


@pytest.mark.parametrize("rows_of", [of_the_order, of_a_kit, of_a_progression, of_a_ground])
def test_only_the_row_at_hand_is_a_stop_and_arrows_go_to_the_others(musician, rows_of):
    rows, row = rows_of(musician)
    after, before = KEYS.get(rows_of, ("ArrowDown", "ArrowUp"))

    def with_stops():
        return rows.locator(row).evaluate_all(
            "(all) => all.flatMap((one, at) =>"
            " [...one.querySelectorAll('*')].some(({tabIndex}) => tabIndex >= 0) ? [at] : [])"
        )

    assert rows.locator(row).count() > 1
    assert with_stops() == [0]
    rows.locator(row).first.locator("button[tabindex='0']").first.focus()
    rows.page.keyboard.press(after)
    expect(rows.locator(row).nth(1).locator(":focus")).to_have_count(1)
    assert with_stops() == [1]
    rows.page.keyboard.press(before)
    expect(rows.locator(row).first.locator(":focus")).to_have_count(1)
    assert with_stops() == [0]
