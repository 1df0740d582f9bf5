"""What holds for a whole pattern, in words that can be changed like those of a lane's sentence."""

from collections.abc import Callable, Sequence
from typing import get_args

from lattice.document.limits import limits
from lattice.document.meter import BEATS, Meter
from lattice.document.piece import DICE, TEMPO, Score
from lattice.document.scale import Scale
from lattice.document.timing import MAX_BARS_OF_A_PATTERN
from lattice.sentence.detours import detour_words
from lattice.sentence.feel import SWING, swing_choices, swing_words
from lattice.sentence.melody import root_choices, said_scale, scale_choices
from lattice.sentence.movements import MOVES, movement_words, pattern_choices
from lattice.sentence.step_value import note_choices, note_value_words
from lattice.sentence.words import Choice, Part, Patch, Word, choice, choices, number, text

__all__ = ["standing", "standing_choices"]

SCALE = "What degrees and numerals are counted in: change it, and all that counts in it moves with it."


def standing(score: Score, dice: int) -> list[Part]:
    """Return tempo, swing, meter, length, step value, dice and scale as words.

    Tempo and swing are the piece's, the scale too unless the pattern has its own, the rest the pattern's.
    """
    return [
        _part("tempo", "Quarter notes a minute.", [_tempo(score.tempo)]),
        _part("swing", SWING, swing_words(score.swing)),
        _part("meter", "Beats in a bar, and the note value of a beat.", _meter(score.meter)),
        _part("bars", "How long one pass of the pattern is.", _bars(score)),
        _part(
            "step value",
            "How long a step lasts in lanes that say nothing of it.",
            note_value_words(score.step_value, "step_value"),
        ),
        _part(
            "dice",
            "All luck comes from this number: the same number, the same luck.",
            [number("dice", "dice", dice, *DICE)],
        ),
        _part("scale", SCALE, _scale(score.scale)),
        *_transposed(score),
        *_moved(score),
        *(
            Part(
                setting=f"detour {place + 1}",
                explains="What plays for a while in the pattern's stead; then all is where it would have been.",
                red=True,
                words=detour_words(one, place, score.lanes),
                plain={"detours": _without(score, place)},
            )
            for place, one in enumerate(score.detours)
        ),
    ]


def _transposed(score: Score) -> list[Part]:
    words: list[Word] = []
    for field, unit in (("degrees_up", "degree"), ("semitones_up", "semitone")):
        up = getattr(score, field)
        if up:
            words += [
                text(" and " if words else "all "),
                number(f"{unit}s up", field, up, *limits(Score, field)),
            ]
            words.append(text(f" {unit}{'' if abs(up) == 1 else 's'} up"))
    said = "How much higher all that is melodic is: by degrees of the scale, or by semitones, which may leave it."
    plain = {"degrees_up": 0, "semitones_up": 0}
    return [Part(setting="transposed", explains=said, red=True, words=words, plain=plain)] if words else []


def _moved(score: Score) -> list[Part]:
    parts = []
    if score.movements:
        words = movement_words(score.movements)
        parts.append(Part(setting="moves", explains=MOVES, red=True, words=words, plain={"movements": []}))
    if held := len(score.moved_detours):
        said = f"{held} {'detour' if held == 1 else 'detours'} as recorded"
        parts.append(
            Part(
                setting="moved detours",
                explains="Detours that hands held while moves were recorded: they come again as they were.",
                red=True,
                words=[text(said)],
                plain={"moved_detours": []},
            )
        )
    return parts


def _without(score: Score, place: int) -> list[Patch]:
    left = (*score.detours[:place], *score.detours[place + 1 :])
    return [one.model_dump(mode="json") for one in left]


def standing_choices(score: Score, setting: str, word: str = "") -> list[Choice]:
    """Return what the *word* of a *setting*, or its only one with alternatives, could be. Raises KeyError for none."""
    if setting == "moves":
        return pattern_choices(score, word)
    known = _CHOICES[setting]
    return (known[word] if isinstance(known, dict) else known)(score)


def _part(setting: str, explains: str, words: Sequence[Word]) -> Part:
    return Part(setting=setting, explains=explains, red=False, words=list(words), plain=None)


def _tempo(tempo: float) -> Word:
    word = number("tempo", "tempo", 0, *TEMPO)
    return word.model_copy(update={"text": f"{tempo:g}", "value": tempo, "stored": tempo, "decimals": 2})


def _scale(scale: Scale) -> list[Word]:
    root, kind = said_scale(scale)
    return [choice(root, "root"), text(" "), choice(kind, "kind of scale")]


def _bars(score: Score) -> list[Word]:
    # A lane that sounds once begins within the pass: it can be cut no shorter.
    bar = score.meter.bar_quarters
    shortest = max(
        (lane.once.offset_quarters(bar) // bar + 1 for lane in score.lanes if lane.once), default=1
    )
    return [
        number("length", "bars", score.bars, shortest, MAX_BARS_OF_A_PATTERN),
        text(" bar" if score.bars == 1 else " bars"),
    ]


def _meter(meter: Meter) -> list[Word]:
    return [
        number("beats in a bar", "meter.numerator", meter.numerator, *BEATS),
        text("/"),
        choice(str(meter.denominator), "note of a beat"),
    ]


def _meter_choices(score: Score) -> list[Choice]:
    denominators = get_args(Meter.model_fields["denominator"].annotation)
    return choices(
        [(str(denominator), f"1/{denominator}") for denominator in denominators],
        str(score.meter.denominator),
        lambda key: {"meter": score.meter.model_dump() | {"denominator": int(key)}},
    )


def _step_choices(score: Score) -> list[Choice]:
    return note_choices(score.step_value, lambda other: {"step_value": other.model_dump()})


def _new_scale(scale: Scale) -> Patch:
    return {"scale": scale.model_dump(mode="json")}


_CHOICES: dict[str, Callable[[Score], list[Choice]] | dict[str, Callable[[Score], list[Choice]]]] = {
    "scale": {
        "root": lambda score: root_choices(score.scale, _new_scale),
        "kind of scale": lambda score: scale_choices(score.scale, _new_scale),
    },
    "swing": lambda score: swing_choices(score.swing),
    "meter": _meter_choices,
    "step value": _step_choices,
}
