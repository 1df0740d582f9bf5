"""Finding only what somebody owns."""

from typing import TypeVar

from django.db.models import QuerySet

from accounts.models import Owned, User

__all__ = ["deleted_by", "owned_by"]

Thing = TypeVar("Thing", bound=Owned)


def owned_by(owner: User, model: type[Thing]) -> QuerySet[Thing]:
    """Return what *owner* has and has not deleted."""
    return model._default_manager.filter(owner=owner, deleted_at=None)


def deleted_by(owner: User, model: type[Thing]) -> QuerySet[Thing]:
    """Return what *owner* has deleted and may want back."""
    return model._default_manager.filter(owner=owner).exclude(deleted_at=None)
