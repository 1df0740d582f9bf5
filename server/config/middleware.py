"""What every request passes on its way in: how large it may be, and how long it may take."""

import ctypes
from collections.abc import Callable
from threading import Lock, Timer, get_ident
from time import monotonic

from django.http import HttpRequest
from django.http.response import HttpResponseBase

from config.refusal import refusal

__all__ = ["LIMITS", "SECONDS", "TookTooLongError", "limited_bodies", "limited_time"]

GetResponse = Callable[[HttpRequest], HttpResponseBase]

KILOBYTE, MEGABYTE = 2**10, 2**20
# How large a body may be: the first address that a path begins with counts. Checked before anything is read or asked.
LIMITS: tuple[tuple[str, int], ...] = (
    ("/api/session", 4 * KILOBYTE),
    ("/api/pieces", 32 * MEGABYTE),  # a piece and the moments since
    ("/api/render", 8 * MEGABYTE),
    ("/api/melody", 8 * MEGABYTE),
    ("/api/clips/import", 2 * MEGABYTE),
    ("/api/clips", 32 * MEGABYTE),  # what sounded, and the score
    ("/api/takes", 32 * MEGABYTE),
    ("/api/starters", 2 * MEGABYTE),
    ("/api/sounds", 4 * MEGABYTE + 64 * KILOBYTE),  # and what multipart says around it
    ("", 256 * KILOBYTE),
)
SECONDS = 20


def limited_bodies(get_response: GetResponse) -> GetResponse:
    """Refuse what is too large before it is read, whoever sends it."""

    def answer(request: HttpRequest) -> HttpResponseBase:
        try:
            length = int(request.META.get("CONTENT_LENGTH") or 0)
        except ValueError:
            length = 0
        limit = next(limit for path, limit in LIMITS if request.path.startswith(path))
        if length <= limit:
            return get_response(request)
        said = f"This is too large: at most {_say(limit)} can be sent here, these are {_say(length)}."
        response = refusal(413, "too-large", said)
        response["Connection"] = "close"
        return response

    return answer


def _say(size: int) -> str:
    return f"{size / MEGABYTE:.3g} MB" if size >= MEGABYTE else f"{-(-size // KILOBYTE)} kB"


class TookTooLongError(BaseException):
    """A request has taken all its time. Raised from outside in the thread that works on it."""


class _Deadline:
    """Stops the thread that made it after so many seconds, unless it was lifted before."""

    def __init__(self, seconds: float) -> None:
        self._thread = get_ident()
        self._lock = Lock()
        self._is_lifted = False
        self._timer = Timer(seconds, self._strike)
        self._timer.daemon = True
        self._timer.start()

    def _strike(self) -> None:
        with self._lock:
            if not self._is_lifted:
                ctypes.pythonapi.PyThreadState_SetAsyncExc(
                    ctypes.c_ulong(self._thread), ctypes.py_object(TookTooLongError)
                )

    def lift(self) -> None:
        with self._lock:
            self._is_lifted = True
        self._timer.cancel()


def limited_time(get_response: GetResponse) -> GetResponse:
    """Stop a request that takes longer than SECONDS, whether its caller still waits or not.

    Python can stop a thread between two of its steps only: what numpy and the database do at once they finish.
    """

    def answer(request: HttpRequest) -> HttpResponseBase:
        began = monotonic()
        deadline = _Deadline(SECONDS)
        try:
            response = get_response(request)
            deadline.lift()
        except TookTooLongError:
            said = f"This took longer than {monotonic() - began:.0f} seconds and was stopped: ask for less at once."
            return refusal(503, "took-too-long", said)
        finally:
            deadline.lift()
        return response

    return answer
