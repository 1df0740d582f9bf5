"""The shelf, and the piece that is open."""

from accounts.auth import user_of
from config.bodies import Naming
from config.refusal import refusals
from django.http import HttpRequest
from ninja import Router, Status

from lattice import document
from lattice.document import read
from pieces import models, services
from pieces.schemas import NewPiece, OpenPiece, Save, ShelfPiece

router = Router()


def _open(stored: models.Piece) -> OpenPiece:
    return OpenPiece(
        id=stored.pk,
        revision=stored.revision,
        changed_at=stored.changed_at,
        document=read(document.Piece, stored.document),
    )


@router.get("", response={200: list[ShelfPiece], **refusals(401)})
def list_pieces(request: HttpRequest) -> list[ShelfPiece]:
    """The musician's pieces, the one changed last first."""
    return [ShelfPiece.of(stored) for stored in services.shelf(user_of(request))]


@router.post("", response={201: OpenPiece, **refusals(401, 422)})
def create_piece(request: HttpRequest, body: NewPiece) -> Status[OpenPiece]:
    """Begin a piece, or store a copy of one."""
    return Status(201, _open(services.create(user_of(request), body.piece())))


@router.get("/{int:piece_id}", response={200: OpenPiece, **refusals(401, 404)})
def open_piece(request: HttpRequest, piece_id: int) -> OpenPiece:
    """A piece to work on."""
    return _open(services.get(user_of(request), piece_id))


@router.put("/{int:piece_id}", response={200: OpenPiece, **refusals(401, 404, 409, 422)})
def save_piece(request: HttpRequest, piece_id: int, body: Save) -> OpenPiece:
    """Save a piece over the revision it was based on; 409 if there is a newer one."""
    moments = [moment.named() for moment in body.moments]
    return _open(services.save(user_of(request), piece_id, body.revision, body.document, moments))


@router.patch("/{int:piece_id}", response={200: ShelfPiece, **refusals(401, 404, 409, 422)})
def rename_piece(request: HttpRequest, piece_id: int, body: Naming) -> ShelfPiece:
    """Rename a piece."""
    return ShelfPiece.of(services.rename(user_of(request), piece_id, body.name))


@router.delete("/{int:piece_id}", response={204: None, **refusals(401, 404)})
def delete_piece(request: HttpRequest, piece_id: int) -> Status[None]:
    """Take a piece off the shelf."""
    services.delete(user_of(request), piece_id)
    return Status(204, None)


@router.post("/{int:piece_id}/restore", response={200: ShelfPiece, **refusals(401, 404)})
def restore_piece(request: HttpRequest, piece_id: int) -> ShelfPiece:
    """Bring a deleted piece back."""
    return ShelfPiece.of(services.restore(user_of(request), piece_id))
