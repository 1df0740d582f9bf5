"""The real application in a real browser: our server on a free port, Debian's Chromium."""

import os
import time
from collections.abc import Iterator
from typing import Any

import pytest
from django.db import connection
from playwright.sync_api import ConsoleMessage, Page, expect

os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")  # Playwright runs a loop in the tests' thread
expect.set_options(timeout=15_000)

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
    return {**browser_type_launch_args, "executable_path": "/usr/bin/chromium", "args": CHROMIUM_FLAGS}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict[str, Any]) -> dict[str, Any]:
    return {**browser_context_args, "viewport": {"width": 1280, "height": 800}}


@pytest.fixture(autouse=True)
def demo(settings: Any) -> None:
    settings.DEMO = True


@pytest.fixture
def complaints() -> list[str]:
    """What the browser complained of; a test that expects a complaint clears it."""
    return []


class Musician:
    """Somebody at the instrument."""

    def __init__(self, page: Page, address: str, complaints: list[str]) -> None:
        self.page = page
        self.address = address

        def hear(message: ConsoleMessage) -> None:
            if message.type == "error":
                complaints.append(message.text)

        page.on("console", hear)
        page.on("pageerror", lambda error: complaints.append(str(error)))
        page.set_default_timeout(15_000)

    def go_aboard(self) -> "Musician":
        # A larger buffer is steadier on a busy machine.
        self.page.goto(f"{self.address}/?latency=0.1")
        self.page.get_by_role("button", name="Go aboard as demo musician").click()
        expect(self.page.get_by_role("heading", name="Shelf")).to_be_visible()
        return self

    def open(self, name: str) -> "Musician":
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
        said = f"Thread of {lane}: hits on steps {', '.join(map(str, hits))} of {steps}"
        expect(self.page.get_by_role("img", name=said, exact=True)).to_be_visible()

    def sentence(self, lane: str) -> Any:
        return self.page.locator(f"[data-lane={lane}] .sentence")

    def choose(self, *lanes: str) -> None:
        """Choose lanes by their ids, the first alone and then one more after the other."""
        for number, lane in enumerate(lanes):
            self.page.locator(f"[data-lane={lane}] .round").click(modifiers=["Control"] if number else [])

    def alternative(self, word: str, text: str) -> None:
        """Open a word of a sentence, or a "+", and take one of what it offers."""
        self.page.get_by_role("button", name=word, exact=True).click()
        self.page.get_by_role(
            "group", name=word.split(",", maxsplit=1)[0].replace("add a setting", "what could act")
        ).get_by_role("button", name=text, exact=True).click()

    def moments(self) -> list[str]:
        """Return the names of the moments of the history, the newest first."""
        self.page.keyboard.press("h")
        expect(self.page.get_by_role("region", name="History")).to_be_visible()
        labels = self.page.locator(".moment .label").all_text_contents()
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("region", name="History")).to_have_count(0)
        return labels

    def log(self) -> list[dict[str, Any]]:
        return self.page.evaluate("jolly.log()")

    def wait_for_bars(self, bars: int, bar_ticks: int = 53760) -> None:
        self.page.wait_for_function(f"jolly.log().at(-1)?.nowTick > {bars * bar_ticks}", timeout=60_000)

    def wait_until_saved(self) -> None:
        expect(self.page.locator(".state")).to_have_text("saved")


def leave(page: Page) -> None:
    """Leave every page and wait until the server has done with what they asked: the database is emptied next."""
    for one in page.context.pages:
        one.goto("about:blank")
    quiet = 0
    while quiet < 3:
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT count(*) FROM pg_stat_activity"
                " WHERE datname = current_database() AND pid <> pg_backend_pid() AND state <> 'idle'"
            )
            quiet = quiet + 1 if cursor.fetchone() == (0,) else 0
        time.sleep(0.05)


@pytest.fixture
def musician(page: Page, live_server: Any, complaints: list[str]) -> Iterator[Musician]:
    yield Musician(page, live_server.url, complaints).go_aboard()
    leave(page)
    assert complaints == []
