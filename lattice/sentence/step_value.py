"""Step values in words."""

from collections.abc import Callable, Mapping
from functools import lru_cache
from typing import Any

from lattice.document.step_value import KINDS, NOTES, StepValue
from lattice.sentence.words import Choice, Word, choice, number, text

__all__ = ["note_value_words", "say_step_value", "say_step_value_in_words"]


def say_step_value(value: StepValue) -> str:
    """Return a step value as musicians say it.

    >>> say_step_value(StepValue(note=2, divisor=7))
    '7 to a half note'
    """
    return "".join(word.text for word in say_step_value_in_words(value))


@lru_cache(maxsize=256)  # a few step values are said over and over, each with all its alternatives
def say_step_value_in_words(value: StepValue) -> tuple[Word, ...]:
    """Return a step value as words that change the field `step_value`."""
    return note_value_words(value, "step_value", lambda chosen: {"step_value": chosen.model_dump()})


def note_value_words(
    value: StepValue, field: str, patch: Callable[[StepValue], dict[str, Any]]
) -> tuple[Word, ...]:
    """Return a note value as words; *field* is where it lies, *patch* what choosing another one sets."""
    words = []
    if value.divisor > 1:
        words += [number("steps to a note", f"{field}.divisor", value.divisor, 1, 16), text(" to ")]
    if value.multiplier > 1:
        words += [number("times the note", f"{field}.multiplier", value.multiplier, 1, 16), text(" × ")]
    said = _say_note(value, spelt_out=value.divisor > 1 and value.multiplier == 1)
    choices = [
        Choice(
            text=_say_note(other, spelt_out=False),
            patch={} if other == value else patch(other),
            chosen=other == value,
        )
        for note in NOTES
        for kind in KINDS
        for other in [value.model_copy(update={"note": note, "kind": kind})]
    ]
    return (*words, choice(said, "step", choices))


def _say_note(value: StepValue, *, spelt_out: bool) -> str:
    fraction = f"1/{value.note}" if value.kind == "plain" else f"1/{value.note} {value.kind}"
    spelt: Mapping[str, str] = {"1/1": "a whole note", "1/2": "a half note"} if spelt_out else {}
    return spelt.get(fraction, fraction)
