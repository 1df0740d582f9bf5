"""The one shape of every error that the API answers with."""

from collections.abc import Sequence

from django.http import HttpResponse
from pydantic import BaseModel

from lattice.document import Problem

__all__ = ["ErrorSchema", "ProblemSchema", "Refusal", "refusal", "refusals"]


class ProblemSchema(BaseModel):
    """One thing wrong with a document: on which lane (if any), in which field."""

    lane: str | None
    field: str
    message: str


class ErrorSchema(BaseModel):
    """*code* for programs, *message* for people."""

    code: str
    message: str
    problems: list[ProblemSchema] = []


class Refusal(BaseModel):
    """The answer to everything that is refused."""

    error: ErrorSchema


def refusal(
    status: int,
    code: str,
    message: str,
    problems: Sequence[Problem] = (),
    *,
    retry_after: int | None = None,
) -> HttpResponse:
    """Return an error answer. *retry_after*: in how many seconds the same may be asked again."""
    told = [ProblemSchema(lane=one.lane, field=one.field, message=one.message) for one in problems]
    body = Refusal(error=ErrorSchema(code=code, message=message, problems=told))
    headers = {} if retry_after is None else {"Retry-After": str(retry_after)}
    return HttpResponse(
        body.model_dump_json(), status=status, content_type="application/json", headers=headers
    )


def refusals(*statuses: int) -> dict[int, type[Refusal]]:
    """Return the error answers of an endpoint, for its declaration; those that any may give are always among them."""
    return dict.fromkeys((400, 401, 403, 408, 413, 422, 429, 500, 503, *statuses), Refusal)
