"""Every screen, panel and dialog, and how one gets there: for tests that look at all of them."""

from collections.abc import Callable
from dataclasses import dataclass

from playwright.sync_api import Page, expect

from tests.browser.conftest import Musician

__all__ = ["PAGES", "VIEWS", "View", "go_to"]


@dataclass(frozen=True)
class View:
    """*piece*: which is open; "": none. *path*: after the piece was opened. *open*: what is pressed there."""

    name: str
    piece: str = ""
    path: str = ""
    open: Callable[[Page], None] = lambda page: None


def _press(*keys: str) -> Callable[[Page], None]:
    def press(page: Page) -> None:
        for key in keys:
            page.keyboard.press(key)

    return press


def _click(*names: str) -> Callable[[Page], None]:
    def click(page: Page) -> None:
        for name in names:
            page.get_by_role("button", name=name, exact=True).first.click()

    return click


def _menu(page: Page) -> None:
    page.get_by_role("button", name="Signed in as demo musician").click()
    expect(page.get_by_role("link", name="Account and tokens")).to_be_visible()


def _help(typed: str) -> Callable[[Page], None]:
    def look(page: Page) -> None:
        page.keyboard.press("?")
        page.get_by_label("Look for help").fill(typed)
        expect(page.locator(".page h2")).to_be_visible()

    return look


def _lane_menu(page: Page) -> None:
    page.get_by_role("button", name="Lane Bottle").click()
    expect(page.get_by_label("Name of the lane")).to_be_visible()


def _first_clip(page: Page) -> None:
    page.get_by_role("link", name="Clips", exact=True).click()
    expect(page.locator(".clip").first).to_be_visible()
    page.locator(".clip").first.get_by_role("link").first.click()
    page.wait_for_url("**/clips/*")


def _word(name: str) -> Callable[[Page], None]:
    def choose(page: Page) -> None:
        page.get_by_role("button", name=name, exact=True).first.click()
        expect(page.locator(".v-overlay--active .card")).to_be_visible()

    return choose


# Pages that the server writes itself: by day alone.
PAGES = ("/account/password", "/account/reset", "/account/reset/sent", "/account/welcome/none")

VIEWS: tuple[View, ...] = (
    View("shelf"),
    View("menu", open=_menu),
    View("account", path="/account"),
    View("empty piece", open=_click("New piece")),
    View("lattice", "Night Ferry"),
    View("lattice, velocity", "Night Ferry", open=_press("p")),
    View("melody", "Lantern Quay"),
    View("another lane", "Lantern Quay", open=_press("ArrowDown")),
    View("lane's menu", "Night Ferry", open=_lane_menu),
    View("what could act", "Night Ferry", open=_word("Thud: add a setting")),
    View("starters", "Night Ferry", open=_press("e")),
    View("kit", "Night Ferry", open=_press("v")),
    View("trail", "Night Ferry", open=_press("h")),
    View("keyboard", "Lantern Quay", open=_press("j")),
    View("keyboard of a kit", "Night Ferry", open=_press("j")),
    View("detours", "Night Ferry", open=_press("Shift+X")),
    View("pattern's card", "Night Ferry", open=_click("This pattern")),
    View("export", "Night Ferry", open=_click("Export")),
    View("chord", "Lantern Quay", open=lambda page: page.get_by_role("button", name="Chord 1").click()),
    View("help", "Night Ferry", open=_help("")),
    View("help, a word", "Night Ferry", open=_help("rotate")),
    View("help, shortcuts", "Night Ferry", open=_help("shortcuts")),
    View("field", "Night Ferry", "/field/{id}"),
    View("ground", "Night Ferry", "/field/{id}", open=_click("Ground")),
    View("takes", "Night Ferry", "/takes"),
    View("clips", "Night Ferry", "/clips"),
    View("clip", "Night Ferry", open=_first_clip),
    View("order", "Night Ferry", "/order/{id}"),
    View("perform", "Night Ferry", "/perform/{id}"),
    View("ports", "Night Ferry", "/ports/{id}"),
)


def go_to(musician: Musician, view: View) -> Page:
    """Open *view* and wait until it stands still."""
    page = musician.open(view.piece).page if view.piece else musician.page
    if view.path:
        number = musician.pieces.get(view.piece, 0)
        page.goto(f"{musician.address}{view.path.format(id=number)}?latency=0.1")
        expect(page.get_by_role("main")).to_be_visible()
        page.wait_for_load_state("networkidle")
    view.open(page)
    page.mouse.move(1, 1)  # no tip of what was pressed
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(400)  # what opens moves for a moment
    return page
