"""Keeping clips, working on them, and taking them away."""

from typing import Annotated

from accounts.auth import user_of
from config.answers import answer
from config.downloads import attached, zipped
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status
from pydantic import Field

from clips import services
from clips.schemas import (
    CLIPS_ON_A_PAGE,
    AsLanes,
    AsPattern,
    ClipEdit,
    ClipLine,
    ClipPage,
    Description,
    EditedClip,
    Exporting,
    GridStep,
    Imported,
    InPlace,
    Join,
    Keeping,
    KeptLine,
    LanesOffered,
    Made,
    OpenClip,
    Revision,
)
from lattice.clips import apart, in_place
from lattice.clips.guess import ClipGuess, guess_clip
from lattice.clips.lanes import lane_offers, left_out
from lattice.document import DocumentError, Pattern, StepValue
from lattice.document.lane_clip import LaneClip
from lattice.formats.midi import midi_file
from lattice.formats.midi_reader import MAX_MIDI_BYTES, Changes, Split, read_midi
from lattice.formats.notes_text import notes_text
from lattice.units import TICKS_PER_QUARTER

router = Router()
MIDI = "audio/midi"
MAX_NOTES_IN_ZIP = 100_000
_MIDI_BODY = {
    "requestBody": {"required": True, "content": {MIDI: {"schema": {"type": "string", "format": "binary"}}}}
}


@router.get("", response={200: ClipPage, **refusals()})
def list_clips(
    request: HttpRequest,
    words: Annotated[str, Field(max_length=200)] = "",
    set_name: Annotated[str | None, Field(max_length=80)] = None,
    tag: Annotated[str, Field(max_length=24)] = "",
    first: Annotated[int, Field(ge=0, le=1_000_000)] = 0,
) -> HttpResponse:
    """The musician's clips that match, the newest first, from the *first* on (counted from 0), a page of them."""
    owner = user_of(request)
    found = services.matching(owner, words, set_name, tag)
    sets, tags = services.sets_and_tags(owner)
    lines = [ClipLine.of(stored) for stored in found[first : first + CLIPS_ON_A_PAGE]]
    return answer(ClipPage.model_construct(clips=lines, total=found.count(), sets=sets, tags=tags))


@router.post("", response={201: KeptLine, **refusals()})
def keep(request: HttpRequest, body: Keeping) -> HttpResponse:
    """Keep bars of the tape as a clip: exactly what sounded."""
    clip, late = body.clip()
    line = ClipLine.of(services.store(user_of(request), clip, keeping=body.keeping))
    return answer(KeptLine.model_construct(**dict(line), late=late), 201)


@router.post("/import", response={201: Imported, **refusals()}, openapi_extra=_MIDI_BODY)
def import_clips(
    request: HttpRequest,
    name: Annotated[str, Field(max_length=200)] = "",
    split: Split = "track",
    changes: Changes = "keep",
    each: bool = False,
) -> HttpResponse:
    """Read a MIDI file as a clip; with *each*, as a clip for each of the tracks that it is split into."""
    if int(request.headers.get("Content-Length") or 0) > MAX_MIDI_BYTES:
        raise DocumentError.of("file", f"a MIDI file has at most {MAX_MIDI_BYTES // 2**20} MB here")
    read = read_midi(request.body, name, split, changes)
    made = apart(read.clip) if each else [read.clip]
    set_name = read.clip.name if len(made) > 1 else ""
    stored = services.store_all(user_of(request), made, "Imported", set_name)
    lines = [ClipLine.of(one) for one in stored]
    heard = guess_clip(read.clip)
    return answer(
        Imported.model_construct(clips=lines, remarks=list(read.remarks), heard=heard.says if heard else ""),
        201,
    )


@router.get("/zip", response={200: bytes, **refusals(404)})
def download_zip(
    request: HttpRequest,
    asked: Query[Exporting],
    set_name: Annotated[str | None, Field(max_length=80)] = None,
    ids: Annotated[str, Field(pattern=r"^(\d+(,\d+)*)?$", max_length=4000)] = "",
) -> HttpResponse:
    """A set, or clips by their *ids* with commas between, as MIDI files in one zip."""
    owner = user_of(request)
    if ids:
        stored = services.some(owner, [int(one) for one in ids.split(",")])
    else:
        stored = list(services.matching(owner, set_name=set_name)[: services.MAX_AT_ONCE + 1])
    if len(stored) > services.MAX_AT_ONCE:
        said = f"at most {services.MAX_AT_ONCE} clips in one zip, these are more"
        raise DocumentError.of("clips", said)
    files = []
    notes = 0
    for one in stored:
        clip = services.document_of(one)
        notes += clip.note_count * asked.repeats
        if notes > MAX_NOTES_IN_ZIP:
            said = f"at most {MAX_NOTES_IN_ZIP:,} notes in one zip, these are more: take fewer clips at once"
            raise DocumentError.of("clips", said)
        files.append((f"{clip.name}.mid", midi_file(clip, asked.export())))
    return zipped(files, f"{set_name or 'clips'}.zip")


@router.post("/grid", response={200: GridStep, **refusals()})
def grid_step(request: HttpRequest, body: StepValue) -> GridStep:
    """How long a step of a grid is."""
    return GridStep(ticks=float(body.quarters * TICKS_PER_QUARTER))


@router.get("/{int:clip_id}", response={200: OpenClip, **refusals(404)})
def open_clip(request: HttpRequest, clip_id: int) -> HttpResponse:
    """A clip to hear or to work on."""
    return answer(OpenClip.of(services.get(user_of(request), clip_id)))


