"""Finding only what somebody owns."""

from typing import TypeVar

from django.db.models import QuerySet
from django.shortcuts import get_object_or_404

from accounts.models import Owned, User

__all__ = ["NewerRevisionError", "deleted_by", "owned_by", "to_change"]

Thing = TypeVar("Thing", bound=Owned)


class NewerRevisionError(ValueError):
    """A change was based on a revision that is no longer the newest."""


def owned_by(owner: User, model: type[Thing]) -> QuerySet[Thing]:
    """Return what *owner* has and has not deleted."""
    return model._default_manager.filter(owner=owner, deleted_at=None)


def deleted_by(owner: User, model: type[Thing]) -> QuerySet[Thing]:
    """Return what *owner* has deleted and may want back."""
    return model._default_manager.filter(owner=owner).exclude(deleted_at=None)


def to_change(owner: User, model: type[Thing], number: int, based_on: int) -> Thing:
    """Return something of *owner*'s, locked, for a change based on a revision: the newest one, as long as that holds.

    *model*: has a `revision`. Raises Http404 if *owner* has none of that *number*, NewerRevisionError if another
    revision came first.
    """
    stored = get_object_or_404(owned_by(owner, model).select_for_update(), pk=number)
    revision = getattr(stored, "revision", None)
    if revision != based_on:
        raise NewerRevisionError(
            f"“{stored}” was changed elsewhere: revision {revision} is saved, "
            f"this change was based on revision {based_on}."
        )
    return stored
