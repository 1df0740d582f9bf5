"""Looking around: candidates, grounds and busy hands, a field under the pointer, a detour from press to sound."""

import re
import statistics
from time import perf_counter
from typing import Any

from playwright.sync_api import expect

from lattice.around import candidates
from lattice.document import DOCKSIDE, Drawn, Euclidean, GroundSource, Lane, Numbered, Score, Thrown
from lattice.document.detour import WAY_NAMES
from lattice.theory.grounds import PARTS
from timings.conftest import tell
from timings.test_edit import edits, open_with

SOURCES = (
    Euclidean(hits=5, steps=16),
    Drawn(steps=16, hits=(0, 4, 8, 12)),
    Numbered(hits=5, steps=16, number="77"),
    Thrown(hits=6, steps=16, throw=5),
)
EIGHT = Score(
    tempo=112.0,
    kit=DOCKSIDE,
    bars=4,
    lanes=tuple(
        Lane(id=voice.id, name=voice.name, voice=voice.id, source=SOURCES[place % 4])
        for place, voice in enumerate(DOCKSIDE.voices[:8])
    ),
)
ON_GROUNDS = Score(
    tempo=112.0,
    kit=DOCKSIDE,
    lanes=tuple(
        Lane(
            id=f"lane-{place}",
            name=f"Lane {place + 1}",
            voice=DOCKSIDE.voices[place % 12].id,
            source=GroundSource(ground="quayside" if place < 8 else "gangway", part=PARTS[place % 8]),
        )
        for place in range(16)
    ),
)


def test_a_thousand_candidates_of_eight_lanes() -> None:
    """Timed: 1,000 candidates with their measures, each throw a new one."""
    taken = []
    for throw in range(1, 5):
        start = perf_counter()
        found = candidates(EIGHT, 1000, 30, WAY_NAMES, throw)
        taken.append(1000 * (perf_counter() - start))
        assert len(found.found) == 1000
        assert all(one.hits_a_bar > 0 for one in found.found)
    tell("1,000 candidates of 8 lanes, with measures", f"{statistics.median(taken):.0f} ms", "300 ms")


# Moves the hand on the plane by a key and waits for the frame after the threads of its lanes were drawn anew.
MOVE = """
async ([key]) => {
  const plane = document.querySelector('.plane')
  const lanes = document.querySelector('.lanes')
  plane.focus()
  const before = lanes.innerHTML
  const start = performance.now()
  const drawn = new Promise((resolve) => {
    new MutationObserver((changes, watching) => {
      if (!changes.some(({ target }) => target.closest?.('svg.mini'))) return // the words are there before the threads
      watching.disconnect()
      requestAnimationFrame(() => resolve(performance.now()))
    }).observe(lanes, { subtree: true, childList: true, attributes: true, characterData: true })
  })
  plane.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
  return { taken: (await drawn) - start, isChanged: before !== lanes.innerHTML }
}
"""


def test_moving_over_a_ground_with_sixteen_lanes(musician: Any) -> None:
    """Timed: from an arrow key on the plane until the frame after sixteen lanes' words and threads were drawn."""
    page = open_with(musician, ON_GROUNDS)
    page.keyboard.press("g")
    page.get_by_role("button", name="Ground", exact=True).click()
    expect(page.get_by_role("application", name=re.compile("^Quayside: 8 lanes"))).to_be_visible()
    page.wait_for_timeout(1500)
    keys = ["ArrowUp", "ArrowRight", "ArrowDown", "ArrowLeft"]
    results = []
    for number in range(80):
        results.append(page.evaluate(MOVE, [keys[number % 4]]))
        page.wait_for_timeout(60)
    assert all(result["isChanged"] for result in results)
    taken = sorted(result["taken"] for result in results[10:])
    told = f"p50 {statistics.median(taken):.0f} ms, p95 {taken[int(len(taken) * 0.95)]:.0f} ms"
    tell("a ground's hand to redraw, 16 lanes", told, "p95 under 50 ms")


FRAMES = """
async ([label, milliseconds]) => {
  const at = label && document.querySelector(label).getBoundingClientRect()
  const target = label && document.querySelector(label)
  let frames = 0
  let worst = 0
  const start = performance.now()
  let last = start
  while (performance.now() - start < milliseconds) {
    if (target) {
      const turn = (performance.now() - start) / 150
      target.dispatchEvent(new PointerEvent('pointermove', {
        clientX: at.x + at.width * (0.5 + 0.4 * Math.cos(turn)),
        clientY: at.y + at.height * (0.5 + 0.4 * Math.sin(turn * 1.3)),
        bubbles: true, pointerType: 'mouse',
      }))
    }
    await new Promise(requestAnimationFrame)
    const now = performance.now()
    worst = Math.max(worst, now - last)
    last = now
    frames++
  }
  return { frames, worst }
}
"""


def test_a_field_of_a_thousand_points_under_the_pointer(musician: Any) -> None:
    """Timed: frames while the pointer runs over a field, beside those of the same page at rest."""
    page = open_with(musician, EIGHT)
    page.keyboard.press("g")
    page.get_by_role("button", name="1,000", exact=True).click()
    expect(page.get_by_text("1,000 patterns, up to 30 % away", exact=False)).to_be_visible()
    page.wait_for_timeout(1000)
    rest = page.evaluate(FRAMES, [None, 3000])
    moving = page.evaluate(FRAMES, [".plot", 3000])
    expect(page.locator(".side h2")).to_contain_text("No. ")
    share = f"{moving['frames'] / rest['frames']:.2f} ({moving['frames']} / {rest['frames']})"
    told = f"{share}, the longest {moving['worst']:.0f} ms"
    tell("frames over a field of 1,000 points / at rest", told, "1")


def test_from_a_press_to_the_sound_of_a_detour(musician: Any) -> None:
    """Timed: from pressing X until what is heard is the detour, on the music's clock."""
    page = musician.open("Night Ferry").page
    page.keyboard.press("Shift+X")
    page.keyboard.press("Space")
    page.wait_for_function("jolly.log().at(-1)?.nowTick > 53760")
    waits = []
    for _ in range(12):
        before = page.evaluate("jolly.now()")
        page.keyboard.down("x")
        page.wait_for_function("jolly.score().score.held_detours.at(-1)?.end === null")
        start = page.evaluate("jolly.score().score.held_detours.at(-1).start")
        page.wait_for_timeout(300)
        page.keyboard.up("x")
        waits.append((start - before) / 13440 * 60_000 / 112)
        page.wait_for_timeout(350)
    assert all(wait > 0 for wait in waits)
    ordered = sorted(waits)
    told = f"p50 {statistics.median(ordered):.0f} ms, the longest {ordered[-1]:.0f} ms"
    tell("from a press to where a detour counts", told, "the engine's answer + 100 ms")


def test_a_busy_hand_with_sixteen_lanes(musician: Any) -> None:
    """Timed: keydown on the hand of one lane's busy-ness among 16, until the frame after the redraw."""
    lanes = tuple(one.model_copy(update={"source": Euclidean(hits=8, steps=64)}) for one in ON_GROUNDS.lanes)
    page = open_with(musician, ON_GROUNDS.model_copy(update={"lanes": lanes}))
    told = edits(page, 60, label="Busy-ness of Lane 9")
    tell("a busy hand to redraw, 16 lanes x 8 bars", told, "p95 under 50 ms")
