"""Take the pictures of docs/screenshots from the demo of a running application: screenshots.py ADDRESS."""

import sys
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

PICTURES = Path(__file__).resolve().parent.parent / "docs" / "screenshots"
FLAGS = ["--no-sandbox", "--disable-gpu", "--autoplay-policy=no-user-gesture-required"]


Take = Callable[[str], None]


def main(address: str) -> None:
    """Walk through the demo and take one picture of each main view."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=FLAGS)
        # What waits here are scripts in words, which our pages forbid.
        page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)

        def take(name: str) -> None:
            page.mouse.move(698, 47)  # where nothing lies
            page.wait_for_timeout(600)
            page.screenshot(path=PICTURES / f"{name}.png")

        page.goto(address)
        page.evaluate("localStorage.setItem('jolly-lattice-hints-left', 'true')")
        sign_in(page, take)
        slack_water(page, take)
        by_night(page, take)
        words_and_history(page, take)
        looking_around(page, take)
        performing(page, take)
        ports(page, take)
        melody(page, take)
        keeping(page, take)
        for_everybody(page, take)
        browser.close()


def sign_in(page: Page, take: Take) -> None:
    """From signing in to Night Ferry while it plays."""
    page.get_by_role("button", name="Try it as the demo musician").wait_for()
    page.get_by_role("button", name="Try it as the demo musician").click()
    page.get_by_role("link", name="Open Night Ferry").wait_for()
    take("shelf")
    page.get_by_role("link", name="Open Night Ferry").click()
    page.get_by_role("img", name="Thread of Thud:").wait_for()
    page.wait_for_timeout(2500)
    page.locator("[data-lane=bottle] .place").click()
    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 6.4 * 53760", timeout=60_000)
    take("lattice")
    page.keyboard.press("Space")


def slack_water(page: Page, take: Take) -> None:
    """Strips, starters."""
    page.get_by_role("link", name="Shelf", exact=True).click()
    page.get_by_role("link", name="Open Slack Water").click()
    page.get_by_role("img", name="Thread of Clink:").wait_for()
    page.locator("[data-lane=clink] .place").click()
    page.get_by_role("button", name="large", exact=True).click()
    page.get_by_role("tab", name="ratchet", exact=True).click()
    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 2.4 * 53760", timeout=60_000)
    take("strips")
    page.keyboard.press("Space")
    page.get_by_role("button", name="medium", exact=True).click()
    page.keyboard.press("e")
    page.get_by_role("button", name="Hear Rolling hats").click()
    page.wait_for_timeout(600)
    take("starters")
    page.keyboard.press("Escape")
    page.wait_for_timeout(400)


def melody(page: Page, take: Take) -> None:
    """Lantern Quay: a melodic lattice, the keys."""
    page.get_by_role("link", name="Shelf", exact=True).click()
    page.get_by_role("link", name="Open Lantern Quay").click()
    page.get_by_role("img", name="Thread of Low reed:").wait_for()
    page.locator("[data-lane=glass] .place").click()
    page.keyboard.press("b")
    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 2.6 * 47040", timeout=60_000)
    take("melody")
    page.keyboard.press("Space")
    page.locator("[data-lane=glass] .place").click()
    page.get_by_role("button", name="4 bars in view").click()
    page.wait_for_timeout(500)
    page.get_by_role("button", name="2 bars in view").click()
    page.keyboard.press("j")
    page.get_by_role("region", name="Keyboard").wait_for()
    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 1.6 * 47040", timeout=60_000)
    for code in ("KeyX", "KeyV", "KeyB"):
        page.keyboard.down(code)
    page.wait_for_timeout(1500)
    take("keys")
    for code in ("KeyX", "KeyV", "KeyB"):
        page.keyboard.up(code)
    page.keyboard.press("Space")
    page.keyboard.press("Escape")
    page.keyboard.press("b")


def by_night(page: Page, take: Take) -> None:
    """Night Ferry in the night theme."""
    page.get_by_role("link", name="Shelf", exact=True).click()
    page.get_by_role("link", name="Open Night Ferry").click()
    page.get_by_role("img", name="Thread of Thud:").wait_for()
    page.locator("[data-lane=clink] .place").click()
    page.get_by_role("button", name="Signed in as").click()
    page.get_by_role("button", name="Night theme").click()
    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 2.4 * 53760", timeout=60_000)
    take("night")
    page.keyboard.press("Space")
    page.get_by_role("button", name="Signed in as").click()
    page.get_by_role("button", name="Day theme").click()


def words_and_history(page: Page, take: Take) -> None:
    """The history."""
    page.locator("[data-lane=bottle] .place").click()
    for hits in ("7", "3", "5"):
        page.get_by_role("spinbutton", name="Bottle: hits", exact=True).focus()
        page.keyboard.type(hits)
        page.keyboard.press("Enter")
    page.keyboard.press("t")
    page.get_by_role("button", name="Bottle: back to what it was", exact=False).first.wait_for()
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    page.wait_for_timeout(9500)  # until the notices have gone
    page.keyboard.press("h")
    page.get_by_role("region", name="Trail").wait_for()
    take("trail")
    page.get_by_role("button", name="Where I started", exact=True).click()
    page.keyboard.press("Escape")


def looking_around(page: Page, take: Take) -> None:
    """Night Ferry's field walked while it plays, and its lanes on a ground."""
    page.keyboard.press("g")
    page.locator(".plot").wait_for()
    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 1.5 * 53760", timeout=60_000)
    page.locator(".plot").focus()
    for key in ("ArrowUp", "ArrowRight", "ArrowRight", "ArrowUp", "ArrowLeft", "ArrowUp"):
        page.keyboard.press(key)
        page.wait_for_timeout(1200)
    take("field")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Ground", exact=True).click()
    page.get_by_role("button", name="Put 8 lanes on it").click()
    page.get_by_role("button", name="Bottle: off the ground", exact=True).wait_for()
    page.get_by_role("button", name="Pin Hiss").click()
    plane = page.locator(".plane").bounding_box()
    assert plane is not None
    page.mouse.move(plane["x"] + plane["width"] * 0.5, plane["y"] + plane["height"] * 0.5)
    page.mouse.down()
    page.mouse.move(plane["x"] + plane["width"] * 0.8, plane["y"] + plane["height"] * 0.4, steps=10)
    page.mouse.up()
    page.wait_for_timeout(1500)
    take("ground")
    page.keyboard.press("Space")
    for _ in range(3):
        page.keyboard.press("Control+z")
    page.get_by_role("button", name="Field", exact=True).click()


