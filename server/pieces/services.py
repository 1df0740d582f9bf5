"""Every change to stored pieces: one function each, in one transaction."""

from collections.abc import Sequence
from typing import Any, NamedTuple

from accounts.models import User
from accounts.owned import deleted_by, owned_by, to_change
from accounts.stored import check_bytes, check_room
from django.db import transaction
from django.db.models import Max, QuerySet
from django.shortcuts import get_object_or_404

from lattice import document
from lattice.document import read
from pieces.changes import changed
from pieces.differences import WHOLE_EACH, document_then, kept_as
from pieces.models import Moment, Piece
from pieces.schemas import Save

__all__ = [
    "MAX_MOMENTS",
    "MAX_PIECES",
    "NamedMoment",
    "changed_pattern",
    "create",
    "delete",
    "document_of",
    "get",
    "history",
    "moment",
    "name_moment",
    "rename",
    "restore",
    "save_changes",
    "shelf",
]


MAX_PIECES = 1_000  # of one musician
MAX_MOMENTS = 50_000  # of one piece


class NamedMoment(NamedTuple):
    """A change, called as the musician sees it, and the document after it. *number*: from 1; *heard*: and no more."""

    number: int
    label: str
    document: document.Piece
    heard: bool = False


def shelf(owner: User) -> QuerySet[Piece]:
    """Return the pieces of *owner*, the one changed last first."""
    return owned_by(owner, Piece)


def get(owner: User, piece_id: int) -> Piece:
    """Return a piece of *owner*. Raises Http404 if there is none."""
    return get_object_or_404(owned_by(owner, Piece), pk=piece_id)


def history(owner: User, piece_id: int) -> QuerySet[Moment]:
    """Return the moments of a piece of *owner*, the first first, without their documents. Raises Http404."""
    return get(owner, piece_id).moments.defer("document", "changes")


def document_of(piece_id: int, number: int) -> Any:
    """Return the document of a moment of a piece, as it is stored; None if there is no such moment."""
    return document_then(Moment.objects.filter(piece_id=piece_id), number)


def moment(owner: User, piece_id: int, number: int) -> Moment:
    """Return one moment of a piece of *owner*. Raises Http404 if there is none."""
    return get_object_or_404(get(owner, piece_id).moments, number=number)


def name_moment(owner: User, piece_id: int, number: int, name: str) -> Moment:
    """Give a place of a piece of *owner* a name; '' takes it away. Raises Http404 if there is none."""
    named = moment(owner, piece_id, number)
    named.name = name
    named.save(update_fields=["name"])
    return named


def changed_pattern(owner: User, piece_id: int, number: int) -> tuple[document.Piece, document.Pattern]:
    """Return the piece at a moment, and the first pattern that it changed; the first of all if none.

    Raises Http404 if there is no such moment, DocumentError if it cannot be read any more.
    """
    now = read(document.Piece, document_of(moment(owner, piece_id, number).piece_id, number))
    before = document_of(piece_id, number - 1)
    known = {one["id"]: one for one in before["patterns"]} if before else {}
    for pattern in now.patterns:
        if known.get(pattern.id) != pattern.model_dump(mode="json"):
            return now, pattern
    return now, now.patterns[0]


@transaction.atomic
def create(owner: User, piece: document.Piece, label: str = "New piece") -> Piece:
    """Store *piece* as new, with its first moment. Raises DocumentError if there is no room for more of *owner*'s."""
    check_room(owner, Piece, MAX_PIECES)
    stored = Piece.objects.create(owner=owner, document=piece.model_dump(mode="json"))
    _remember(stored, [NamedMoment(1, label, piece)])
    return stored


@transaction.atomic
def save_changes(owner: User, piece_id: int, save: Save) -> Piece:
    """Store what *save* changes of a piece, with its moments, as the revision after the one that it is based on.

    The moments are numbered on; the first may replace the last one stored, while the movement that made it goes on.
    Raises Http404 if *owner* has no such piece, NewerRevisionError if another revision came first, DocumentError if
    changes or numbers do not fit; nothing is stored then. The same save, sent again, is returned as it was stored.
    """
    known = (
        owned_by(owner, Piece).filter(pk=piece_id, revision=save.revision + 1, attempt=save.attempt).first()
    )
    if known:
        return known
    stored = to_change(owner, Piece, piece_id, save.revision)
    piece = read(document.Piece, stored.document)
    moments = []
    for moment in save.moments:
        piece = changed(piece, moment.changes)
        moments.append(NamedMoment(moment.number, moment.label, piece, moment.heard))
    return _store(stored, changed(piece, save.changes), moments, save.stands_at, save.attempt)


def _store(
    stored: Piece,
    piece: document.Piece,
    moments: Sequence[NamedMoment],
    stands_at: int | None = None,
    attempt: str = "",
) -> Piece:
    last = _remember(stored, moments)
    if not 1 <= (stands_at or last) <= last:
        raise document.DocumentError.of("stands_at", f"there are {last} moments, got {stands_at}")
    stored.document = piece.model_dump(mode="json")
    stored.revision += 1
    stored.stands_at = stands_at or last
    stored.attempt = attempt
    stored.save(update_fields=["document", "revision", "stands_at", "changed_at", "attempt"])
    return stored


@transaction.atomic
def rename(owner: User, piece_id: int, name: str) -> Piece:
    """Call a piece *name*, over whatever revision stands."""
    stored = to_change(owner, Piece, piece_id, get(owner, piece_id).revision)
    renamed = read(document.Piece, stored.document | {"name": name})
    moments = [NamedMoment(_last_number(stored) + 1, f"Renamed “{renamed.name}”", renamed)]
    _store(stored, renamed, moments)
    return get(owner, piece_id)  # the name is the database's to make


def delete(owner: User, piece_id: int) -> None:
    """Take a piece off the shelf; `restore` brings it back."""
    get(owner, piece_id).delete_for_now()


def restore(owner: User, piece_id: int) -> Piece:
    """Bring a deleted piece back."""
    get_object_or_404(deleted_by(owner, Piece), pk=piece_id).restore()
    return get(owner, piece_id)


def _last_number(stored: Piece) -> int:
    return stored.moments.aggregate(last=Max("number"))["last"] or 0


def _remember(stored: Piece, moments: Sequence[NamedMoment]) -> int:
    """Add *moments* to the history and return the number of the last one."""
    last = _last_number(stored)
    if not moments:
        return last
    first = moments[0].number
    if first not in (last, last + 1) or [moment.number for moment in moments] != list(
        range(first, first + len(moments))
    ):
        raise document.DocumentError.of(
            "moments", f"need numbers that go on from {last}, got {[moment.number for moment in moments]}"
        )
    if moments[-1].number > MAX_MOMENTS:
        raise document.DocumentError.of(
            "moments", f"its trail has {MAX_MOMENTS:,} places, as many as there can be: go on in a copy of it"
        )
    if any(moment.number % WHOLE_EACH == 1 for moment in moments):
        check_bytes(stored.owner)
    before = document_of(stored.pk, first - 1)
    rows = []
    for moment in moments:
        now = moment.document.model_dump(mode="json")
        kept = kept_as(moment.number, now, before)
        rows.append(
            Moment(piece=stored, number=moment.number, label=moment.label, heard=moment.heard, **kept)
        )
        before = now
    Moment.objects.bulk_create(
        rows,
        update_conflicts=True,
        unique_fields=["piece", "number"],
        update_fields=["label", "document", "changes", "heard"],
    )
    return moments[-1].number
