"""Somebody who has never been here: ways to begin, hints, help that plays, melodies in three presses."""

import pytest
from playwright.sync_api import expect

from lattice.help import help_words


def begin_new(musician):
    page = musician.page
    page.get_by_role("button", name="New piece").click()
    expect(page.get_by_role("heading", name="How do you want to begin?")).to_be_visible()
    return page


def test_a_starter_is_heard_on_an_empty_piece_let_go_and_taken(musician):
    page = begin_new(musician)
    page.get_by_role("button", name="Hear Open sea").click()
    expect(page.locator(".row")).to_have_count(6)
    musician.wait_for_bars(0.5)
    assert {note["laneId"] for note in musician.log()[-1]["notes"]} > {"lane-1"}
    page.get_by_role("button", name="Hear Open sea").click()
    expect(page.locator(".row")).to_have_count(0)
    expect(page.get_by_role("button", name="Play from bar 1")).to_be_visible()
    page.get_by_role("button", name="Hear Bridge swing").click()
    page.get_by_role("button", name="Begin with Bridge swing").click()
    expect(page.get_by_role("heading", name="How do you want to begin?")).to_have_count(0)
    expect(page.get_by_role("button", name="Pattern B", exact=True)).to_be_visible()
    expect(musician.number("Piece: tempo")).to_have_attribute("aria-valuenow", "104")
    expect(page.get_by_role("button", name="Stop")).to_be_visible()  # it goes on
    assert musician.moments()[0] == "Begins from Bridge swing"
    page.keyboard.press("Control+z")
    expect(page.get_by_role("heading", name="How do you want to begin?")).to_be_visible()


