"""The musician's own sounds."""

from accounts.auth import user_of
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import File, Router, Status
from ninja.files import UploadedFile
from pydantic import BaseModel

from lattice.document import DocumentError
from sounds import models, services
from sounds.decode import MAX_BYTES

router = Router()


class OwnSound(BaseModel):
    """A sound as the list shows it. *sound*: what a kit's voice calls it."""

    id: int
    sound: str
    name: str
    seconds: float


def _listed(stored: models.Sound) -> OwnSound:
    return OwnSound(id=stored.pk, sound=f"own-{stored.pk}", name=stored.name, seconds=stored.seconds)


@router.get("", response={200: list[OwnSound], **refusals()})
def list_sounds(request: HttpRequest) -> list[OwnSound]:
    """The musician's own sounds, by name."""
    return [_listed(stored) for stored in services.list_of(user_of(request))]


@router.post("", response={201: OwnSound, **refusals()})
def add_sound(request: HttpRequest, file: File[UploadedFile]) -> Status[OwnSound]:
    """A new sound from a short WAV, OGG or FLAC file."""
    if (file.size or 0) > MAX_BYTES:
        raise DocumentError.of(
            services.name_of(file.name or ""),
            f"a sound has at most {MAX_BYTES // 2**20} MB, this file has {(file.size or 0) / 2**20:.1f}",
        )
    return Status(201, _listed(services.store(user_of(request), file.name or "", file.read())))


@router.get("/{int:sound_id}", response={200: bytes, **refusals(404)})
def play_sound(request: HttpRequest, sound_id: int) -> HttpResponse:
    """A sound of the musician's, as FLAC; nobody else's."""
    stored = services.get(user_of(request), sound_id)
    headers = {"X-Content-Type-Options": "nosniff", "Cache-Control": "private, max-age=86400"}
    return HttpResponse(bytes(stored.data), content_type="audio/flac", headers=headers)


@router.delete("/{int:sound_id}", response={204: None, **refusals(404)})
def delete_sound(request: HttpRequest, sound_id: int) -> Status[None]:
    """Delete a sound."""
    services.delete(user_of(request), sound_id)
    return Status(204, None)
