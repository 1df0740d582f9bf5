"""How often somebody may try: counted for each name and for each address, by all servers together."""

from datetime import timedelta
from time import time

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest
from django.utils import timezone
from django.utils.crypto import salted_hmac
from limits import RateLimitItem, RateLimitItemPerMinute
from limits.storage import Storage
from limits.strategies import FixedWindowRateLimiter

from accounts.models import Attempts

__all__ = [
    "BY_ADDRESS", "BY_NAME", "TooOftenError", "address_of", "count_attempt", "forget_attempts",
    "forget_old_attempts",
]  # fmt: skip

# Tries in so many minutes. By name: a hand that mistypes; by address: a school behind one.
BY_NAME = RateLimitItemPerMinute(10, 15)
BY_ADDRESS = RateLimitItemPerMinute(60, 15)


class TooOftenError(Exception):
    """It was tried too often. *seconds*: until it may be tried again."""

    def __init__(self, seconds: int) -> None:
        minutes = -(-seconds // 60)
        super().__init__(
            f"This was tried too often: try again in {minutes} {'minute' if minutes == 1 else 'minutes'}."
        )
        self.seconds = seconds


class InDatabase(Storage):
    """Keeps the counts in the database, so that it does not matter which server is asked."""

    STORAGE_SCHEME = None
    base_exceptions = DatabaseError

    def incr(self, key: str, expiry: int, amount: int = 1) -> int:
        """Count *amount* more, in one statement: no two servers count over one another."""
        table, now = Attempts._meta.db_table, timezone.now()
        with connection.cursor() as cursor:
            cursor.execute(
                f'INSERT INTO "{table}" AS one (key, count, until) VALUES (%s, %s, %s) ON CONFLICT (key) DO UPDATE '
                "SET count = CASE WHEN one.until < %s THEN excluded.count ELSE one.count + excluded.count END, "
                "until = CASE WHEN one.until < %s THEN excluded.until ELSE one.until END RETURNING count",
                [_digest(key), amount, now + timedelta(seconds=expiry), now, now],
            )
            (count,) = cursor.fetchone()
        return int(count)

    def get(self, key: str) -> int:
        """Return the count of *key*."""
        found = Attempts.objects.filter(pk=_digest(key), until__gte=timezone.now()).first()
        return found.count if found else 0

    def get_expiry(self, key: str) -> float:
        """Return when *key* is counted from 0 again, in seconds since 1970."""
        found = Attempts.objects.filter(pk=_digest(key), until__gte=timezone.now()).first()
        return found.until.timestamp() if found else time()

    def check(self) -> bool:
        """Return whether it can be asked."""
        return True

    def reset(self) -> int:
        """Forget all."""
        return Attempts.objects.all().delete()[0]

    def clear(self, key: str) -> None:
        """Forget *key*."""
        Attempts.objects.filter(pk=_digest(key)).delete()


def _digest(key: str) -> str:
    # Names and addresses are not kept: what they are counted under says nothing to who has not our secret.
    return salted_hmac("jolly.attempts", key, algorithm="sha256").hexdigest()


_counts = FixedWindowRateLimiter(InDatabase())


def address_of(request: HttpRequest) -> str:
    """Return where *request* comes from: as the last proxy says that is believed, else who is connected."""
    if settings.PROXIES:
        said = [one.strip() for one in request.headers.get("X-Forwarded-For", "").split(",") if one.strip()]
        if said:
            return said[-min(settings.PROXIES, len(said))]
    return request.META.get("REMOTE_ADDR") or "unknown"


def count_attempt(request: HttpRequest, what: str, name: str) -> None:
    """Count a try of *what* for *name* and for the address. Raises TooOftenError where there were too many before."""
    told: list[tuple[RateLimitItem, str]] = [(BY_ADDRESS, address_of(request)), (BY_NAME, name.casefold())]
    for item, who in told:
        if not _counts.hit(item, what, who):
            until = _counts.get_window_stats(item, what, who).reset_time
            raise TooOftenError(max(1, round(until - time())))


def forget_attempts(what: str, name: str) -> None:
    """Forget how often *what* was tried for *name*: it succeeded."""
    _counts.clear(BY_NAME, what, name.casefold())


def forget_old_attempts() -> None:
    """Remove counts that no longer count."""
    Attempts.objects.filter(until__lt=timezone.now()).delete()
