"""All that is the musician's, to take away and to bring along."""

from tempfile import TemporaryFile

from accounts.auth import in_person, user_of
from config.refusal import refusals
from django.http import FileResponse, HttpRequest
from ninja import File, Router
from ninja.files import UploadedFile
from pydantic import BaseModel

from operations.bundle import read_bundle, write_bundle

router = Router(auth=in_person)


class Brought(BaseModel):
    """What was stored of an export. *rows*: how many of each kind."""

    rows: dict[str, int]


@router.get("/everything.zip", response={200: bytes, **refusals()})
def take_away(request: HttpRequest) -> FileResponse:
    """All that is the musician's, in one zip."""
    user = user_of(request)
    file = TemporaryFile()  # noqa: SIM115 - the answer closes it
    write_bundle(user, file)
    file.seek(0)
    return FileResponse(
        file, as_attachment=True, filename="jolly-lattice.zip", content_type="application/zip"
    )


@router.post("/everything", response={200: Brought, **refusals()})
def bring_along(request: HttpRequest, file: File[UploadedFile]) -> Brought:
    """Store what an export from here or elsewhere holds, beside what is there."""
    return Brought(rows=read_bundle(user_of(request), file))
