"""Counts of this process alone, each forgotten when its time is over."""

from threading import Lock
from time import time

from limits.storage import Storage

__all__ = ["InMemory"]

_FEW = 1_000


class InMemory(Storage):
    """Keeps counts in memory, under one lock and without a thread of its own.

    The package's `MemoryStorage` starts a thread for each count, to forget old ones; two requests at once can start the
    same one twice, and the second is refused.
    """

    STORAGE_SCHEME = None
    base_exceptions = ValueError

    def __init__(self) -> None:
        super().__init__()
        self._lock = Lock()
        self._counts: dict[str, tuple[int, float]] = {}  # and until when they are counted
        self._looks_at = _FEW

    def __len__(self) -> int:
        return len(self._counts)

    def incr(self, key: str, expiry: float, amount: int = 1) -> int:
        """Count *amount* more, for *expiry* seconds from the first."""
        with self._lock:
            count, until = self._found(key) or (0, time() + expiry)
            self._counts[key] = count + amount, until
            if len(self._counts) > self._looks_at:
                self._forget_old()
            return count + amount

    def get(self, key: str) -> int:
        """Return the count of *key*."""
        found = self._found(key)
        return found[0] if found else 0

    def get_expiry(self, key: str) -> float:
        """Return when *key* is counted from 0 again, in seconds since 1970."""
        found = self._found(key)
        return found[1] if found else time()

    def check(self) -> bool:
        """Return whether it can be asked."""
        return True

    def reset(self) -> int:
        """Forget all."""
        with self._lock:
            count = len(self._counts)
            self._counts.clear()
            return count

    def clear(self, key: str) -> None:
        """Forget *key*."""
        with self._lock:
            self._counts.pop(key, None)

    def _found(self, key: str) -> tuple[int, float] | None:
        found = self._counts.get(key)
        return found if found and found[1] > time() else None

    def _forget_old(self) -> None:
        now = time()
        self._counts = {key: one for key, one in self._counts.items() if one[1] > now}
        self._looks_at = max(_FEW, 2 * len(self._counts))  # so that it is seldom looked for
