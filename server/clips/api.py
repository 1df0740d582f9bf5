"""Keeping clips, and taking them away."""

from accounts.auth import user_of
from config.bodies import Naming
from config.downloads import attached
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from clips import services
from clips.schemas import Keeping, KeptClip
from lattice.clips import keep_bars, keep_last, make_clip
from lattice.formats.midi import midi_file

router = Router()


@router.get("", response={200: list[KeptClip], **refusals(401)})
def list_clips(request: HttpRequest) -> list[KeptClip]:
    """The musician's clips, the newest first."""
    return [KeptClip.of(stored) for stored in services.list_of(user_of(request))]


@router.post("", response={201: KeptClip, **refusals(401, 422)})
def keep(request: HttpRequest, body: Keeping) -> Status[KeptClip]:
    """Keep bars of the tape as a clip: exactly what sounded."""
    if body.stretch:
        kept = keep_bars(body.tape, body.stretch.first_bar, body.stretch.end_bar)
    else:
        kept = keep_last(body.tape, body.bars)
    clip = make_clip(kept, body.tape, body.score, body.dice, piece=body.piece, pattern=body.pattern)
    return Status(201, KeptClip.of(services.store(user_of(request), clip)))


@router.patch("/{int:clip_id}", response={200: KeptClip, **refusals(401, 404, 422)})
def rename_clip(request: HttpRequest, clip_id: int, body: Naming) -> KeptClip:
    """Rename a clip."""
    return KeptClip.of(services.rename(user_of(request), clip_id, body.name))


@router.delete("/{int:clip_id}", response={204: None, **refusals(401, 404)})
def delete_clip(request: HttpRequest, clip_id: int) -> Status[None]:
    """Take a clip off the list."""
    services.delete(user_of(request), clip_id)
    return Status(204, None)


@router.post("/{int:clip_id}/restore", response={200: KeptClip, **refusals(401, 404)})
def restore_clip(request: HttpRequest, clip_id: int) -> KeptClip:
    """Bring a deleted clip back."""
    return KeptClip.of(services.restore(user_of(request), clip_id))


@router.get("/{int:clip_id}.mid", response={200: bytes, **refusals(401, 404)})
def download_clip(request: HttpRequest, clip_id: int) -> HttpResponse:
    """A clip as a Standard MIDI File."""
    clip = services.document_of(services.get(user_of(request), clip_id))
    return attached(midi_file(clip), f"{clip.name}.mid", "audio/midi")
