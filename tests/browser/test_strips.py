"""Strips painted, ramped, thrown and set free; what is painted is what is scheduled."""

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import BAR

STEP = 3360


@pytest.fixture
def bottle(musician):
    """Night Ferry with the bottle chosen: 5 in 16, rotated 2, on steps 3, 6, 9, 12 and 15, and no swing."""
    musician.open("Night Ferry")
    musician.type_number("Piece: swing", "50")
    musician.choose("bottle")
    return musician


def strip(page, name):
    page.get_by_role("tab", name=name, exact=True).click()
    return page.get_by_role("slider", name=f"Bottle: {name} of each", exact=False).first


def drag(page, bars, touches, count=16, shift=False):
    """Drag over bars through touches of (place, share of the height)."""
    box = bars.bounding_box()
    points = [
        (box["x"] + (place + 0.5) * box["width"] / count, box["y"] + (1 - share) * box["height"])
        for place, share in touches
    ]
    if shift:
        page.keyboard.down("Shift")
    page.mouse.move(*points[0])
    page.mouse.down()
    for point in points[1:]:
        page.mouse.move(*point, steps=4)
    page.mouse.up()
    if shift:
        page.keyboard.up("Shift")


def heard(musician, lane="bottle", bars=2):
    """Play from bar 1 and return what was scheduled of a lane in the first bars: (start, length, velocity)."""
    page = musician.page
    page.keyboard.press("Escape")
    stretches = len(musician.log())
    page.keyboard.press("Space")
    page.wait_for_function(f"jolly.log().length > {stretches} || !{stretches}")
    musician.wait_for_bars(bars)
    notes = musician.due(musician.log()[-1])
    page.keyboard.press("Space")
    return sorted(
        (note["start"], note["length"], note["velocity"])
        for note in notes
        if note["laneId"] == lane and note["start"] < bars * BAR
    )


def test_a_strip_is_painted_and_heard_as_it_is_drawn(bottle):
    page = bottle.page
    bars = strip(page, "velocity")
    drag(page, bars, [(0, 0.25), (15, 0.25)])
    expect(bottle.sentence("bottle")).to_contain_text("velocity 86, on 16")
    assert bottle.moments()[0] == "Bottle: velocity of 16 steps"
    said = bars.get_attribute("aria-valuetext")
    value = int(said.split(": ")[1])
    assert abs(value - 32) < 4
    assert {velocity for _, _, velocity in heard(bottle)} == {value}


def test_with_shift_it_is_a_straight_ramp(bottle):
    page = bottle.page
    drag(page, strip(page, "velocity"), [(0, 0.05), (8, 0.9), (15, 0.95)], shift=True)
    expect(bottle.sentence("bottle")).to_contain_text("on 16")
    velocities = [velocity for _, _, velocity in heard(bottle, bars=1)]
    steps = [2, 5, 8, 11, 14]
    assert velocities == sorted(velocities)
    for step, velocity in zip(steps, velocities, strict=True):
        assert abs(velocity - (1 + 126 * (0.05 + 0.9 * step / 15))) <= 3


def test_values_are_typed_stepped_and_made_plain(bottle):
    page = bottle.page
    bars = strip(page, "chance")
    bars.focus()
    page.keyboard.type("40")
    page.keyboard.press("Enter")
    expect(bars).to_have_attribute("aria-valuetext", "step 2: 100 %")
    page.keyboard.press("ArrowLeft")
    expect(bars).to_have_attribute("aria-valuetext", "step 1: 40 %")
    page.keyboard.press("ArrowUp")
    expect(bars).to_have_attribute("aria-valuetext", "step 1: 41 %")
    page.keyboard.press("Delete")
    expect(bottle.sentence("bottle")).not_to_contain_text("on 1")


def test_dragging_the_end_gives_a_strip_a_length_of_its_own(bottle):
    page = bottle.page
    bars = strip(page, "velocity")
    bars.focus()
    for value in ("20", "40", "60"):
        page.keyboard.type(value)
        page.keyboard.press("Enter")
    end = page.get_by_role("slider", name="Bottle: velocity of each step: length")
    end.focus()
    box = end.bounding_box()
    page.mouse.move(box["x"] + 10, box["y"] + 20)
    page.mouse.down()
    page.mouse.move(box["x"] + 10 - 13 * bars.bounding_box()["width"] / 16, box["y"] + 20, steps=5)
    page.mouse.up()
    expect(bottle.sentence("bottle")).to_contain_text("3 values at each step")
    bottle.alternative(
        "Bottle strip: velocity timing, own length, on at each step", "own length, on at each hit"
    )
    expect(bottle.sentence("bottle")).to_contain_text("3 values at each hit")
    assert [velocity for _, _, velocity in heard(bottle)] == [20, 40, 60, 20, 40, 60, 20, 40, 60, 20]


def test_a_strip_is_thrown_between_two_values_and_undone(bottle):
    page = bottle.page
    strip(page, "velocity")
    page.get_by_role("button", name="Throw velocity of Bottle").click()
    expect(bottle.sentence("bottle")).to_contain_text("on 16")
    thrown = [velocity for _, _, velocity in heard(bottle)]
    assert all(50 <= velocity <= 115 for velocity in thrown)
    assert len(set(thrown)) > 1
    page.keyboard.press("Control+z")
    expect(bottle.sentence("bottle")).not_to_contain_text("on 16")
    assert {velocity for _, _, velocity in heard(bottle)} == {86}


