"""Counts in memory: exact whoever counts at once, and forgotten when their time is over."""

import threading

import pytest
from config.counts import InMemory
from limits import RateLimitItemPerMinute
from limits.strategies import FixedWindowRateLimiter


@pytest.fixture
def clock(monkeypatch):
    now = [1000.0]
    monkeypatch.setattr("config.counts.time", lambda: now[0])
    return now


def test_a_count_begins_again_when_its_time_is_over(clock):
    counts = InMemory()
    assert [counts.incr("quay", 60), counts.incr("quay", 60, 4)] == [1, 5]
    assert (counts.get("quay"), counts.get_expiry("quay"), counts.get("pier")) == (5, 1060, 0)
    clock[0] = 1060
    assert (counts.get("quay"), counts.get_expiry("quay")) == (0, 1060)
    assert counts.incr("quay", 60) == 1


def test_a_limit_is_kept_and_forgotten(clock):
    counts = InMemory()
    limiter, three = FixedWindowRateLimiter(counts), RateLimitItemPerMinute(3)
    assert [limiter.hit(three, "quay") for _ in range(4)] == [True, True, True, False]
    assert limiter.get_window_stats(three, "quay") == (1060, 0)
    limiter.clear(three, "quay")
    assert limiter.test(three, "quay")
    assert limiter.hit(three, "pier")
    assert counts.reset() == 1
    assert counts.check()


def test_what_is_over_makes_room(clock):
    counts = InMemory()
    for number in range(1500):
        counts.incr(f"at once {number}", 60)
    assert len(counts) == 1500  # all of them count
    clock[0] = 1070
    for number in range(1500):
        counts.incr(f"later {number}", 60)
    assert len(counts) <= 2000
    assert counts.get("later 0") == 1


def test_many_count_at_once_and_no_timer_is_needed(monkeypatch):
    monkeypatch.setattr(threading, "Timer", None)
    counts = InMemory()
    hands = [
        threading.Thread(target=lambda: [counts.incr("quay", 60) for _ in range(500)]) for _ in range(16)
    ]
    for hand in hands:
        hand.start()
    for hand in hands:
        hand.join()
    assert counts.get("quay") == 16 * 500
