"""Kits and starters: those that ship, and the musician's own."""

from collections.abc import Iterable, Iterator
from contextlib import suppress
from typing import TypeVar

from accounts.auth import user_of
from config.answers import answer
from config.bodies import Body
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import Router, Status
from pydantic import BaseModel

from lattice.document import DocumentError, Kit, Pattern, read
from lattice.document.base import Id
from lattice.document.kit import KITS
from lattice.starters import GROUND_BEATS, LANES, PATTERNS, Starter, begun, starting_fields
from library import models, services

Kept = TypeVar("Kept", Kit, Starter)

kits = Router()
starters = Router()


class ListedKit(BaseModel):
    """*id*: of one's own; none of those that ship."""

    id: int | None
    kit: Kit


class ListedStarter(BaseModel):
    """*fields*: what a lane takes over from it; none of a pattern. *id*: of one's own; none of those that ship."""

    id: int | None
    starter: Starter
    fields: dict[str, object] | None


class KeptKit(Body):
    """A kit to keep."""

    kit: Kit


class KeptStarter(Body):
    """A starter to keep."""

    starter: Starter


class Beginning(Body):
    """What is to begin from a *starter*: a *pattern* of a piece with a *kit*, or which *lane* of it."""

    starter: Starter
    pattern: Pattern
    kit: Kit
    lane: Id | None = None


def _listed(starter: Starter, number: int | None = None) -> ListedStarter:
    fields = starting_fields(starter.lane) if starter.lane else None
    return ListedStarter(id=number, starter=starter, fields=fields)


def _readable(kind: type[Kept], own: Iterable[models.Kit | models.Starter]) -> Iterator[tuple[int, Kept]]:
    """Yield the numbers and documents of *own*: one that cannot be read any more hides no other."""
    for stored in own:
        with suppress(DocumentError):
            yield stored.pk, read(kind, stored.document)


@kits.get("", response={200: list[ListedKit], **refusals(401)})
def list_kits(request: HttpRequest) -> list[ListedKit]:
    """Kits that ship, then the musician's own by name."""
    own = services.list_of(user_of(request), models.Kit)
    return [ListedKit(id=None, kit=kit) for kit in KITS] + [
        ListedKit(id=number, kit=kit) for number, kit in _readable(Kit, own)
    ]


@kits.post("", response={201: ListedKit, **refusals(401, 422)})
def keep_kit(request: HttpRequest, body: KeptKit) -> Status[ListedKit]:
    """Keep a kit; one's own of the same name is replaced."""
    stored = services.keep_kit(user_of(request), body.kit)
    return Status(201, ListedKit(id=stored.pk, kit=body.kit))


@kits.delete("/{int:number}", response={204: None, **refusals(401, 404)})
def delete_kit(request: HttpRequest, number: int) -> Status[None]:
    """Delete one of one's own kits; pieces that play it keep it."""
    services.delete(user_of(request), models.Kit, number)
    return Status(204, None)


@starters.get("", response={200: list[ListedStarter], **refusals(401)})
def list_starters(request: HttpRequest) -> list[ListedStarter]:
    """The musician's own starters by name, then those that ship."""
    own = services.list_of(user_of(request), models.Starter)
    return [_listed(starter, number) for number, starter in _readable(Starter, own)] + [
        _listed(starter) for starter in (*LANES, *PATTERNS, *GROUND_BEATS)
    ]


@starters.post("", response={201: ListedStarter, **refusals(401, 422)})
def keep_starter(request: HttpRequest, body: KeptStarter) -> Status[ListedStarter]:
    """Keep a lane or a pattern to begin from."""
    stored = services.keep_starter(user_of(request), body.starter)
    return Status(201, _listed(body.starter, stored.pk))


@starters.post("/begin", response={200: Pattern, **refusals(401, 422)})
def begin(request: HttpRequest, body: Beginning) -> HttpResponse:
    """A pattern after it, or one of its lanes, has begun from a starter."""
    return answer(begun(body.pattern, body.starter, body.kit, body.lane))


@starters.delete("/{int:number}", response={204: None, **refusals(401, 404)})
def delete_starter(request: HttpRequest, number: int) -> Status[None]:
    """Delete one of one's own starters."""
    services.delete(user_of(request), models.Starter, number)
    return Status(204, None)
