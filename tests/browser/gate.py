"""The gate before the server of the tests: the database can be emptied when it is shut and nobody is inside.

JOLLY_TEST_DELAY: seconds that each answer comes later, to look for what goes wrong then.
"""

import os
import threading
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

__all__ = ["Gate", "gate", "guarded"]

Answer = Callable[[HttpRequest], HttpResponse]


class Gate:
    """Counts the questions that are being answered, and lets none in while it is shut."""

    def __init__(self) -> None:
        self.delay = 0.0  # seconds that each answer comes later
        self.lateness: Callable[[], float] = lambda: (
            0.0
        )  # and as much more, of each its own: answers overtake each other
        self._changed = threading.Condition()
        self._inside = 0
        self._is_open = True

    def open(self) -> None:
        with self._changed:
            self._is_open = True
        self.delay = float(os.environ.get("JOLLY_TEST_DELAY", "0"))
        self.lateness = lambda: 0.0

    def shut(self, seconds: float = 240) -> None:
        """Shut it and wait until all that is inside has been answered."""
        with self._changed:
            self._is_open = False
            if not self._changed.wait_for(lambda: not self._inside, seconds):
                raise AssertionError(
                    f"{self._inside} questions are still being answered after {seconds} seconds"
                )

    def answer(self, request: HttpRequest, answer: Answer) -> HttpResponse:
        with self._changed:
            if not self._is_open:
                return HttpResponse(status=503)
            self._inside += 1
        try:
            if request.path.startswith("/api/"):
                time.sleep(self.delay + self.lateness())
            return answer(request)
        finally:
            with self._changed:
                self._inside -= 1
                self._changed.notify_all()


gate = Gate()


def guarded(get_response: Answer) -> Answer:
    """Middleware, before all other: nothing asks the database before it has come through."""
    return lambda request: gate.answer(request, get_response)
