"""The one page that the front end lives on."""

import sys

from django.conf import settings
from django.core.exceptions import BadRequest
from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe

from config.errors import answer_to
from config.refusal import refusal


def failed(request: HttpRequest) -> HttpResponse:
    """Answer to what failed outside of an endpoint: the API in its own words, pages in plain ones."""
    error = sys.exc_info()[1]
    answer = answer_to(request, error if isinstance(error, Exception) else RuntimeError("failed"))
    return (
        answer
        if _is_api(request)
        else _page(answer.status_code, "Something went wrong here. Please try again.")
    )


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Answer to an address at which nothing is."""
    return answer_to(request, Http404()) if _is_api(request) else _page(404, "There is nothing here.")


def unreadable(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Answer to what cannot be read."""
    return answer_to(request, BadRequest()) if _is_api(request) else _page(400, "This cannot be read.")


def forged(request: HttpRequest, reason: str = "") -> HttpResponse:
    """Answer to what does not come from a page of ours."""
    said = "This page is too old, or does not come from here: load it anew."
    return refusal(403, "not-our-page", said) if _is_api(request) else _page(403, said)


def _is_api(request: HttpRequest) -> bool:
    return request.path.startswith("/api/")


def _page(status: int, said: str) -> HttpResponse:
    return HttpResponse(said, status=status, content_type="text/plain; charset=utf-8")


@require_safe
def worker(_request: HttpRequest) -> HttpResponse:
    """Return what lets the page open without the server. At the root: a worker answers for what lies below it."""
    script = settings.WEB / "sw.js"
    if not script.exists():
        raise Http404("The front end is not built yet.")
    return HttpResponse(
        script.read_bytes(), content_type="text/javascript", headers={"Cache-Control": "no-cache"}
    )


@require_safe
@ensure_csrf_cookie
def page(_request: HttpRequest) -> HttpResponse:
    """Return the front end; it knows from the address which screen to show."""
    index = settings.WEB / "index.html"
    if not index.exists():
        return HttpResponse(
            "The front end is not built yet: run ./start.", status=503, content_type="text/plain"
        )
    return HttpResponse(index.read_bytes(), headers={"Cache-Control": "no-cache"})
