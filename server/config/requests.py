"""Each request has an id; what is logged meanwhile carries it, and the answer says it. Nothing in it says who asked."""

import logging
import re
from collections.abc import Callable
from contextvars import ContextVar
from time import perf_counter
from uuid import uuid4

from django.http import HttpRequest
from django.http.response import HttpResponseBase

__all__ = ["WithRequest", "told"]

HEADER = "X-Request-ID"
log = logging.getLogger("jolly.requests")
_current: ContextVar[str] = ContextVar("request", default="-")


class WithRequest(logging.Filter):
    """Says with each line which request it belongs to; - where it belongs to none."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Let all pass."""
        record.request = _current.get()
        return True


def told(
    get_response: Callable[[HttpRequest], HttpResponseBase],
) -> Callable[[HttpRequest], HttpResponseBase]:
    """Give each request its id, a proxy's if it has one, and log its end: method, route, status and milliseconds.

    Its route, not its address: names and search words that stand in addresses are nobody's business.
    """

    def answer(request: HttpRequest) -> HttpResponseBase:
        given = request.headers.get(HEADER, "")
        named = _current.set(given if re.fullmatch(r"[\w-]{8,64}", given) else uuid4().hex)
        began = perf_counter()
        try:
            response = get_response(request)
            response[HEADER] = _current.get()
            match = request.resolver_match
            log.info(
                "answered",
                extra={
                    "method": request.method,
                    "route": match.route if match else "",
                    "status": response.status_code,
                    "ms": round((perf_counter() - began) * 1000, 1),
                },
            )
            return response
        finally:
            _current.reset(named)

    return answer
