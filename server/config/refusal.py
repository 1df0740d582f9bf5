"""The one shape of every error that the API answers with."""

from pydantic import BaseModel

__all__ = ["ErrorSchema", "ProblemSchema", "Refusal", "refusals"]


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


def refusals(*statuses: int) -> dict[int, type[Refusal]]:
    """Return the error answers of an endpoint, for its declaration; 400 and 403 are always among them."""
    return dict.fromkeys((400, 403, *statuses), Refusal)
