"""What hands do on the lattice."""

import re

from playwright.sync_api import expect


def test_a_number_is_dragged_and_escape_takes_it_back(musician):
    page = musician.open("Night Ferry").page
    steps = musician.number("Bottle: steps")
    box = steps.bounding_box()
    page.mouse.move(box["x"] + 4, box["y"] + 8)
    page.mouse.down()
    page.mouse.move(box["x"] + 4, box["y"] + 40, steps=8)
    expect(steps).not_to_have_attribute("aria-valuenow", "16")
    moved = int(steps.get_attribute("aria-valuenow"))
    assert 1 <= moved < 16
    expect(page.get_by_role("img", name="Thread of Bottle:")).to_have_accessible_name(
        re.compile(f" of {moved}$")
    )
    page.keyboard.press("Escape")
    page.mouse.up()
    expect(steps).to_have_attribute("aria-valuenow", "16")
    # What is finished stays: undoing takes it back.
    musician.expect_hits(
        "Bottle", [3, 6, 9, 12, 15], 16
    )  # the sentence is as it was: the number lies where it lay
    expect(musician.sentence("bottle")).not_to_contain_text("asked for")
    box = steps.bounding_box()
    page.mouse.move(box["x"] + 4, box["y"] + 8)
    page.mouse.down()
    page.mouse.move(box["x"] + 4, box["y"] + 40, steps=8)
    page.mouse.up()
    page.keyboard.press("Escape")
    expect(steps).not_to_have_attribute("aria-valuenow", "16")
    page.keyboard.press("Control+z")
    expect(steps).to_have_attribute("aria-valuenow", "16")


def test_a_number_is_stepped_turned_and_kept_within_its_limits(musician):
    page = musician.open("Night Ferry").page
    hits = musician.number("Bottle: hits")
    hits.focus()
    page.keyboard.press("ArrowUp")
    page.keyboard.press("ArrowUp")
    expect(hits).to_have_attribute("aria-valuenow", "7")
    page.keyboard.press("ArrowDown")
    expect(hits).to_have_attribute("aria-valuenow", "6")
    hits.hover()
    page.mouse.wheel(0, -100)
    expect(hits).to_have_attribute("aria-valuenow", "7")
    page.keyboard.press("End")
    expect(hits).to_have_attribute("aria-valuenow", "16")
    page.keyboard.type("99")
    page.keyboard.press("Enter")
    expect(hits).to_have_attribute("aria-valuenow", "16")
    musician.expect_hits("Bottle", list(range(1, 17)), 16)


