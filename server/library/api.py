"""Kits and starters: those that ship, and the musician's own."""

from collections.abc import Iterable, Iterator
from contextlib import suppress
from typing import Annotated, TypeVar

from accounts.auth import user_of
from config.answers import answer
from config.bodies import Body
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import Router, Status
from pydantic import BaseModel, Field

from lattice.document import DocumentError, Kit, Pattern, Piece, Scale, read
from lattice.document.base import Id
from lattice.document.kit import KITS, Voice
from lattice.edits import kits as edits
from lattice.starters import SHIPPED, Kind, Starter, begun, begun_piece, starting_fields
from library import models, services

Kept = TypeVar("Kept", Kit, Starter)

kits = Router()
starters = Router()


class ListedKit(BaseModel):
    """*id*: of one's own; none of those that ship."""

    id: int | None
    kit: Kit


class ListedStarter(BaseModel):
    """*fields*: what a lane takes over from it; none of others. *id*: of one's own; none of those that ship."""

    id: int | None
    kind: Kind
    starter: Starter
    fields: dict[str, object] | None


class KeptKit(Body):
    """A kit to keep."""

    kit: Kit


class ExchangedKit(Body):
    """A piece that is to be played with another kit."""

    piece: Piece
    kit: Kit


class AddedVoices(Body):
    """Voices for the kit of a piece; notes and ids that are taken become others."""

    piece: Piece
    voices: Annotated[list[Voice], Field(min_length=1, max_length=128)]


class VoicesWithLanes(AddedVoices):
    """A kit of voices, and a lane for each in one pattern of a piece."""

    pattern: Id


class KeptStarter(Body):
    """A starter to keep."""

    starter: Starter


class Beginning(Body):
    """What is to begin from a *starter*: a *pattern* with a *kit*, or which *lane* of it; none: a new one."""

    starter: Starter
    pattern: Pattern
    kit: Kit
    lane: Id | None = None
    scale: Annotated[Scale | None, Field(description="of chords that it brings; none: it brings none")] = None


class PieceBeginning(Body):
    """What is to begin from a *starter* that is a whole piece: a *piece*."""

    starter: Starter
    piece: Piece


def _listed(starter: Starter, number: int | None = None) -> ListedStarter:
    fields = starting_fields(starter.lane) if starter.lane else None
    return ListedStarter(id=number, kind=starter.kind, starter=starter, fields=fields)


def _readable(kind: type[Kept], own: Iterable[models.Kit | models.Starter]) -> Iterator[tuple[int, Kept]]:
    """Yield the numbers and documents of *own*: one that cannot be read any more hides no other."""
    for stored in own:
        with suppress(DocumentError):
            yield stored.pk, read(kind, stored.document)


@kits.get("", response={200: list[ListedKit], **refusals()})
def list_kits(request: HttpRequest) -> list[ListedKit]:
    """Kits that ship, then the musician's own by name."""
    own = services.list_of(user_of(request), models.Kit)
    return [ListedKit(id=None, kit=kit) for kit in KITS] + [
        ListedKit(id=number, kit=kit) for number, kit in _readable(Kit, own)
    ]


@kits.post("", response={201: ListedKit, **refusals()})
def keep_kit(request: HttpRequest, body: KeptKit) -> Status[ListedKit]:
    """Keep a kit; one's own of the same name is replaced."""
    stored = services.keep_kit(user_of(request), body.kit)
    return Status(201, ListedKit(id=stored.pk, kit=body.kit))


@kits.post("/exchange", response={200: Piece, **refusals()})
def exchange_kit(request: HttpRequest, body: ExchangedKit) -> HttpResponse:
    """A piece with another kit; voices that its lanes play and that one has not stay."""
    return answer(edits.exchanged(body.piece, body.kit))


@kits.post("/add", response={200: Piece, **refusals()})
def add_voices(request: HttpRequest, body: AddedVoices) -> HttpResponse:
    """A piece with more voices in its kit, on the next free notes."""
    return answer(edits.with_voices(body.piece, body.voices))


@kits.post("/make", response={200: Piece, **refusals()})
def make_kit(request: HttpRequest, body: VoicesWithLanes) -> HttpResponse:
    """A piece with a kit of these voices, and one more lane for each."""
    return answer(edits.kit_of(body.piece, body.pattern, body.voices))


@kits.delete("/{int:number}", response={204: None, **refusals(404)})
def delete_kit(request: HttpRequest, number: int) -> Status[None]:
    """Delete one of one's own kits; pieces that play it keep it."""
    services.delete(user_of(request), models.Kit, number)
    return Status(204, None)


@starters.get("", response={200: list[ListedStarter], **refusals()})
def list_starters(request: HttpRequest) -> list[ListedStarter]:
    """The musician's own starters by name, then those that ship."""
    own = services.list_of(user_of(request), models.Starter)
    return [_listed(starter, number) for number, starter in _readable(Starter, own)] + [
        _listed(starter) for starter in SHIPPED
    ]


@starters.post("", response={201: ListedStarter, **refusals()})
def keep_starter(request: HttpRequest, body: KeptStarter) -> Status[ListedStarter]:
    """Keep a lane or a pattern to begin from."""
    stored = services.keep_starter(user_of(request), body.starter)
    return Status(201, _listed(body.starter, stored.pk))


@starters.post("/begin", response={200: Pattern, **refusals()})
def begin(request: HttpRequest, body: Beginning) -> HttpResponse:
    """A pattern after it, or one of its lanes, has begun from a starter."""
    return answer(begun(body.pattern, body.starter, body.kit, body.lane, body.scale))


@starters.post("/begin-piece", response={200: Piece, **refusals()})
def begin_piece(request: HttpRequest, body: PieceBeginning) -> HttpResponse:
    """A piece after it has begun from a starter that is a whole piece."""
    return answer(begun_piece(body.piece, body.starter))


@starters.delete("/{int:number}", response={204: None, **refusals(404)})
def delete_starter(request: HttpRequest, number: int) -> Status[None]:
    """Delete one of one's own starters."""
    services.delete(user_of(request), models.Starter, number)
    return Status(204, None)
