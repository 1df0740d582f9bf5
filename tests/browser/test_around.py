"""Looking around: a field walked while it plays, grounds, detours, busy-ness, the trail back."""

import re

from playwright.sync_api import expect

from lattice.document import Score, read
from lattice.render import Window, render
from tests.browser.conftest import BAR


def field_of(musician, pattern="A"):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name=f"Pattern {pattern}", exact=True).click()
    page.keyboard.press("g")
    expect_made(page)
    return page


def plot(page):
    return page.get_by_role("application", name=re.compile("^Field:"))


def expect_made(page):
    """Wait until the field is the one that was asked for last."""
    expect(plot(page)).to_have_attribute("aria-busy", "false")


def ground_of(musician, pattern="A"):
    page = field_of(musician, pattern)
    page.get_by_role("button", name="Ground", exact=True).click()
    expect(page.get_by_role("application", name=re.compile("^Quayside"))).to_be_visible()
    return page


def held_since(page):
    """Return the score with all that hands have held since it plays, and its dice."""
    told = page.evaluate("jolly.score()")
    return read(Score, told["score"]), told["dice"]


def expect_tape_as_the_engine_says(musician, score, dice):
    """Compare all whole bars that have sounded with the engine's notes of *score*."""
    stretch = musician.log()[-1]
    bars = musician.whole_bars(stretch)
    assert bars >= 2
    due = sorted(
        (note["laneId"], note["start"], note["pitch"], note["velocity"])
        for note in musician.due(stretch)
        if note["start"] < bars * BAR
    )
    events = render(score, dice, Window(bars=bars))
    ids = [lane.id for lane in score.lanes]
    columns = (events.lanes, events.starts, events.pitches, events.velocities)
    said = sorted((ids[row[0]], *row[1:]) for row in zip(*(one.tolist() for one in columns), strict=True))
    assert due == said


def test_a_field_is_walked_by_keyboard_while_it_plays_and_a_candidate_becomes_the_pattern(musician):
    page = field_of(musician)
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    plot(page).focus()
    for number, key in enumerate(("ArrowUp", "ArrowRight", "ArrowUp")):
        before = page.locator(".side h2").text_content()
        page.keyboard.press(key)
        expect(page.locator(".side h2")).not_to_have_text(before)
        page.wait_for_function(f"jolly.score().score.held_detours.length === {number + 1}")
        musician.wait_for_bars(2 + number)
    page.wait_for_timeout(1500)  # what is stayed with is a place of the trail
    musician.wait_for_bars(6)
    score, dice = held_since(page)
    assert len(score.held_detours) == 3
    expect_tape_as_the_engine_says(musician, score, dice)
    called = page.locator(".side h2").text_content()
    expect(page.locator(".threads .ringed").first).to_be_attached()
    page.keyboard.press("Enter")
    expect(page.locator(".side h2")).to_have_text("The start")
    page.keyboard.press("Space")
    moments = musician.moments()
    assert moments[0] == f"Field: {called}"
    assert moments[1].startswith("Heard: no. ")


def test_a_point_of_the_field_becomes_a_pattern_a_take_a_clip_or_the_detour(musician):
    page = field_of(musician)
    plot(page).focus()
    page.keyboard.press("ArrowDown")
    expect(page.locator(".side h2")).to_contain_text("No. ")
    become = page.get_by_role("group", name="What it becomes")
    become.get_by_role("button", name="Take", exact=True).click()
    expect(page.get_by_text("Kept as a take of Night Ferry")).to_be_visible()
    become.get_by_role("button", name="Clip", exact=True).click()
    expect(page.get_by_text("Kept “Night Ferry A, no.")).to_be_visible()
    become.get_by_role("button", name="Detour").click()
    expect(page.get_by_text("X held plays no.")).to_be_visible()
    become.get_by_role("button", name="Around this one").click()
    expect(page.get_by_text("Around a place beside pattern A.")).to_be_visible()
    page.get_by_role("button", name="Where I started").click()
    expect(page.get_by_text("Around pattern A.")).to_be_visible()
    expect_made(page)
    plot(page).focus()
    page.keyboard.press("ArrowDown")
    expect(page.locator(".side h2")).to_contain_text("No. ")
    become.get_by_role("button", name="New pattern").click()
    expect(page.get_by_role("button", name="Pattern D", exact=True)).to_be_visible()
    # It is another pattern: the field around this one stays, and what is pointed at in it.
    expect_made(page)
    expect(page.locator(".side h2")).to_contain_text("No. ")
    box = plot(page).bounding_box()
    # A box keeps what is in it.
    page.mouse.move(box["x"] + 60, box["y"] + 60)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2, steps=5)
    page.mouse.up()
    expect(page.get_by_role("button", name=re.compile(r"^\d+ in the box · show all$"))).to_be_visible()


