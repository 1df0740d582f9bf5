"""Several patterns of a piece."""

import re

from playwright.sync_api import expect

from tests.browser.conftest import BAR


def test_a_chosen_pattern_begins_at_the_next_bar_line_at_its_first_step(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Piece: tempo", "240")
    page.keyboard.press("Escape")
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    page.get_by_role("button", name="Pattern B", exact=True).click()
    expect(musician.number("Pattern: dice")).to_have_attribute("aria-valuenow", "1402")
    page.wait_for_function(f"jolly.log().length === 2 && jolly.log()[1].nowTick > {2 * BAR}")
    page.keyboard.press("Space")
    before, after = musician.log()
    assert before["nowTick"] % BAR == 0
    assert (after["fromTick"], min(note["start"] for note in musician.due(after))) == (0, 0)
    # On the audio clock the one goes on where the other ended.
    last_bar = [note for note in before["notes"] if note["start"] >= before["nowTick"] - BAR]
    seconds = 60 / 240 / 13440
    first = after["notes"][0]
    begins = first["time"] - first["start"] * seconds
    assert all(
        abs(note["time"] + (before["nowTick"] - note["start"]) * seconds - begins) < 1e-4 for note in last_bar
    )


def test_what_is_kept_of_another_pattern_is_called_so(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Piece: tempo", "300")
    page.get_by_role("button", name="Pattern B", exact=True).click()
    page.keyboard.press("Space")
    musician.wait_for_bars(2)
    page.keyboard.press("Space")
    page.get_by_role("button", name="Keep 4 bars", exact=True).click()
    expect(page.get_by_text("Kept “Night Ferry B, bar")).to_be_visible()


def test_patterns_are_added_copied_renamed_deleted_and_brought_back(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="This pattern", exact=True).click()
    page.get_by_role("button", name="Add a pattern").click()
    expect(page.get_by_role("button", name="Pattern D", exact=True)).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_role("heading", name="How do you want to begin?")).to_be_visible()
    page.get_by_role("button", name="Add a lane").click()
    expect(page.locator(".row")).to_have_count(1)
    voice = page.locator(
        ".v-overlay--active .card"
    )  # a new lane's voice opens for choosing, and has the keys until it closes
    expect(voice).to_be_visible()
    page.keyboard.press("Escape")
    expect(voice).to_have_count(0)
    page.keyboard.press(",")
    expect(page.locator(".row")).to_have_count(10)
    page.get_by_role("button", name="Copy this pattern").click()
    expect(page.get_by_role("button", name="Pattern E", exact=True)).to_have_attribute("aria-pressed", "true")
    expect(page.locator(".row")).to_have_count(10)
    expect(musician.number("Pattern: dice")).to_have_attribute("aria-valuenow", "7081")
    page.get_by_role("button", name="This pattern", exact=True).click()
    name = page.get_by_label("Name of the pattern")
    name.fill("Low tide")
    name.press("Enter")
    page.get_by_role("button", name="Delete this pattern").click()
    expect(page.get_by_role("button", name="Pattern Low tide")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name="Pattern Low tide")).to_have_attribute("aria-pressed", "true")
    musician.wait_until_saved()
    page.reload()
    expect(page.get_by_role("button", name="Pattern Low tide")).to_be_visible()


