"""What happens to an account: sign-ins ended, deleted, taken back."""

from typing import Annotated

from django.contrib.auth import update_session_auth_hash
from django.core.exceptions import PermissionDenied
from django.db.models import F
from django.http import HttpRequest
from django.utils import timezone
from pydantic import StringConstraints

from accounts.attempts import count_attempt, forget_attempts
from accounts.models import User
from accounts.stored import A_DAY
from lattice.document import DocumentError

__all__ = [
    "SIGN_IN",
    "Password",
    "delete_account",
    "end_others",
    "make_sure",
    "may_sign_in",
    "take_back",
]

SIGN_IN = "sign-in"
# Hashing a password takes long for a long one.
Password = Annotated[str, StringConstraints(max_length=256)]


def may_sign_in(user: User) -> bool:
    """Return whether *user* is not deleted, or not for long."""
    return user.deleted_at is None or timezone.now() - user.deleted_at < A_DAY


def take_back(user: User) -> bool:
    """Take back that *user* was deleted; return whether that was so."""
    was_deleted = user.deleted_at is not None
    if was_deleted:
        user.deleted_at = None
        user.save(update_fields=["deleted_at"])
    return was_deleted


def make_sure(request: HttpRequest, user: User, password: str) -> None:
    """Make sure that it is *user* who asks. Raises DocumentError if it is not their *password*, TooOftenError."""
    if not user.has_usable_password():
        raise PermissionDenied
    count_attempt(request, SIGN_IN, user.get_username())
    if not user.check_password(password):
        raise DocumentError.of("password", "it is not your password")
    forget_attempts(SIGN_IN, user.get_username())


def end_others(request: HttpRequest, user: User) -> None:
    """End all sign-ins of *user* but this one, and revoke all tokens."""
    User.objects.filter(pk=user.pk).update(sign_outs=F("sign_outs") + 1)
    user.refresh_from_db(fields=["sign_outs"])
    user.tokens.all().delete()
    update_session_auth_hash(request, user)


def delete_account(user: User) -> None:
    """Delete *user* and all that is theirs in a day from now, unless they sign in before; end all sign-ins."""
    user.tokens.all().delete()
    user.deleted_at = timezone.now()
    user.sign_outs += 1
    user.save(update_fields=["deleted_at", "sign_outs"])
