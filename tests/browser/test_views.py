"""Every screen, panel and dialog: for a screen reader, for tired eyes, for fingers, at every size, in plain words."""

from pathlib import Path

import pytest
from playwright.sync_api import expect

from tests.browser.views import PAGES, ROUNDS, walk
from tests.plain_words import unplain

LOOKING = Path(__file__).with_name("looking")
LABELS, TARGETS, WORDS, TEXT_IN_VIEW = (
    (LOOKING / f"{name}.js").read_text() for name in ("labels", "targets", "words", "text_in_view")
)
AXE = Path("web/node_modules/axe-core/axe.min.js")
SIZES = [(1280, 800), (1920, 1080)]
OF_TABLETS = [(1024, 768), (768, 1024)]  # in both directions; what is touched is larger
WORDS_AT = [(1280, 800), (768, 1024)]  # how high words are depends on what presses them, not on the window
LEAST = 27.5  # pixels: 28, but for what is rounded away
OF_WORDS = 27  # measured by half pixels, at both ends


@pytest.fixture
def is_calm():
    """What is looked at has come to rest after so many milliseconds, as on anybody's screen."""
    return False


def findings_of_axe(page, rules=None):
    """Return what axe finds, of any weight, each with where; *rules*: which it keeps to, if not to all."""
    options = {"resultTypes": ["violations"], "runOnly": rules} if rules else {"resultTypes": ["violations"]}
    found = page.evaluate("(options) => axe.run(document, options)", options)
    return [
        f"{one['impact']} {one['id']}: {node['target']} {(node['failureSummary'] or '').splitlines()[1:2]}"
        for one in found["violations"]
        for node in one["nodes"]
    ]


def turn_to(page, theme):
    page.evaluate(
        """(theme) => {
          localStorage.setItem('jolly-lattice-theme', theme)
          const told = { key: 'jolly-lattice-theme', newValue: theme, storageArea: localStorage }
          dispatchEvent(new StorageEvent('storage', told))
        }""",
        theme,
    )
    expect(page.locator(f".v-theme--{theme}").first).to_be_visible()
    page.wait_for_timeout(400)  # colours change for a moment


def targets_too_small(page):
    return [f"too small to press, {one}" for one in page.evaluate(TARGETS, LEAST)]


def words_too_low(page):
    return [f"pressed too low, {one}" for one in page.evaluate(WORDS, OF_WORDS)]


def what_is_wrong_at_sizes(page):
    """Return which text is cut off, covered or over other text, and what is too small to press, at each size.

    On tablets with touch.
    """
    found = []
    wire = page.context.new_cdp_session(page)
    for width, height in (*SIZES, *OF_TABLETS):
        is_touched = (width, height) in OF_TABLETS
        wire.send("Emulation.setTouchEmulationEnabled", {"enabled": is_touched})
        assert page.evaluate("matchMedia('(pointer: coarse)').matches") == is_touched
        page.set_viewport_size({"width": width, "height": height})
        page.wait_for_timeout(350)  # until all is laid out and drawn anew
        at = [*page.evaluate(TEXT_IN_VIEW), *targets_too_small(page)]
        if (width, height) in WORDS_AT:
            at += words_too_low(page)
        found += [f"at {width}x{height}, {one}" for one in at]
    wire.send("Emulation.setTouchEmulationEnabled", {"enabled": False})
    page.set_viewport_size({"width": 1280, "height": 800})
    return found


@pytest.mark.parametrize("view_round", ROUNDS, ids=lambda view_round: view_round.name)
def test_everybody_can_use_it(strict, view_round):
    """As browsers keep to the content policy: what it forbids is a complaint."""
    wrong = []

    def look(page, view):
        labels = page.evaluate(LABELS)
        found = unplain(labels) if len(labels) > 10 else ["hardly anything is written on it"]
        if not page.evaluate("'axe' in window"):
            page.evaluate(AXE.read_text())
        found += [f"by day, {one}" for one in findings_of_axe(page)]
        found += what_is_wrong_at_sizes(page)
        turn_to(page, "night")
        found += [f"by night, {one}" for one in findings_of_axe(page, ["color-contrast"])]
        turn_to(page, "day")
        wrong.extend(f"{view.name}: {one}" for one in found)

    walk(strict, view_round, look)
    assert not wrong, "\n".join(wrong)


def test_everybody_can_use_a_tip(musician):
    page = musician.open("Night Ferry").page
    page.locator("[data-lane=thud]").get_by_role("button", name="Mute Thud").hover()
    expect(page.get_by_role("tooltip")).to_contain_text("Mute")
    page.evaluate(AXE.read_text())
    assert findings_of_axe(page) == []
    page.mouse.move(1, 1)
    expect(page.get_by_role("tooltip")).to_have_count(0)


@pytest.mark.parametrize("path", PAGES)
def test_everybody_can_use_what_the_server_writes_itself(musician, path, complaints):
    page = musician.page
    page.goto(f"{musician.address}{path}")
    found = unplain(page.evaluate(LABELS))
    page.evaluate(AXE.read_text())
    complaints.clear()  # the browser says so where a link is good for nothing
    assert found + findings_of_axe(page) + what_is_wrong_at_sizes(page) == []
