"""The shelf, the tape and the clips; and two windows on one piece."""

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Musician


def test_pieces_are_begun_renamed_deleted_and_brought_back(musician):
    page = musician.page
    page.get_by_role("button", name="New piece").click()
    expect(page.locator(".row")).to_have_count(1)
    page.get_by_role("link", name="Shelf", exact=True).click()
    card = page.locator("[data-piece]").first
    card.get_by_label("Name of the piece").fill("Low Tide")
    card.get_by_label("Name of the piece").press("Enter")
    page.get_by_role("button", name="Delete Low Tide").click()
    expect(page.get_by_role("link", name="Open Low Tide")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("link", name="Open Low Tide")).to_be_visible()


def test_clips_are_renamed_deleted_and_brought_back(musician):
    page = musician.page
    page.get_by_role("link", name="Clips", exact=True).click()
    expect(page.locator(".clip")).to_have_count(3)
    name = page.locator(".clip").first.get_by_label("Name of the clip")
    name.fill("Off the breakwater")
    name.press("Enter")
    page.get_by_role("button", name="Delete Off the breakwater").click()
    expect(page.locator(".clip")).to_have_count(2)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".clip")).to_have_count(3)
    page.reload()
    expect(page.locator(".clip").first.get_by_label("Name of the clip")).to_have_value("Off the breakwater")


def test_a_drag_over_the_tape_keeps_the_bars_it_touches(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Piece: tempo", "300")
    page.keyboard.press("Escape")
    page.keyboard.press("Space")
    musician.wait_for_bars(4)
    page.keyboard.press("Space")
    box = page.get_by_role("img", name="Tape:").bounding_box()
    bar = box["width"] / 16
    page.mouse.move(box["x"] + 1.5 * bar, box["y"] + 30)
    page.mouse.down()
    page.mouse.move(box["x"] + 2.3 * bar, box["y"] + 30, steps=5)
    page.mouse.up()
    expect(page.get_by_text("Kept “Night Ferry A, bars 2–3”")).to_be_visible()


def test_keeping_before_anything_sounded_says_so(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Keep 4 bars", exact=True).click()
    expect(page.get_by_text("Nothing has sounded yet")).to_be_visible()


@pytest.mark.parametrize("choice", ["Show theirs", "Keep mine as a copy"])
def test_a_second_window_never_writes_over_the_first(musician, context, live_server, complaints, choice):
    musician.open("Night Ferry")
    address = musician.page.url
    second = Musician(context.new_page(), live_server.url, complaints)
    second.page.goto(address)
    expect(second.page.locator(".thread").first).to_be_visible()

    musician.type_number("Bottle: steps", "13")
    musician.wait_until_saved()
    second.type_number("Bottle: steps", "11")
    expect(second.page.get_by_text("“Night Ferry” was changed elsewhere")).to_be_visible()
    assert any("409" in complaint for complaint in complaints)
    complaints.clear()

    second.page.get_by_role("button", name=choice).click()
    mine = "13" if choice == "Show theirs" else "11"
    expect(second.number("Bottle: steps")).to_have_attribute("aria-valuenow", mine)
    if choice == "Keep mine as a copy":
        expect(second.page.get_by_label("Name of the piece")).to_have_value("Night Ferry, my copy")
        expect(second.page).not_to_have_url(address)
    musician.page.reload()
    expect(musician.number("Bottle: steps")).to_have_attribute("aria-valuenow", "13")


def test_what_is_not_saved_is_said_and_saved_as_soon_as_it_can_be(musician, context, complaints):
    page = musician.open("Night Ferry").page
    context.route("**/api/pieces/*", lambda route: route.abort())
    musician.type_number("Bottle: steps", "13")
    expect(page.locator(".state")).to_contain_text("not saved: the server cannot be reached")
    context.unroute("**/api/pieces/*")
    musician.wait_until_saved()
    complaints.clear()


def test_signing_out_leaves_nothing_behind(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Signed in as demo musician").click()
    page.get_by_role("button", name="Sign out", exact=True).click()
    expect(page.get_by_role("button", name="Go aboard as demo musician")).to_be_visible()
    assert page.request.get(f"{musician.address}/api/pieces").status == 401


def test_a_wrong_password_says_so(page, live_server):
    page.goto(live_server.url)
    page.get_by_label("Name").fill("mara")
    page.get_by_label("Password").fill("no idea")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_have_text("This name and password do not belong together.")


def test_another_piece_has_a_tape_of_its_own(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    page.get_by_role("link", name="Shelf", exact=True).click()
    musician.open("Slack Water")
    assert musician.log() == []
    expect(page.get_by_role("button", name="Play from bar 1")).to_be_visible()
    expect(page.get_by_text("What you play runs by here")).to_be_visible()


def test_a_piece_is_exported_and_imported_again(musician, tmp_path):
    page = musician.page
    with page.expect_download() as download:
        page.get_by_role("link", name="Export Night Ferry").click()
    path = tmp_path / "ferry.json"
    download.value.save_as(path)
    page.get_by_label("File of a piece").set_input_files(path)
    expect(page.get_by_text("“Night Ferry” is on the shelf.")).to_be_visible()
    expect(page.get_by_role("link", name="Open Night Ferry")).to_have_count(2)


def test_a_file_that_is_no_piece_is_refused_saying_where_and_nothing_is_stored(
    musician, tmp_path, complaints
):
    page = musician.page
    path = tmp_path / "broken.json"
    path.write_text('{"name": "Broken",\n "tempo": }')
    page.get_by_label("File of a piece").set_input_files(path)
    expect(page.get_by_text("broken.json was not taken: line 2, column 11: it is no JSON")).to_be_visible()
    expect(page.locator("[data-piece]")).to_have_count(3)
    complaints.clear()
