"""Moves recorded while it plays, played again, drawn and worked on; and the big controls that hands move."""

from playwright.sync_api import expect

from lattice.document import Score, read
from lattice.render import Window, render
from tests.browser.conftest import BAR, Musician


def notes_of(stretch, bars):
    return sorted(
        (note["laneId"], note["start"], note["pitch"], note["velocity"])
        for note in Musician.due(stretch)
        if note["start"] < bars * BAR
    )


def as_the_engine_says(page, bars):
    told = page.evaluate("jolly.score()")
    score = read(Score, told["score"])
    events = render(score, told["dice"], Window(bars=bars))
    ids = [lane.id for lane in score.lanes]
    columns = (events.lanes, events.starts, events.pitches, events.velocities)
    return sorted((ids[row[0]], *row[1:]) for row in zip(*(one.tolist() for one in columns), strict=True))


def movements_of(page, lane):
    return page.evaluate(
        "(id) => jolly.score().score.lanes.find((lane) => lane.id === id).movements.map(({control}) => control)",
        lane,
    )


def test_moves_are_written_down_and_played_again_they_are_the_same_to_the_tick(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Record moves").click()
    page.get_by_role("button", name="Play from bar 1").click()
    musician.wait_for_bars(1)
    musician.choose("shell")
    musician.number("Shell: chance").focus()
    for _ in range(3):
        for _ in range(6):
            page.keyboard.press("ArrowDown")
        page.wait_for_timeout(250)
    musician.choose("hiss")
    # A coarse hand on the step, and the notes grow fewer.
    page.get_by_role("slider", name="Hiss: step").focus()
    page.keyboard.press("ArrowLeft")
    page.wait_for_timeout(300)
    page.keyboard.press("ArrowRight")
    page.get_by_role("button", name="Mute Bottle").click()
    page.wait_for_timeout(600)
    page.get_by_role("button", name="Mute Bottle").click()
    musician.wait_for_bars(4)
    page.get_by_role("button", name="Stop", exact=True).click()
    page.get_by_role("button", name="Record moves").click()
    assert movements_of(page, "shell") == ["chance_percent"]
    assert movements_of(page, "hiss") == ["step_value"]
    assert movements_of(page, "bottle") == ["mute"]
    musician.wait_until_saved()
    recorded = musician.log()[-1]
    bars = musician.whole_bars(recorded)
    assert notes_of(recorded, bars) == as_the_engine_says(page, bars)
    page.get_by_role("button", name="Play from bar 1").click()
    page.wait_for_function(f"jolly.log().length === 2 && jolly.log()[1].nowTick > {bars * BAR}")
    page.get_by_role("button", name="Stop", exact=True).click()
    assert notes_of(musician.log()[-1], bars) == notes_of(recorded, bars)


def test_a_detour_that_was_held_while_moves_are_recorded_comes_again(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("Shift+x")
    page.get_by_role("button", name="Record moves").click()
    page.get_by_role("button", name="Play from bar 1").click()
    musician.wait_for_bars(1)
    hold = page.get_by_role("group", name="Detours").get_by_role("button").filter(has_text="repeat").first
    box = hold.bounding_box()
    page.mouse.move(box["x"] + 10, box["y"] + 10)
    page.mouse.down()
    page.wait_for_timeout(700)
    page.mouse.up()
    musician.wait_for_bars(3)
    page.get_by_role("button", name="Stop", exact=True).click()
    expect(page.locator("[data-test=own-detours]")).to_contain_text("1 detour as recorded")
    recorded = musician.log()[-1]
    bars = musician.whole_bars(recorded)
    assert notes_of(recorded, bars) == as_the_engine_says(page, bars)


def test_a_line_is_drawn_under_its_thread_and_worked_on(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Pattern C", exact=True).click()
    musician.choose("hiss")
    drawn = page.locator("[data-test=movements]")
    expect(drawn).to_contain_text("busy-ness moves")
    point = drawn.get_by_role("slider", name="busy-ness, point 1", exact=True)
    expect(point).to_have_attribute("aria-valuetext", "-60 %")
    point.focus()
    page.keyboard.press("PageUp")
    expect(point).to_have_attribute("aria-valuetext", "-50 %")
    assert page.evaluate("jolly.score().score.lanes[2].movements[0].points[0][1]") == -50
    # A press on the line adds a point, Delete takes it out again.
    line = drawn.locator("svg").bounding_box()
    page.mouse.click(line["x"] + line["width"] / 2, line["y"] + 10)
    expect(drawn.get_by_role("slider")).to_have_count(2)
    drawn.get_by_role("slider", name="busy-ness, point 2", exact=True).focus()
    page.keyboard.press("Delete")
    expect(drawn.get_by_role("slider")).to_have_count(1)
    # Its words loop it, switch it off, take it away.
    words = musician.sentence("hiss")
    expect(words).to_contain_text("moves busy-ness over 8 bars")
    musician.alternative("Hiss: busy, busy-ness over 8 bars", "loops over 2 bars")
    expect(words).to_contain_text("moves busy-ness over 2 bars")
    musician.alternative("Hiss: busy, busy-ness over 2 bars", "switched off")
    expect(words).to_contain_text("busy-ness (off)")
    musician.alternative("Hiss: busy, busy-ness (off)", "removed")
    expect(drawn).to_have_count(0)
    for _ in range(3):
        page.keyboard.press("Control+z")
    expect(words).to_contain_text("moves busy-ness over 8 bars")


def test_a_control_that_is_moved_by_hand_takes_its_movement_along(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Pattern C", exact=True).click()
    musician.choose("reed")
    musician.type_number("Low reed: length", "95")
    page.keyboard.press("Escape")
    points = page.evaluate("jolly.score().score.lanes[4].movements[0].points.map(([, value]) => value)")
    assert points == [50, 95, 160, 40]


def test_big_controls_are_laid_out_moved_and_remembered(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("c")
    chance = page.get_by_role("slider", name="Bottle: chance")
    expect(chance).to_have_attribute("aria-valuetext", "100 %")
    chance.focus()
    page.keyboard.press("PageDown")
    expect(chance).to_have_attribute("aria-valuetext", "90 %")
    box = chance.bounding_box()
    page.mouse.move(box["x"] + box["width"] - 20, box["y"] + 20)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 20, steps=6)
    page.mouse.up()
    assert page.evaluate("jolly.score().score.lanes[2].chance_percent") < 60
    # What a pattern has not is said, and is there again in the one that has.
    expect(page.get_by_text("not in this pattern")).to_be_visible()
    page.get_by_role("button", name="Play pattern C").click()
    expect(page.get_by_role("slider", name="Buoy: octaves")).to_be_visible()
    page.get_by_role("button", name="Change Hiss busy-ness").click()
    page.get_by_role("group", name="Lane").get_by_role("button", name="Thud").click()
    page.get_by_role("group", name="Control").get_by_role("button", name="velocity", exact=True).click()
    expect(page.get_by_role("slider", name="Thud: velocity")).to_be_visible()
    page.get_by_role("button", name="Mute Chain").click()
    expect(page.get_by_role("button", name="Mute Chain")).to_have_attribute("aria-pressed", "true")
    musician.wait_until_saved()
    page.reload()
    expect(page.get_by_role("slider", name="Thud: velocity")).to_be_visible()
    page.get_by_role("link", name="Lattice all lanes").click()
    expect(page.locator(".row")).to_have_count(10)


def test_what_big_controls_do_while_it_plays_is_written_down(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("c")
    page.get_by_role("button", name="Record moves").click()
    page.get_by_role("button", name="Play from bar 1").click()
    musician.wait_for_bars(1)
    page.get_by_role("slider", name="Hiss: busy-ness").focus()
    for _ in range(4):
        page.keyboard.press("PageUp")
        page.wait_for_timeout(200)
    page.get_by_role("slider", name="Pattern A: swing").focus()
    page.keyboard.press("PageUp")
    musician.wait_for_bars(4)
    page.get_by_role("button", name="Stop", exact=True).click()
    assert movements_of(page, "hiss") == ["busy"]
    assert page.evaluate("jolly.score().score.movements.map(({control}) => control)") == ["swing.percent"]
    stretch = musician.log()[-1]
    bars = musician.whole_bars(stretch)
    assert notes_of(stretch, bars) == as_the_engine_says(page, bars)
