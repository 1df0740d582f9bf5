"""A history of documents: differences (JSON Patch, RFC 6902) from moment to moment, and whole documents in between."""

from collections.abc import Iterable, Iterator
from itertools import takewhile
from typing import Any, Protocol

import jsonpatch
import orjson
from django.db.models import QuerySet
from jsonpointer import JsonPointer, JsonPointerException

from lattice.document import DocumentError

__all__ = ["WHOLE_EACH", "Kept", "difference", "document_at", "document_then", "kept_as", "numbers_for"]

# Of so many moments one is whole: so many differences at most are read, and put on, for any of them.
WHOLE_EACH = 16
# So many pairs are compared at most to find what is alike in two lists; beyond, the one replaces the other.
_SEARCHED = 10_000

Change = dict[str, Any]


class Kept(Protocol):
    """A moment as it is stored: whole, or as what it changed of the one before."""

    document: Any
    changes: Any


def kept_as(number: int, document: Any, before: Any) -> dict[str, Any]:
    """Return the fields of moment *number*, from 1: its *document*, or what it changed of the one *before* it."""
    if number % WHOLE_EACH != 1 and before is not None:
        changes = difference(before, document)
        if len(_said(changes)) < len(_said(document)):
            return {"document": None, "changes": changes}
    return {"document": document, "changes": None}


def difference(before: Any, after: Any) -> list[Change]:
    """Return the changes that make *after* of *before*, in a time that grows with their size alone.

    A search for what is alike in two lists takes the product of their lengths at worst: so only what differs is
    searched, and what is large there is replaced.
    """
    return list(_differences(before, after, []))


def _differences(before: Any, after: Any, path: list[str | int]) -> Iterator[Change]:
    if _said(before) == _said(after):
        return
    if isinstance(before, dict) and isinstance(after, dict) and before.keys() == after.keys():
        for key, one in before.items():
            yield from _differences(one, after[key], [*path, key])
    elif _are_objects_in_pairs(before, after):
        for at, (one, other) in enumerate(zip(before, after, strict=True)):
            yield from _differences(one, other, [*path, at])
    else:
        place = JsonPointer.from_parts(path).path
        if _compared(before, after) > _SEARCHED:
            yield {"op": "replace", "path": place, "value": after}
            return
        for change in jsonpatch.make_patch(before, after).patch:
            yield change | {field: place + change[field] for field in ("path", "from") if field in change}


def _said(node: Any) -> bytes:
    # The database returns an object's fields in an order of its own.
    return orjson.dumps(node, option=orjson.OPT_SORT_KEYS)


def _are_objects_in_pairs(before: Any, after: Any) -> bool:
    """Return whether these are as many objects in a row: lanes, patterns, tracks."""
    return (
        isinstance(before, list)
        and isinstance(after, list)
        and len(before) == len(after)
        and all(isinstance(one, dict) for one in (*before, *after))
    )


def _compared(before: Any, after: Any) -> int:
    """Return about how many pairs a search compares, between where both begin alike and where they end alike."""
    if not isinstance(before, list) or not isinstance(after, list):
        return 0
    begin = _begin_alike(before, after)
    old, new = before[begin:], after[begin:]
    end = _begin_alike(old[::-1], new[::-1])
    return (len(old) - end) * (len(new) - end)


def _begin_alike(before: list[Any], after: list[Any]) -> int:
    """Return how many at the beginning of both are equal."""
    return sum(1 for _ in takewhile(lambda pair: pair[0] == pair[1], zip(before, after, strict=False)))


def numbers_for(number: int) -> tuple[int, int]:
    """Return which moments are needed for the document of moment *number*: the first and the last, from 1."""
    return number - (number - 1) % WHOLE_EACH, number


def document_then(moments: "QuerySet[Any]", number: int) -> Any:
    """Return the document of moment *number* among *moments*, of one history; None if there is no such moment.

    Raises DocumentError if those that it was made of do not fit one another.
    """
    needed = list(moments.filter(number__range=numbers_for(number)).order_by("number")) if number > 0 else []
    return document_at(needed) if needed and needed[-1].number == number else None


def document_at(moments: Iterable[Kept]) -> Any:
    """Return the document of the last of *moments*, in order, from a whole one on; None if there are none.

    Raises DocumentError if they do not fit one another.
    """
    document = None
    try:
        for moment in moments:
            if moment.document is None:
                document = jsonpatch.apply_patch(document, moment.changes, in_place=True)
            else:
                document = moment.document
    except (jsonpatch.JsonPatchException, JsonPointerException, TypeError, KeyError, ValueError) as reason:
        raise DocumentError.of("changes", f"they do not fit the moment before: {reason}") from None
    return document
