"""Bad input, said so that a musician knows what is wrong and where."""

import re
from collections import Counter
from collections.abc import Hashable, Iterable, Sequence
from dataclasses import dataclass
from typing import Any, Self, TypeVar

from pydantic import BaseModel, ValidationError
from pydantic_core import PydanticCustomError

__all__ = ["DocumentError", "Problem", "explain", "lane_error", "read", "repeated"]

Model = TypeVar("Model", bound=BaseModel)
Item = TypeVar("Item", bound=Hashable)

MESSAGES = {
    "string_pattern_mismatch": "has signs that cannot be there",
    "extra_forbidden": "there is no such field",
    "missing": "is missing",
    "union_tag_not_found": "says not what kind it is",
}


@dataclass(frozen=True)
class Problem:
    """One thing wrong: the *lane* it is on (if any), the *field*'s path and the *message*."""

    lane: str | None
    field: str
    message: str

    def __str__(self) -> str:
        place = [f"lane “{self.lane}”"] if self.lane else []
        if self.field:
            place.append(self.field)
        return f"{', '.join(place)}: {self.message}" if place else self.message

    @property
    def sentence(self) -> str:
        """What is wrong, for people: no path, no name of a field as the document writes it.

        >>> Problem("Bell", "bursts.2.bars", "input should be less than 64, got 72").sentence
        'Lane “Bell”: the bars of burst 2 must be less than 64, not 72.'
        """
        where, message = _said_path(self.field), self.message
        if counted := _COUNTED.fullmatch(message):
            message = f"must be at {counted[1]} {counted[2]}, got {counted[3]}"
        for begins, instead in _PLAINLY:
            if message.startswith(begins):
                told, comma, got = message.removeprefix(begins).rpartition(", got ")
                message = instead + (f"{told}, not {got}" if comma else message.removeprefix(begins))
                said = f"the {where} {message}" if where else message
                break
        else:
            said = f"{where}: {message}" if where and where not in message else message
        said = f"lane “{self.lane}”: {said}" if self.lane else said
        return f"{said[0].upper()}{said[1:]}" + ("" if said.endswith((".", "!", "?")) else ".")


# How pydantic begins, and how people do.
_PLAINLY = (
    ("input should be a valid integer, got a number with a fractional part", "must be a whole number"),
    ("input should be a valid integer", "must be a whole number"),
    ("input should be a valid ", "must be a "),
    ("input should be ", "must be "),
    ("input should ", "must "),
    ("must be at ", "must be at "),
    ("is missing", "is missing"),
    ("string should ", "must "),
    ("has signs", "has signs"),
    ("there is no such field", "is nothing that is known here"),
)
_COUNTED = re.compile(r"at (most|least) (\d+), got (\d+)")


def _said_path(path: str) -> str:
    """Return a field's path in words, the innermost first.

    >>> _said_path("tape.tracks.Bell.controls.3.1"), _said_path("velocity_strip.values.2")
    ('control 3 of track Bell of tape', 'value 2 of velocity strip')
    """
    words: list[str] = []
    is_row = False  # whether the last word is a row, of which the next part picks one
    for part in filter(None, path.split(".")):
        if is_row:
            words[-1] = f"{words[-1].removesuffix('s')} {part}"
            is_row = False
        elif not part.isdigit():
            words.append(part.replace("_", " "))
            is_row = part in _ROWS
    return " of ".join(reversed(words))


_ROWS = {
    "bursts", "chords", "controls", "control_strips", "edits", "held", "lanes", "links", "moments", "movements",
    "notes", "order", "patterns", "points",
    "step_rules", "straights", "sustained", "tracks", "values", "voices",
}  # fmt: skip


class DocumentError(ValueError):
    """A document that was refused, whole."""

    def __init__(self, problems: Sequence[Problem]) -> None:
        self.problems = tuple(problems)
        super().__init__("; ".join(map(str, self.problems)))

    @classmethod
    def of(cls, field: str, message: str, lane: str | None = None) -> Self:
        """Return the refusal of one *field*."""
        return cls([Problem(lane, field, message)])


def lane_error(lane: str | None, field: str, message: str) -> PydanticCustomError:
    """Return what a validator of a whole pattern raises where one *field*, of a *lane* if any, is wrong."""
    return PydanticCustomError("lane", "{message}", {"lane": lane, "field": field, "message": message})


def read(model: type[Model], data: Any) -> Model:
    """Return *data* (as JSON parses it) as a *model*. Raises DocumentError naming lane and field."""
    try:
        return model.model_validate(data)
    except ValidationError as refusal:
        raise DocumentError(explain(refusal.errors(), data)) from None


def explain(errors: Iterable[Any], data: Any) -> list[Problem]:
    """Return pydantic's *errors* on *data* as problems, in the same order."""
    return [_explain_one(error, data) for error in errors if not _is_echo(error)]


def repeated(items: Iterable[Item]) -> Item | None:
    """Return the first item that is there more than once, or None."""
    return next((item for item, times in Counter(items).items() if times > 1), None)


def _is_echo(error: Any) -> bool:
    # A list whose only item was refused is also reported as too short: the item's own problem says it all.
    return error["type"] == "too_short" and bool(error["input"])


def _explain_one(error: Any, data: Any) -> Problem:
    if error["type"] == "lane":
        return Problem(**error["ctx"])
    lane: str | None = None
    path: list[str] = []
    here = data
    kind_told_of: Any = None
    for part in error["loc"]:
        if isinstance(here, dict) and part == here.get("kind") and here is not kind_told_of:
            kind_told_of = here
            continue  # pydantic names the chosen kind of source on the way; nobody wrote it as a field
        if isinstance(here, list | tuple) and isinstance(part, int):
            here = here[part] if part < len(here) else None
            name = here.get("name") or here.get("lane") if isinstance(here, dict) else None
            if path and path[-1] == "lanes":
                lane = str(name or f"number {part + 1}")
                path = []  # from here on the lane's own fields
            else:
                path.append(str(name or part + 1))
            continue
        path.append(str(part))
        here = here.get(part) if isinstance(here, dict) else None
    return Problem(lane, ".".join(path), _message(error))


def _message(error: Any) -> str:
    kind = error["type"]
    if kind == "value_error":  # ours: says it all
        return str(error["msg"]).removeprefix("Value error, ")
    if kind in ("too_long", "too_short"):
        told = error["ctx"]
        bound = f"at most {told['max_length']}" if kind == "too_long" else f"at least {told['min_length']}"
        return f"{bound}, got {told['actual_length']}"
    if kind in MESSAGES:
        return MESSAGES[kind]
    got = repr(error.get("input"))
    said = str(error["msg"])
    return f"{said[0].lower()}{said[1:]}, got {got if len(got) <= 60 else got[:57] + '...'}"
