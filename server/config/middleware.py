"""What every request passes on its way in: how large it may be, and how long it may take."""

import ctypes
from collections.abc import Callable
from heapq import heappop, heappush
from threading import Condition, Lock, Thread, get_ident
from time import monotonic

from django.http import HttpRequest
from django.http.response import HttpResponseBase

from config.refusal import refusal

__all__ = ["LIMITS", "SECONDS", "TookTooLongError", "limited_bodies", "limited_time"]

GetResponse = Callable[[HttpRequest], HttpResponseBase]

KILOBYTE, MEGABYTE = 2**10, 2**20
# How large a body may be: the first address that a path begins with counts. Checked before anything is read or asked.
# JSON of many small lists takes about thirty times its size in memory: 8 MB of it are 260.
LIMITS: tuple[tuple[str, int], ...] = (
    ("/api/session", 4 * KILOBYTE),
    ("/api/account/everything", 32 * MEGABYTE),
    ("/account/", 16 * KILOBYTE),
    ("/api/pieces", 8 * MEGABYTE),  # a piece and the moments since
    ("/api/render", 8 * MEGABYTE),
    ("/api/melody", 8 * MEGABYTE),
    ("/api/around", 8 * MEGABYTE),
    ("/api/order", 8 * MEGABYTE),  # a piece: what may be saved may be asked about
    ("/api/clips/import", 2 * MEGABYTE),
    ("/api/clips", 8 * MEGABYTE),  # what sounded, and the score
    ("/api/takes", 8 * MEGABYTE),
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
        self.at = monotonic() + seconds
        self._thread = get_ident()
        self._lock = Lock()
        self._is_lifted = False
        _watch.over(self)

    def __lt__(self, other: "_Deadline") -> bool:
        return self.at < other.at

    def strike(self) -> None:
        with self._lock:
            if not self._is_lifted:
                ctypes.pythonapi.PyThreadState_SetAsyncExc(
                    ctypes.c_ulong(self._thread), ctypes.py_object(TookTooLongError)
                )

    def lift(self) -> None:
        with self._lock:
            self._is_lifted = True


class _Watch:
    """One thread that strikes at all deadlines of this process: one for each request would cost more than most do."""

    def __init__(self) -> None:
        self._changed = Condition()
        self._deadlines: list[_Deadline] = []  # a heap
        self._thread: Thread | None = None

    def over(self, deadline: _Deadline) -> None:
        with self._changed:
            heappush(self._deadlines, deadline)
            if self._thread is None:
                self._thread = Thread(target=self._keep, name="deadlines", daemon=True)
                self._thread.start()
            elif self._deadlines[0] is deadline:
                self._changed.notify()

    def _keep(self) -> None:
        while True:
            with self._changed:
                left = self._deadlines[0].at - monotonic() if self._deadlines else None
                if left is None or left > 0:
                    self._changed.wait(left)
                    continue
                due = heappop(self._deadlines)
            due.strike()


_watch = _Watch()


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
