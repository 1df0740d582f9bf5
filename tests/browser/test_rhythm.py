"""Sources, turns and cycles, said in a sentence and seen on the thread."""

import re

from playwright.sync_api import expect


def test_a_lane_is_made_from_another_and_follows_it(musician):
    """What each kind of lane makes of another's hits is the engine's, and is tested there."""
    page = musician.open("Night Ferry").page
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("d")  # a copy of Bottle, below it
    musician.alternative("Bottle copy: source, in", "echo of Bottle")
    expect(page.get_by_text("echo of Bottle, 3 later").first).to_be_visible()
    musician.expect_hits("Bottle copy", [6, 9, 12, 15], 16)
    musician.type_number("Bottle: rotated", "0")
    musician.expect_hits("Bottle copy", [4, 7, 10, 13, 16], 16)


def test_words_open_their_alternatives_each_drawn_as_the_thread_it_would_make(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Winch: direction, backward", exact=True).click()
    listed = page.get_by_role("group", name="Winch: direction")
    expect(listed.get_by_role("button")).to_have_count(7)
    expect(listed.locator("svg.mini")).to_have_count(7)
    drawn = listed.locator("svg.mini").evaluate_all("all => all.map((one) => one.outerHTML)")
    assert len(set(drawn)) == 7
    listed.get_by_role("button", name="to and fro", exact=True).click()
    expect(musician.sentence("winch")).to_contain_text("to and fro")
    expect(page.locator("[data-lane=winch] .round")).to_have_text("1 1/4 bars")  # eleven there and nine back


def test_a_word_is_stepped_by_arrows_and_taken_back_by_escape(musician):
    page = musician.open("Night Ferry").page
    word = page.locator("[data-lane=winch]").get_by_role("button", name="Winch: direction")
    word.focus()
    page.wait_for_timeout(300)
    page.keyboard.press("ArrowUp")
    expect(word).to_have_text("to and fro")
    page.keyboard.press("Escape")
    expect(word).to_have_text("backward")


def test_plus_offers_what_is_plain_with_the_thread_it_would_make(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="Bottle: add a setting", exact=True).click()
    offers = page.get_by_role("group", name="Bottle: what could act")
    expect(offers.get_by_role("button", name="backward")).to_contain_text(
        "In which order the steps are read."
    )
    assert offers.locator("svg.mini").count() == offers.get_by_role("button").count() > 10
    offers.get_by_role("button", name="once", exact=True).click()
    expect(musician.sentence("bottle")).to_contain_text("once")
    musician.alternative("Bottle: add a setting", "from 1/4")
    expect(musician.number("Bottle: notes later")).to_have_attribute("aria-valuenow", "1")


def test_the_step_range_is_taken_by_its_end_and_moved_as_a_whole(musician):
    page = musician.open("Night Ferry").page
    musician.choose("bottle")
    thread = page.get_by_role("img", name="Thread of Bottle:")
    box = thread.bounding_box()
    step = (box["width"] - 28) / 32
    end = box["x"] + 14 + 15.5 * step
    middle = box["y"] + box["height"] / 2
    page.mouse.move(end, middle)
    page.mouse.down()
    page.mouse.move(end - 4 * step, middle, steps=6)
    page.mouse.up()
    expect(musician.number("Bottle: last step")).to_have_attribute("aria-valuenow", "12")
    expect(page.locator("[data-lane=bottle] .round")).to_have_text("3/4 bar")
    box = thread.bounding_box()  # the sentence has grown, and the row with it
    edge = box["y"] + box["height"] - 11
    page.mouse.move(box["x"] + 14 + 4 * step, edge)
    page.mouse.down()
    page.mouse.move(box["x"] + 14 + 6 * step, edge, steps=6)
    page.mouse.up()
    expect(musician.number("Bottle: first step")).to_have_attribute("aria-valuenow", "3")
    expect(musician.number("Bottle: last step")).to_have_attribute("aria-valuenow", "14")
    assert musician.moments()[:2] == ["Bottle: steps 3–14", "Bottle: steps 1–12"]


def test_a_lane_that_sounds_once_is_drawn_where_it_sounds(musician):
    page = musician.open("Night Ferry").page
    page.get_by_role("button", name="8 bars in view").click()
    line = page.locator("[data-lane=bell] .thread .line")
    expect(line).to_have_attribute("d", re.compile(r"^M\d{3}"))  # not from the left edge on
    assert page.locator("[data-lane=bell] .thread .stitch").count() == 1


def test_a_throw_keeps_the_count_and_the_way_back_is_one_click(musician):
    page = musician.open("Night Ferry").page
    musician.choose("bottle")
    page.keyboard.press("t")
    expect(musician.sentence("bottle")).to_contain_text("throw")
    name = page.get_by_role("img", name="Thread of Bottle:").get_attribute("aria-label")
    assert name.count(",") == 4
    assert name != "Thread of Bottle: hits on steps 3, 6, 9, 12, 15 of 16"
    page.locator("[data-lane=bottle]").get_by_role(
        "button", name="Bottle: back to what it was, was 5 in 16"
    ).click()
    musician.expect_hits("Bottle", [3, 6, 9, 12, 15], 16)


def test_throwing_all_leaves_what_is_anchored_and_an_anchored_lane_cannot_be_thrown(musician, complaints):
    page = musician.open("Night Ferry").page
    musician.choose("bottle")
    page.keyboard.press("a")
    expect(musician.sentence("bottle")).to_contain_text("anchored")
    page.get_by_label("How far a throw moves").fill("100")
    page.get_by_role("button", name="Throw all", exact=True).click()
    expect(musician.sentence("winch")).to_contain_text("throw")
    musician.expect_hits("Thud", [1, 5, 9, 13], 16)
    musician.expect_hits("Bottle", [3, 6, 9, 12, 15], 16)
    page.keyboard.press("Escape")
    page.locator("[data-lane=bottle] .place").click()
    page.keyboard.press("t")
    expect(page.get_by_text("Lane “Bottle”: it is anchored: no throw touches it")).to_be_visible()
    assert any("422" in complaint for complaint in complaints)
    complaints.clear()


def test_several_lanes_are_set_together_by_as_much_or_to_the_same(musician):
    page = musician.open("Night Ferry").page
    musician.choose("bottle", "hiss", "winch")
    expect(page.locator("[data-test=meeting]")).to_have_text("3 chosen lanes line up every 33 bars")
    velocity = musician.number("Winch: velocity")
    velocity.focus()
    page.keyboard.press("PageDown")
    for lane, value in (("Winch", "80"), ("Hiss", "48"), ("Bottle", "76")):
        expect(musician.number(f"{lane}: velocity")).to_have_attribute("aria-valuenow", value)
    page.keyboard.type("60")
    page.keyboard.press("Enter")
    for lane in ("Winch", "Hiss", "Bottle"):
        expect(musician.number(f"{lane}: velocity")).to_have_attribute("aria-valuenow", "60")
    musician.alternative("Winch on the bench: hits or rests, its hits", "its rests")
    for lane in ("winch", "bottle"):
        expect(musician.sentence(lane)).to_contain_text("its rests")
    page.keyboard.press("Escape")  # gives back the keys that the word had
    page.keyboard.press("Escape")
    expect(page.locator("[data-test=meeting]")).to_contain_text("all lanes")


def test_removing_a_lane_draws_those_that_followed_it_as_they_stood(musician):
    page = musician.open("Night Ferry").page
    heard = page.get_by_role("img", name="Thread of Rope:").get_attribute("aria-label")
    assert "of 11" in heard
    musician.choose("winch")
    page.keyboard.press("Shift+Delete")
    expect(page.get_by_text("Winch removed. Rope followed, and goes on as it stood.")).to_be_visible()
    expect(musician.sentence("rope")).to_contain_text("drawn, 11 steps")
    page.keyboard.press("Control+z")
    expect(musician.sentence("rope")).to_contain_text("echo of Winch")


def test_lanes_are_put_into_another_order_by_key_and_by_hand(musician):
    page = musician.open("Night Ferry").page
    order = lambda: page.locator(".row").evaluate_all("rows => rows.map((row) => row.dataset.lane)")  # noqa: E731
    musician.choose("bottle")
    page.keyboard.press("Alt+ArrowUp")
    expect(page.locator(".row").nth(1)).to_have_attribute("data-lane", "bottle")
    grip = page.locator("[data-lane=thud] .place").bounding_box()
    target = page.locator("[data-lane=clink]").bounding_box()
    page.mouse.move(grip["x"] + 3, grip["y"] + 20)
    page.mouse.down()
    page.mouse.move(grip["x"] + 3, target["y"] + 20, steps=10)
    page.mouse.up()
    expect(page.locator(".row").nth(3)).to_have_attribute("data-lane", "thud")
    assert order()[:4] == ["bottle", "chain", "clink", "thud"]
    assert musician.moments()[0] == "Thud: to place 4"


def test_bars_in_view_are_zoomed_scrolled_and_followed_by_wheel_and_keys(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("]")
    expect(page.locator(".bar-number")).to_have_count(3)
    page.locator("[data-lane=thud] .thread").hover()
    page.keyboard.down("Control")
    page.mouse.wheel(0, 100)
    page.keyboard.up("Control")
    expect(page.locator(".bar-number")).to_have_count(4)
    page.keyboard.press("PageDown")
    expect(page.locator(".bar-number").first).to_have_text("bar 5")
    expect(page.get_by_role("button", name="stays here")).to_be_visible()
    page.keyboard.down("Shift")
    page.mouse.wheel(0, -100)
    page.keyboard.up("Shift")
    expect(page.locator(".bar-number").first).to_have_text("bar 4")
    page.keyboard.press("f")
    expect(page.get_by_role("button", name="follows the music")).to_be_visible()
    for _ in range(20):
        page.keyboard.press("]")
    expect(page.locator(".bar-number")).to_have_count(16)


def test_what_is_scheduled_is_what_the_engine_says_while_lanes_are_edited(musician):
    page = musician.open("Night Ferry").page
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    musician.choose("bottle")
    musician.alternative("Bottle: add a setting", "backward")
    page.keyboard.press("t")
    expect(musician.sentence("bottle")).to_contain_text(re.compile(r"throw \d"))
    bar = musician.next_bar()
    musician.wait_for_bars(bar + 2)
    page.keyboard.press("Space")
    (stretch,) = musician.log()
    again = page.evaluate(
        """async (firstBar) => {
          const { score, dice } = jolly.score()
          const token = document.cookie.match(/csrftoken=([^;]+)/)[1]
          const reply = await fetch('/api/render/sounds', {
            method: 'POST',
            headers: { 'Content-Type': 'application/json', 'X-CSRFToken': token },
            body: JSON.stringify({ score, dice, window: { first_bar: firstBar, bars: 2 } }),
          })
          return (await reply.json()).events
        }""",
        bar,
    )
    window = range(bar * 53760, (bar + 2) * 53760)
    due = sorted((note["start"], note["pitch"]) for note in musician.due(stretch) if note["start"] in window)
    assert due == sorted(zip(again["starts"], again["pitches"], strict=True))


def test_more_lanes_than_a_pattern_holds_are_refused_and_those_before_are_kept(musician, complaints):
    page = musician.page
    lane = {"name": "Thud", "voice": "thud", "source": {"kind": "euclidean", "hits": 1, "steps": 16}}
    lanes = [lane | {"id": f"lane-{number}"} for number in range(62)]
    piece = {"name": "Many", "patterns": [{"id": "a", "name": "A", "lanes": lanes}]}
    token = next(cookie["value"] for cookie in page.context.cookies() if cookie["name"] == "csrftoken")
    headers = {"X-CSRFToken": token}
    made = page.request.post(
        f"{musician.address}/api/pieces", data={"document": piece}, headers=headers
    ).json()
    page.goto(f"{musician.address}/lattice/{made['id']}")
    expect(page.locator(".row")).to_have_count(62)
    for count in (63, 64):
        page.keyboard.press("d")
        expect(page.locator(".thread")).to_have_count(count)  # the engine has agreed
    page.keyboard.press("d")
    expect(page.get_by_text("must be at most 64, not 65").first).to_be_visible()
    expect(page.locator(".row")).to_have_count(64)
    musician.wait_until_saved()
    page.reload()
    expect(page.locator(".row")).to_have_count(64)
    complaints.clear()


def test_a_change_that_the_engine_refuses_is_taken_back_and_never_saved(musician, complaints):
    """A lane that sounds once begins 7 bars + 15/4 into eight bars of 4/4; in eight bars of 2/4 it would begin too late."""
    page = musician.open("Night Ferry").page
    musician.alternative("Bottle: add a setting", "once")
    musician.alternative("Bottle: add a setting", "from 1/4")
    musician.type_number("Bottle: notes later", "31")
    musician.wait_until_saved()
    before = musician.moments()
    page.keyboard.press("Escape")
    # It may be taken back before anybody sees it.
    musician.number("Pattern: beats in a bar").focus()
    page.keyboard.type("2")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Lane “Bottle”: once: it would begin after the pattern's end")).to_be_visible()
    expect(musician.number("Pattern: beats in a bar")).to_have_attribute("aria-valuenow", "4")
    musician.wait_until_saved()
    page.keyboard.press("Escape")
    assert musician.moments() == before
    assert any("422" in complaint for complaint in complaints)
    complaints.clear()
