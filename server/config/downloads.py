"""Files to export."""

import re
from collections.abc import Iterable
from io import BytesIO
from zipfile import ZIP_DEFLATED, ZipFile

from django.http import HttpResponse
from django.utils.http import content_disposition_header

__all__ = ["attached", "file_name", "zipped"]


def attached(content: bytes, name: str, content_type: str) -> HttpResponse:
    """Return *content* as a file to be stored under *name*."""
    disposition = content_disposition_header(as_attachment=True, filename=file_name(name))
    return HttpResponse(
        content, content_type=content_type, headers={"Content-Disposition": disposition or ""}
    )


def zipped(files: Iterable[tuple[str, bytes]], name: str) -> HttpResponse:
    """Return *files*, each a name and its content, in one zip; names that are there twice are numbered."""
    written = BytesIO()
    taken: set[str] = set()
    with ZipFile(written, "w", ZIP_DEFLATED) as archive:
        for called, content in files:
            unique, number = file_name(called), 1
            stem, _, ending = unique.rpartition(".")
            while unique.casefold() in taken:
                number += 1
                unique = f"{stem} ({number}).{ending}"
            taken.add(unique.casefold())
            archive.writestr(unique, content)
    return attached(written.getvalue(), name, "application/zip")


_UNSAFE = re.compile(r'[\\/:*?"<>|\x00-\x1f\x7f]+')
# Signs that turn the direction of what follows: with them a name can show another ending than it has.
_TURNING = re.compile("[\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]")
_DEVICES = re.compile(r"(con|prn|aux|nul|com\d|lpt\d)(\.|$)", re.IGNORECASE)
_MOST_BYTES = 200  # file systems take 255, and a number may be added


def file_name(name: str) -> str:
    """Return a name, which has an ending, without what file systems read as something else, and not too long."""
    stem, _, ending = name.rpartition(".")
    stem = _UNSAFE.sub("-", _TURNING.sub("", stem)).strip(" .")
    stem = stem.encode()[:_MOST_BYTES].decode(errors="ignore").strip(" .")
    if _DEVICES.match(stem):
        stem = f"clip {stem}"
    return f"{stem or 'clip'}.{ending}"
