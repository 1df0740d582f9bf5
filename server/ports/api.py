"""Ports: what controllers move, and what a port was sent, as a file."""

from typing import Annotated, Self

from accounts.auth import user_of
from config.bodies import Body
from config.downloads import attached
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import Field, model_validator

from lattice.document.binding import ControllerTable
from lattice.document.problems import repeated
from lattice.formats.recorded import Recorded, recorded_file
from ports import services

router = Router()

MAX_CONTROLLERS = 64


class Bound(Body):
    """What is bound on all controllers; each is there once."""

    tables: Annotated[list[ControllerTable], Field(max_length=MAX_CONTROLLERS)]

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        if twice := repeated(table.name for table in self.tables):
            raise ValueError(f"the controller {twice!r} is there twice: number one of them")
        return self


@router.get("/controllers", response={200: list[ControllerTable], **refusals()})
def controllers(request: HttpRequest) -> list[ControllerTable]:
    """What is bound on the musician's controllers."""
    return services.tables_of(user_of(request))


@router.put("/controllers", response={200: list[ControllerTable], **refusals()})
def bind(request: HttpRequest, body: Bound) -> list[ControllerTable]:
    """Put what is bound in place of what was."""
    services.bind(user_of(request), body.tables)
    return body.tables


@router.post("/recorded", response={200: bytes, **refusals()})
def recorded(request: HttpRequest, body: Recorded) -> HttpResponse:
    """What a port was sent, as a Standard MIDI File."""
    return attached(recorded_file(body), f"{body.name}.mid", "audio/midi")
