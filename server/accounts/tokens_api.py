"""The musician's tokens. No token reaches them: only who has signed in with a password."""

from datetime import datetime
from typing import Literal

from config.bodies import Body
from config.refusal import refusals
from django.http import HttpRequest
from ninja import Router, Status
from pydantic import BaseModel

from accounts import tokens
from accounts.auth import in_person, user_of
from accounts.models import Token
from lattice.document.base import Name

router = Router(auth=in_person)

Scope = Literal["read", "write"]


class NewToken(Body):
    """A token to make: what for, and whether it may change anything."""

    name: Name
    scope: Scope = "read"


class TokenLine(BaseModel):
    """A token in the list. *used_at*: when it was used last, to the minute; none: never."""

    id: int
    name: str
    scope: Scope
    made_at: datetime
    used_at: datetime | None

    @classmethod
    def of(cls, token: Token) -> "TokenLine":
        """Return the line of a stored token."""
        return cls.model_validate(token, from_attributes=True)


class MadeToken(BaseModel):
    """A new token, and what it is: shown this once."""

    token: TokenLine
    secret: str


@router.get("", response={200: list[TokenLine], **refusals()})
def list_tokens(request: HttpRequest) -> list[TokenLine]:
    """The musician's tokens, the newest first."""
    return [TokenLine.of(token) for token in user_of(request).tokens.all()]


@router.post("", response={201: MadeToken, **refusals()})
def make_token(request: HttpRequest, body: NewToken) -> Status[MadeToken]:
    """Make a token. It is shown in this answer and never again."""
    token, secret = tokens.make(user_of(request), body.name, body.scope)
    return Status(201, MadeToken(token=TokenLine.of(token), secret=secret))


@router.delete("/{int:number}", response={204: None, **refusals(404)})
def revoke_token(request: HttpRequest, number: int) -> Status[None]:
    """Revoke a token: from now on it is good for nothing."""
    tokens.revoke(user_of(request), number)
    return Status(204, None)
