"""Work that cannot be stored now is never lost: it waits in the browser, and is sent when it can be."""

import json

from django.contrib.sessions.models import Session
from pieces.models import Piece
from playwright.sync_api import expect

from tests.browser.conftest import Musician


def stored(name, lane):
    document = Piece.objects.get(name=name).document
    return next(
        found for pattern in document["patterns"] for found in pattern["lanes"] if found["id"] == lane
    )


def open_elsewhere(musician: Musician, name: str) -> None:
    """Go to another piece by the shelf, as a hand would."""
    musician.page.get_by_role("link", name="Shelf", exact=True).click()
    musician.open(name)


def test_what_was_done_while_the_server_was_away_survives_other_pieces_and_a_reload(
    musician, context, complaints
):
    page = musician.open("Night Ferry").page
    context.route("**/api/pieces/*", lambda r: r.abort() if r.request.method == "PUT" else r.continue_())
    musician.type_number("Bottle: steps", "13")
    musician.type_number("Bottle: hits", "6")
    expect(page.locator(".state")).to_contain_text("not saved")

    open_elsewhere(musician, "Slack Water")
    expect(page.get_by_role("status").filter(has_text="2 changes wait for the server")).to_be_visible()
    page.reload()
    expect(page.locator(".thread").first).to_be_visible()
    assert stored("Night Ferry", "bottle")["source"]["steps"] == 16

    open_elsewhere(musician, "Night Ferry")
    expect(musician.number("Bottle: steps")).to_have_attribute("aria-valuenow", "13")
    expect(musician.number("Bottle: hits")).to_have_attribute("aria-valuenow", "6")
    page.keyboard.press("Control+z")
    expect(musician.number("Bottle: hits")).to_have_attribute("aria-valuenow", "5")

    context.unroute("**/api/pieces/*")
    musician.wait_until_saved()
    assert stored("Night Ferry", "bottle")["source"] == {
        **stored("Night Ferry", "bottle")["source"],
        "hits": 5,
        "steps": 13,
    }
    assert musician.moments()[:2] == ["Bottle: hits 5 → 6", "Bottle: steps 16 → 13"]
    complaints.clear()


def test_a_save_whose_answer_was_lost_is_stored_once(musician, context, complaints):
    musician.open("Night Ferry")
    lost = []

    def lose(route):
        if route.request.method != "PUT" or lost:
            route.continue_()
            return
        lost.append(json.loads(route.request.post_data))
        route.fetch()
        route.abort()

    context.route("**/api/pieces/*", lose)
    musician.type_number("Bottle: steps", "13")
    musician.wait_until_saved()
    assert len(lost) == 1
    assert musician.moments() == ["Bottle: steps 16 → 13", "The demo's own"]
    complaints.clear()


def test_when_the_session_ends_the_work_stays_and_is_saved_after_signing_in(musician, complaints):
    page = musician.open("Night Ferry").page
    page.keyboard.press("Space")
    musician.wait_for_bars(0.5)
    Session.objects.all().delete()
    musician.type_number("Bottle: steps", "13")
    dialog = page.get_by_role("dialog", name="Sign in again")
    expect(dialog).to_contain_text("Your session has ended")
    assert stored("Night Ferry", "bottle")["source"]["steps"] == 16
    dialog.get_by_role("button", name="Try it as the demo musician").click()
    expect(dialog).to_have_count(0)
    musician.wait_until_saved()
    expect(musician.number("Bottle: steps")).to_have_attribute("aria-valuenow", "13")
    assert stored("Night Ferry", "bottle")["source"]["steps"] == 13
    page.keyboard.press("Space")
    complaints.clear()


def test_a_piece_that_opens_late_is_not_put_over_the_one_that_was_chosen_since(musician, context):
    page = musician.page
    held = []

    def hold(route):
        if route.request.method == "GET" and not held:
            held.append(route)
        else:
            route.continue_()

    late = f"**/api/pieces/{musician.pieces['Slack Water']}"
    context.route(late, hold)
    with page.expect_request(late):
        page.get_by_role("link", name="Open Slack Water").click()
    expect(page.locator("main.waiting")).to_be_visible()
    page.get_by_role("link", name="Shelf", exact=True).click()
    musician.open("Night Ferry")
    with page.expect_response(late):
        held[0].continue_()
    page.wait_for_timeout(300)
    expect(page.get_by_label("Name of the piece")).to_have_value("Night Ferry")
    musician.type_number("Bottle: steps", "13")
    musician.wait_until_saved()
    assert stored("Night Ferry", "bottle")["source"]["steps"] == 13


def test_bars_kept_while_the_server_is_away_are_kept_after_a_reload(musician, context, complaints):
    page = musician.open("Night Ferry").page
    page.keyboard.press("Space")
    musician.wait_for_bars(2)
    page.keyboard.press("Space")
    context.route("**/api/clips", lambda r: r.abort() if r.request.method == "POST" else r.continue_())
    page.get_by_role("button", name="Keep 4 bars", exact=True).click()
    expect(page.get_by_text("Not kept yet")).to_be_visible()
    page.reload()
    expect(page.locator(".thread").first).to_be_visible()
    context.unroute("**/api/clips")
    name = f"Night Ferry A, {musician.last_bars(4)}"
    expect(page.get_by_text(f"Kept “{name}”")).to_be_visible()
    kept = page.request.get(f"{musician.address}/api/clips").json()["clips"]
    assert [clip["name"] for clip in kept].count(name) == 1
    complaints.clear()


def test_a_screen_that_cannot_be_fetched_says_so_and_is_fetched_later(musician, context, complaints):
    context.route("**/ClipsView-*.js", lambda route: route.abort())
    page = musician.page
    page.get_by_role("link", name="Clips", exact=True).click()
    expect(page.get_by_text("This screen is not here yet: the server could not be reached.")).to_be_visible()
    context.unroute("**/ClipsView-*.js")
    page.get_by_role("button", name="Reload").click()
    expect(page.get_by_role("heading", name="Clips", exact=True)).to_be_visible()
    complaints.clear()
