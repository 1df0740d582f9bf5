"""Every screen, panel and dialog, and how one gets there and away: for tests that look at all of them."""

from collections.abc import Callable
from dataclasses import dataclass

from playwright.sync_api import Page, expect

from tests.browser.conftest import Musician

__all__ = ["PAGES", "ROUNDS", "Round", "View", "walk"]


def _escape(page: Page) -> None:
    page.keyboard.press("Escape")


def _stay(page: Page) -> None:
    """Leave nothing: the next view begins here."""


@dataclass(frozen=True)
class View:
    """*open*: what is pressed to be there; *close*: to be where the round began."""

    name: str
    open: Callable[[Page], None] = _stay
    close: Callable[[Page], None] = _escape


@dataclass(frozen=True)
class Round:
    """Views that are looked at one after the other on one page, of a piece; "": the shelf."""

    name: str
    piece: str
    views: tuple[View, ...]


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


def _help(typed: str) -> Callable[[Page], None]:
    def look(page: Page) -> None:
        page.keyboard.press("?")
        page.get_by_label("Look for help").fill(typed)
        expect(page.locator(".page h2")).to_be_visible()

    return look


def _screen(name: str) -> Callable[[Page], None]:
    def go(page: Page) -> None:
        page.get_by_role("link", name=name, exact=True).click()
        expect(page.get_by_role("main")).to_be_visible()

    return go


def _menu(page: Page) -> None:
    page.get_by_role("button", name="Signed in as demo musician").click()
    expect(page.get_by_role("link", name="Account and tokens")).to_be_visible()


def _account(page: Page) -> None:
    _menu(page)
    page.get_by_role("link", name="Account and tokens").click()
    expect(page.get_by_label("Name of the token")).to_be_visible()


def _lane_menu(page: Page) -> None:
    page.get_by_role("button", name="Lane Bottle").click()
    expect(page.get_by_label("Name of the lane")).to_be_visible()


def _first_clip(page: Page) -> None:
    _screen("Clips")(page)
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

ROUNDS: tuple[Round, ...] = (
    Round(
        "the shelf",
        "",
        (
            View("shelf", close=_stay),
            View("menu", _menu),
            View("account", _account, close=_screen("Shelf")),
            View("empty piece", _click("New piece")),
        ),
    ),
    Round(
        "lanes",
        "Night Ferry",
        (
            View("lattice", close=_stay),
            View("lane's menu", _lane_menu),
            View("what could act", _word("Thud: add a setting")),
            View("pattern's card", _click("This pattern")),
            View("export", _click("Export")),
            View("lattice, velocity", _press("p")),
        ),
    ),
    Round(
        "panels",
        "Night Ferry",
        (
            View("starters", _press("e")),
            View("kit", _press("v")),
            View("trail", _press("h")),
            View("keyboard of a kit", _press("j")),
            View("detours", _press("Shift+X")),
        ),
    ),
    Round(
        "help",
        "Night Ferry",
        (
            View("help", _help("")),
            View("help, a word", _help("rotate")),
            View("help, shortcuts", _help("shortcuts")),
        ),
    ),
    Round(
        "melody",
        "Lantern Quay",
        (
            View("melody", close=_stay),
            View("another lane", _press("ArrowDown"), close=_stay),
            View("keyboard", _press("j")),
            View("chord", lambda page: page.get_by_role("button", name="Chord 1").click()),
        ),
    ),
    Round(
        "screens",
        "Night Ferry",
        (
            View("field", _press("g"), close=_stay),
            View("ground", _click("Ground"), close=_screen("Lattice")),
            View("perform", _press("c"), close=_press("c")),
            View("order", _screen("Order"), close=_stay),
            View("takes", _screen("Takes"), close=_stay),
            View("clips", _screen("Clips"), close=_stay),
            View("clip", _first_clip, close=_stay),
            View("ports", _screen("Ports"), close=_stay),
        ),
    ),
)


def walk(musician: Musician, view_round: Round, look: Callable[[Page, View], None]) -> None:
    """Open each view of a round, have *look* look at it as soon as it stands still, and close it again."""
    page = musician.open(view_round.piece).page if view_round.piece else musician.page
    for view in view_round.views:
        view.open(page)
        page.mouse.move(1, 1)  # no tip of what was pressed
        page.wait_for_load_state("networkidle")
        page.wait_for_timeout(400)  # what opens moves for a moment
        look(page, view)
        view.close(page)
        expect(page.locator(".v-overlay--active")).to_have_count(0)
