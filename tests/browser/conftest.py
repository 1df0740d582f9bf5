"""The real application in a real browser: our server on a free port, Debian's Chromium."""

import os
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from accounts.models import User
from demo.services import DEMO_NAME
from django.apps import apps
from django.conf import settings
from django.core.servers.basehttp import WSGIRequestHandler
from django.db import connection, transaction
from django.test import Client, TransactionTestCase
from playwright.sync_api import Browser, ConsoleMessage, Page, expect

from tests.browser.gate import gate
from tests.kept_demo import KeptDemo
from tests.patience import PATIENCE_MS, django_db_modify_db_settings  # noqa: F401 - a fixture

os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")  # Playwright runs a loop in the tests' thread
expect.set_options(timeout=PATIENCE_MS)
# As the real server does: else a small answer waits 40 ms for its last part.
WSGIRequestHandler.disable_nagle_algorithm = True
settings.MIDDLEWARE.insert(0, "tests.browser.gate.guarded")

CALM = Path(__file__).with_name("looking") / "calm.js"
BAR = 53760  # ticks of four quarters

# Without windows and menus of its own: opening a page takes half as much of the processor.
CHROMIUM = "/usr/bin/chromium-headless-shell"
CHROMIUM_FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--autoplay-policy=no-user-gesture-required",
]


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict[str, Any]) -> dict[str, Any]:
    return {**browser_type_launch_args, "executable_path": CHROMIUM, "args": CHROMIUM_FLAGS}


# Tests look into the page by evaluating what they ask, which its policy forbids: test_policy.py keeps to it.
@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict[str, Any]) -> dict[str, Any]:
    # Workers are let in by the tests of what they are for: what they answer, no test could hold or refuse.
    sizes = {"width": 1280, "height": 800}
    return {**browser_context_args, "viewport": sizes, "bypass_csp": True, "service_workers": "block"}


@pytest.fixture(scope="session", autouse=True)
def quick_emptying() -> Iterator[None]:
    """After each test only rows are deleted: emptying tables one by one and making permissions anew takes half a second."""
    slow = TransactionTestCase._fixture_teardown
    TransactionTestCase._fixture_teardown = lambda self: _delete_rows()  # type: ignore[method-assign]
    yield
    TransactionTestCase._fixture_teardown = slow  # type: ignore[method-assign]


def _delete_rows() -> None:
    """Delete all that tests can have stored, and leave what migrations have: what there is, and who may do it."""
    tables = [
        model._meta.db_table
        for model in apps.get_models(include_auto_created=True)
        if model._meta.managed and model._meta.label not in ("auth.Permission", "contenttypes.ContentType")
    ]
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("SET CONSTRAINTS ALL DEFERRED")
        cursor.execute(";".join(f'DELETE FROM "{table}"' for table in tables))


@pytest.fixture(autouse=True)
def demo(settings: Any) -> None:
    settings.DEMO = True
    gate.open()


@pytest.fixture
def complaints() -> list[str]:
    """What the browser complained of; a test that expects a complaint clears it."""
    return []


@pytest.fixture(scope="session")
def tempo() -> int | None:
    """Of all pieces: a bar of four quarters lasts a second, as bars are what most tests wait for."""
    return 240


@pytest.fixture(scope="session")
def kept_demo(tempo: int | None) -> KeptDemo:
    return KeptDemo(tempo)


