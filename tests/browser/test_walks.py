"""The README's walk, once by keyboard alone and once by touch alone."""

import re

import pytest
from playwright.sync_api import expect

FOCUSED = """() => {
  const of = document.activeElement
  return of ? `${of.getAttribute('aria-label') ?? ''} ${of.textContent.trim().replace(/\\s+/g, ' ')}`.trim() : ''
}"""


class Keys:
    """A musician who has no pointer."""

    def __init__(self, page):
        self.page = page

    def press(self, *keys):
        for key in keys:
            self.page.keyboard.press(key)

    def go_to(self, name, key):
        """Press *key* until what is called so has the focus."""
        for _ in range(260):
            self.press(key)
            if name in self.page.evaluate(FOCUSED):
                return
        raise AssertionError(f"{key} never comes to {name}")

    def tab_to(self, name, key="Tab"):
        self.go_to(name, key)

    def give_back(self):
        """Give the keys back to the screen."""
        self.press("Escape")


def test_the_walk_by_keyboard_alone(musician):  # noqa: PLR0915 - one walk, as the README has it
    page = musician.page
    keys = Keys(page)
    keys.tab_to("Open Night Ferry")
    keys.press("Enter")
    expect(page.locator(".thread").first).to_be_visible()
    readout = page.locator("[data-test=readout]")
    expect(readout).to_contain_text("Thud: 4 in 16")
    keys.press("Space")
    expect(page.get_by_role("button", name="Stop")).to_be_visible()
    # A lane, its steps, its sentence
    keys.press("ArrowDown", "ArrowDown")
    expect(readout).to_contain_text("Bottle: 5 in 16, rotated 2")
    keys.press("ArrowRight", "ArrowRight", "ArrowRight")
    expect(readout).to_contain_text("Bottle, step 3 of 16: hit, velocity")
    keys.press("Enter")
    expect(readout).to_contain_text("Bottle, step 3 of 16: rest")
    keys.press("Control+z")
    keys.tab_to("Bottle: steps")
    page.keyboard.type("13")
    keys.press("Enter")
    expect(musician.number("Bottle: steps")).to_have_attribute("aria-valuenow", "13")
    keys.give_back()
    # What else could act, and a word's alternatives
    keys.tab_to("Bottle: add a setting")
    keys.press("Enter")
    offers = page.get_by_role("group", name="Bottle: what could act")
    expect(offers.get_by_role("button", name="its rests", exact=True)).to_be_visible()
    keys.go_to("its rests", "ArrowDown")
    keys.press("Enter")
    expect(musician.sentence("bottle")).to_contain_text("its rests")
    keys.press("Escape")
    keys.give_back()
    # Throws, anchors, the trail
    keys.press("t")
    expect(musician.sentence("bottle")).to_contain_text("throw")
    keys.press("a")
    expect(musician.sentence("bottle")).to_contain_text("anchored")
    keys.press("h")
    expect(page.get_by_role("region", name="Trail")).to_be_visible()
    keys.press("Escape")
    expect(page.get_by_role("region", name="Trail")).to_have_count(0)
    # Steps are chosen and linked
    keys.tab_to("Bottle: hits", "Shift+Tab")
    keys.give_back()
    keys.press("ArrowUp", "ArrowUp", "ArrowRight", *["Shift+ArrowRight"] * 6)
    expect(page.get_by_role("toolbar", name="Chosen steps")).to_contain_text("6 steps of Thud")
    keys.press("l")
    expect(musician.sentence("thud")).to_contain_text("linked")
    keys.press("Escape")
    # A strip, painted by arrows
    keys.tab_to("Thud: velocity of each step")
    keys.press("ArrowUp", "ArrowUp")
    expect(musician.sentence("thud")).to_contain_text("velocity")
    keys.give_back()
    # The ruler
    keys.press("f")  # the view stays, whatever plays
    keys.tab_to("Ruler", "Shift+Tab")
    keys.press("ArrowUp")
    expect(page.get_by_role("slider", name="Ruler")).to_have_attribute(
        "aria-valuetext", re.compile("bar .*, beat 1")
    )
    keys.press("Enter")
    page.wait_for_function(
        "jolly.log().at(-1).fromTick >= 53760 && jolly.log().at(-1).fromTick % 53760 === 0"
    )
    keys.give_back()
    # Starters, and the focus comes back
    keys.press("e")
    starters = page.get_by_role("region", name="Starters")
    expect(starters.get_by_label("Look for starters")).to_be_focused()
    page.keyboard.type("gangway")
    keys.press("ArrowDown")
    expect(starters.get_by_role("button", name="Begin Thud from it")).to_be_visible()
    keys.press("Enter")
    expect(starters).to_have_count(0)
    # Patterns, and the tape
    keys.press("2")
    expect(page.get_by_role("button", name="Pattern B", exact=True)).to_have_attribute("aria-pressed", "true")
    musician.wait_for_bars(3)
    keys.press("k", "1")
    expect(page.get_by_text("Kept “Night Ferry").first).to_be_visible()
    expect(page.get_by_text("Kept “Night Ferry")).to_have_count(0)  # the notice has gone by itself
    keys.tab_to("Tape: the last 16 bars")
    keys.press("ArrowLeft", "ArrowLeft")
    expect(page.get_by_role("slider", name="Tape:")).to_have_attribute(
        "aria-valuetext", re.compile(r"bars (\d+) to \1$")
    )
    keys.press("Enter")
    expect(page.get_by_text("Kept “Night Ferry")).to_be_visible()
    keys.give_back()
    # Field, order, perform, keyboard, ports, help
    keys.press("g")
    keys.tab_to("Field: ")
    keys.press("ArrowRight", "Enter")
    keys.give_back()
    keys.press("Alt+2")
    expect(page.locator("main.lattice .thread").first).to_be_visible()
    keys.press("o")
    expect(page.get_by_role("button", name="Row 1: from here")).to_be_visible()
    keys.press("ArrowDown")
    keys.tab_to("Row 2: from here")
    keys.press("Enter")
    expect(page.get_by_role("button", name="Row 2: plays")).to_be_visible()
    keys.press("Alt+2")
    expect(page.locator("main.lattice .thread").first).to_be_visible()
    keys.press("c")
    expect(page.get_by_role("group", name="Detours, held")).to_be_visible()
    keys.press("Alt+2")
    expect(page.locator("main.lattice .thread").first).to_be_visible()
    keys.press("j")
    expect(page.get_by_role("region", name="Keyboard")).to_be_visible()
    keys.press("Escape")
    expect(page.get_by_role("region", name="Keyboard")).to_have_count(0)
    keys.press("Alt+5")
    expect(page.locator(".clip canvas, .clip svg").first).to_be_visible()
    page.wait_for_load_state("networkidle")
    keys.tab_to("Work on it")
    keys.press("Enter")
    page.wait_for_url("**/clips/*")
    keys.press("Alt+7")
    expect(page.get_by_role("region", name="What controllers move")).to_be_visible()
    keys.press("?")
    expect(page.get_by_role("dialog", name="Help").get_by_label("Look for help")).to_be_focused()
    keys.press("Escape")
    expect(page.get_by_role("dialog", name="Help")).to_have_count(0)


