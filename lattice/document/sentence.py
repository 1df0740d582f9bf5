"""What acts on a lane, in words, in order: the table that every screen reads.

A setting has a part in the sentence when it is not plain, and an offer behind the "+" when it is. Each word
that can be changed says which field it changes and between what values, so that no screen needs to know.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

from pydantic import BaseModel

from lattice.document.lane import Lane
from lattice.document.source import MAX_STEPS, Drawn, Euclidean
from lattice.document.step_value import KINDS, NOTES, StepValue

__all__ = [
    "SETTINGS",
    "Choice",
    "Offer",
    "Part",
    "Sentence",
    "Setting",
    "Word",
    "say_step_value",
    "say_step_value_in_words",
    "sentence",
]

Patch = dict[str, Any]


class Choice(BaseModel):
    """One alternative for a word, and the fields that choosing it sets; none if it is *chosen*."""

    text: str
    patch: Patch
    chosen: bool


class Word(BaseModel):
    """A piece of a sentence: plain text, a number to move, or a word with alternatives."""

    kind: Literal["text", "number", "choice"]
    text: str
    name: str = ""
    field: str = ""
    value: int | float = 0
    low: int | float = 0
    high: int | float = 0
    decimals: int = 0
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


@dataclass(frozen=True)
class Setting:
    """A row of the table. *fields*: those of a Lane that it speaks of."""

    name: str
    fields: frozenset[str]
    red: bool
    explains: str
    say: Callable[["Speech"], list[Word]]
    offers: Callable[["Speech"], list[Offer]]

    def plain(self) -> Patch | None:
        """Return the patch that sends the setting back to plain; None for what has no plain value."""
        fields = {name: Lane.model_fields[name] for name in self.fields}
        if any(field.is_required() for field in fields.values()):
            return None
        return {name: field.default for name, field in fields.items()}


@dataclass(frozen=True)
class Speech:
    """What a row needs to speak: the lane, its hits after all turns, and the pattern's step value."""

    lane: Lane
    hits: tuple[int, ...]
    pattern_step: StepValue


def sentence(lane: Lane, hits: tuple[int, ...], pattern_step: StepValue) -> Sentence:
    """Return what acts on *lane*, whose cycle after all turns has *hits*, and what could act on it."""
    speech = Speech(lane, hits, pattern_step)
    parts, offers = [], []
    for setting in SETTINGS:
        if words := setting.say(speech):
            part = {"setting": setting.name, "explains": setting.explains, "red": setting.red}
            parts.append(Part(**part, words=words, plain=setting.plain()))
        offers += setting.offers(speech)
    return Sentence(parts=parts, offers=offers)


def say_step_value(value: StepValue) -> str:
    """Return a step value as musicians say it.

    >>> say_step_value(StepValue(note=2, divisor=7))
    '7 to a half note'
    """
    return "".join(word.text for word in say_step_value_in_words(value))


def _text(text: str) -> Word:
    return Word(kind="text", text=text)


def _number(name: str, field: str, value: int, low: int, high: int) -> Word:
    return Word(kind="number", text=str(value), name=name, field=field, value=value, low=low, high=high)


def _ready(setting: str, text: str, explains: str, patch: Patch) -> list[Offer]:
    return [Offer(setting=setting, text=text, explains=explains, patch=patch)]


def _say_source(speech: Speech) -> list[Word]:
    source = speech.lane.source
    drawn = Drawn(steps=source.steps, hits=speech.hits)
    match source:
        case Drawn():
            spread = Euclidean(hits=len(speech.hits), steps=source.steps)
            return [
                _source_word("drawn", drawn, spread),
                _text(", "),
                _number("steps", "source.steps", source.steps, 1, MAX_STEPS),
                _text(" step" if source.steps == 1 else " steps"),
            ]
        case Euclidean():
            return [
                _number("hits", "source.hits", source.hits, 0, source.steps),
                _text(" "),
                _source_word("in", drawn, source),
                _text(" "),
                _number("steps", "source.steps", source.steps, max(1, source.hits), MAX_STEPS),
            ]


def _source_word(text: str, drawn: Drawn, spread: Euclidean) -> Word:
    # Drawing settles the lane as it stands, spreading keeps its number of hits: the turns are in both.
    turned = {"rotate": 0, "complement": False}
    return Word(
        kind="choice",
        text=text,
        name="source",
        choices=[
            Choice(
                text=f"{spread.hits} in {spread.steps}, spread evenly",
                patch={} if text == "in" else {"source": spread.model_dump()} | turned,
                chosen=text == "in",
            ),
            Choice(
                text=f"drawn, {drawn.steps} steps as they stand",
                patch={} if text == "drawn" else {"source": drawn.model_dump()} | turned,
                chosen=text == "drawn",
            ),
        ],
    )


def _say_rotate(speech: Speech) -> list[Word]:
    furthest = max(speech.lane.source.steps - 1, abs(speech.lane.rotate))
    turned = speech.lane.rotate
    return [_text("rotated "), _number("rotated", "rotate", turned, -furthest, furthest)] if turned else []


def _say_complement(speech: Speech) -> list[Word]:
    if not speech.lane.complement:
        return []
    choices = [
        Choice(text="its rests", patch={}, chosen=True),
        Choice(text="its hits", patch={"complement": False}, chosen=False),
    ]
    return [Word(kind="choice", text="its rests", name="hits or rests", choices=choices)]


