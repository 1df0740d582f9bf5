"""Files to take away."""

from django.http import HttpResponse
from django.utils.http import content_disposition_header

__all__ = ["attached"]


def attached(content: bytes, name: str, content_type: str) -> HttpResponse:
    """Return *content* as a file to be stored under *name*."""
    disposition = content_disposition_header(as_attachment=True, filename=name)
    return HttpResponse(
        content, content_type=content_type, headers={"Content-Disposition": disposition or ""}
    )
