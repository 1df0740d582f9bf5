"""The shelf, and the piece that is open."""

import json
from typing import Annotated, Any

from accounts.auth import user_of
from config.answers import answer
from config.bodies import Naming
from config.downloads import attached
from config.refusal import refusals
from django.http import Http404, HttpRequest, HttpResponse
from ninja import Router, Status
from pydantic import Field

from lattice import document
from lattice.document import DocumentError, read
from lattice.formats.piece_json import piece_json, piece_schema, read_piece
from pieces import models, services
from pieces.schemas import (
    MomentLine,
    NewPiece,
    OpenMoment,
    OpenPiece,
    PlaceCover,
    PlaceName,
    Save,
    Saved,
    ScoreOfPattern,
    ShelfPage,
    ShelfPiece,
    cover_of,
)

router = Router()
PIECES_ON_A_PAGE = 48

# Read by the engine itself, so that what is wrong is said with its line.
_JSON_BODY = {
    "requestBody": {"required": True, "content": {"application/json": {"schema": {"type": "object"}}}}
}


def _open(stored: models.Piece) -> OpenPiece:
    return OpenPiece(
        id=stored.pk,
        revision=stored.revision,
        attempt=stored.attempt,
        stands_at=stored.stands_at,
        changed_at=stored.changed_at,
        document=read(document.Piece, stored.document),
    )


@router.get("", response={200: ShelfPage, **refusals()})
def list_pieces(request: HttpRequest, first: Annotated[int, Field(ge=0, le=1_000_000)] = 0) -> HttpResponse:
    """The musician's pieces, the one changed last first, from the *first* on (counted from 0), a page of them."""
    found = services.shelf(user_of(request))
    pieces = [ShelfPiece.of(stored) for stored in found[first : first + PIECES_ON_A_PAGE]]
    return answer(ShelfPage.model_construct(pieces=pieces, total=found.count()))


@router.post("", response={201: OpenPiece, **refusals()})
def create_piece(request: HttpRequest, body: NewPiece) -> Status[OpenPiece]:
    """Begin a piece, or store a copy of one."""
    return Status(201, _open(services.create(user_of(request), body.piece())))


@router.post("/import", response={201: OpenPiece, **refusals()}, openapi_extra=_JSON_BODY)
def import_piece(request: HttpRequest) -> Status[OpenPiece]:
    """Store a piece that was exported as JSON."""
    return Status(201, _open(services.create(user_of(request), read_piece(request.body), "Imported")))


@router.get("/{int:piece_id}.json", response={200: document.Piece, **refusals(404)})
def export_piece(request: HttpRequest, piece_id: int) -> HttpResponse:
    """A piece as a JSON file; one that cannot be read any more as it is stored."""
    stored = services.get(user_of(request), piece_id)
    try:
        content = piece_json(read(document.Piece, stored.document))
    except DocumentError:
        content = json.dumps(stored.document, ensure_ascii=False, indent=1).encode()
    return attached(content, f"{stored.name or 'piece'}.json", "application/json")


@router.get("/schema.json", response={200: dict[str, Any], **refusals()}, auth=None)
def schema(request: HttpRequest) -> dict[str, Any]:
    """The JSON Schema of a piece."""
    return piece_schema()


@router.get("/{int:piece_id}/patterns/{pattern_id}/score", response={200: ScoreOfPattern, **refusals(404)})
def score_of_pattern(request: HttpRequest, piece_id: int, pattern_id: str) -> HttpResponse:
    """A pattern with all that decides its sound: what rendering, takes and files are asked about."""
    piece = read(document.Piece, services.get(user_of(request), piece_id).document)
    try:
        pattern = piece.pattern(pattern_id)
    except KeyError:
        raise Http404 from None
    return answer(ScoreOfPattern(score=document.score_of(piece, pattern), dice=pattern.dice))


@router.get("/{int:piece_id}/moments", response={200: list[MomentLine], **refusals(404)})
def list_moments(request: HttpRequest, piece_id: int) -> list[MomentLine]:
    """The history of a piece, the first moment first."""
    moments = services.history(user_of(request), piece_id)
    return [_line(one) for one in moments]


def _line(moment: models.Moment) -> MomentLine:
    return MomentLine(
        number=moment.number, label=moment.label, at=moment.at, name=moment.name, heard=moment.heard
    )


@router.patch("/{int:piece_id}/moments/{int:number}", response={200: MomentLine, **refusals(404)})
def name_moment(request: HttpRequest, piece_id: int, number: int, body: PlaceName) -> MomentLine:
    """Give a place of a piece's trail a name."""
    return _line(services.name_moment(user_of(request), piece_id, number, body.name))


@router.get("/{int:piece_id}/moments/{int:number}/cover", response={200: PlaceCover, **refusals(404)})
def cover_moment(request: HttpRequest, piece_id: int, number: int) -> HttpResponse:
    """A place of a piece's trail in small."""
    piece, pattern = services.changed_pattern(user_of(request), piece_id, number)
    return answer(PlaceCover(pattern=pattern.name, threads=cover_of(piece, pattern)))


@router.get("/{int:piece_id}/moments/{int:number}", response={200: OpenMoment, **refusals(404)})
def open_moment(request: HttpRequest, piece_id: int, number: int) -> OpenMoment:
    """A moment of a piece's history, to go back to."""
    moment = services.moment(user_of(request), piece_id, number)
    kept = services.document_of(moment.piece_id, number)
    return OpenMoment(number=number, document=read(document.Piece, kept))


@router.get("/{int:piece_id}", response={200: OpenPiece, **refusals(404)})
def open_piece(request: HttpRequest, piece_id: int) -> OpenPiece:
    """A piece to work on."""
    return _open(services.get(user_of(request), piece_id))


@router.put("/{int:piece_id}", response={200: Saved, **refusals(404, 409)})
def save_piece(request: HttpRequest, piece_id: int, body: Save) -> Saved:
    """Save what was changed of the revision that it was based on; 409 if there is a newer one."""
    stored = services.save_changes(user_of(request), piece_id, body)
    return Saved(
        id=stored.pk, revision=stored.revision, stands_at=stored.stands_at, changed_at=stored.changed_at
    )


@router.patch("/{int:piece_id}", response={200: ShelfPiece, **refusals(404, 409)})
def rename_piece(request: HttpRequest, piece_id: int, body: Naming) -> ShelfPiece:
    """Rename a piece."""
    return ShelfPiece.of(services.rename(user_of(request), piece_id, body.name))


@router.delete("/{int:piece_id}", response={204: None, **refusals(404)})
def delete_piece(request: HttpRequest, piece_id: int) -> Status[None]:
    """Take a piece off the shelf."""
    services.delete(user_of(request), piece_id)
    return Status(204, None)


@router.post("/{int:piece_id}/restore", response={200: ShelfPiece, **refusals(404)})
def restore_piece(request: HttpRequest, piece_id: int) -> ShelfPiece:
    """Bring a deleted piece back."""
    return ShelfPiece.of(services.restore(user_of(request), piece_id))