def test_a_setting_is_offered_by_plus_and_taken_back_by_delete(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Thud: add a setting").click()
    expect(page.get_by_role("button", name="its rests", exact=True)).to_be_visible()
    # However long an offer is, it does not lie over what explains it.
    overlapping = page.evaluate("""() => [...document.querySelectorAll('.offers .words')].filter((words) => {
        const [said, explained] = [...words.children].map((one) => {
          const range = document.createRange()
          range.selectNodeContents(one)
          return range.getBoundingClientRect()
        })
        return said.right > explained.left
      }).map((words) => words.textContent)""")
    assert overlapping == []
    page.get_by_role("button", name="its rests", exact=True).click()
    expect(page.get_by_role("button", name="Thud: hits or rests")).to_be_visible()
    musician.expect_hits("Thud", [2, 3, 4, 6, 7, 8, 10, 11, 12, 14, 15, 16], 16)
    page.get_by_role("button", name="Thud: hits or rests").focus()
    page.keyboard.press("Delete")
    expect(page.get_by_role("button", name="Thud: hits or rests")).to_have_count(0)
    musician.expect_hits("Thud", [1, 5, 9, 13], 16)


def test_a_number_that_passes_its_plain_value_stays_under_the_hand(musician):
    page = musician.open("Night Ferry").page
    rotated = musician.number("Bottle: rotated")
    rotated.focus()
    for expected in ("1", "0", "-1"):
        page.keyboard.press("ArrowDown")
        expect(rotated).to_have_attribute("aria-valuenow", expected)
    expect(rotated).to_be_focused()


def test_steps_of_a_drawn_lane_are_clicked_and_painted(musician):
    page = musician.open("Night Ferry").page
    thread = page.get_by_role("img", name="Thread of Chain:")
    musician.expect_hits("Chain", [5, 13], 16)
    box = thread.bounding_box()
    step = (box["width"] - 28) / 32
    at = lambda number: (box["x"] + 14 + (number - 1) * step, box["y"] + 14)  # noqa: E731
    page.mouse.click(*at(1))
    musician.expect_hits("Chain", [1, 5, 13], 16)
    page.mouse.click(*at(17 + 4))  # the same step, in its second cycle
    musician.expect_hits("Chain", [1, 13], 16)
    page.mouse.move(*at(6))
    page.mouse.down()
    page.mouse.move(*at(9), steps=12)
    page.mouse.up()
    musician.expect_hits("Chain", [1, 6, 7, 8, 9, 13], 16)
    page.keyboard.press("Control+z")
    musician.expect_hits("Chain", [1, 13], 16)


def test_steps_of_a_computed_lane_are_turned_by_hand_and_back(musician):
    page = musician.open("Night Ferry").page
    thread = page.get_by_role("img", name="Thread of Bottle:")
    thread.click(position={"x": 14, "y": 14})
    musician.expect_hits("Bottle", [1, 3, 6, 9, 12, 15], 16)
    expect(page.get_by_role("button", name="Bottle: by hand, 1 by hand")).to_be_visible()
    thread.click(position={"x": 14, "y": 14})
    musician.expect_hits("Bottle", [3, 6, 9, 12, 15], 16)
    expect(page.get_by_role("button", name="Bottle: by hand")).to_have_count(0)


def test_a_computed_lane_is_settled_as_it_stands(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Bottle: source, in").click()
    page.get_by_role("button", name="drawn, 16 steps as they stand").click()
    expect(page.get_by_role("button", name="Bottle: source, drawn")).to_be_visible()
    musician.expect_hits("Bottle", [3, 6, 9, 12, 15], 16)


def test_a_rhythm_is_wandered_by_its_number_and_thrown(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Thud: source, in").click()
    page.get_by_role("button", name="4 in 16, by number").click()
    number = musician.number("Thud: number")
    musician.expect_hits("Thud", [1, 5, 9, 13], 16)
    number.focus()
    page.keyboard.press("ArrowUp")
    musician.expect_hits("Thud", [1, 5, 9, 14], 16)
    page.keyboard.type("1820")
    page.keyboard.press("Enter")
    musician.expect_hits("Thud", [13, 14, 15, 16], 16)
    page.get_by_role("button", name="Thud: source, in").click()
    page.get_by_role("button", name="4 in 16, thrown").click()
    expect(musician.number("Thud: throw")).to_have_attribute("aria-valuenow", "1")
    musician.wait_until_saved()


def test_a_lane_is_thinned(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Thud: add a setting").click()
    page.get_by_role("button", name="only each 3rd hit").click()
    musician.expect_hits("Thud", [1, 13], 16)
    page.get_by_role("button", name="Thud: only or without").click()
    page.get_by_role("button", name="without each 3rd hit", exact=True).click()
    musician.expect_hits("Thud", [5, 9], 16)


def test_keys_choose_lanes_walk_steps_and_turn_them(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    musician.expect_hits("Chain", [2, 5, 13], 16)
    page.keyboard.press("m")
    expect(page.get_by_role("button", name="Mute Chain")).to_have_attribute("aria-pressed", "true")


def test_lanes_are_added_copied_renamed_revoiced_and_removed(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("n")
    expect(page.locator(".row")).to_have_count(11)
    # The voice of a new lane opens for choosing.
    expect(page.get_by_role("button", name="Plank 41")).to_be_focused()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="Plank 41")).to_have_count(0)
    page.keyboard.press("d")
    expect(page.locator(".row")).to_have_count(12)
    page.get_by_role("button", name="Lane Plank copy").click()
    page.get_by_label("Name of the lane").fill("Night bell")
    page.get_by_label("Name of the lane").press("Enter")
    page.get_by_role("button", name="Gull 49").click()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="Lane Night bell")).to_be_visible()
    page.get_by_role("button", name="Lane Night bell").click()
    page.get_by_role("button", name="Remove lane").click()
    expect(page.locator(".row")).to_have_count(11)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name="Lane Night bell")).to_be_visible()
    musician.wait_until_saved()
    page.reload()
    expect(page.get_by_role("button", name="Lane Night bell")).to_be_visible()