def test_a_bass_line_a_pad_and_a_lead_are_three_presses(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("e")
    starters = page.get_by_role("region", name="Starters")
    starters.get_by_role("button", name="melodies").click()
    for name in ("Mooring post", "Fog bank", "Gull over the stern"):
        starters.get_by_role("button", name=f"Add {name} as a lane").click()
    expect(page.locator(".row")).to_have_count(13)
    page.keyboard.press("Escape")
    expect(musician.sentence("undertow")).to_contain_text("follows the root")
    expect(musician.sentence("foghorn")).to_contain_text("all at once, the chord")
    expect(page.get_by_role("group", name="Progression")).to_contain_text("IV")


def test_a_melody_is_heard_as_one_more_lane_or_in_place_of_the_chosen_one(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("e")
    starters = page.get_by_role("region", name="Starters")
    starters.get_by_role("button", name="melodies").click()
    starters.get_by_role("button", name="Hear Engine room").click()
    expect(page.locator(".row")).to_have_count(11)
    starters.get_by_role("button", name="in place of Thud").click()
    expect(page.locator(".row")).to_have_count(10)
    starters.get_by_role("button", name="Begin Thud from it").click()
    expect(page.locator("[data-lane=thud] .name")).to_have_text("Low reed")
    expect(page.get_by_role("button", name="Stop")).to_be_visible()


def test_hints_stand_one_at_a_time_where_they_are_needed_and_are_left_and_called_again(musician):
    page = musician.open("Night Ferry").page
    hint = page.get_by_role("complementary", name="Hint")
    expect(hint).to_have_count(0)
    page.keyboard.press("?")
    page.get_by_role("button", name="Show the hints again").click()
    expect(hint).to_contain_text("Play: Space does it too")
    page.keyboard.press("Space")  # what it speaks of is done: the next one stands
    expect(hint).to_contain_text("This is what the lane does")
    hint.get_by_role("button", name="Got it").click()
    expect(hint).to_contain_text("The tape has been running all the time")
    musician.wait_for_bars(1)
    page.get_by_role("button", name="Keep 4 bars", exact=True).click()
    expect(hint).to_contain_text("What you kept is here")
    hint.get_by_role("button", name="Got it").click()
    expect(hint).to_contain_text("5 of 5")
    hint.get_by_role("button", name="No more hints").click()
    expect(hint).to_have_count(0)
    page.reload()
    expect(page.locator(".thread").first).to_be_visible()
    expect(hint).to_have_count(0)


def look_for(page, typed):
    page.keyboard.press("?")
    dialog = page.get_by_role("dialog", name="Help")
    dialog.get_by_label("Look for help").fill(typed)
    return dialog


def test_help_opens_at_the_screen_one_is_on_and_is_found_by_typing(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("?")
    dialog = page.get_by_role("dialog", name="Help")
    expect(dialog.get_by_role("heading", name="Lattice")).to_be_visible()
    expect(dialog.get_by_label("Look for help")).to_be_focused()
    dialog.get_by_label("Look for help").fill("to and fro")
    expect(dialog.get_by_role("button", name="direction")).to_be_visible()
    dialog.get_by_label("Look for help").fill("zither")
    expect(dialog.get_by_text("Nothing speaks of “zither”.")).to_be_visible()
    dialog.get_by_label("Look for help").fill("pedal note")
    dialog.get_by_role("button", name="pedal note").click()
    dialog.get_by_role("button", name="Shown and played: arpeggio").click()
    expect(dialog.get_by_role("heading", name="arpeggio")).to_be_visible()
    page.keyboard.press("Escape")
    expect(dialog).to_have_count(0)


def test_who_types_before_help_has_come_finds_it_when_it_does(musician):
    page = musician.open("Night Ferry").page
    waiting = []

    def hold(route):
        waiting.append(route)

    page.route("**/api/help", hold)
    dialog = look_for(page, "rotate")
    expect(dialog.get_by_role("status")).to_have_text("Fetching all words …")
    waiting[0].continue_()
    expect(dialog.get_by_role("article", name="rotate")).to_contain_text("5 in 8")


def test_a_word_is_shown_and_played_under_the_hand(musician):
    page = musician.open("Night Ferry").page
    dialog = look_for(page, "rotate")
    word = dialog.get_by_role("article", name="rotate")
    expect(word).to_contain_text("5 in 8")
    expect(word).to_contain_text("rotated 2")
    word.get_by_role("button", name="Play", exact=True).click()
    expect(word.get_by_role("button", name="Stop")).to_be_visible()
    page.wait_for_function("async () => (await jolly.level()) > 0.001")
    rotated = word.get_by_role("spinbutton", name="Bottle: rotated")
    rotated.focus()
    page.keyboard.press("ArrowUp")
    expect(rotated).to_have_attribute("aria-valuenow", "3")
    word.get_by_role("button", name="without").click()
    expect(rotated).to_have_count(0)
    word.get_by_role("button", name="Bottle: add a setting").click()
    page.get_by_role("button", name="its rests", exact=True).click()
    expect(word).to_contain_text("its rests")
    # Nothing of it is the piece's.
    page.keyboard.press("Escape")
    expect(dialog).to_have_count(0)
    page.wait_for_function("async () => (await jolly.level()) < 0.001")
    expect(page.locator("[data-lane=bottle] .sentence")).to_contain_text("rotated 2")
    assert all("rests" not in moment for moment in musician.moments()[:1])


@pytest.mark.parametrize("setting", ["swing", "scale"])
def test_what_holds_for_a_pattern_is_shown_and_changed_too(musician, setting):
    page = musician.open("Night Ferry").page
    dialog = look_for(page, setting)
    word = next(one for one in help_words() if (one.setting, one.group) == (setting, "pattern"))
    dialog.get_by_role("button", name=setting, exact=True).last.click()
    for example in word.examples:
        dialog.get_by_role("button", name=example.text, exact=True).click()
        expect(dialog.locator(".says")).to_contain_text(example.text)


def test_every_word_with_an_example_opens_without_a_complaint(musician):
    page = musician.open("Lantern Quay").page
    page.keyboard.press("?")
    dialog = page.get_by_role("dialog", name="Help")
    words = help_words()
    expect(dialog.get_by_role("button", name="detour", exact=True).first).to_be_visible()
    pages = dialog.locator(".list button")
    start = pages.all_text_contents().index(f" {words[0].label} ".strip())
    for at, word in enumerate(words):
        pages.nth(start + at).click()
        expect(dialog.get_by_role("article", name=word.label, exact=True)).to_be_visible()
        expect(dialog.locator(".says")).to_contain_text(word.examples[0].text)
