"""The musician's account, and invitations. No token reaches them: only who has signed in with a password."""

from datetime import datetime
from typing import Annotated

from config.bodies import Body
from config.refusal import refusals
from django.conf import settings
from django.contrib.auth import logout
from django.core.exceptions import PermissionDenied, ValidationError
from django.core.validators import validate_email
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Status
from pydantic import BaseModel, Field, StringConstraints

from accounts import services
from accounts.auth import in_person, user_of
from accounts.invitations import DAYS, invite
from accounts.models import Invitation, User
from accounts.services import Password
from accounts.stored import bytes_of
from lattice.document import DocumentError

router = Router(auth=in_person)
invitations = Router(auth=in_person)


class Account(BaseModel):
    """The musician's account. *email*: where a link to a new password goes. *megabytes*: how much is stored.

    *has_password*: not so for the demo musician, whose account nobody changes. *invites*: may invite others.
    """

    name: str
    email: str
    has_password: bool
    invites: bool
    megabytes: float
    megabytes_at_most: int


class WithPassword(Body):
    """Who asks says their password once more."""

    password: Password


class NewEmail(WithPassword):
    """Where a link to a new password goes; empty: nowhere."""

    email: Annotated[str, StringConstraints(max_length=254, strip_whitespace=True)]


class NewInvitation(Body):
    """An invitation to make: a *note* whom it is for, and for how many *days* its link holds."""

    note: Annotated[str, StringConstraints(max_length=80, strip_whitespace=True)] = ""
    days: Annotated[int, Field(ge=1, le=90)] = DAYS


class InvitationLine(BaseModel):
    """An invitation in the list. *used_by*: who came with it, if anybody."""

    id: int
    note: str
    made_at: datetime
    expires_at: datetime
    has_expired: bool
    used_by: str | None

    @classmethod
    def of(cls, made: Invitation) -> "InvitationLine":
        """Return the line of a stored invitation."""
        return cls(
            id=made.pk,
            note=made.note,
            made_at=made.made_at,
            expires_at=made.expires_at,
            has_expired=made.has_expired,
            used_by=made.used_by.get_username() if made.used_by else None,
        )


class MadeInvitation(BaseModel):
    """A new invitation, and its link: shown this once."""

    invitation: InvitationLine
    link: str


@router.get("", response={200: Account, **refusals()})
def read_account(request: HttpRequest) -> Account:
    """The musician's account."""
    user = user_of(request)
    return Account(
        name=user.get_username(),
        email=user.email,
        has_password=user.has_usable_password(),
        invites=user.is_staff,
        megabytes=round(bytes_of(user) / 2**20, 2),
        megabytes_at_most=settings.MEGABYTES_EACH,
    )


@router.put("/email", response={200: Account, **refusals()})
def change_email(request: HttpRequest, body: NewEmail) -> Account:
    """Say where a link to a new password goes."""
    user = user_of(request)
    services.make_sure(request, user, body.password)
    try:
        if body.email:
            validate_email(body.email)
    except ValidationError:
        raise DocumentError.of("email", f"“{body.email}” is no address that mail reaches") from None
    user.email = body.email
    user.save(update_fields=["email"])
    return read_account(request)


@router.post("/end-others", response={204: None, **refusals()})
def end_others(request: HttpRequest) -> Status[None]:
    """Sign out everywhere else, and revoke all tokens."""
    services.end_others(request, user_of(request))
    return Status(204, None)


@router.post("/delete", response={204: None, **refusals()})
def delete_account(request: HttpRequest, body: WithPassword) -> Status[None]:
    """Delete the account with all that is theirs. Signing in within a day takes that back."""
    user = user_of(request)
    services.make_sure(request, user, body.password)
    services.delete_account(user)
    logout(request)
    return Status(204, None)


def _inviting(request: HttpRequest) -> User:
    user = user_of(request)
    if not user.is_staff:
        raise PermissionDenied
    return user


@invitations.get("", response={200: list[InvitationLine], **refusals()})
def list_invitations(request: HttpRequest) -> list[InvitationLine]:
    """The musician's invitations, the newest first; for those who may invite."""
    return [InvitationLine.of(one) for one in _inviting(request).invitations.select_related("used_by")]


@invitations.post("", response={201: MadeInvitation, **refusals()})
def make_invitation(request: HttpRequest, body: NewInvitation) -> Status[MadeInvitation]:
    """Invite somebody. The link is shown in this answer and never again."""
    made, secret = invite(_inviting(request), body.note, body.days)
    link = request.build_absolute_uri(f"/account/welcome/{secret}")
    return Status(201, MadeInvitation(invitation=InvitationLine.of(made), link=link))


@invitations.delete("/{int:number}", response={204: None, **refusals(404)})
def take_back_invitation(request: HttpRequest, number: int) -> Status[None]:
    """Take an invitation back: its link is good for nothing. Who came with it stays."""
    get_object_or_404(_inviting(request).invitations, pk=number).delete()
    return Status(204, None)
