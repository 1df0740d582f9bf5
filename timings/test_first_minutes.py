"""How soon somebody who has never been here has a beat, and a MIDI file; how soon the page can be used."""

import gzip
import io
import time

import mido
import pytest
from playwright.sync_api import expect

from lattice.help import help_words
from timings.conftest import tell

# What the page asks for before it can be used; the test's server does not compress it.
SCRIPTS = """() => [...document.querySelectorAll('script[src], link[rel=modulepreload]')]
  .map((of) => of.src || of.href)"""
# When the first thing was painted, and when the heart of the screen was there.
PAINTED = "() => performance.getEntriesByName('first-contentful-paint')[0]?.startTime ?? 0"


def test_the_walk_of_somebody_who_has_never_been_here(musician):
    """From the shelf, pressing only what the screen offers."""
    page = musician.page
    page.evaluate("localStorage.setItem('jolly-lattice-hints-left', 'false')")
    page.reload()
    began, presses = time.monotonic(), 0

    def press(name: str) -> None:
        nonlocal presses
        presses += 1
        page.get_by_role("button", name=name).first.click()

    press("New piece")
    press("Hear Night shift")
    musician.wait_for_bars(0.1)
    press("Begin with Night shift")
    expect(page.locator(".row")).to_have_count(4)
    to_beat = (time.monotonic() - began, presses)
    musician.wait_for_bars(4.1)
    press("Keep 4 bars")
    with page.expect_download() as file:
        press("Export .mid")
    to_file = (time.monotonic() - began, presses)
    with open(file.value.path(), "rb") as read:
        midi = mido.MidiFile(file=io.BytesIO(read.read()))
    assert sum(one.type == "note_on" and one.velocity > 0 for one in midi) > 50
    seconds, count = to_beat
    tell("first own beat, from the shelf", f"{count} presses, {seconds:.1f} s", "60 s")
    seconds, count = to_file
    tell("MIDI file in hand", f"{count} presses, {seconds:.1f} s, four bars of 112 BPM among them", "180 s")


def test_every_word_has_an_example_that_plays():
    words = help_words()
    assert all(word.examples for word in words)
    examples = sum(len(word.examples) for word in words)
    tell("words with a playing example", f"{len(words)} of {len(words)}, {examples} examples", "all")


@pytest.mark.parametrize(("screen", "seen"), [("shelf", "Shelf"), ("lattice", "Bench of Thud")])
def test_the_page_can_soon_be_used(musician, screen, seen):
    page = musician.page
    path = "/" if screen == "shelf" else f"/lattice/{musician.pieces['Night Ferry']}"
    page.goto(f"{musician.address}{path}")
    there = page.get_by_role("heading" if screen == "shelf" else "region", name=seen)
    expect(there).to_be_visible()
    usable = page.evaluate("performance.now()")
    painted = page.evaluate(PAINTED)
    own = page.evaluate(SCRIPTS)
    size = sum(len(gzip.compress(page.request.get(url).body(), 6)) for url in dict.fromkeys(own))
    assert own
    tell(
        f"{screen}: first paint to usable",
        f"{usable - painted:.0f} ms (paint at {painted:.0f} ms)",
        "1,500 ms",
    )
    tell(f"{screen}: its scripts, compressed", f"{size / 1024:.0f} KB", "250 KB")