@router.patch("/{int:clip_id}", response={200: ClipLine, **refusals(404)})
def describe_clip(request: HttpRequest, clip_id: int, body: Description) -> HttpResponse:
    """Rename a clip, tag it, put it into a set."""
    return answer(
        ClipLine.of(services.describe(user_of(request), clip_id, body.name, body.tags, body.set_name))
    )


@router.post("/{int:clip_id}/edits", response={200: EditedClip, **refusals(404, 409)})
def edit_clip(request: HttpRequest, clip_id: int, body: ClipEdit) -> HttpResponse:
    """Do something to the notes of a clip."""
    stored, done = services.edit(user_of(request), clip_id, body.revision, body.action, body.chosen)
    return answer(EditedClip.of(stored, done))


@router.post("/{int:clip_id}/undo", response={200: OpenClip, **refusals(404, 409)})
def undo_edit(request: HttpRequest, clip_id: int, body: Revision) -> HttpResponse:
    """Go back by one edit."""
    return answer(OpenClip.of(services.undo(user_of(request), clip_id, body.revision)))


@router.post("/{int:clip_id}/redo", response={200: OpenClip, **refusals(404, 409)})
def redo_edit(request: HttpRequest, clip_id: int, body: Revision) -> HttpResponse:
    """Do an edit again that was undone."""
    return answer(OpenClip.of(services.redo(user_of(request), clip_id, body.revision)))


@router.post("/{int:clip_id}/join", response={200: OpenClip, **refusals(404, 409)})
def join_clip(request: HttpRequest, clip_id: int, body: Join) -> HttpResponse:
    """Put another clip after this one."""
    return answer(OpenClip.of(services.join(user_of(request), clip_id, body.revision, body.other)))


@router.post("/{int:clip_id}/copy", response={201: ClipLine, **refusals(404)})
def copy_clip(request: HttpRequest, clip_id: int) -> HttpResponse:
    """Store a copy beside it."""
    return answer(ClipLine.of(services.copy(user_of(request), clip_id)), 201)


@router.delete("/{int:clip_id}", response={204: None, **refusals(404)})
def delete_clip(request: HttpRequest, clip_id: int) -> Status[None]:
    """Take a clip off the list."""
    services.delete(user_of(request), clip_id)
    return Status(204, None)


@router.post("/{int:clip_id}/restore", response={200: ClipLine, **refusals(404)})
def restore_clip(request: HttpRequest, clip_id: int) -> HttpResponse:
    """Bring a deleted clip back."""
    return answer(ClipLine.of(services.restore(user_of(request), clip_id)))


@router.post("/{int:clip_id}/reopen", response={201: Made, **refusals(404)})
def reopen_pattern(request: HttpRequest, clip_id: int) -> Status[Made]:
    """Open the pattern that a clip came from again, as it stood, as a piece of its own."""
    return Status(201, Made(piece=services.reopened(user_of(request), clip_id).pk))


@router.post("/{int:clip_id}/in-place", response={200: dict[str, LaneClip], **refusals(404)})
def clip_in_place(request: HttpRequest, clip_id: int, body: InPlace) -> dict[str, LaneClip]:
    """What is to play in place of the lanes that a clip came from, by their ids."""
    return in_place(services.document_of(services.get(user_of(request), clip_id)), body.lanes)


@router.get("/{int:clip_id}/lanes", response={200: LanesOffered, **refusals(404)})
def clip_lanes(request: HttpRequest, clip_id: int) -> LanesOffered:
    """The lanes that a clip's notes could become, and how well they fit."""
    clip = services.document_of(services.get(user_of(request), clip_id))
    return LanesOffered(offers=lane_offers(clip), left_out=left_out(clip))


@router.get("/{int:clip_id}/guess", response={200: ClipGuess | None, **refusals(404)})
def clip_guess(request: HttpRequest, clip_id: int) -> ClipGuess | None:
    """The scale and chords that a clip is likely in, and how sure that is; none for drums alone."""
    return guess_clip(services.document_of(services.get(user_of(request), clip_id)))


@router.post("/{int:clip_id}/lanes", response={201: Made, **refusals(404)})
def piece_of_lanes(request: HttpRequest, clip_id: int, body: AsLanes) -> Status[Made]:
    """Make a new piece of a clip's notes as lanes."""
    return Status(201, Made(piece=services.lanes_as_piece(user_of(request), clip_id, body.shorter).pk))


@router.post("/{int:clip_id}/pattern", response={200: Pattern, **refusals(404)})
def pattern_of_lanes(request: HttpRequest, clip_id: int, body: AsPattern) -> Pattern:
    """A clip's notes as a pattern of lanes, for a piece that is open."""
    return services.pattern_from(
        user_of(request), clip_id, body.shorter, body.pattern_id, body.kit, body.swing
    )


@router.get("/{int:clip_id}.mid", response={200: bytes, **refusals(404)})
def download_clip(request: HttpRequest, clip_id: int, asked: Query[Exporting]) -> HttpResponse:
    """A clip as a Standard MIDI File."""
    clip = services.document_of(services.get(user_of(request), clip_id))
    return attached(midi_file(clip, asked.export()), f"{clip.name}.mid", MIDI)


@router.get("/{int:clip_id}.txt", response={200: bytes, **refusals(404)})
def clip_as_text(request: HttpRequest, clip_id: int) -> HttpResponse:
    """A clip's notes as text."""
    clip = services.document_of(services.get(user_of(request), clip_id))
    return attached(notes_text(clip).encode(), f"{clip.name}.txt", "text/plain; charset=utf-8")
