"""From the hand to the thread, and frames while it plays, in the browser."""

import statistics
from typing import Any

from playwright.sync_api import expect

from lattice.document import DOCKSIDE, Euclidean, Lane, Score
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
      requestAnimationFrame(() => resolve(performance.now()))
    }).observe(main, { attributeFilter: ['data-answered'] })
  })
  number.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
  const end = await drawn
  const asked = performance.getEntriesByType('resource').filter(({ name }) => name.endsWith('/api/render')).at(-1)
  performance.clearResourceTimings()
  const engine = asked.serverTiming.find(({ name }) => name === 'engine').duration
  const after = document.querySelector('[aria-label^="Thread of Lane 9:"]').getAttribute('aria-label')
  return {
    taken: end - start,
    script: asked.startTime - start,
    engine,
    network: asked.responseEnd - asked.startTime - engine,
    drawing: end - asked.responseEnd,
    isChanged: before !== after,
  }
}
"""

# 64 lanes of 128 steps: the most that a pattern may hold.
FULL = Score(
    tempo=112.0,
    kit=DOCKSIDE,
    lanes=tuple(
        Lane(
            id=f"lane-{number}",
            name=f"Lane {number + 1}",
            voice=DOCKSIDE.voices[number % 12].id,
            # The ninth is moved: it has room above.
            source=Euclidean(hits=40 + number, steps=100 if number == 8 else 128),
        )
        for number in range(64)
    ),
)


def open_with(musician: Any, score: Score) -> Any:
    page = musician.page
    document = {
        "name": f"{len(score.lanes)} lanes",
        "tempo": 112.0,
        "kit": score.kit.model_dump(mode="json"),
        "patterns": [
            {"id": "a", "name": "A", "lanes": [lane.model_dump(mode="json") for lane in score.lanes]}
        ],
    }
    token = next(cookie["value"] for cookie in page.context.cookies() if cookie["name"] == "csrftoken")
    made = page.request.post(
        f"{musician.address}/api/pieces", data={"document": document}, headers={"X-CSRFToken": token}
    )
    page.goto(f"{musician.address}/lattice/{made.json()['id']}?latency=0.1")
    page.get_by_role("button", name="8 bars in view").click()
    expect(page.locator(".thread")).to_have_count(len(score.lanes))
    page.wait_for_timeout(2500)  # the kit is synthesised once, after the piece was opened
    return page


def edits(page: Any, times: int, label: str = "Lane 9: steps") -> str:
    """Return median and 95th percentile of the milliseconds from a key to the redrawn thread, and its parts."""
    page.locator("[data-lane=lane-8] .place").click()  # choosing a lane asks the engine too
    page.wait_for_timeout(1000)
    results = [
        page.evaluate(EDIT, [label, "ArrowUp" if number % 40 < 20 else "ArrowDown"])
        for number in range(times)
    ]
    assert all(result["isChanged"] for result in results)
    results = results[10:]
    taken = sorted(result["taken"] for result in results)
    parts = ", ".join(
        f"{part} {statistics.median(result[part] for result in results):.0f}"
        for part in ("script", "network", "engine", "drawing")
    )
    return (
        f"p50 {statistics.median(taken):.0f} ms, p95 {taken[int(len(taken) * 0.95)]:.0f} ms; of that {parts}"
    )


def test_from_a_key_to_the_redrawn_thread(musician: Any) -> None:
    """Timed: keydown on "steps" of one of 16 lanes, 8 bars in view, until the frame after the redraw."""
    told = edits(open_with(musician, SCORE), 120)
    tell("edit to redraw, 16 lanes x 8 bars", told, "p50 under 30 ms, p95 under 50 ms")


def test_from_a_key_to_the_redrawn_thread_among_64(musician: Any) -> None:
    """Timed: the same with 64 lanes of 128 steps."""
    tell(
        "edit to redraw, 64 lanes of 128 steps x 8 bars",
        edits(open_with(musician, FULL), 60),
        "p50 under 80 ms",
    )


# Turns the same number every quarter of a second while it plays, and counts what holds the page up for over 50 ms.
BUSY_MINUTE = """
async ([label, seconds]) => {
  const tasks = []
  const take = (list) => tasks.push(...list.getEntries().map(({ duration }) => duration))
  const watching = new PerformanceObserver(take)
  watching.observe({ type: 'longtask' })
  const number = document.querySelector(`[aria-label="${label}"]`)
  number.focus()
  const turns = seconds * 4
  for (let turn = 0; turn < turns; turn++) {
    const key = turn % 16 < 8 ? 'ArrowUp' : 'ArrowDown'
    number.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))
    await new Promise((resolve) => setTimeout(resolve, 250))
  }
  watching.disconnect()
  return tasks
}
"""


def test_nothing_holds_the_page_up_while_it_plays_and_is_edited(musician: Any) -> None:
    """Counted: tasks of over 50 ms in a minute of playing 16 lanes x 8 bars while a number is turned."""
    page = open_with(musician, SCORE)
    page.locator("[data-lane=lane-8] .place").click()
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    tasks = page.evaluate(BUSY_MINUTE, ["Lane 9: steps", 60])
    assert len(musician.log()[0]["notes"]) > 1000
    tell(
        "long tasks in a minute of playing and editing",
        f"{len(tasks)}, the longest {max(tasks, default=0):.0f} ms",
        "none",
    )


# Draws across the strip, place by place, and waits each time for the frame after the engine's answer was drawn.
PAINT = """
async (times) => {
  const bars = document.querySelector('[aria-label="Lane 9: velocity of each step"]')
  const main = document.querySelector('main.lattice')
  const { left, top, width, height } = bars.getBoundingClientRect()
  const count = bars.querySelectorAll('.bar').length
  const at = (place, share) => ({
    pointerId: 1, button: 0, bubbles: true,
    clientX: left + ((place + 0.5) * width) / count, clientY: top + height * share,
  })
  bars.setPointerCapture = () => undefined
  bars.dispatchEvent(new PointerEvent('pointerdown', at(0, 0.5)))
  await new Promise((resolve) => setTimeout(resolve, 500))
  const taken = []
  for (let time = 0; time < times; time++) {
    const start = performance.now()
    const drawn = new Promise((resolve) => {
      new MutationObserver((_, watching) => {
        watching.disconnect()
        requestAnimationFrame(() => resolve(performance.now() - start))
      }).observe(main, { attributeFilter: ['data-answered'] })
    })
    bars.dispatchEvent(new PointerEvent('pointermove', at(time % count, 0.2 + 0.6 * ((time * 7) % 10) / 10)))
    taken.push(await drawn)
  }
  bars.dispatchEvent(new PointerEvent('pointerup', at(0, 0.5)))
  return taken
}
"""


def test_painting_across_a_strip(musician: Any) -> None:
    """Timed: a pointer moved over the velocity strip of one of 16 lanes, 8 bars in view, until the frame after."""
    page = open_with(musician, SCORE)
    page.locator("[data-lane=lane-8] .place").click()
    page.get_by_role("tab", name="velocity", exact=True).click()
    page.wait_for_timeout(1000)
    taken = sorted(page.evaluate(PAINT, 100)[10:])
    tell(
        "painting a strip to redraw, 16 lanes x 8 bars",
        f"p50 {statistics.median(taken):.0f} ms, p95 {taken[int(len(taken) * 0.95)]:.0f} ms",
        "p95 under 50 ms",
    )
    expect(page.locator("[data-lane=lane-8] .sentence")).to_contain_text("velocity 100, on")


FRAMES = """
(milliseconds) => new Promise((resolve) => {
  let frames = 0
  const end = performance.now() + milliseconds
  const next = () => {
    frames++
    if (performance.now() < end) requestAnimationFrame(next)
    else resolve(frames)
  }
  requestAnimationFrame(next)
})
"""


def test_frames_while_it_plays(musician: Any) -> None:
    """Timed: animation frames in 4 s of playing 16 lanes x 8 bars, beside those of a blank page."""
    page = open_with(musician, SCORE)
    page.keyboard.press("Space")
    musician.wait_for_bars(1)
    playing = page.evaluate(FRAMES, 4000)
    notes = len(musician.log()[0]["notes"])
    page.keyboard.press("Space")
    blank = page.context.new_page()
    blank.goto("about:blank")
    frames = blank.evaluate(FRAMES, 4000)
    tell(
        "frames while playing / frames of a blank page",
        f"{playing / frames:.2f} ({playing} / {frames})",
        "at least 0.95",
    )
    assert notes > 100
