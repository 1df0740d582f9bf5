"""What holds for a whole pattern, in words that can be changed like those of a lane's sentence."""

from collections.abc import Sequence
from typing import get_args

from lattice.document.meter import BEATS, Meter
from lattice.document.piece import DICE, TEMPO, Score
from lattice.sentence.step_value import say_step_value_in_words
from lattice.sentence.words import Choice, Part, Word

__all__ = ["standing"]


def standing(score: Score, dice: int) -> list[Part]:
    """Return tempo, meter, step value and dice as words. The tempo is the piece's, the rest the pattern's."""
    return [
        _part("tempo", "Quarter notes a minute.", [_number("tempo", TEMPO, score.tempo, "tempo")]),
        _part("meter", "Beats in a bar, and the note value of a beat.", _meter(score.meter)),
        _part(
            "step value",
            "How long a step lasts in lanes that say nothing of it.",
            say_step_value_in_words(score.step_value),
        ),
        _part(
            "dice",
            "All luck comes from this number: the same number, the same luck.",
            [_number("dice", DICE, dice, "dice")],
        ),
    ]


def _part(setting: str, explains: str, words: Sequence[Word]) -> Part:
    return Part(setting=setting, explains=explains, red=False, words=list(words), plain=None)


def _number(name: str, limits: tuple[int, int], value: float, field: str) -> Word:
    low, high = limits
    decimals = 2 if isinstance(value, float) else 0
    text = f"{value:g}" if decimals else str(value)
    return Word(
        kind="number", text=text, name=name, field=field, value=value, low=low, high=high, decimals=decimals
    )


def _meter(meter: Meter) -> list[Word]:
    choices = [
        Choice(
            text=f"1/{denominator}",
            patch={}
            if denominator == meter.denominator
            else {"meter": {**meter.model_dump(), "denominator": denominator}},
            chosen=denominator == meter.denominator,
        )
        for denominator in get_args(Meter.model_fields["denominator"].annotation)
    ]
    return [
        _number("beats in a bar", BEATS, meter.numerator, "meter.numerator"),
        Word(kind="text", text="/"),
        Word(kind="choice", text=str(meter.denominator), name="note of a beat", choices=choices),
    ]
