"""Tokens: made, found by what a script sends, revoked."""

import secrets
from datetime import timedelta
from hashlib import sha256

from django.db import IntegrityError, transaction
from django.shortcuts import get_object_or_404
from django.utils import timezone

from accounts.models import Token, User
from lattice.document import DocumentError

__all__ = ["MAX_TOKENS", "digest_of", "find", "make", "revoke"]

MAX_TOKENS = 20
# Says what it is where it is found in a file or a log.
PREFIX = "jolly_"
_USED_EACH = timedelta(minutes=1)


def digest_of(secret: str) -> str:
    """Return what is stored of a token, or of an invitation: SHA-256 of it, in hexadecimal."""
    # No salt and no slow hash: it is no password, but 256 random bits that nobody can guess.
    return sha256(secret.encode()).hexdigest()


def make(owner: User, name: str, scope: str) -> tuple[Token, str]:
    """Return a new token of *owner* and what it is, which nobody can read again. Raises DocumentError if refused."""
    if owner.tokens.count() >= MAX_TOKENS:
        raise DocumentError.of("name", f"there are {MAX_TOKENS} tokens already: revoke one first")
    secret = PREFIX + secrets.token_urlsafe(32)
    try:
        with transaction.atomic():
            return owner.tokens.create(name=name, digest=digest_of(secret), scope=scope), secret
    except IntegrityError:
        raise DocumentError.of("name", f"there is a token called “{name}” already: revoke it first") from None


def find(secret: str) -> Token | None:
    """Return the token that *secret* is, of somebody who may sign in; None if there is none any more."""
    token = (
        Token.objects.select_related("owner")
        .filter(digest=digest_of(secret), owner__is_active=True, owner__deleted_at=None)
        .first()
    )
    now = timezone.now()
    if token and (token.used_at is None or now - token.used_at >= _USED_EACH):
        Token.objects.filter(pk=token.pk).update(used_at=now)
    return token


def revoke(owner: User, number: int) -> None:
    """Make a token of *owner* good for nothing. Raises Http404 if there is none."""
    get_object_or_404(owner.tokens, pk=number).delete()
