"""The shelf, the tape and the clips; and two windows on one piece."""

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BAR, Musician
from tests.lattice.formats.readers import by_mido


def test_pieces_are_begun_renamed_deleted_and_brought_back(musician):
    page = musician.page
    page.get_by_role("button", name="New piece").click()
    expect(page.get_by_role("heading", name="How do you want to begin?")).to_be_visible()
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
    expect(page.locator(".clip").first).to_be_visible()
    count = page.locator(".clip").count()
    name = page.locator(".clip").first.get_by_label("Name of the clip")
    name.fill("Off the breakwater")
    name.press("Enter")
    page.get_by_role("button", name="More of Off the breakwater").click()
    page.get_by_role("button", name="Delete Off the breakwater").click()
    expect(page.locator(".clip")).to_have_count(count - 1)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".clip")).to_have_count(count)
    page.reload()
    expect(page.locator(".clip").first.get_by_label("Name of the clip")).to_have_value("Off the breakwater")


def test_a_drag_over_the_tape_keeps_the_bars_it_touches(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Piece: tempo", "300")
    page.keyboard.press("Escape")
    page.keyboard.press("Space")
    musician.wait_for_bars(4)
    page.keyboard.press("Space")
    box = page.get_by_role("slider", name="Tape:").bounding_box()
    bar = box["width"] / 16
    page.mouse.move(box["x"] + 1.5 * bar, box["y"] + 30)
    page.mouse.down()
    page.mouse.move(box["x"] + 2.3 * bar, box["y"] + 30, steps=5)
    page.mouse.up()
    expect(page.get_by_text("Kept “Night Ferry A, bars 2–3”")).to_be_visible()
    # K takes the keys from whatever part has them: the digit says how many bars.
    steps = musician.number("Bottle: steps")
    before = steps.get_attribute("aria-valuenow")
    steps.focus()
    page.keyboard.press("k")
    page.keyboard.press("2")
    expect(page.get_by_text(f"Kept “Night Ferry A, {musician.last_bars(2)}”")).to_be_visible()
    expect(steps).to_have_attribute("aria-valuenow", before)


def test_keeping_before_anything_sounded_says_so(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Keep 4 bars", exact=True).click()
    expect(page.get_by_text("Nothing has sounded yet")).to_be_visible()


@pytest.mark.parametrize("choice", ["Show theirs", "Keep mine as a copy"])
def test_a_second_window_never_writes_over_the_first(musician, context, live_server, complaints, choice):
    musician.open("Night Ferry")
    address = musician.page.url
    second = Musician(context.new_page(), live_server.url, complaints, musician.pieces)
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
    expect(page.locator(".state")).to_contain_text("not saved: 1 change waits")
    context.unroute("**/api/pieces/*")
    musician.wait_until_saved()
    complaints.clear()


def test_signing_out_leaves_nothing_behind(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Signed in as demo musician").click()
    page.get_by_role("button", name="Sign out", exact=True).click()
    expect(page.get_by_role("button", name="Try it as the demo musician")).to_be_visible()
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


def test_the_tape_outlives_a_reload_and_its_bars_are_kept_then(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("Space")
    musician.wait_for_bars(2)
    page.keyboard.press("Space")
    (before,) = musician.log()
    page.reload()
    expect(page.locator(".thread").first).to_be_visible()
    (after,) = musician.log()
    assert [note["start"] for note in after["notes"]] == [note["start"] for note in before["notes"]]
    page.keyboard.press("k")
    page.keyboard.press("2")
    expect(page.get_by_text(f"Kept “Night Ferry A, {musician.last_bars(2)}”")).to_be_visible()


def test_the_next_bars_are_recorded_with_all_that_is_done_meanwhile(musician):
    page = musician.open("Night Ferry").page
    page.get_by_label("Bars to record ahead").select_option("4")
    page.get_by_role("button", name="count in").click()
    page.get_by_role("button", name="Record 4 more").click()
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 30000")
    page.locator("[data-lane=thud]").get_by_role("button", name="Mute").evaluate("button => button.click()")
    expect(page.get_by_text("Kept “Night Ferry A, bars 1–4”")).to_be_visible()
    page.keyboard.press("Space")
    (stretch,) = musician.log()
    heard = sorted(
        (n["start"], n["pitch"]) for n in stretch["notes"] if n["start"] < 4 * BAR and n["straight"] < 4 * BAR
    )
    kept = page.request.get(f"{musician.address}/api/clips").json()["clips"][0]
    assert sorted((n[0], n[2]) for track in kept["tracks"] for n in track["notes"]) == heard
    thuds = [n for n in stretch["notes"] if n["laneId"] == "thud"]
    assert 0 < len(thuds) < 16


def test_a_count_in_clicks_for_a_bar_before_anything_sounds(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Record 8 more").click()
    # Looked at in the page itself, at once: the bar of clicks lasts two seconds.
    begun = page.wait_for_function(
        "jolly.log().length === 1 && { tick: jolly.log()[0].nowTick }"
    ).json_value()
    assert begun == {"tick": 0}
    expect(page.get_by_role("button", name="Cancel")).to_be_visible()
    musician.wait_for_bars(0.5)
    page.get_by_role("button", name="Cancel").click()
    page.keyboard.press("Space")
    assert all(note["start"] >= 0 for note in musician.log()[0]["notes"])


def test_what_cannot_be_kept_now_waits_and_is_kept_whole(musician, context, complaints):
    page = musician.open("Night Ferry").page
    page.keyboard.press("Space")
    musician.wait_for_bars(2)
    page.keyboard.press("Space")
    context.route("**/api/clips", lambda route: route.abort())
    page.get_by_role("button", name="Keep 4 bars", exact=True).click()
    expect(page.get_by_text("Not kept yet: the server is away")).to_be_visible()
    context.unroute("**/api/clips")
    name = f"Night Ferry A, {musician.last_bars(4)}"
    expect(page.get_by_text(f"Kept “{name}”")).to_be_visible()
    kept = page.request.get(f"{musician.address}/api/clips").json()
    assert [clip["name"] for clip in kept["clips"]].count(name) == 1
    complaints.clear()


def test_bars_of_the_tape_are_kept_as_a_take_too(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    page.keyboard.press("Space")
    page.get_by_role("button", name="Keep 4 bars", exact=True).click()
    page.get_by_role("button", name="As a take too").click()
    expect(page.get_by_text("Kept as a take of Night Ferry, pattern A.", exact=True)).to_be_visible()


def test_the_file_holds_what_was_scheduled(musician, tmp_path):
    """A real playback's schedule log, kept, downloaded, and read by mido: the same notes."""
    page = musician.open("Slack Water").page
    page.keyboard.press("Space")
    musician.wait_for_bars(3)
    page.keyboard.press("Space")
    (stretch,) = musician.log()
    page.keyboard.press("k")
    page.keyboard.press("8")
    expect(page.get_by_text(f"Kept “Slack Water A, {musician.last_bars(8)}”")).to_be_visible()
    clip = page.request.get(f"{musician.address}/api/clips").json()["clips"][0]
    data = page.request.get(f"{musician.address}/api/clips/{clip['id']}.mid?resolution=13440").body()
    end = stretch["nowTick"] // BAR * BAR
    heard = sorted(
        (n["start"], min(n["start"] + n["length"], end), n["pitch"], n["velocity"], n["channel"])
        for n in stretch["notes"]
        if n["straight"] < end and n["start"] < end
    )
    assert by_mido(data) == heard


def test_signing_out_forgets_the_tape(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    page.keyboard.press("Space")
    stored = "Object.keys(localStorage).filter((key) => key.includes('tape')).length"
    assert page.evaluate(stored) > 0
    page.get_by_role("button", name="Signed in as").click()
    page.get_by_role("button", name="Sign out", exact=True).click()
    expect(page.get_by_role("button", name="Try it as the demo musician")).to_be_visible()
    assert page.evaluate(stored) == 0