def test_a_strip_is_copied_onto_another_lane_and_worked_on_by_keys(bottle):
    page = bottle.page
    bars = strip(page, "velocity")
    bars.focus()
    page.keyboard.type("30")
    page.keyboard.press("Enter")
    page.keyboard.press("Home")
    page.keyboard.press("Alt+ArrowRight")
    expect(bars.locator(".bar").nth(1)).to_have_text("30")
    page.keyboard.press("Control+c")
    bottle.choose("winch")
    winch = page.get_by_role("slider", name="Winch: velocity of each step", exact=True)
    winch.focus()
    page.keyboard.press("Control+v")
    expect(winch.locator(".bar").nth(1)).to_have_text("30")


def test_what_does_not_fit_another_strip_is_refused_and_taken_back(bottle, complaints):
    page = bottle.page
    strip(page, "velocity").focus()
    page.keyboard.type("99")
    page.keyboard.press("Enter")
    page.keyboard.press("Control+c")
    nudge = strip(page, "nudge")
    nudge.focus()
    page.keyboard.press("Control+v")
    expect(page.locator(".notice.error")).to_contain_text("Lane “Bottle”: the value 1 of nudge strip must be")
    expect(bottle.sentence("bottle")).not_to_contain_text("nudged")
    page.wait_for_timeout(500)
    complaints.clear()


def test_ratchets_divide_the_step(bottle):
    page = bottle.page
    bars = strip(page, "ratchet")
    bars.focus()
    for _ in range(2):
        page.keyboard.press("ArrowRight")
    page.keyboard.type("3")
    page.keyboard.press("Enter")
    expect(bottle.sentence("bottle")).to_contain_text("ratchet on 1")
    notes = heard(bottle, bars=1)
    assert [start for start, _, _ in notes[:3]] == [2 * STEP, 2 * STEP + 1120, 2 * STEP + 2240]


def test_a_property_of_all_lanes_is_shown_and_painted(bottle):
    page = bottle.page
    page.keyboard.press("p")
    expect(page.get_by_role("button", name="velocity", exact=True)).to_have_attribute("aria-pressed", "true")
    expect(page.locator(".stack")).to_have_attribute("aria-busy", "false")  # drawn as bars by now
    thread = page.locator("[data-lane=chain] .thread").bounding_box()
    page.mouse.move(thread["x"] + 14, thread["y"] + thread["height"] - 8)
    page.mouse.down()
    page.mouse.move(thread["x"] + 200, thread["y"] + thread["height"] - 8, steps=6)
    page.mouse.up()
    expect(bottle.sentence("chain")).not_to_contain_text("on 3")
    assert bottle.moments()[0].startswith("Chain: velocity of")
    for _ in range(6):
        page.keyboard.press("p")
    expect(page.get_by_role("button", name="beads", exact=True)).to_have_attribute("aria-pressed", "true")


def test_the_step_moves_under_one_hand_and_keeps_its_place(bottle):
    page = bottle.page
    hand = page.get_by_role("slider", name="Bottle: step under one hand")
    expect(hand).to_have_attribute("aria-valuetext", "1/16")
    page.keyboard.press("w")
    expect(bottle.sentence("bottle")).to_contain_text("step 1/16t")
    page.keyboard.press("w")
    expect(bottle.sentence("bottle")).to_contain_text("step 1/32")
    expect(hand).to_have_attribute("aria-valuetext", "1/32")
    page.keyboard.press("Space")
    bottle.wait_for_bars(1)
    box = hand.bounding_box()  # the measures may have come meanwhile, and moved it
    page.mouse.move(box["x"] + box["width"] * 0.56, box["y"] + 10)
    page.mouse.down()
    page.mouse.move(box["x"] + 5, box["y"] + 10, steps=8)
    page.mouse.up()
    expect(bottle.sentence("bottle")).to_contain_text("step 1/8")
    bar = bottle.next_bar()
    bottle.wait_for_bars(bar + 2)
    starts = [n["start"] for n in bottle.due(bottle.log()[-1]) if n["laneId"] == "bottle"]
    late = [start for start in starts if start >= bar * BAR]
    page.keyboard.press("Space")
    assert late
    assert all(start % (2 * STEP) == 0 for start in late)
    assert bottle.moments()[0] == "Bottle: step 1/8"


def test_a_velocity_typed_over_a_strip_offers_to_set_all_steps(bottle):
    page = bottle.page
    drag(page, strip(page, "velocity"), [(0, 0.25), (15, 0.25)])
    expect(bottle.sentence("bottle")).to_contain_text("on 16")
    bottle.type_number("Bottle on the bench: velocity", "80")
    expect(page.get_by_text("Bottle: 16 steps have a velocity of their own and keep it.")).to_be_visible()
    page.get_by_role("button", name="Set all", exact=True).click()
    expect(bottle.sentence("bottle")).not_to_contain_text("on 16")
    assert {velocity for _, _, velocity in heard(bottle, bars=1)} == {80}


def test_a_strip_of_a_controller_begins_where_it_changes_nothing(bottle):
    page = bottle.page
    page.get_by_role("button", name="+ control").click()
    expect(page.get_by_text("In MIDI it moves all of channel 10")).to_be_visible()
    page.get_by_role("button", name="Add a strip", exact=True).click()
    bars = strip(page, "74 brightness")
    bars.focus()
    expect(bars).to_have_attribute("aria-valuetext", "step 1: 64")
    assert bottle.moments()[0] == "Bottle: 74 brightness"
