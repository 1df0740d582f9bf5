"""The music without the server, and a page that is left open: what goes on, and what grows."""

from typing import Any

import pytest

from tests.browser.conftest import BAR
from timings.conftest import tell

pytestmark = pytest.mark.browser_context_args(service_workers="allow")
AWAY_BARS = 90  # more than the 64 that lie ready
SCREENS = 7


def test_bars_that_sound_once_the_network_is_cut(musician: Any, complaints: list[str]) -> None:
    page = musician.open("Night Ferry").page
    musician.type_number("Piece: tempo", "400")
    page.keyboard.press("Escape")
    page.keyboard.press("Space")
    musician.wait_for_bars(12)
    page.context.set_offline(True)
    cut = int(page.evaluate("jolly.now()")) // BAR + 1
    page.wait_for_function(f"jolly.now() > {(cut + AWAY_BARS) * BAR}", timeout=120_000)
    notes = musician.log()[-1]["notes"]
    remembered = min(note["start"] for note in notes) // BAR + 1
    silent = set(range(max(cut, remembered), cut + AWAY_BARS)) - {note["start"] // BAR for note in notes}
    looping = page.locator("[data-test=away]").inner_text()
    tell(
        "bars that sound once the network is cut",
        f"{AWAY_BARS - len(silent)} of {AWAY_BARS} watched; “{looping}”",
        "until one stops it",
    )
    assert not silent
    page.keyboard.press("Space")
    page.context.set_offline(False)
    complaints.clear()


def test_a_page_that_is_left_open_grows_no_listeners_timers_or_parts(
    musician: Any, complaints: list[str]
) -> None:
    page = musician.page
    page.add_init_script(
        """
        window.running = new Set()
        for (const [begin, end] of [['setInterval', 'clearInterval']]) {
          const [begun, ended] = [window[begin], window[end]]
          window[begin] = (...of) => { const id = begun(...of); window.running.add(id); return id }
          window[end] = (id) => { window.running.delete(id); ended(id) }
        }
        """
    )
    musician.open("Night Ferry")
    page.reload()
    page.locator(".thread").first.wait_for()
    session = page.context.new_cdp_session(page)
    session.send("Performance.enable")

    def counts() -> dict[str, int]:
        page.keyboard.press("Alt+2")
        page.wait_for_timeout(1500)
        for _ in range(2):
            session.send("HeapProfiler.collectGarbage")
        metrics = {
            one["name"]: int(one["value"]) for one in session.send("Performance.getMetrics")["metrics"]
        }
        timers = page.evaluate("window.running.size")
        return {
            "listeners": metrics["JSEventListeners"],
            "timers": timers,
            "parts of the page": metrics["Nodes"],
            "kB": metrics["JSHeapUsedSize"] // 1000,
        }

    def round_of_hands() -> None:
        """Every screen, the Keyboard, help, a lane that comes and goes, and moves on a lane."""
        for screen in range(1, SCREENS + 1):
            page.keyboard.press(f"Alt+{screen}")
            page.wait_for_timeout(250)
        page.keyboard.press("Alt+2")
        page.locator(".thread").first.wait_for()
        for key in (
            "ArrowDown",
            "+",
            "-",
            "t",
            "m",
            "m",
            "j",
            "Escape",
            "?",
            "Escape",
            "b",
            "b",
            "d",
            "Shift+Delete",
        ):
            page.keyboard.press(key)
            page.wait_for_timeout(60)

    for _ in range(3):
        round_of_hands()
    before = counts()
    for _ in range(12):
        round_of_hands()
    after = counts()
    tell(
        "a page after 3 and after 15 rounds of all screens",
        "; ".join(f"{name} {before[name]:,} and {after[name]:,}" for name in before),
        "level",
    )
    assert after["timers"] <= before["timers"]
    assert after["listeners"] <= before["listeners"] * 1.05
    complaints.clear()  # what may not be thrown is refused
