"""Signing in and out."""

from config.refusal import refusals
from demo.services import demo_musician
from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import Http404, HttpRequest
from ninja import Router
from ninja.errors import HttpError
from pydantic import BaseModel

from accounts.auth import from_our_page
from accounts.models import User

router = Router(auth=from_our_page)


class Session(BaseModel):
    """Who is signed in, if anybody; *demo*: whether one may go aboard as the demo musician."""

    user: str | None
    demo: bool


class Credentials(BaseModel):
    """Name and password."""

    name: str
    password: str


@router.get("", response={200: Session, **refusals()})
def read_session(request: HttpRequest) -> Session:
    """Say who is signed in."""
    user = request.user
    return Session(user=user.get_username() if user.is_authenticated else None, demo=settings.DEMO)


@router.post("", response={200: Session, **refusals(401, 422)})
def sign_in(request: HttpRequest, credentials: Credentials) -> Session:
    """Sign in with name and password."""
    user = authenticate(request, username=credentials.name, password=credentials.password)
    if not isinstance(user, User):
        raise HttpError(401, "This name and password do not belong together.")
    login(request, user)
    return read_session(request)


@router.post("/demo", response={200: Session, **refusals(404)})
def go_aboard(request: HttpRequest) -> Session:
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
