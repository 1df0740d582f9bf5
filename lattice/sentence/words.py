"""What sentences are made of: words to read, numbers to move, words with alternatives."""

from collections.abc import Callable, Sequence
from typing import Any, Literal

from pydantic import BaseModel

__all__ = [
    "Choice",
    "Field",
    "Group",
    "Offer",
    "Part",
    "Patch",
    "Sentence",
    "Word",
    "act",
    "choice",
    "choices",
    "digits",
    "number",
    "ordinal",
    "text",
]

Patch = dict[str, Any]


class Choice(BaseModel):
    """One alternative for a word, and the fields that choosing it sets; none if it is *chosen*.

    *key*: the same for the same alternative on every lane.
    """

    key: str
    text: str
    patch: Patch
    chosen: bool


Group = Literal["steps", "luck", "time", "notes", "sound"]


class Word(BaseModel):
    """A piece of a sentence: plain text, a number to move, a word with alternatives, or one that acts at once.

    *value* is what acts, *stored* what the document holds where that differs; people see it *counted_from* higher, or
    *negated*: without its minus, as a word before it says so.
    Of kind *digits*, a number too large for a float: *digits* counts from 0 to *last_digits*, people from 1.
    Of kind *act*: a press sets the fields of *patch*.
    *own*: how many steps ignore the number because they have values of their own in the strip of that name (*strip*).
    """

    kind: Literal["text", "number", "digits", "choice", "act"]
    text: str
    name: str = ""
    field: str = ""
    value: int | float = 0
    stored: int | float = 0
    counted_from: int = 0
    negated: bool = False
    low: int | float = 0
    high: int | float = 0
    decimals: int = 0
    digits: str = ""
    last_digits: str = ""
    patch: Patch | None = None
    strip: str = ""
    own: int = 0


class Part(BaseModel):
    """One setting that acts. *red*: it makes the lane differ from its source's hits played in full."""

    setting: str
    explains: str
    red: bool
    words: list[Word]
    plain: Patch | None


class Field(Part):
    """One setting, plain or not, with its label, as the bench shows it in its *group*."""

    label: str
    group: Group
    is_plain: bool


class Offer(BaseModel):
    """One setting that is still plain, and the fields that begin to use it."""

    setting: str
    text: str
    explains: str
    patch: Patch


class Sentence(BaseModel):
    """All that acts on a lane."""

    parts: list[Part]


def text(text: str) -> Word:
    """Return a word that is only read."""
    return Word(kind="text", text=text)


def number(
    name: str,
    field: str,
    value: int,
    low: int,
    high: int,
    *,
    counted_from: int = 0,
    negated: bool = False,
    stored: int | None = None,
) -> Word:
    """Return a number to move between *low* and *high*, at *field* of the document.

    *counted_from*: 1 for what the document counts from 0. *negated*: said without its minus.
    *stored*: what the document holds, if *value* differs.
    """
    return Word(
        kind="number",
        text=str(-value if negated else value + counted_from),
        name=name,
        field=field,
        value=value,
        stored=value if stored is None else stored,
        counted_from=counted_from,
        negated=negated,
        low=low,
        high=high,
    )


def digits(name: str, field: str, value: int, last: int) -> Word:
    """Return a number from 0 to *last*, however large, that people count from 1."""
    said = f"{value + 1:,}"
    return Word(kind="digits", text=said, name=name, field=field, digits=str(value), last_digits=str(last))


def choice(text: str, name: str) -> Word:
    """Return a word that opens its alternatives, which are worked out when they are asked for."""
    return Word(kind="choice", text=text, name=name)


def act(text: str, name: str, patch: Patch) -> Word:
    """Return a word that sets fields at once."""
    return Word(kind="act", text=text, name=name, patch=patch)


def choices(options: Sequence[tuple[str, str]], chosen: str, patch: Callable[[str], Patch]) -> list[Choice]:
    """Return alternatives of (key, text), the one of key *chosen* among them; *patch* says what another one sets."""
    return [
        Choice(key=key, text=said, patch={} if key == chosen else patch(key), chosen=key == chosen)
        for key, said in options
    ]


def ordinal(count: int) -> str:
    """Return what makes a number one of an order.

    >>> [f"{count}{ordinal(count)}" for count in (1, 2, 3, 4, 11, 12, 21)]
    ['1st', '2nd', '3rd', '4th', '11th', '12th', '21st']
    """
    if count % 100 in (11, 12, 13):
        return "th"
    return {1: "st", 2: "nd", 3: "rd"}.get(count % 10, "th")
