"""Who may call an endpoint: a musician at our page, or a script with a token. Cookies are checked for forgery."""

from typing import Any

from django.conf import settings
from django.http import HttpRequest
from ninja.errors import HttpError
from ninja.security import APIKeyCookie, HttpBearer, SessionAuth

from accounts import tokens
from accounts.models import Token, User

__all__ = ["from_our_page", "in_person", "signed_in", "to_compute", "user_of"]

_SAFE = ("GET", "HEAD", "OPTIONS")


class ByToken(HttpBearer):
    """Lets in who sends a token. *is_change*: whether other methods than reading change something."""

    def __init__(self, *, is_change: bool = True) -> None:
        super().__init__()
        self._is_change = is_change

    def authenticate(self, request: HttpRequest, token: str) -> Any:
        """Return whose token it is. Raises HttpError if it is not known, or may not do this."""
        known = tokens.find(token)
        if known is None:
            raise HttpError(401, "This token is not known here: it was revoked, or never made.")
        if self._is_change and request.method not in _SAFE and known.scope != Token.Scope.WRITE:
            raise HttpError(403, f"The token “{known.name}” may only read: make one that may write.")
        request.user = known.owner
        return known.owner


class FromOurPage(APIKeyCookie):
    """Lets in whatever our own page sends, signed in or not, without a look at the database."""

    param_name = settings.CSRF_COOKIE_NAME

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        return True


in_person = SessionAuth()
from_our_page = FromOurPage()
# A token first: a script has no cookies, and their lack is refused at once.
signed_in = [ByToken(), in_person]
to_compute = [ByToken(is_change=False), from_our_page]


def user_of(request: HttpRequest) -> User:
    """Return who is signed in, in an endpoint that lets nobody else in."""
    user = request.user
    if not isinstance(user, User):
        raise TypeError(f"an endpoint without sign-in asked who is signed in: {request.path}")
    return user