def test_meter_length_and_dice_are_each_patterns_own(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Pattern: length", "12")
    musician.type_number("Pattern: beats in a bar", "7")
    musician.type_number("Pattern: dice", "5")
    page.keyboard.press("Escape")
    page.keyboard.press(".")
    for name, value in (("length", "8"), ("beats in a bar", "4"), ("dice", "1402")):
        expect(musician.number(f"Pattern: {name}")).to_have_attribute("aria-valuenow", value)


def test_mute_in_one_pattern_is_not_mute_in_another_with_the_same_lanes(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Mute Thud").click()
    page.keyboard.press(".")
    expect(page.get_by_role("button", name="Mute Thud")).to_have_attribute("aria-pressed", "false")


def test_a_copy_is_a_fourth_higher_and_lanes_are_brought_from_another_pattern(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("3")
    expect(page.get_by_role("button", name="Pattern C", exact=True)).to_have_attribute("aria-pressed", "true")
    page.get_by_role("button", name="This pattern", exact=True).click()
    page.get_by_role("button", name="Colour 2").click()
    page.get_by_role("button", name="Copy higher").click()
    expect(page.get_by_role("button", name="Pattern D", exact=True)).to_have_attribute("aria-pressed", "true")
    expect(page.locator("[data-test=own-detours]")).to_contain_text("all 3 degrees up")
    low = "jolly.score().score.lanes.filter(({ voice }) => voice === 'low-reed').length"
    assert page.evaluate("jolly.score().score.degrees_up") == 3
    assert page.evaluate(low) == 1
    # Into pattern A comes the bass of C, and what is read there goes on by itself.
    page.keyboard.press("1")
    page.get_by_role("button", name="This pattern", exact=True).click()
    page.get_by_label("From which pattern").select_option(label="C")
    page.get_by_role("group", name="Lanes to bring").get_by_role("button", name="Low reed").click()
    expect(page.get_by_text("Low reed brought from C.")).to_be_visible()
    assert page.evaluate(low) == 1
    page.get_by_label("What to bring").select_option(label="settings")
    page.get_by_role("group", name="Lanes to bring").get_by_role("button", name="Hiss").click()
    expect(page.get_by_text("The settings of Hiss brought from C.")).to_be_visible()
    hiss = "jolly.score().score.lanes.find(({ id }) => id === 'hiss')"
    page.wait_for_function(f"{hiss}.movements.length === 1 && {hiss}.source.steps === 12")
    page.keyboard.press("Escape")
    # A chip is dragged to another place.
    chips = page.locator("[data-pattern]")
    chips.nth(0).drag_to(chips.nth(2))
    assert page.evaluate("jolly.piece().patterns.map(({ name }) => name).join('')") == "BCAD"


def test_the_next_pattern_takes_over_at_each_moment_and_can_be_called_off(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Piece: tempo", "160")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Play from bar 1").click()
    musician.wait_for_bars(0)  # before it plays, a pattern is only chosen

    def how(to, at):
        page.get_by_role("button", name="This pattern", exact=True).click()
        page.get_by_label("How the next pattern takes over").select_option(to)
        page.get_by_label("When the next pattern takes over").select_option(at)
        page.keyboard.press("Escape")
        expect(page.get_by_label("When the next pattern takes over")).to_have_count(0)

    def turn(pattern, runs):
        page.keyboard.press(pattern)
        page.wait_for_function(
            "(runs) => jolly.log().length === runs && jolly.log()[runs - 1].nowTick > jolly.log()[runs - 1].fromTick",
            arg=runs,
        )
        before, after = musician.log()[-2:]
        return before["nowTick"], after["fromTick"]

    how("carry on", "once")
    left, begun = turn("2", 2)
    assert begun == left
    assert left % 3360 in (0, 269)  # a sixteenth, or one that swings: 54 % of a pair
    how("begin", "beat")
    left, begun = turn("1", 3)
    assert begun == 0
    assert left % (BAR // 4) == 0
    # B began anew then: this one carries on as if it had played since play was pressed.
    how("carry on", "bar")
    left, begun = turn("2", 4)
    assert left % BAR == 0
    assert begun >= left
    assert begun % BAR == 0
    how("begin", "pass")
    page.keyboard.press("3")
    expect(page.get_by_role("button", name="Pattern C", exact=True)).to_have_class(re.compile("waiting"))
    page.get_by_role("button", name="Pattern C", exact=True).click()
    expect(page.get_by_role("button", name="Pattern B", exact=True)).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("3")
    page.wait_for_function("jolly.log().length === 5 && jolly.log()[4].nowTick > 0")
    assert musician.log()[3]["nowTick"] % (8 * BAR) == 0
    assert musician.log()[4]["fromTick"] == 0
