"""Going back to what it was."""

from playwright.sync_api import expect

from lattice.steps.euclidean import euclidean
from tests.browser.conftest import Musician


def test_every_moment_has_a_name_and_can_be_gone_to(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Bottle: hits", "7")
    musician.type_number("Bottle: steps", "13")
    assert musician.moments() == ["Bottle: steps 16 → 13", "Bottle: hits 5 → 7", "The demo's own"]
    page.keyboard.press("h")
    page.get_by_role("button", name="Bottle: hits 5 → 7").click()
    expect(musician.number("Bottle: steps")).to_have_attribute("aria-valuenow", "16")
    page.get_by_role("button", name="Where I started", exact=True).click()
    expect(musician.number("Bottle: hits")).to_have_attribute("aria-valuenow", "5")
    page.get_by_role("button", name="Bottle: steps 16 → 13").click()
    expect(musician.number("Bottle: steps")).to_have_attribute("aria-valuenow", "13")


def test_a_drag_is_one_moment_even_if_it_rests_on_the_way(musician):
    page = musician.open("Night Ferry").page
    musician.choose("bottle")
    box = musician.number("Bottle: velocity").bounding_box()
    page.mouse.move(box["x"] + 4, box["y"] + 8)
    page.mouse.down()
    page.mouse.move(box["x"] + 4, box["y"] + 20, steps=5)
    musician.wait_until_saved()
    page.mouse.move(box["x"] + 4, box["y"] + 40, steps=5)
    page.mouse.up()
    musician.wait_until_saved()
    labels = musician.moments()
    assert len(labels) == 2
    assert labels[0].startswith("Bottle: velocity 86 → ")
    page.reload()
    expect(page.locator(".thread").first).to_be_visible()
    assert musician.moments() == labels


def test_undo_goes_on_after_a_reload_and_on_another_machine(musician, browser, live_server, complaints):
    page = musician.open("Night Ferry").page
    address = page.url
    for velocity in ("90", "80", "70"):
        musician.type_number("Bottle: velocity", velocity)
    musician.wait_until_saved()
    page.reload()
    expect(page.locator(".thread").first).to_be_visible()
    page.keyboard.press("Control+z")
    expect(musician.number("Bottle: velocity")).to_have_attribute("aria-valuenow", "80")
    musician.wait_until_saved()

    elsewhere = Musician(
        browser.new_page(viewport={"width": 1280, "height": 800}),
        live_server.url,
        complaints,
        musician.pieces,
    ).sign_in()
    elsewhere.page.goto(address)
    expect(elsewhere.number("Bottle: velocity")).to_have_attribute("aria-valuenow", "80")
    elsewhere.page.keyboard.press("Control+z")
    expect(elsewhere.number("Bottle: velocity")).to_have_attribute("aria-valuenow", "90")
    elsewhere.page.keyboard.press("Control+Shift+z")
    elsewhere.page.keyboard.press("Control+Shift+z")
    expect(elsewhere.number("Bottle: velocity")).to_have_attribute("aria-valuenow", "70")
    elsewhere.wait_until_saved()
    elsewhere.page.context.close()


def test_what_was_undone_is_still_there_after_something_else_was_done(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Bottle: velocity", "90")
    musician.type_number("Bottle: velocity", "80")
    page.keyboard.press("Control+z")
    expect(musician.number("Bottle: velocity")).to_have_attribute("aria-valuenow", "90")
    musician.type_number("Bottle: hits", "7")
    assert musician.moments()[:3] == [
        "Bottle: hits 5 → 7",
        "Back to: Bottle: velocity 86 → 90",
        "Bottle: velocity 90 → 80",
    ]


def test_escape_leaves_no_moment_behind(musician):
    page = musician.open("Night Ferry").page
    musician.number("Bottle: hits").focus()
    page.keyboard.press("ArrowUp")
    musician.expect_hits("Bottle", sorted((hit + 2) % 16 + 1 for hit in euclidean(6, 16)), 16)
    page.keyboard.press("Escape")
    musician.expect_hits("Bottle", [3, 6, 9, 12, 15], 16)
    assert musician.moments() == ["The demo's own"]


def test_going_back_to_another_pattern_shows_it(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Bottle: velocity", "90")
    page.keyboard.press("Escape")
    page.keyboard.press(".")
    expect(page.get_by_role("button", name="Pattern B", exact=True)).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Pattern A", exact=True)).to_have_attribute("aria-pressed", "true")
    expect(musician.number("Bottle: velocity")).to_have_attribute("aria-valuenow", "86")
