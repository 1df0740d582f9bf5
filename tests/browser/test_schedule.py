"""Every note at its tick while hands are at work, for a while; timings/test_schedule.py plays an hour of it."""

from tests.browser.schedule import WITHIN_MS, order_stepped, played_by_hand, stepped


def test_slack_water_on_a_stepped_clock_is_the_engines(musician):
    compared, furthest = stepped(musician, 300.0, every=23)
    assert compared > 8_000
    assert furthest < WITHIN_MS


def test_the_order_on_a_stepped_clock_is_the_engines(musician):
    """Twice round and a little."""
    notes, furthest = order_stepped(musician, 400.0)
    assert notes > 2_200
    assert furthest < WITHIN_MS


def test_slack_water_on_the_audio_clock_is_the_engines(musician):
    compared, _, furthest = played_by_hand(musician, ("m", "t"))
    assert compared > 50
    assert furthest < WITHIN_MS