def _say_step_value(speech: Speech) -> list[Word]:
    value = speech.lane.step_value
    if value is None:
        return []
    words = say_step_value_in_words(value)
    return [*words] if value.divisor > 1 else [_text("step "), *words]


@lru_cache(maxsize=256)  # a few step values are said over and over, each with all its alternatives
def say_step_value_in_words(value: StepValue) -> tuple[Word, ...]:
    """Return a step value as words that change the field `step_value`."""
    words = []
    if value.divisor > 1:
        words += [_number("steps to a note", "step_value.divisor", value.divisor, 1, 16), _text(" to ")]
    if value.multiplier > 1:
        words += [_number("times the note", "step_value.multiplier", value.multiplier, 1, 16), _text(" × ")]
    said = _say_note(value, spelt_out=value.divisor > 1 and value.multiplier == 1)
    choices = [
        Choice(
            text=_say_note(other, spelt_out=False),
            patch={"step_value": other.model_dump()},
            chosen=other == value,
        )
        for note in NOTES
        for kind in KINDS
        for other in [value.model_copy(update={"note": note, "kind": kind})]
    ]
    return (*words, Word(kind="choice", text=said, name="step", choices=choices))


def _say_note(value: StepValue, *, spelt_out: bool) -> str:
    fraction = f"1/{value.note}" if value.kind == "plain" else f"1/{value.note} {value.kind}"
    spelt: Mapping[str, str] = {"1/1": "a whole note", "1/2": "a half note"} if spelt_out else {}
    return spelt.get(fraction, fraction)


def _offer_step_values(speech: Speech) -> list[Offer]:
    value = speech.lane.step_value
    offers = []
    if value is None:
        own = StepValue(note=16 if speech.pattern_step.note == 8 else 8)
        explains = "Steps longer or shorter than the pattern's: this lane drifts or runs ahead."
        offers += _ready(
            "step value", f"step {say_step_value(own)}", explains, {"step_value": own.model_dump()}
        )
    if value is None or value.divisor == 1:
        tuplet = StepValue(note=2, divisor=7)
        explains = "So many equal steps in one note value: a tuplet against the others."
        offers += _ready("tuplet", say_step_value(tuplet), explains, {"step_value": tuplet.model_dump()})
    if value is not None and value.multiplier == 1:
        longer = value.model_copy(update={"multiplier": 3})
        explains = "Each step lasts several note values."
        offers += _ready(
            "multiple", f"step {say_step_value(longer)}", explains, {"step_value": longer.model_dump()}
        )
    return offers


def _one_number(
    name: str, field: str, limits: tuple[int, int], first: int, *, explains: str, unit: str = ""
) -> Setting:
    """A row of one number: said when it is not plain, offered when it is."""
    plain = Lane.model_fields[field].default

    def say(speech: Speech) -> list[Word]:
        value = getattr(speech.lane, field)
        if value == plain:
            return []
        return [_text(f"{name} "), _number(name, field, value, *limits), *([_text(unit)] if unit else [])]

    def offers(speech: Speech) -> list[Offer]:
        if getattr(speech.lane, field) != plain:
            return []
        return _ready(name, f"{name} {first}{unit}", explains, {field: first})

    return Setting(name, frozenset({field}), name == "chance", explains, say, offers)


def _offered_if_plain(
    name: str, field: str, text: str, explains: str, first: Any
) -> Callable[[Speech], list[Offer]]:
    plain = Lane.model_fields[field].default
    return lambda speech: (
        _ready(name, text, explains, {field: first}) if getattr(speech.lane, field) == plain else []
    )


_SOURCE = "Where the hits come from: spread as evenly as they can be, or drawn by hand."
_ROTATE = "Every hit moves so many steps later, round the cycle."
_COMPLEMENT = "Hits and rests change places."
_STEP_VALUE = "How long a step lasts in this lane; the pattern's where nothing is said."

SETTINGS: tuple[Setting, ...] = (
    Setting("source", frozenset({"source"}), False, _SOURCE, _say_source, lambda _: []),
    Setting(
        "rotate",
        frozenset({"rotate"}),
        False,
        _ROTATE,
        _say_rotate,
        _offered_if_plain("rotate", "rotate", "rotated 1", _ROTATE, 1),
    ),
    Setting(
        "complement",
        frozenset({"complement"}),
        True,
        _COMPLEMENT,
        _say_complement,
        _offered_if_plain("complement", "complement", "its rests", _COMPLEMENT, True),
    ),
    Setting("step value", frozenset({"step_value"}), False, _STEP_VALUE, _say_step_value, _offer_step_values),
    _one_number(
        "velocity",
        "velocity",
        (1, 127),
        80,
        explains="How hard every hit is struck; 100 when nothing is said.",
    ),
    _one_number(
        "length",
        "length_percent",
        (1, 400),
        50,
        explains="How long each note lasts, in parts of a step.",
        unit=" %",
    ),
    _one_number(
        "chance",
        "chance_percent",
        (0, 100),
        75,
        explains="How often a hit sounds; the dice decide which.",
        unit=" %",
    ),
)
