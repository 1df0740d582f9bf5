"""What sentences are made of: words to read, numbers to move, words with alternatives."""

from typing import Any, Literal

from pydantic import BaseModel

__all__ = ["Choice", "Offer", "Part", "Patch", "Sentence", "Word", "choice", "digits", "number", "text"]

Patch = dict[str, Any]


class Choice(BaseModel):
    """One alternative for a word, and the fields that choosing it sets; none if it is *chosen*."""

    text: str
    patch: Patch
    chosen: bool


class Word(BaseModel):
    """A piece of a sentence: plain text, a number to move, or a word with alternatives.

    Of kind *digits*, a number too large for a float: *digits* counts from 0 to *last_digits*, people from 1.
    """

    kind: Literal["text", "number", "digits", "choice"]
    text: str
    name: str = ""
    field: str = ""
    value: int | float = 0
    low: int | float = 0
    high: int | float = 0
    decimals: int = 0
    digits: str = ""
    last_digits: str = ""
    choices: list[Choice] = []


class Part(BaseModel):
    """One setting that acts. *red*: it makes the lane differ from its source's hits played in full."""

    setting: str
    explains: str
    red: bool
    words: list[Word]
    plain: Patch | None


class Offer(BaseModel):
    """One setting that is still plain, and the fields that begin to use it."""

    setting: str
    text: str
    explains: str
    patch: Patch


class Sentence(BaseModel):
    """All that acts on a lane, and all that could."""

    parts: list[Part]
    offers: list[Offer]


def text(text: str) -> Word:
    """Return a word that is only read."""
    return Word(kind="text", text=text)


def number(name: str, field: str, value: int, low: int, high: int) -> Word:
    """Return a number to move between *low* and *high*, at *field* of the document."""
    return Word(kind="number", text=str(value), name=name, field=field, value=value, low=low, high=high)


def digits(name: str, field: str, value: int, last: int) -> Word:
    """Return a number from 0 to *last*, however large, that people count from 1."""
    said = f"{value + 1:,}"
    return Word(kind="digits", text=said, name=name, field=field, digits=str(value), last_digits=str(last))


def choice(text: str, name: str, choices: list[Choice]) -> Word:
    """Return a word that opens its alternatives."""
    return Word(kind="choice", text=text, name=name, choices=choices)
