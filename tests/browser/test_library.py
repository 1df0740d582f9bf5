"""Starters heard in place, kits exchanged while it plays, sounds of one's own."""

from io import BytesIO
from pathlib import Path

import numpy as np
import pytest
import soundfile
from playwright.sync_api import expect

from tests.browser.conftest import BAR
from tests.browser.test_strips import STEP


def gong():
    times = np.arange(22050) / 44100
    written = BytesIO()
    soundfile.write(written, 0.6 * np.sin(2 * np.pi * 330 * times), 44100, format="WAV")
    return {"name": "Gong of mine.wav", "mimeType": "audio/wav", "buffer": written.getvalue()}


def loudest(page):
    """Return the highest level within two seconds."""
    return page.evaluate(
        """async () => {
          let most = 0
          for (let look = 0; look < 60; look++) {
            most = Math.max(most, await jolly.level())
            await new Promise((resolve) => setTimeout(resolve, 33))
          }
          return most
        }"""
    )


def test_a_starter_is_found_heard_in_time_and_taken(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Piece: swing", "50")
    musician.choose("bottle")
    page.keyboard.press("Escape")
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    page.keyboard.press("e")
    panel = page.get_by_role("region", name="Starters")
    panel.get_by_label("Look for starters").fill("backbeat")
    panel.get_by_role("button", name="Hear Two lamps").click()
    musician.expect_hits("Bottle", [5, 13], 16)
    assert musician.page.locator(".state").inner_text() == "saved"  # trying changes nothing
    heard = musician.next_bar()
    musician.wait_for_bars(heard + 1)
    starts = [
        n["start"]
        for n in musician.log()[-1]["notes"]
        if n["laneId"] == "bottle" and n["start"] >= heard * BAR
    ]
    assert starts
    assert all(start % (16 * STEP) in (4 * STEP, 12 * STEP) for start in starts)
    page.keyboard.press("Escape")
    musician.expect_hits("Bottle", [3, 6, 9, 12, 15], 16)
    page.keyboard.press("e")
    panel.get_by_label("Look for starters").fill("Two lamps")
    page.keyboard.press("ArrowDown")
    musician.expect_hits("Bottle", [5, 13], 16)
    page.keyboard.press("Enter")
    expect(panel).to_have_count(0)
    musician.expect_hits("Bottle", [5, 13], 16)
    page.keyboard.press("Space")
    assert musician.moments()[0] == "Bottle: begins from Two lamps"
    page.keyboard.press("Control+z")
    musician.expect_hits("Bottle", [3, 6, 9, 12, 15], 16)


def test_a_pattern_begins_from_a_starter_and_is_kept_as_ones_own(musician):
    page = musician.open("Slack Water").page
    page.keyboard.press("e")
    panel = page.get_by_role("region", name="Starters")
    panel.get_by_role("button", name="patterns", exact=True).click()
    panel.get_by_role("button", name="Hear Three ferries").click()
    panel.get_by_role("button", name="Begin the pattern from it").click()
    expect(panel).to_have_count(0)  # once it has begun: the threads were there while it was heard
    expect(page.locator(".thread")).to_have_count(4)
    page.keyboard.press("e")
    panel.get_by_label("Name of your starter").fill("My crossing")
    panel.get_by_label("Tags of your starter").fill("Drift, mine")
    panel.get_by_role("button", name="keep pattern").click()
    expect(panel.get_by_role("button", name="Hear My crossing")).to_be_visible()
    panel.get_by_label("Look for starters").fill("mine")
    expect(panel.locator("li")).to_have_count(1)
    panel.get_by_role("button", name="delete").click()
    expect(panel).to_contain_text("No starter is called or tagged like that")
    page.get_by_role("button", name="Undo").last.click()
    expect(panel).to_have_count(0)  # a press beside it closes it
    page.keyboard.press("e")
    expect(panel.get_by_role("button", name="Hear My crossing")).to_be_visible()


def test_a_note_of_the_kit_is_changed_and_the_kit_kept(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("v")
    kit = page.get_by_role("region", name="Kit")
    musician.type_number("Thud: note", "35")
    kit.get_by_label("Name of your kit").fill("My quay")
    kit.get_by_role("button", name="keep kit").click()
    expect(kit.get_by_role("button", name="My quay", exact=True)).to_be_visible()
    kit.get_by_role("button", name="Engine room", exact=True).click()
    expect(kit.get_by_label("Name of Piston")).to_be_visible()
    kit.get_by_role("button", name="My quay", exact=True).click()
    expect(musician.number("Thud: note")).to_have_attribute("aria-valuenow", "35")
    page.keyboard.press("Escape")
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    thuds = {n["pitch"] for n in musician.log()[-1]["notes"] if n["laneId"] == "thud"}
    page.keyboard.press("Space")
    assert thuds == {35}


def test_the_kit_is_exchanged_while_it_plays_without_a_gap(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    page.keyboard.press("v")
    page.get_by_role("region", name="Kit").get_by_role("button", name="Engine room", exact=True).click()
    musician.wait_for_bars(3)
    page.keyboard.press("Escape")
    starts = sorted(
        n["start"] for n in musician.due(musician.log()[-1]) if n["laneId"] == "thud" and n["start"] < 3 * BAR
    )
    page.keyboard.press("Space")
    assert starts == [beat * 4 * STEP for beat in range(12)]


def test_a_sound_of_ones_own_becomes_a_voice_and_is_heard(musician):
    page = musician.open("Slack Water").page
    page.keyboard.press("v")
    kit = page.get_by_role("region", name="Kit")
    with page.expect_file_chooser() as chosen:
        kit.get_by_role("button", name="+ a sound of your own").click()
    chosen.value.set_files(gong())
    expect(kit.get_by_label("Name of Gong of mine")).to_be_visible()
    assert kit.get_by_label("Sound of Gong of mine").input_value().startswith("own-")
    page.keyboard.press("Escape")
    for name in ("Chain", "Clink", "Rope", "Rail", "Winch", "Bell"):
        page.get_by_role("button", name=f"Mute {name}").click()
    page.get_by_role("button", name="Lane Thud", exact=True).click()
    page.get_by_role("button", name="Gong of mine 48").click()
    page.keyboard.press("Escape")
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    page.wait_for_function("async () => (await jolly.level()) > 0.01")
    notes = musician.log()[-1]["notes"]
    page.keyboard.press("Space")
    assert {note["pitch"] for note in notes if note["laneId"] == "thud"} == {48}


def test_what_is_no_sound_is_refused_with_its_name(musician, complaints):
    page = musician.open("Slack Water").page
    page.keyboard.press("v")
    with page.expect_file_chooser() as chosen:
        page.get_by_role("button", name="+ a sound of your own").click()
    chosen.value.set_files({"name": "notes.wav", "mimeType": "audio/wav", "buffer": b"not a sound at all"})
    expect(page.locator(".notice.error")).to_contain_text("Notes: it is no WAV, OGG or FLAC sound")
    page.wait_for_timeout(300)
    complaints.clear()


def test_level_and_pan_of_a_lane_are_heard(musician):
    page = musician.open("Slack Water").page
    musician.choose("thud")
    page.get_by_role("button", name="Solo Thud").click()
    page.keyboard.press("Space")
    loud = loudest(page)
    musician.type_number("Thud on the bench: level", "-36")
    musician.type_number("Thud on the bench: pan", "-40")
    expect(musician.sentence("thud")).to_contain_text("level -36 dB · pan -40")
    page.wait_for_timeout(1500)  # what was struck before has rung out
    quiet = loudest(page)
    page.keyboard.press("Escape")
    page.keyboard.press("Space")
    assert loud > 0.01
    assert loud > 8 * quiet  # 36 dB are a factor of 63


def test_controls_are_sent_and_kept(musician):
    """Slack Water's winch sends controller 74, a new value at every hit."""
    page = musician.open("Slack Water").page
    page.keyboard.press("Space")
    musician.wait_for_bars(3)
    moves = [(c["tick"], c["controller"], c["value"]) for c in musician.log()[-1]["controls"]]
    page.get_by_role("button", name="Keep 4 bars", exact=True).click()
    expect(page.get_by_role("status").last).to_contain_text("Kept")
    page.keyboard.press("Space")
    assert len(moves) > 4
    assert {controller for _, controller, _ in moves} == {74}
    page.get_by_role("link", name="Clips", exact=True).click()
    page.get_by_role("button", name="Export Slack Water A, bars").first.click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Export .mid").first.click()
    data = Path(download.value.path()).read_bytes()
    assert bytes([0xB9, 74]) in data


def test_the_night_theme_is_a_choice(musician):
    page = musician.page
    page.get_by_role("button", name="Signed in as").click()
    page.get_by_role("button", name="Night theme").click()
    expect(page.locator(".v-theme--night").first).to_be_visible()
    page.get_by_role("button", name="Signed in as").click()
    page.emulate_media(color_scheme="dark")
    page.get_by_role("button", name="Theme of the system").click()
    expect(page.locator(".v-theme--night").first).to_be_visible()
    page.emulate_media(color_scheme="light")
    expect(page.locator(".v-application.v-theme--day, .v-theme--day").first).to_be_visible()


@pytest.mark.parametrize(("key", "region"), [("v", "Kit"), ("e", "Starters"), ("h", "Trail")])
def test_a_panel_that_closes_gives_the_focus_back_to_where_it_was(musician, key, region):
    page = musician.open("Night Ferry").page
    steps = musician.number("Bottle: steps")
    steps.focus()
    page.keyboard.press(key)
    expect(page.get_by_role("region", name=region, exact=True)).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("region", name=region, exact=True)).to_have_count(0)
    expect(steps).to_be_focused()
