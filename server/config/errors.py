"""Which exception becomes which error answer: said here and nowhere else."""

import logging
from collections.abc import Callable
from typing import Any

import orjson
from accounts.attempts import TooOftenError
from accounts.owned import NewerRevisionError
from django.core.exceptions import BadRequest, PermissionDenied, RequestDataTooBig, SuspiciousOperation
from django.db import Error as DatabaseError
from django.db import InterfaceError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from django.http.multipartparser import MultiPartParserError
from django.http.request import RawPostDataException
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from pydantic import ValidationError as Unfit

from config.refusal import refusal
from lattice.clips import NothingToKeepError
from lattice.document import DocumentError, Problem, explain

__all__ = ["answer_to", "register"]

log = logging.getLogger("jolly")
_RETRY_SECONDS = 3


def _document(problems: list[Problem]) -> HttpResponse:
    return refusal(422, "document", " ".join(problem.sentence for problem in problems), problems)


def _invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    body = None
    if any(one["loc"][0] == "body" for one in error.errors):
        try:
            body = orjson.loads(request.body)
        except (ValueError, RecursionError):
            body = None
    problems: list[Problem] = []
    for one in error.errors:
        place, *where = one["loc"]
        # A body's location has the argument's name before its own fields.
        told = one | {"loc": tuple(where[1:] if place == "body" else where)}
        problems += explain([told], body if place == "body" else {})
    return _document(problems)


def _refused(request: HttpRequest, error: HttpError) -> HttpResponse:
    """Answer to what the framework refused: where it could not read a body, with what was wrong there."""
    cause = error.__cause__
    if isinstance(cause, HttpError):
        return refusal(cause.status_code, "refused", str(cause))
    if isinstance(cause, RecursionError):
        return answer_to(request, cause)
    if isinstance(cause, orjson.JSONDecodeError):
        return refusal(
            400, "refused", f"It is no JSON, line {cause.lineno}, column {cause.colno}: {cause.msg}."
        )
    return refusal(error.status_code, "refused", str(error))


# Classes of SQLSTATE that say nothing of what was asked: no room, no permission to write (a standby that has not taken
# over yet), stopped by somebody, broken discs. PostgreSQL, appendix A.
_NOT_NOW = ("25006", "53", "57", "58")


def _of_database(request: HttpRequest, error: Exception) -> HttpResponse:
    state = getattr(error.__cause__, "sqlstate", None) or ""
    return _database_gone(request, error) if state.startswith(_NOT_NOW) else _broken(request, error)


def _database_gone(request: HttpRequest, error: Exception) -> HttpResponse:
    log.error("The database did not answer to %s %s: %s", request.method, request.path, error)
    said = "The database cannot be reached just now. Nothing was stored by this; it is tried again."
    return refusal(503, "no-database", said, retry_after=_RETRY_SECONDS)


def _broken(request: HttpRequest, error: Exception) -> HttpResponse:
    log.error("%s %s failed", request.method, request.path, exc_info=error)
    return refusal(
        500, "failed", "Something went wrong here, and nothing was stored by it. It is in the server's log."
    )


def _said(status: int, code: str, message: str) -> Callable[[HttpRequest, Any], HttpResponse]:
    return lambda _request, _error: refusal(status, code, message)


_HANDLERS: dict[type[Exception], Callable[[HttpRequest, Any], HttpResponse]] = {
    ValidationError: _invalid,
    Unfit: lambda _, error: _document(explain(error.errors(), None)),
    DocumentError: lambda _, error: _document(list(error.problems)),
    NothingToKeepError: lambda _, error: refusal(422, "nothing-to-keep", str(error)),
    TooOftenError: lambda _, error: refusal(429, "too-often", str(error), retry_after=error.seconds),
    NewerRevisionError: lambda _, error: refusal(409, "newer-revision", str(error)),
    AuthenticationError: _said(401, "signed-out", "Sign in first."),
    PermissionDenied: _said(403, "not-yours", "That is not yours to do."),
    Http404: _said(404, "not-found", "There is nothing of yours here."),
    HttpError: _refused,
    RecursionError: _said(422, "document", "This is nested too deep to be read."),
    RequestDataTooBig: _said(413, "too-large", "This is too large."),
    MultiPartParserError: _said(400, "refused", "The file that was sent cannot be read: send it once more."),
    RawPostDataException: _said(400, "refused", "JSON is read here, not a form."),
    SuspiciousOperation: _said(400, "refused", "This cannot be read."),
    BadRequest: _said(400, "refused", "This cannot be read."),
    OperationalError: _database_gone,
    InterfaceError: _database_gone,
    DatabaseError: _of_database,
    Exception: _broken,
}


def answer_to(request: HttpRequest, error: Exception) -> HttpResponse:
    """Return the answer to *request* where *error* left it."""
    handler = next(_HANDLERS[kind] for kind in type(error).__mro__ if kind in _HANDLERS)
    return handler(request, error)


def register(api: NinjaAPI) -> None:
    """Give every exception that may leave an endpoint its answer."""
    for exception, handler in _HANDLERS.items():
        api.add_exception_handler(exception, handler)
