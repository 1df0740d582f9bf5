"""Step values in words."""

from collections.abc import Callable, Mapping
from typing import Any, Literal

from lattice.document.limits import limits
from lattice.document.step_value import KINDS, NOTES, NoteKind, StepValue
from lattice.sentence.words import Choice, Word, choice, choices, number, text

__all__ = ["note_choices", "note_value_words", "say_step_value", "step_rates"]


def say_step_value(value: StepValue) -> str:
    """Return a step value as musicians say it.

    >>> say_step_value(StepValue(note=2, divisor=7))
    '7 in a 1/2'
    """
    return "".join(word.text for word in note_value_words(value, ""))


def note_value_words(value: StepValue, field: str) -> list[Word]:
    """Return a note value as words; *field* is where it lies. The word "step" opens other note values."""
    words = []
    if value.divisor > 1:
        words += [
            number("steps to a note", f"{field}.divisor", value.divisor, *limits(StepValue, "divisor")),
            text(" in a "),
        ]
    if value.multiplier > 1:
        words += [
            number(
                "times the note", f"{field}.multiplier", value.multiplier, *limits(StepValue, "multiplier")
            ),
            text(" × "),
        ]
    return [*words, choice(_say_note(value), "step")]


def note_choices(value: StepValue, patch: Callable[[StepValue], dict[str, Any]]) -> list[Choice]:
    """Return all note values, plain, dotted and triplet; *patch* says what choosing one sets."""
    values = {
        f"{note} {kind}": value.model_copy(update={"note": note, "kind": kind})
        for note in NOTES
        for kind in KINDS
    }
    return choices(
        [(key, _say_note(other)) for key, other in values.items()],
        f"{value.note} {value.kind}",
        lambda key: patch(values[key]),
    )


_RATES: tuple[tuple[Literal[8, 16, 32, 64], NoteKind], ...] = (
    (8, "plain"),
    (8, "triplet"),
    (16, "plain"),
    (16, "triplet"),
    (32, "plain"),
    (32, "triplet"),
    (64, "plain"),
    (64, "triplet"),
)


def step_rates() -> list[StepValue]:
    """Return the step values that one hand moves a lane over: eighths to sixty-fourths and their triplets, ever faster.

    >>> [say_step_value(rate) for rate in step_rates()][:3]
    ['1/8', '1/8t', '1/16']
    """
    return [StepValue(note=note, kind=kind) for note, kind in _RATES]


_KINDS_SAID: Mapping[NoteKind, str] = {"plain": "", "dotted": " dotted", "triplet": "t"}


def _say_note(value: StepValue) -> str:
    return f"1/{value.note}{_KINDS_SAID[value.kind]}"
