"""Answers that the engine built."""

from django.http import HttpResponse
from pydantic import BaseModel

__all__ = ["answer"]


def answer(built: BaseModel, status: int = 200) -> HttpResponse:
    """Return *built* as JSON, written by pydantic as it is: checking it again takes longer than making it."""
    return HttpResponse(built.model_dump_json(), status=status, content_type="application/json")
