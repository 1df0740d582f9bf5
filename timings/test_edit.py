"""From the hand to the thread, in the browser."""

import statistics
from typing import Any

from playwright.sync_api import expect

from timings.conftest import tell
from timings.test_engine import SCORE

# Presses a key on a number of a sentence and waits for the frame after the engine's answer was drawn.
EDIT = """
async ([label, key]) => {
  const number = document.querySelector(`[aria-label="${label}"]`)
  const main = document.querySelector('main.lattice')
  const before = document.querySelector('[aria-label^="Thread of Lane 9:"]').getAttribute('aria-label')
  number.focus()
  const start = performance.now()
  const drawn = new Promise((resolve) => {
    new MutationObserver((_, watching) => {
      watching.disconnect()
      requestAnimationFrame(() => resolve(performance.now() - start))
    }).observe(main, { attributeFilter: ['data-answered'] })
  })
  number.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
  const taken = await drawn
  const after = document.querySelector('[aria-label^="Thread of Lane 9:"]').getAttribute('aria-label')
  return { taken, isChanged: before !== after }
}
"""


def test_from_a_key_to_the_redrawn_thread(musician: Any) -> None:
    """Timed: keydown on "steps" of one of 16 lanes, 8 bars in view, until the frame after the redraw."""
    page = musician.page
    document = {
        "name": "Sixteen lanes",
        "tempo": 112.0,
        "kit": SCORE.kit.model_dump(mode="json"),
        "patterns": [
            {"id": "a", "name": "A", "lanes": [lane.model_dump(mode="json") for lane in SCORE.lanes]}
        ],
    }
    token = next(cookie["value"] for cookie in page.context.cookies() if cookie["name"] == "csrftoken")
    made = page.request.post(
        f"{musician.address}/api/pieces", data={"document": document}, headers={"X-CSRFToken": token}
    )
    page.goto(f"{musician.address}/lattice/{made.json()['id']}")
    page.get_by_role("button", name="8 bars in view").click()
    expect(page.get_by_role("img", name="Thread of Lane 16:")).to_be_visible()
    page.wait_for_timeout(2500)  # the kit is synthesised once, after the piece was opened

    results = [
        page.evaluate(EDIT, ["Lane 9: steps", "ArrowUp" if number % 40 < 20 else "ArrowDown"])
        for number in range(120)
    ]
    assert all(result["isChanged"] for result in results)
    taken = sorted(result["taken"] for result in results[10:])
    p50, p95 = statistics.median(taken), taken[int(len(taken) * 0.95)]
    tell("edit to redraw, 16 lanes x 8 bars", f"p50 {p50:.0f} ms, p95 {p95:.0f} ms", "p95 under 50 ms")
