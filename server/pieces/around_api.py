"""Looking around over HTTP: fields of candidates, grounds, detours. No database, no state."""

from typing import Annotated

from accounts.auth import to_compute
from config.answers import answer
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import Field

from lattice import edits
from lattice.around.candidates import MAX_CANDIDATES
from lattice.document.base import Id
from lattice.document.detour import WAY_NAMES, Variation, WayName
from lattice.document.source import MAX_THROW
from lattice.screen.around import (
    Around,
    CandidatePicture,
    FieldPicture,
    around,
    candidate_picture,
    field_picture,
)
from lattice.theory.grounds import GroundId, Part
from pieces.schemas import Changed, Question

router = Router(auth=to_compute)

Hits = Annotated[float, Field(ge=0, le=100_000, description="hits a bar")]
Place = Annotated[int, Field(ge=0, le=100)]


class FieldQuestion(Question):
    """Which candidates to look for: see `lattice.around.candidates`."""

    count: Annotated[int, Field(ge=1, le=MAX_CANDIDATES)] = 96
    distance: Annotated[int, Field(ge=1, le=100)] = 30
    ways: Annotated[list[WayName], Field(max_length=len(WAY_NAMES))] = list(WAY_NAMES)
    throw: Annotated[int, Field(ge=1, le=MAX_THROW)] = 1
    least: Hits = 0
    most: Hits = 100_000


class CandidateQuestion(Question):
    """Which candidate is to be seen; none: the start."""

    variation: Variation | None = None


class GroundQuestion(Question):
    """Which *lanes* to put on a ground at (x, y), or where others stand; *part*: none for those of their voices."""

    lanes: Annotated[list[Id], Field(min_length=1, max_length=64)]
    ground: GroundId
    part: Part | None = None
    x: Place | None = None
    y: Place | None = None


class OffQuestion(Question):
    """Which *lanes* to take off their grounds."""

    lanes: Annotated[list[Id], Field(min_length=1, max_length=64)]


@router.get("", response={200: Around, **refusals()})
def everything(request: HttpRequest) -> HttpResponse:
    """The ways, grounds and kinds of detour that there are."""
    return answer(around())


@router.post("/field", response={200: FieldPicture, **refusals()})
def field(request: HttpRequest, body: FieldQuestion) -> HttpResponse:
    """Candidates near a score, with their measures."""
    return answer(
        field_picture(body.score, body.count, body.distance, body.ways, body.throw, body.least, body.most)
    )


@router.post("/candidate", response={200: CandidatePicture, **refusals()})
def candidate(request: HttpRequest, body: CandidateQuestion) -> HttpResponse:
    """One candidate: what makes it, and what its lanes play."""
    return answer(candidate_picture(body.score, body.variation))


@router.post("/ground", response={200: Changed, **refusals()})
def ground(request: HttpRequest, body: GroundQuestion) -> Changed:
    """What lanes become when they are put on a ground, one after the other."""
    return Changed(
        patches=edits.put_all_on_ground(body.score, body.lanes, body.ground, body.part, body.x, body.y)
    )


@router.post("/off", response={200: Changed, **refusals()})
def off(request: HttpRequest, body: OffQuestion) -> Changed:
    """What lanes become when they are taken off their grounds."""
    return Changed(patches={one: edits.take_off_ground(body.score.lane(one)) for one in body.lanes})
