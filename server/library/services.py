"""Every change to a musician's library: one function each."""

from typing import TypeVar

from accounts.models import User
from accounts.owned import owned_by
from accounts.stored import check_room
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404

from lattice.document import Kit
from lattice.starters import Starter
from library import models

__all__ = ["MAX_KEPT", "delete", "keep_kit", "keep_starter", "list_of"]

MAX_KEPT = 500  # of each kind, of one musician

Kept = TypeVar("Kept", bound=models.Kept)


def list_of(owner: User, model: type[Kept]) -> QuerySet[Kept]:
    """Return what *owner* keeps of a kind, by name."""
    return owned_by(owner, model)


def keep_kit(owner: User, kit: Kit) -> models.Kit:
    """Keep a kit; one of the same name is replaced."""
    known = owned_by(owner, models.Kit).filter(name=kit.name).first()
    if known:
        known.document = kit.model_dump(mode="json")
        known.save(update_fields=["document"])
        return models.Kit.objects.get(pk=known.pk)
    check_room(owner, models.Kit, MAX_KEPT)
    return models.Kit.objects.create(owner=owner, document=kit.model_dump(mode="json"))


def keep_starter(owner: User, starter: Starter) -> models.Starter:
    """Keep a lane or a pattern to begin from."""
    check_room(owner, models.Starter, MAX_KEPT)
    return models.Starter.objects.create(owner=owner, document=starter.model_dump(mode="json"))


def delete(owner: User, model: type[models.Kept], number: int) -> None:
    """Take something out of the library. Raises Http404 if it is not there."""
    get_object_or_404(owned_by(owner, model), pk=number).delete_for_now()