def performing(page: Page, take: Take) -> None:
    """Night Ferry's order while it plays, its big controls, a movement under its thread."""
    page.wait_for_timeout(9500)  # until the notices have gone
    page.get_by_role("link", name="Order", exact=True).click()
    page.get_by_role("button", name="Row 4: from here", exact=True).click()
    page.wait_for_function(
        "jolly.log().at(-1)?.row && jolly.log().at(-1).nowTick > 2.6 * 53760", timeout=60_000
    )
    take("order")
    page.keyboard.press("Space")
    page.keyboard.press("o")
    page.get_by_role("button", name="Pattern C", exact=True).click()
    page.locator("[data-lane=hiss] .place").click()
    page.get_by_role("button", name="8 bars in view").click()
    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 2.4 * 53760", timeout=60_000)
    page.get_by_role("button", name="2 bars in view").click()
    page.keyboard.press("c")
    page.get_by_role("slider", name="Hiss: busy-ness").wait_for()
    page.wait_for_timeout(1200)
    take("perform")
    page.keyboard.press("Space")
    page.keyboard.press("c")
    page.get_by_role("button", name="Pattern A", exact=True).click()


def ports(page: Page, take: Take) -> None:
    """The simulated instrument while it is played, the controller, and what was learned of it."""
    page.get_by_role("link", name="Ports", exact=True).click()
    page.get_by_label("Port of the kit").select_option("simulated instrument")
    learned = page.get_by_role("region", name="What controllers move")
    for control, thing in (("Pattern B", "Pad 1"), ("Play from bar 1", "Pad 8")):
        learned.get_by_role("button", name="Learn").click()
        page.get_by_role("button", name=control, exact=True).click()
        page.get_by_role("button", name=thing, exact=True).click()
        page.wait_for_timeout(700)
        page.keyboard.press("Escape")
    page.wait_for_timeout(9500)  # until the notices have gone
    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 3.4 * 53760", timeout=60_000)
    take("ports")
    page.keyboard.press("Space")
    page.get_by_label("Port of the kit").select_option("built-in sounds")
    page.get_by_role("link", name="Lattice", exact=True).click()


def keeping(page: Page, take: Take) -> None:
    """Takes laid over each other, the clips, one being worked on."""
    page.get_by_role("link", name="Takes", exact=True).click()
    page.locator(".sheet-line").filter(has_text="Night Ferry").last.click()
    page.get_by_role("button", name="Hear take 3").click()
    page.get_by_role("button", name="Lay take 5 over").click()
    page.locator("[data-take='3'] .outline").first.wait_for(state="attached")
    take("takes")
    page.get_by_role("link", name="Clips", exact=True).click()
    page.get_by_role("button", name="Hear Last crossing").click()
    page.wait_for_timeout(2500)
    take("clips")
    clip = page.locator("[data-clip]").filter(has=page.get_by_role("button", name="Hear Last crossing"))
    clip.get_by_role("link", name="Work on it").click()
    page.get_by_role("application").wait_for()
    page.wait_for_timeout(500)
    box = page.get_by_role("application").bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + box["width"] * 0.735, box["y"] + 24)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] - 4, box["y"] + box["height"] * 0.55, steps=5)
    page.mouse.up()
    if page.get_by_role("button", name="Loop it").count():  # else it went on between the screens
        page.get_by_role("button", name="Loop it").click()
    page.wait_for_timeout(3000)
    take("clip")
    page.keyboard.press("Space")


def for_everybody(page: Page, take: Take) -> None:
    """Ways to begin, help that plays, the account."""
    page.keyboard.press("Alt+1")
    page.get_by_role("button", name="New piece").click()
    page.get_by_role("button", name="Hear Open sea").click()
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 1.4 * 53760", timeout=60_000)
    take("beginning")
    page.get_by_role("button", name="Begin with Open sea").click()
    page.keyboard.press("Space")
    page.keyboard.press("?")
    page.get_by_label("Look for help").fill("rotate")
    page.get_by_role("article", name="rotate").get_by_role("button", name="Play", exact=True).click()
    page.wait_for_timeout(2500)
    take("help")
    page.keyboard.press("Escape")
    page.wait_for_timeout(400)
    page.get_by_role("button", name="Signed in as").click()
    page.get_by_role("link", name="Account and tokens").click()
    page.get_by_label("Name of the token").fill("night script")
    page.get_by_role("button", name="Make a token").click()
    page.get_by_role("button", name="Revoke night script").wait_for()
    page.wait_for_timeout(600)
    take("account")
    page.get_by_role("button", name="Revoke night script").click()


if __name__ == "__main__":
    main(sys.argv[1])
