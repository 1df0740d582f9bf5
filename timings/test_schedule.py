"""Every note at its tick, for an hour: tests/browser/test_schedule.py plays a while of each."""

from typing import Any

from tests.browser.schedule import WITHIN_MS, order_stepped, played_by_hand, stepped
from timings.conftest import tell

HOUR = 3600.0


def test_an_hour_of_slack_water_on_a_stepped_clock(musician: Any) -> None:
    compared, furthest = stepped(musician, HOUR, every=97)
    tell(
        "an hour of Slack Water at 200, stepped clock, 37 hands",
        f"{compared:,} notes as the engine says, furthest from its tick {furthest:.6f} ms",
        f"within {WITHIN_MS} ms",
    )
    assert compared > 100_000
    assert furthest < WITHIN_MS


def test_an_hour_of_an_order_on_a_stepped_clock(musician: Any) -> None:
    """Twenty times round the order of Night Ferry."""
    notes, furthest = order_stepped(musician, HOUR)
    tell(
        "an hour of the order of Night Ferry, stepped clock",
        f"{notes:,} notes as the engine says, furthest from its tick {furthest:.6f} ms",
        f"within {WITHIN_MS} ms",
    )
    assert notes > 20_000
    assert furthest < WITHIN_MS


def test_a_real_minute_in_chromium(musician: Any) -> None:
    compared, left_out, furthest = played_by_hand(musician, ("m", "m", "t", "+", "t", "-", "w", "q"))
    tell(
        "a real minute in Chromium, 8 hands",
        f"{compared:,} notes as the engine says, {left_out} too late to sound,"
        f" furthest from its tick {furthest:.4f} ms",
        f"within {WITHIN_MS} ms",
    )
    assert compared > 300
    assert furthest < WITHIN_MS