class Fingers:
    """A musician at a tablet: touches and drags, no keys, no hover."""

    def __init__(self, page):
        self.page = page
        self._wire = page.context.new_cdp_session(page)

    def tap(self, target):
        target.tap()

    def _send(self, kind, *points):
        self._wire.send(
            "Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": x, "y": y} for x, y in points]}
        )

    def drag(self, target, dx=0.0, dy=0.0, at=(0.5, 0.5)):
        """Drag from a place within *target*, given as shares of it, by so many pixels."""
        target.scroll_into_view_if_needed()
        box = target.bounding_box()
        x, y = box["x"] + at[0] * box["width"], box["y"] + at[1] * box["height"]
        self._send("touchStart", (x, y))
        for part in range(1, 9):
            self._send("touchMove", (x + dx * part / 8, y + dy * part / 8))
        # The finger rests before it is lifted: else it has thrown something, and its next touch only stops that.
        self.page.wait_for_timeout(150)
        self._send("touchMove", (x + dx, y + dy))
        self._send("touchEnd")


@pytest.mark.browser_context_args(has_touch=True, viewport={"width": 1024, "height": 768})
def test_the_walk_by_touch_alone(musician):
    page = musician.page
    hand = Fingers(page)
    hand.tap(page.get_by_role("link", name="Open Night Ferry"))
    expect(page.locator(".thread").first).to_be_visible()
    hand.tap(page.get_by_role("button", name="Play from bar 1"))
    expect(page.get_by_role("button", name="Stop")).to_be_visible()
    # A number of the sentence, dragged
    hand.tap(page.locator("[data-lane=bottle] .place"))
    hits = musician.number("Bottle: hits")
    hand.drag(hits, dy=-30)
    expect(hits).not_to_have_attribute("aria-valuenow", "5")
    # A step, touched; steps, painted along the thread
    thud = page.locator("[data-lane=thud] svg.thread")
    before = thud.get_attribute("aria-label")
    hand.drag(thud, dx=60, at=(0.08, 0.5))
    expect(thud).not_to_have_attribute("aria-label", before)
    # What needs Shift elsewhere has a word here
    hand.tap(page.get_by_role("button", name="Choose", exact=True))
    hand.drag(thud, dx=480, at=(0.03, 0.5))
    expect(page.get_by_role("toolbar", name="Chosen steps")).to_be_visible()
    hand.tap(page.get_by_role("toolbar", name="Chosen steps").get_by_role("button", name="link", exact=True))
    expect(musician.sentence("thud")).to_contain_text("linked")
    hand.tap(page.locator("[data-lane=chain] .place"))
    expect(page.locator(".row.chosen")).to_have_count(2)
    # Bars of the tape
    musician.wait_for_bars(2.2)
    hand.drag(page.get_by_role("slider", name="Tape:"), dx=8, at=(0.03, 0.5))
    expect(page.get_by_text("Kept “Night Ferry").first).to_be_visible()
    hand.tap(page.get_by_role("button", name="Keep 4 bars", exact=True))
    # The ruler, the field, the ground, a big control
    hand.tap(page.get_by_role("slider", name="Ruler"))
    hand.tap(page.get_by_role("link", name="Field", exact=True))
    hand.tap(page.get_by_role("button", name="Ground"))
    hand.tap(page.get_by_role("button", name="Put 8 lanes on it"))
    plane = page.get_by_role("slider").or_(page.locator(".plane")).first
    expect(plane).to_be_visible()
    hand.tap(page.get_by_role("link", name="Lattice", exact=True))
    hand.tap(page.get_by_role("link", name="Perform"))
    big = page.locator(".hands [role=slider]").first
    was = big.get_attribute("aria-valuenow")
    hand.drag(big, dx=60, at=(0.3, 0.5))
    expect(big).not_to_have_attribute("aria-valuenow", was)
    hand.tap(page.get_by_role("link", name="Clips", exact=True))
    hand.tap(page.get_by_role("button", name="Hear ").first)
    expect(page.locator(".clip.heard")).to_have_count(1)
