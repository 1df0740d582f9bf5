"""Every change to stored pieces: one function each, in one transaction."""

from collections.abc import Sequence
from typing import NamedTuple

from accounts.models import User
from accounts.owned import deleted_by, owned_by
from django.db import transaction
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404

from lattice import document
from lattice.document import read
from pieces.models import Moment, Piece

__all__ = [
    "NamedMoment",
    "NewerRevisionError",
    "create",
    "delete",
    "get",
    "rename",
    "restore",
    "save",
    "shelf",
]


class NewerRevisionError(ValueError):
    """A save was based on a revision that is no longer the newest."""


class NamedMoment(NamedTuple):
    """A change, called as the musician sees it, and the document after it."""

    label: str
    document: document.Piece


def shelf(owner: User) -> QuerySet[Piece]:
    """Return the pieces of *owner*, the one changed last first."""
    return owned_by(owner, Piece)


def get(owner: User, piece_id: int) -> Piece:
    """Return a piece of *owner*. Raises Http404 if there is none."""
    return get_object_or_404(owned_by(owner, Piece), pk=piece_id)


@transaction.atomic
def create(owner: User, piece: document.Piece, label: str = "New piece") -> Piece:
    """Store *piece* as new, with its first moment."""
    stored = Piece.objects.create(owner=owner, document=piece.model_dump(mode="json"))
    _remember(stored, [NamedMoment(label, piece)])
    return stored


@transaction.atomic
def save(
    owner: User, piece_id: int, based_on: int, piece: document.Piece, moments: Sequence[NamedMoment] = ()
) -> Piece:
    """Store *piece* and the moments that led to it as the revision after *based_on*.

    Raises Http404 if *owner* has no such piece, NewerRevisionError if another revision came first;
    nothing is stored then.
    """
    stored = get_object_or_404(owned_by(owner, Piece).select_for_update(), pk=piece_id)
    if stored.revision != based_on:
        raise NewerRevisionError(
            f"“{stored.name}” was changed elsewhere: revision {stored.revision} is saved, "
            f"this change was based on revision {based_on}."
        )
    stored.document = piece.model_dump(mode="json")
    stored.revision += 1
    stored.save(update_fields=["document", "revision", "changed_at"])
    _remember(stored, moments)
    return get(owner, piece_id)  # the name is the database's to make


def rename(owner: User, piece_id: int, name: str) -> Piece:
    """Call a piece *name*, over whatever revision stands."""
    stored = get(owner, piece_id)
    renamed = read(document.Piece, stored.document | {"name": name})
    moments = [NamedMoment(f"Renamed “{renamed.name}”", renamed)]
    return save(owner, piece_id, stored.revision, renamed, moments)


def delete(owner: User, piece_id: int) -> None:
    """Take a piece off the shelf; `restore` brings it back."""
    get(owner, piece_id).delete_for_now()


def restore(owner: User, piece_id: int) -> Piece:
    """Bring a deleted piece back."""
    get_object_or_404(deleted_by(owner, Piece), pk=piece_id).restore()
    return get(owner, piece_id)


def _remember(stored: Piece, moments: Sequence[NamedMoment]) -> None:
    Moment.objects.bulk_create(
        Moment(
            piece=stored,
            revision=stored.revision,
            place=place,
            label=moment.label,
            document=moment.document.model_dump(mode="json"),
        )
        for place, moment in enumerate(moments)
    )
