"""Signing in and out."""

from typing import Annotated

from config.refusal import refusals
from demo.services import demo_musician
from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import Http404, HttpRequest
from django.utils import timezone
from ninja import Router
from ninja.errors import HttpError
from pydantic import BaseModel, StringConstraints

from accounts.attempts import count_attempt, forget_attempts
from accounts.auth import from_our_page
from accounts.models import User
from accounts.services import SIGN_IN, Password, may_sign_in, take_back

router = Router(auth=from_our_page)


class Session(BaseModel):
    """Who is signed in, if anybody; *demo*: whether one may try it as the demo musician.

    *taken_back*: signing in has just taken back that the account was deleted.
    """

    user: str | None
    demo: bool
    taken_back: bool = False


class Credentials(BaseModel):
    """Name and password."""

    name: Annotated[str, StringConstraints(max_length=150)]
    password: Password


@router.get("", response={200: Session, **refusals()})
def read_session(request: HttpRequest) -> Session:
    """Say who is signed in. A sign-in lasts on from the last day on which it was asked."""
    user = request.user
    today = str(timezone.now().date())
    if user.is_authenticated and request.session.get("day") != today:
        request.session["day"] = today
    return Session(user=user.get_username() if user.is_authenticated else None, demo=settings.DEMO)


@router.post("", response={200: Session, **refusals()})
def sign_in(request: HttpRequest, credentials: Credentials) -> Session:
    """Sign in with name and password. An account that was deleted within a day is taken back by it."""
    count_attempt(request, SIGN_IN, credentials.name)
    user = authenticate(request, username=credentials.name, password=credentials.password)
    if not isinstance(user, User) or not may_sign_in(user):
        raise HttpError(401, "This name and password do not belong together.")
    forget_attempts(SIGN_IN, credentials.name)
    taken_back = take_back(user)
    login(request, user)
    return read_session(request).model_copy(update={"taken_back": taken_back})


@router.post("/demo", response={200: Session, **refusals(404)})
def sign_in_as_demo(request: HttpRequest) -> Session:
    """Sign in as the demo musician, where there is one."""
    if not settings.DEMO:
        raise Http404
    login(request, demo_musician(), backend="django.contrib.auth.backends.ModelBackend")
    return read_session(request)


@router.delete("", response={200: Session, **refusals()})
def sign_out(request: HttpRequest) -> Session:
    """Sign out."""
    logout(request)
    return read_session(request)
