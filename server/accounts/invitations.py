"""Invitations: made, looked up by their link, taken once."""

import secrets
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from accounts.models import Invitation, User
from accounts.tokens import digest_of

__all__ = ["DAYS", "invite", "open_invitation", "take_invitation"]

DAYS = 7  # how long a link holds, if nothing else is said


def invite(made_by: User | None = None, note: str = "", days: int = DAYS) -> tuple[Invitation, str]:
    """Return a new invitation for *days* and what its link ends with, which nobody can read again."""
    secret = secrets.token_urlsafe(24)
    expires = timezone.now() + timedelta(days=days)
    made = Invitation.objects.create(
        digest=digest_of(secret), made_by=made_by, note=note[:80], expires_at=expires
    )
    return made, secret


def open_invitation(secret: str) -> Invitation | None:
    """Return the invitation that *secret* is; None if there is none, or it was used, or has expired."""
    return Invitation.objects.filter(
        digest=digest_of(secret), used_at=None, expires_at__gt=timezone.now()
    ).first()


@transaction.atomic
def take_invitation(secret: str, user: User) -> bool:
    """Use an invitation for *user*, stored in the same transaction; return whether it could still be used."""
    known = open_invitation(secret)
    # Of two at once the second finds none: the row is locked, and looked at again.
    locked = known and Invitation.objects.select_for_update().filter(pk=known.pk, used_at=None).first()
    if not locked:
        return False
    locked.used_by, locked.used_at = user, timezone.now()
    locked.save(update_fields=["used_by", "used_at"])
    return True
