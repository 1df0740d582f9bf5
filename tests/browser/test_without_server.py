"""Music that plays does not stop because a cable or a server is gone; what is done meanwhile is there when it is back."""

import pytest
from clips.models import Clip
from playwright.sync_api import BrowserContext, expect

from tests.browser.conftest import Musician
from tests.browser.test_waiting import stored

pytestmark = pytest.mark.browser_context_args(service_workers="allow")
BAR = 53760


def has_its_own_copy(musician: Musician) -> None:
    """Wait until the browser has what the page needs to open by itself."""
    musician.page.wait_for_function("navigator.serviceWorker.ready.then(({active}) => Boolean(active))")
    musician.page.wait_for_function("Boolean(navigator.serviceWorker.controller)")


def bars_with_notes(musician: Musician) -> set[int]:
    """The bars in which notes were due; on a busy machine some may have come too late to sound."""
    return {note["start"] // BAR for note in Musician.due(musician.log()[-1])}


def test_the_last_pass_loops_until_the_server_is_back_and_all_that_was_done_is_there_then(
    musician, context: BrowserContext, complaints
):
    page = musician.open("Night Ferry").page
    has_its_own_copy(musician)
    page.keyboard.press("Space")
    musician.wait_for_bars(9)
    # An edit leaves only what is asked for next ready; then the cable is pulled.
    with page.expect_response("**/api/render*"):
        musician.type_number("Bottle: steps", "13")
    musician.wait_until_saved()
    context.set_offline(True)
    musician.type_number("Bottle: hits", "6")
    away = page.locator("[data-test=away]")
    expect(away).to_contain_text("The server is away: ")
    expect(away).to_contain_text("loop until it is back. Your last changes are drawn and heard then.")
    now = int(page.evaluate("jolly.now()")) // BAR
    musician.wait_for_bars(now + 6)
    # No bar is silent, on the tape as to the ear.
    assert set(range(now + 5)) <= bars_with_notes(musician)
    page.get_by_role("button", name="Keep 4 bars", exact=True).click()
    expect(
        page.get_by_text("Not kept yet: the server is away. The bars wait in this browser")
    ).to_be_visible()
    page.keyboard.press("Space")
    heard = [note for note in musician.log()[-1]["notes"] if note["straight"] >= (now + 1) * BAR]
    assert len(heard) > 20

    # The page itself opens, with the piece as it was left, its picture and its tape; and plays what lay ready.
    page.reload()
    expect(musician.number("Bottle: hits")).to_be_visible()
    assert page.evaluate("jolly.piece().patterns[0].lanes.find(({id}) => id === 'bottle').source.hits") == 6
    expect(page.locator(".state")).to_contain_text("not saved")
    assert page.evaluate("jolly.log().at(-1).notes.length") > 20
    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().at(-1).notes.length > 8 && jolly.now() > 0")
    expect(away).to_contain_text("The server is away: ")
    page.keyboard.press("Space")

    context.set_offline(False)
    expect(away).to_have_count(0)
    musician.wait_until_saved()
    assert stored("Night Ferry", "bottle")["source"]["hits"] == 6
    expect(page.get_by_text("which had waited")).to_be_visible()
    assert Clip.objects.latest("pk").document["tracks"]
    complaints.clear()


def test_what_cannot_be_reached_is_said_to_be_back(musician, context: BrowserContext, complaints):
    page = musician.open("Night Ferry").page
    has_its_own_copy(musician)
    context.set_offline(True)
    page.get_by_role("link", name="Takes", exact=True).click()
    expect(page.get_by_text("The server cannot be reached").first).to_be_visible()
    expect(page.locator("[data-test=away]")).to_contain_text("what you do is kept here")
    context.set_offline(False)
    expect(page.get_by_text("The server is back.")).to_be_visible()
    expect(page.get_by_text("The server cannot be reached")).to_have_count(0)
    complaints.clear()
