"""Bodies are read before anything is done with them, within a time: who sends slowly holds nobody up."""

from collections.abc import Callable, Iterable
from io import BytesIO
from time import monotonic
from typing import Any

from config.refusal import refusal

__all__ = ["SECONDS", "read_first"]

Application = Callable[[dict[str, Any], Callable[..., Any]], Iterable[bytes]]
SECONDS = 10  # for any body, and besides as long as LEAST asks
LEAST = 100_000  # bytes a second
_CHUNK, _MOST = 2**16, 2**25


def read_first(application: Application) -> Application:
    """Return *application* with each body read whole before it is called; 408 where that takes too long.

    Bodies beyond all limits are left unread: they are refused by what they say of themselves.
    """

    def answer(environ: dict[str, Any], start_response: Callable[..., Any]) -> Iterable[bytes]:
        said = environ.get("CONTENT_LENGTH") or "0"
        length = int(said) if said.isdecimal() else 0
        if 0 < length <= _MOST:
            try:
                environ["wsgi.input"] = BytesIO(_read(environ["wsgi.input"], length))
            except (
                OSError
            ):  # the socket's own limit among them: BlockingIOError, where nothing came for so long
                return _too_slow(start_response)
        return application(environ, start_response)

    return answer


def _read(source: Any, length: int) -> bytes:
    until = monotonic() + SECONDS + length / LEAST
    parts: list[bytes] = []
    while length > 0:
        part = source.read(min(_CHUNK, length))
        if not part:
            break
        parts.append(part)
        length -= len(part)
        if monotonic() > until:
            raise TimeoutError
    return b"".join(parts)


def _too_slow(start_response: Callable[..., Any]) -> Iterable[bytes]:
    body = refusal(408, "too-slow", "This came too slowly and was not taken: send it again.").content
    start_response(
        "408 Request Timeout",
        [
            ("Content-Type", "application/json"),
            ("Content-Length", str(len(body))),
            ("Connection", "close"),
        ],
    )
    return [body]
