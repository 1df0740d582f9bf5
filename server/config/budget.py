"""What somebody may have computed: so much processor time a minute, whoever it is and whatever is asked.

Counted is what an answer took, not what it seemed to ask for: see docs/decisions/budgets.md. Each worker counts for
itself, in memory that forgets: it is a brake, not an account.
"""

from collections.abc import Callable
from hashlib import sha256
from threading import Lock
from time import thread_time, time
from typing import Any

from accounts.attempts import address_of
from accounts.tokens import find
from django.conf import settings
from django.db import Error as DatabaseError
from django.http import HttpRequest
from django.http.response import HttpResponseBase
from limits import RateLimitItem, RateLimitItemPerMinute
from limits.strategies import FixedWindowRateLimiter

from config.counts import InMemory
from config.refusal import refusal

__all__ = ["Payers", "limited_cost"]

_KNOWN_SECONDS, _UNSURE_SECONDS, _KNOWN_MOST = 300, 10, 10_000


class Payers:
    """Who pays for a request: whoever is signed in, else the address that it comes from.

    A sign-in is looked up once in a while, and its cookie's digest remembered: what only computes asks no database.
    """

    def __init__(self) -> None:
        self._known: dict[str, tuple[str, float]] = {}
        self._lock = Lock()

    def of(self, request: HttpRequest) -> tuple[str, bool]:
        """Return who pays, and whether that is somebody who is signed in."""
        secret = request.COOKIES.get(settings.SESSION_COOKIE_NAME) or request.headers.get("Authorization", "")
        address = address_of(request)
        if not secret:
            return address, False
        key = sha256(secret.encode()).hexdigest()
        who, until = self._known.get(key, ("", 0.0))
        if until < time():
            who, until = self._found(request, who)
            with self._lock:
                if len(self._known) >= _KNOWN_MOST:
                    self._known.clear()
                self._known[key] = who, until
        return (who, True) if who else (address, False)

    def _found(self, request: HttpRequest, before: str) -> tuple[str, float]:
        """Return who it is, if anybody, and until when that is believed."""
        try:
            user = (
                request.user if settings.SESSION_COOKIE_NAME in request.COOKIES else _owner_of_token(request)
            )
        except DatabaseError:
            return before, time() + _UNSURE_SECONDS  # what only computes goes on meanwhile
        return (f"user {user.pk}" if user and user.is_authenticated else ""), time() + _KNOWN_SECONDS


def _owner_of_token(request: HttpRequest) -> Any:
    kind, _, secret = request.headers["Authorization"].partition(" ")
    found = find(secret) if kind.casefold() == "bearer" else None
    return found and found.owner


def limited_cost(
    get_response: Callable[[HttpRequest], HttpResponseBase],
) -> Callable[[HttpRequest], HttpResponseBase]:
    """Refuse who has had all of a minute's processor time, until the next minute."""
    spent = FixedWindowRateLimiter(InMemory())
    payers = Payers()

    def budget(is_signed_in: bool) -> RateLimitItem:
        seconds = settings.SECONDS_A_MINUTE if is_signed_in else settings.SECONDS_A_MINUTE_UNKNOWN
        return RateLimitItemPerMinute(seconds * 1000)  # milliseconds are counted

    def answer(request: HttpRequest) -> HttpResponseBase:
        if not request.path.startswith("/api/"):
            return get_response(request)
        who, is_signed_in = payers.of(request)
        limit = budget(is_signed_in)
        if not spent.test(limit, who):
            seconds = max(1, round(spent.get_window_stats(limit, who).reset_time - time()))
            said = f"As much was computed for you as may be in a minute: go on in {seconds} seconds."
            return refusal(429, "too-much", said, retry_after=seconds)
        began = thread_time()
        try:
            return get_response(request)
        finally:
            spent.hit(limit, who, cost=max(1, round((thread_time() - began) * 1000)))

    return answer