def test_a_digit_anchors_a_lane_and_limits_that_none_meets_offer_the_nearest(musician):
    page = field_of(musician)
    expect(page.get_by_text("Thud anchored", exact=False)).to_be_visible()
    page.keyboard.press("2")
    expect(page.get_by_text("Thud and Chain anchored", exact=False)).to_be_visible()
    page.get_by_role("button", name="Anchor Thud").click()
    expect(page.get_by_text("· Chain anchored", exact=False)).to_be_visible()
    least = page.get_by_label("Least hits a bar")
    least.evaluate(
        "(one) => { one.value = one.max; one.dispatchEvent(new Event('input', { bubbles: true })) }"
    )
    expect(page.get_by_text("No pattern within these limits: the nearest has")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Widen to")).click()
    expect(page.get_by_text(re.compile(r"\d+ patterns, up to 30 % away"))).to_be_visible()


def test_one_drag_moves_all_lanes_on_a_ground_and_each_can_be_taken_off_again(musician):
    page = ground_of(musician)
    page.get_by_role("button", name="Chain: put on the ground").click()
    page.get_by_role("button", name="Bottle: put on the ground").click()
    expect(page.get_by_role("button", name="Bottle: off the ground", exact=True)).to_be_visible()
    page.get_by_role("button", name="Pin Bottle").click()
    expect(page.get_by_role("button", name="pinned Bottle")).to_have_attribute("aria-pressed", "true")
    plane = page.get_by_role("application", name=re.compile("^Quayside"))
    box = plane.bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.8, box["y"] + box["height"] * 0.2, steps=8)
    page.mouse.up()
    expect(musician.number("Chain: across")).not_to_have_attribute("aria-valuenow", "50")
    expect(musician.number("Bottle: across")).to_have_attribute("aria-valuenow", "50")
    plane.focus()
    across = int(musician.number("Chain: across").get_attribute("aria-valuenow"))
    page.keyboard.press("Shift+ArrowLeft")
    expect(musician.number("Chain: across")).to_have_attribute("aria-valuenow", str(across - 1))
    page.get_by_role("button", name="Chain: off the ground", exact=True).click()
    expect(page.get_by_role("button", name="Chain: put on the ground")).to_be_visible()
    page.get_by_role("link", name="Lattice", exact=True).click()
    musician.expect_hits("Chain", [5, 13], 16)
    moved = [label for label in musician.moments() if label.startswith("Quayside:")]
    assert len(moved) == 2  # a drag is one moment, a key another


def test_a_ground_in_another_meter_says_so_and_offers_to_change_it(musician):
    page = ground_of(musician)
    page.get_by_role("button", name="Crosswind").click()
    expect(page.get_by_text("It goes in 7/8, pattern A in 4/4")).to_be_visible()
    page.get_by_role("button", name="Make the pattern 7/8").click()
    expect(page.get_by_text("It goes in 7/8, pattern A in 4/4")).to_have_count(0)


def test_an_empty_piece_becomes_a_beat_on_a_ground_in_two_presses(musician):
    page = musician.page
    page.get_by_role("button", name="New piece").click()
    page.get_by_role("button", name="Hear On the quayside").click()
    page.get_by_role("button", name="Begin with On the quayside").click()
    expect(page.locator(".row")).to_have_count(4)
    expect(musician.sentence("lane-1")).to_contain_text("low on Quayside")