def test_undo_and_redo_go_through_everything_but_mute(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Bottle: steps", "13")
    page.get_by_role("button", name="Mute Thud").click()
    musician.type_number("Piece: tempo", "90")
    page.keyboard.press("Control+z")
    expect(musician.number("Piece: tempo")).to_have_attribute("aria-valuenow", "240")
    page.keyboard.press("Control+z")
    expect(musician.number("Bottle: steps")).to_have_attribute("aria-valuenow", "16")
    expect(page.get_by_role("button", name="Mute Thud")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("Control+Shift+z")
    expect(musician.number("Bottle: steps")).to_have_attribute("aria-valuenow", "13")


def test_keys_do_not_fire_while_a_name_is_typed(musician):
    page = musician.open("Night Ferry").page
    name = page.get_by_label("Name of the piece")
    name.fill("")
    name.press_sequentially("m s n k 4 d")
    name.press("Enter")
    musician.wait_until_saved()
    expect(page.locator(".row")).to_have_count(10)
    assert musician.log() == []
    page.get_by_role("link", name="Shelf", exact=True).click()
    expect(page.get_by_role("link", name="Open m s n k 4 d")).to_be_visible()


def test_the_ruler_plays_from_there_and_the_view_turns_its_pages(musician):
    page = musician.open("Slack Water").page
    page.get_by_role("button", name="1 bars in view").click()
    page.get_by_role("button", name="Later bars").click()
    expect(page.locator(".bar-number")).to_have_text(["bar 2"])
    page.get_by_role("slider", name="Ruler").click(position={"x": 20, "y": 40})
    page.wait_for_function("jolly.log().length > 0")
    assert musician.log()[0]["fromTick"] == 53760
    expect(page.locator(".bar-number")).to_have_text(["bar 3"])
    page.keyboard.press("Space")


def test_new_dice_change_what_chance_lets_sound(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="new", exact=True).click()
    expect(musician.number("Pattern: dice")).not_to_have_attribute("aria-valuenow", "7081")
    page.keyboard.press("Control+z")
    expect(musician.number("Pattern: dice")).to_have_attribute("aria-valuenow", "7081")


def test_all_keys_are_listed(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("?")
    page.get_by_role("dialog", name="Help").get_by_role("button", name="Shortcuts").click()
    expect(page.get_by_text("Play, or stop")).to_be_visible()
    expect(page.get_by_text("Solo the lane")).to_be_visible()


def test_seven_fill_a_bar_evenly(musician):
    page = musician.open("Night Ferry").page
    musician.type_number("Thud: hits", "7")
    musician.type_number("Thud: steps", "7")
    page.get_by_role("button", name="Thud: add a setting").click()
    page.get_by_role("button", name="over 1 bar").click()
    expect(musician.number("Thud: bars")).to_have_attribute("aria-valuenow", "1")
    musician.expect_hits("Thud", [1, 2, 3, 4, 5, 6, 7], 7)
    expect(page.locator(".row").first.get_by_text("1 bar", exact=True)).to_be_visible()
    musician.number("Thud: bars").focus()
    page.keyboard.press("Delete")
    expect(musician.number("Thud: bars")).to_have_count(0)
    musician.wait_until_saved()
