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
    """Return what plays while a detour holds.

    >>> say_detour(ShiftDetour(degrees=-2, semitones=1), ())
    'shifted -2 degrees and 1 semitone'
    """
    return "".join(word.text for word in _words_of(detour, "", lanes))


def detour_words(mine: PatternDetour, place: int, lanes: Sequence[Lane]) -> list[Word]:
    """Return a pattern's detour, the one at that place among its own, in words whose numbers move."""
    field = f"detours.{place}"
    _, most = limits(PatternDetour, "every")
    bars = number("bars of a detour", f"{field}.bars", mine.bars, 1, mine.every)
    every = number("every so many bars", f"{field}.every", mine.every, mine.bars, most)
    said = " bar of every " if mine.bars == 1 else " bars of every "
    words = [text("in the last "), bars, text(said), every, text(": ")]
    words += _words_of(mine.detour, f"{field}.detour", lanes)
    if isinstance(mine.detour, Variation):
        which = mine.detour.number + 1
        words.append(
            text(", a fresh one each time" if mine.fresh else f", always the {which}{ordinal(which)}")
        )
    return words


def _words_of(detour: Detour, field: str, lanes: Sequence[Lane]) -> list[Word]:
    match detour:
        case Variation(distance=distance):
            far = number(
                "distance of a detour", f"{field}.distance", distance, *limits(Variation, "distance")
            )
            return [text("a variation up to "), far, text(" % away")]
        case RepeatDetour(length=length):
            return [text(f"{say_step_value(length)} again and again")]
        case ShiftDetour():
            return _shift_words(detour, field)
        case PaceDetour(times=times):
            return [text(f"at x {times} the pace")]
        case OnlyDetour(lanes=ids):
            names = [lane.name for lane in lanes if lane.id in ids]
            return [text(f"only {' and '.join(names) or 'lanes that are gone'}")]


def _shift_words(shift: ShiftDetour, field: str) -> list[Word]:
    words: list[Word] = []
    for name, by in (("degrees", shift.degrees), ("semitones", shift.semitones)):
        if by:
            words += [text(" and " if words else "shifted ")]
            words += [number(f"{name} of a detour", f"{field}.{name}", by, *limits(ShiftDetour, name))]
            words += [text(f" {name.removesuffix('s') if abs(by) == 1 else name}")]
    return words or [text("shifted by nothing")]