def test_a_detour_is_held_and_let_go_and_the_tape_is_what_the_engine_says(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("Shift+X")
    row = page.get_by_role("group", name="Detours")
    expect(row).to_be_visible()
    page.keyboard.press("Space")
    musician.wait_for_bars(1.2)
    page.keyboard.down("x")
    expect(row.get_by_role("button", name="Hold: variation")).to_have_attribute("aria-pressed", "true")
    musician.wait_for_bars(2.6)
    page.keyboard.up("x")
    expect(row.get_by_role("button", name="Hold: variation")).to_have_attribute("aria-pressed", "false")
    row.get_by_role("button", name="1/16", exact=True).click()
    hold = row.get_by_role("button", name="Hold: repeat").bounding_box()
    page.mouse.move(hold["x"] + 12, hold["y"] + 12)
    page.mouse.down()
    musician.wait_for_bars(4.1)
    page.mouse.up()
    musician.wait_for_bars(6)
    score, dice = held_since(page)
    assert [(one.detour.kind, one.end is None) for one in score.held_detours] == [
        ("variation", False),
        ("repeat", False),
    ]
    expect_tape_as_the_engine_says(musician, score, dice)
    expect_kept = page.get_by_role("button", name="Keep 4 bars", exact=True)
    expect_kept.click()
    expect(page.get_by_text("Kept “Night Ferry A, bar")).to_be_visible()
    page.keyboard.press("Space")


def test_a_pattern_has_a_detour_of_its_own_drawn_over_its_bars_and_said_in_red(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Pattern B", exact=True).click()
    own = page.locator("[data-test=own-detours]")
    expect(own).to_contain_text(
        "in the last 1 bar of every 8: a variation up to 55 % away, a fresh one each time"
    )
    musician.type_number("Pattern: every so many bars", "2")
    page.keyboard.press("Escape")
    expect(page.locator(".ruler .detour")).to_have_count(1)
    expect(page.locator("[data-lane=chain] .away path")).not_to_have_attribute("d", "")
    page.get_by_role("button", name="detour 1: remove").click()
    expect(own).to_have_count(0)
    expect(page.locator(".ruler .detour")).to_have_count(0)
    page.keyboard.press("Shift+X")
    page.get_by_role("group", name="Detours").get_by_role("button", name="x 1/2").click()
    page.get_by_role("button", name="pace each 8th bar").click()
    expect(own).to_contain_text("in the last 1 bar of every 8: at x 1/2 the pace")


def test_one_drag_on_the_head_takes_a_backbeat_to_a_fill_and_to_silence(musician):
    page = musician.open("Night Ferry").page
    hand = musician.number("Busy-ness of Chain")
    box = hand.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - 43, steps=5)
    musician.expect_hits("Chain", [1, 3, 5, 7, 9, 11, 13, 15], 16)
    expect(musician.sentence("chain")).to_contain_text("busier 43 %")
    page.mouse.move(x, y + 110, steps=5)
    musician.expect_hits("Chain", [], 16)
    expect(musician.sentence("chain")).to_contain_text("sparser 100 %")
    page.mouse.move(x, y, steps=3)
    page.mouse.up()
    musician.expect_hits("Chain", [5, 13], 16)
    musician.choose("chain", "bottle")
    hand.focus()
    page.keyboard.press("ArrowUp")
    expect(musician.number("Busy-ness of Bottle")).to_have_attribute("aria-valuenow", "5")


def test_the_trail_leads_back_to_the_start_after_a_reload(musician):
    page = musician.open("Night Ferry").page
    musician.choose("bottle")
    for _ in range(3):
        page.keyboard.press("+")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("ArrowUp")
    page.keyboard.press("h")
    trail = page.get_by_role("region", name="Trail")
    first = trail.locator(".place").nth(1)
    name = first.get_by_label(re.compile("^Name of place"))
    name.fill("Two more")
    name.press("Enter")
    expect(trail.get_by_text("Two more").first).to_be_visible()
    page.keyboard.press("Escape")
    musician.wait_until_saved()
    page.reload()
    expect(page.locator(".thread").first).to_be_visible()
    page.keyboard.press("h")
    expect(trail.get_by_text("Two more").first).to_be_visible()
    expect(trail.locator(".place svg circle").first).to_be_attached()
    trail.locator(".moment").last.click()
    page.keyboard.press("Escape")
    musician.expect_hits("Bottle", [3, 6, 9, 12, 15], 16)
    page.keyboard.press("h")
    trail.get_by_role("button", name="Forward").click()
    page.keyboard.press("Escape")
    expect(musician.number("Bottle: hits").first).to_have_attribute("aria-valuenow", "6")
    page.keyboard.down("z")  # the place before, as long as it is held
    musician.expect_hits("Bottle", [3, 6, 9, 12, 15], 16)
    page.keyboard.up("z")
    expect(musician.number("Bottle: hits").first).to_have_attribute("aria-valuenow", "6")
    expect(
        page.get_by_role("img", name="Thread of Bottle: hits on steps 3, 6, 9, 12, 15 of 16")
    ).to_have_count(0)


def test_a_numbered_lane_goes_to_the_next_more_even_or_more_syncopated(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Pattern B", exact=True).click()
    word = page.locator("[data-lane=bottle]").get_by_role("button", name=re.compile("next number, of 4,368"))
    word.click()
    offered = page.get_by_role("group", name="Bottle: next number")
    expect(offered.get_by_role("button")).to_have_count(3)
    offered.get_by_role("button", name=re.compile("the next more even: no.")).click()
    expect(musician.sentence("bottle")).not_to_contain_text("no. 1,205")
