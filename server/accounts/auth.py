"""Who may call an endpoint. Both check for forged requests."""

from typing import Any

from django.conf import settings
from django.http import HttpRequest
from ninja.security import APIKeyCookie, SessionAuth

from accounts.models import User

__all__ = ["from_our_page", "signed_in", "user_of"]

signed_in = SessionAuth()


class FromOurPage(APIKeyCookie):
    """Lets in whatever our own page sends, signed in or not, without a look at the database."""

    param_name = settings.CSRF_COOKIE_NAME

    def authenticate(self, request: HttpRequest, key: str | None) -> Any:
        return True


from_our_page = FromOurPage()


def user_of(request: HttpRequest) -> User:
    """Return who is signed in, in an endpoint that lets nobody else in."""
    user = request.user
    if not isinstance(user, User):
        raise TypeError(f"an endpoint without sign-in asked who is signed in: {request.path}")
    return user
