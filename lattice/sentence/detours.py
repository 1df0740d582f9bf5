"""Detours in words."""

from collections.abc import Sequence

from lattice.document.detour import (
    Detour,
    OnlyDetour,
    PaceDetour,
    PatternDetour,
    RepeatDetour,
    ShiftDetour,
    Variation,
)
from lattice.document.lane import Lane
from lattice.document.limits import limits
from lattice.sentence.step_value import say_step_value
from lattice.sentence.words import Word, number, ordinal, text

__all__ = ["detour_words", "say_detour"]


def say_detour(detour: Detour, lanes: Sequence[Lane]) -> str:
    """Return what plays while a detour holds, in words.

    >>> say_detour(ShiftDetour(degrees=-2, semitones=1), ())
    'shifted -2 degrees and 1 semitone'
    """
    match detour:
        case Variation(distance=distance):
            return f"a variation up to {distance} % away"
        case RepeatDetour(length=length):
            return f"{say_step_value(length)} again and again"
        case ShiftDetour(degrees=degrees, semitones=semitones):
            parts = [f"{degrees} degree{'' if abs(degrees) == 1 else 's'}"] if degrees else []
            parts += [f"{semitones} semitone{'' if abs(semitones) == 1 else 's'}"] if semitones else []
            return f"shifted {' and '.join(parts) or 'by nothing'}"
        case PaceDetour(times=times):
            return f"at x {times} the pace"
        case OnlyDetour(lanes=ids):
            return (
                f"only {' and '.join(lane.name for lane in lanes if lane.id in ids) or 'lanes that are gone'}"
            )


def detour_words(mine: PatternDetour, place: int, lanes: Sequence[Lane]) -> list[Word]:
    """Return a pattern's detour, the one at that place among its own, in words whose numbers move."""
    field = f"detours.{place}"
    _, most = limits(PatternDetour, "every")
    bars = number("bars of a detour", f"{field}.bars", mine.bars, 1, mine.every)
    every = number("every so many bars", f"{field}.every", mine.every, mine.bars, most)
    said = " bar of every " if mine.bars == 1 else " bars of every "
    words = [text("in the last "), bars, text(said), every]
    words.append(text(f": {say_detour(mine.detour, lanes)}"))
    if isinstance(mine.detour, Variation):
        number_said = mine.detour.number + 1
        said = (
            ", a fresh one each time" if mine.fresh else f", always the {number_said}{ordinal(number_said)}"
        )
        words.append(text(said))
    return words
