"""The one page that the front end lives on."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe


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