class Musician:
    """Somebody at the instrument: signed in, on the shelf as soon as a page is asked for."""

    def __init__(self, page: Page, address: str, complaints: list[str], pieces: dict[str, int]) -> None:
        self._page = page
        self.address = address
        self.pieces = pieces

        def hear(message: ConsoleMessage) -> None:
            if message.type == "error":
                complaints.append(message.text)

        # All of the bench, unless a test is about its sizes.
        page.add_init_script(
            "if (location.origin !== 'null' && !localStorage.getItem('jolly-lattice-bench-size'))"
            " localStorage.setItem('jolly-lattice-bench-size', 'large')"
        )
        # Hints only where a test is about them.
        page.add_init_script(
            "if (location.origin !== 'null' && !localStorage.getItem('jolly-lattice-hints-left'))"
            " localStorage.setItem('jolly-lattice-hints-left', 'true')"
        )
        page.on("console", hear)
        page.on("pageerror", lambda error: complaints.append(str(error)))
        page.context.set_default_timeout(PATIENCE_MS)

    @property
    def page(self) -> Page:
        """The page; where none is open yet, the shelf."""
        if self._page.url == "about:blank":
            self._go("/")
            expect(self._page.get_by_role("heading", name="Shelf")).to_be_visible()
        return self._page

    def _go(self, path: str) -> None:
        # A larger buffer is steadier on a busy machine.
        self._page.goto(f"{self.address}{path}?latency=0.1")

    def sign_in(self) -> "Musician":
        """Sign in by the cookie that signing in would have given."""
        browser = Client()
        browser.force_login(User.objects.get(username=DEMO_NAME))
        cookie = browser.cookies[settings.SESSION_COOKIE_NAME].value
        self._page.context.add_cookies(
            [{"name": settings.SESSION_COOKIE_NAME, "value": cookie, "url": self.address}]
        )
        return self

    def open(self, name: str) -> "Musician":
        if self._page.url == "about:blank":
            self._go(f"/lattice/{self.pieces[name]}")
        else:
            self.page.get_by_role("link", name=f"Open {name}").click()
        expect(self.page.get_by_role("contentinfo")).to_be_visible()
        expect(self.page.locator(".thread").first).to_be_visible()
        return self

    def number(self, label: str) -> Any:
        return self.page.get_by_role("spinbutton", name=label, exact=True)

    def type_number(self, label: str, value: str) -> None:
        number = self.number(label)
        number.focus()
        self.page.keyboard.type(value)
        self.page.keyboard.press("Enter")
        expect(number).to_have_attribute("aria-valuenow", value)

    def expect_hits(self, lane: str, hits: list[int], steps: int) -> None:
        """Wait until a lane's thread shows *hits* (counted from 1) of *steps*."""
        said = f"Thread of {lane}: hits on steps {', '.join(map(str, hits)) or 'none'} of {steps}"
        expect(self.page.get_by_role("img", name=said, exact=True)).to_be_visible()

    def sentence(self, lane: str) -> Any:
        return self.page.locator(f"[data-lane={lane}] .sentence")

    def choose(self, *lanes: str) -> None:
        """Choose lanes by their ids, the first alone and then one more after the other."""
        for number, lane in enumerate(lanes):
            self.page.locator(f"[data-lane={lane}] .place").click(modifiers=["Control"] if number else [])

    def alternative(self, word: str, text: str) -> None:
        """Open a word of a sentence, or a "+", and take one of what it offers."""
        self.page.get_by_role("button", name=word, exact=True).click()
        self.page.get_by_role(
            "group", name=word.split(",", maxsplit=1)[0].replace("add a setting", "what could act")
        ).get_by_role("button", name=text, exact=True).click()

    def moments(self) -> list[str]:
        """Return the names of the moments of the history, the newest first."""
        self.page.keyboard.press("h")
        expect(self.page.get_by_role("region", name="Trail")).to_be_visible()
        labels = [label.strip() for label in self.page.locator(".moment .label").all_text_contents()]
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("region", name="Trail")).to_have_count(0)
        return labels

    def log(self) -> list[dict[str, Any]]:
        return self.page.evaluate("jolly.log()")

    @staticmethod
    def due(stretch: dict[str, Any]) -> list[dict[str, Any]]:
        """Return the notes that sounded, and those that a busy machine left out and said so."""
        return [*stretch["notes"], *stretch["leftOut"]]

    def known_until(self, stretch: dict[str, Any]) -> int:
        """Return the tick before which all that was due is known: the engine's answers may be late."""
        return min(int(stretch["nowTick"]), max((note["start"] for note in self.due(stretch)), default=0))

    def whole_bars(self, stretch: dict[str, Any]) -> int:
        """Return how many bars have been played of which all is known."""
        return self.known_until(stretch) // BAR

    def last_bars(self, most: int) -> str:
        """Return what the last bars are called that are kept of what was played: at most so many, as "bars 2–3"."""
        played = int(self.log()[-1]["nowTick"] // BAR)
        first = max(1, played - most + 1)
        return f"bars {first}–{played}" if first < played else f"bar {played}"

    def next_bar(self, bar_ticks: int = BAR) -> int:
        """Return the first bar, counted from 0, that sounds as the page shows it now, whatever was changed before."""
        return int(self.page.evaluate("Math.max(jolly.now(), jolly.known())") // bar_ticks) + 1

    def wait_for_bars(self, bars: float, bar_ticks: int = BAR) -> None:
        """Wait until so many bars have been played, and all that was due in them is known."""
        self.page.wait_for_function(
            "(tick) => Math.min(jolly.log().at(-1)?.nowTick ?? 0, jolly.known()) > tick",
            arg=bars * bar_ticks,
        )

    def wait_until_saved(self) -> None:
        expect(self.page.locator(".state")).to_have_text("saved")


@pytest.fixture
def is_calm() -> bool:
    """Whether pages draw seldom, so that tests take less of the processor; where figures are taken they do not."""
    return True


@pytest.fixture
def musician(
    page: Page, live_server: Any, complaints: list[str], kept_demo: KeptDemo, is_calm: bool
) -> Iterator[Musician]:
    kept_demo.lay_down()
    if is_calm:
        page.context.add_init_script(path=CALM)
    yield Musician(page, live_server.url, complaints, kept_demo.pieces).sign_in()
    for one in page.context.pages:
        one.goto("about:blank")
    gate.shut()  # the database is emptied next
    assert complaints == []


@pytest.fixture
def strict(musician: Musician, browser: Browser, complaints: list[str], is_calm: bool) -> Iterator[Musician]:
    """A musician whose browser keeps to the content policy; other tests look behind it."""
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    if is_calm:
        context.add_init_script(path=CALM)
    yield Musician(context.new_page(), musician.address, complaints, musician.pieces).sign_in()
    context.close()
