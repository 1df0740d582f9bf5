"""How much is stored of whom, how much may be, and how long what was deleted can be brought back."""

from collections.abc import Callable
from datetime import datetime, timedelta
from typing import NamedTuple

from django.apps import apps
from django.conf import settings
from django.db.models import BigIntegerField, F, Func, QuerySet, Sum, Value
from django.db.models.functions import Coalesce
from django.utils import timezone

from accounts.models import Owned, User
from lattice.document import DocumentError

__all__ = [
    "A_DAY",
    "BACK_AGAIN",
    "STORED",
    "Use",
    "bytes_of",
    "check_bytes",
    "check_room",
    "deleted_accounts",
    "deleted_long_ago",
    "owned_models",
    "use_of",
]

BACK_AGAIN = timedelta(days=30)  # how long what was deleted can be brought back at least
A_DAY = timedelta(days=1)  # and an account


class _Column(NamedTuple):
    """Where something large is stored, and by which way its row leads to its owner."""

    model: str
    owner: str
    fields: tuple[str, ...]


STORED = (
    _Column("pieces.Piece", "owner", ("document",)),
    _Column("pieces.Moment", "piece__owner", ("document", "changes")),
    _Column("clips.Clip", "owner", ("document",)),
    _Column("clips.ClipMoment", "clip__owner", ("document", "changes")),
    _Column("takes.TakeSheet", "owner", ("score",)),
    _Column("sounds.Sound", "owner", ("data",)),
    _Column("library.Kit", "owner", ("document",)),
    _Column("library.Starter", "owner", ("document",)),
    _Column("ports.Controllers", "owner", ("tables",)),
)


class Use(NamedTuple):
    """How many rows of a kind are stored of somebody, and how many bytes in them, as the database packs them."""

    rows: int
    bytes: int


def _size(field: str) -> Coalesce:
    packed = Func(F(field), function="pg_column_size", output_field=BigIntegerField())
    return Coalesce(packed, Value(0))


def use_of(owner: User) -> dict[str, Use]:
    """Return what is stored of *owner*, by the kind's name in the plural; what is deleted for now among it."""
    used = {}
    for one in STORED:
        model = apps.get_model(one.model)
        rows: QuerySet[Owned] = model._default_manager.filter(**{one.owner: owner}).order_by()
        size = sum((_size(field) for field in one.fields[1:]), _size(one.fields[0]))
        used[str(model._meta.verbose_name_plural)] = Use(
            rows.count(), rows.aggregate(sum=Sum(size))["sum"] or 0
        )
    return used


def bytes_of(owner: User) -> int:
    """Return how many bytes are stored of *owner*."""
    return sum(use.bytes for use in use_of(owner).values())


def check_bytes(owner: User) -> None:
    """Raise DocumentError if as much is stored of *owner* as may be."""
    limit = settings.MEGABYTES_EACH
    if bytes_of(owner) > limit * 2**20:
        raise DocumentError.of(
            "",
            f"as much is stored of yours as may be, {limit} MB: delete what you need no more; "
            f"what is deleted counts until it is gone for good, after {BACK_AGAIN.days} days",
        )


def check_room(owner: User, model: type[Owned], most: int, more: int = 1) -> None:
    """Make sure that *owner* can have *more* of *model*, of which there may be *most*.

    Of those deleted as many stay, the last deleted first: nobody stores without end by deleting. Raises DocumentError.
    """
    all_of = model._default_manager.filter(owner=owner).order_by()
    what = model._meta.verbose_name_plural
    if all_of.filter(deleted_at=None).count() + more > most:
        raise DocumentError.of("", f"there are {most:,} {what} of yours already: delete one first")
    check_bytes(owner)
    deleted = all_of.exclude(deleted_at=None).order_by("-deleted_at").values_list("pk", flat=True)
    all_of.filter(pk__in=list(deleted[most:])).delete()


def owned_models() -> list[type[Owned]]:
    """Return all that musicians own and can delete for now."""
    return [model for model in apps.get_models() if issubclass(model, Owned)]


def deleted_long_ago(now: Callable[[], datetime] = timezone.now) -> list[QuerySet[Owned]]:
    """Return what was deleted so long ago that it is gone for good."""
    return [model._default_manager.filter(deleted_at__lt=now() - BACK_AGAIN) for model in owned_models()]


def deleted_accounts(now: Callable[[], datetime] = timezone.now) -> QuerySet[User]:
    """Return the accounts that were deleted so long ago that they are gone for good."""
    return User.objects.filter(deleted_at__lt=now() - A_DAY)
