"""Which exception becomes which error answer: said here and nowhere else."""

from collections.abc import Callable
from typing import Any

import orjson
from accounts.owned import NewerRevisionError
from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

from config.refusal import ErrorSchema, ProblemSchema, Refusal
from lattice.clips import NothingToKeepError
from lattice.document import DocumentError, Problem, explain

__all__ = ["register"]


def register(api: NinjaAPI) -> None:
    """Give every exception that may leave an endpoint its answer."""

    def answer(status: int, code: str, message: str, problems: list[Problem] | None = None) -> HttpResponse:
        told = [ProblemSchema(lane=p.lane, field=p.field, message=p.message) for p in problems or []]
        body = Refusal(error=ErrorSchema(code=code, message=message, problems=told))
        return HttpResponse(body.model_dump_json(), status=status, content_type="application/json")

    def document(problems: list[Problem]) -> HttpResponse:
        return answer(422, "document", "; ".join(map(str, problems)), problems)

    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        body = orjson.loads(request.body) if request.body else None
        # Every location begins with "body" and the argument's name.
        return document(explain([one | {"loc": one["loc"][2:]} for one in error.errors], body))

    handlers: dict[type[Exception], Callable[[HttpRequest, Any], HttpResponse]] = {
        ValidationError: invalid,
        DocumentError: lambda _, error: document(list(error.problems)),
        NothingToKeepError: lambda _, error: answer(422, "nothing-to-keep", str(error)),
        NewerRevisionError: lambda _, error: answer(409, "newer-revision", str(error)),
        AuthenticationError: lambda _, error: answer(401, "signed-out", "Sign in first."),
        Http404: lambda _, error: answer(404, "not-found", "There is nothing of yours here."),
        HttpError: lambda _, error: answer(error.status_code, "refused", str(error)),
    }
    for exception, handler in handlers.items():
        api.add_exception_handler(exception, handler)
