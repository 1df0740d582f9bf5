"""Movements in words: which controls are moved while it plays, over how long, and what can be done with them."""

from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

from lattice.document.movement import CONTROLS, Movement, Point
from lattice.document.piece import Score
from lattice.edits.movement import smoothed, with_movement
from lattice.sentence.setting import Setting, Speech
from lattice.sentence.step_value import say_step_value
from lattice.sentence.words import Choice, Patch, Word, choice, text
from lattice.units import TICKS_PER_QUARTER

__all__ = ["MOVEMENTS", "MOVES", "movement_choices", "movement_words", "pattern_choices", "say_value"]

MOVES = (
    "What is moved while it plays, point by point, as a hand recorded it: each value holds until the next."
)
_LOOPS = (1, 2, 4, 8, 16)


def say_value(value: Any, control: str) -> str:
    """Return a value of a control as people say it.

    >>> say_value(40, "busy"), say_value("up-and-down", "arpeggio.order")
    ('40 %', 'up and down')
    """
    known = CONTROLS[control]
    if known.is_step_value:
        return say_step_value(value)
    return value.replace("-", " ") if isinstance(value, str) else f"{value}{known.unit}"


def movement_words(movements: tuple[Movement, ...]) -> list[Word]:
    """Return what is moved, each as a word that opens what can be done with it."""
    words: list[Word] = []
    for movement in movements:
        words.append(text(", " if words else "moves "))
        words.append(choice(f"{CONTROLS[movement.control].name}{_how(movement)}", movement.control))
    return words


def _how(movement: Movement) -> str:
    if movement.off:
        return " (off)"
    if movement.loop_bars:
        return f" over {movement.loop_bars} {'bar' if movement.loop_bars == 1 else 'bars'}"
    return ""


def movement_choices(
    movements: tuple[Movement, ...], patch: Callable[[list[Patch]], Patch]
) -> Mapping[str, Callable[[], list[Choice]]]:
    """Return, for each control that is moved, what can be done with its movement; *patch*: of all of them then."""
    return {movement.control: partial(_choices, movements, movement, patch) for movement in movements}


def _choices(
    movements: tuple[Movement, ...], movement: Movement, patch: Callable[[list[Patch]], Patch]
) -> list[Choice]:
    def of(key: str, said: str, new: Movement | None, chosen: bool = False) -> Choice:
        left = with_movement(movements, movement.control, new)
        fields = {} if chosen else patch([one.model_dump(mode="json") for one in left])
        return Choice(key=key, text=said, patch=fields, chosen=chosen)

    on = {"off": False}
    once = movement.loop_bars is None and not movement.off
    offered = [of("once", "played through once", movement.model_copy(update={**on, "loop_bars": None}), once)]
    for bars in _LOOPS:
        said = f"loops over {bars} {'bar' if bars == 1 else 'bars'}"
        chosen = movement.loop_bars == bars and not movement.off
        offered.append(
            of(f"loop {bars}", said, movement.model_copy(update={**on, "loop_bars": bars}), chosen)
        )
    offered.append(of("off", "switched off", movement.model_copy(update={"off": True}), movement.off))
    if (smooth := smoothed(movement)) != movement:
        offered.append(of("smooth", "smoothed", smooth))
    offered.append(of("gone", "removed", None))
    return offered


def _of_lane(speech: Speech) -> Mapping[str, Callable[[Speech], list[Choice]]]:
    def offered(control: str) -> Callable[[Speech], list[Choice]]:
        return lambda _: movement_choices(speech.lane.movements, _of_all)[control]()

    return {movement.control: offered(movement.control) for movement in speech.lane.movements}


def _of_all(left: list[Patch]) -> Patch:
    return {"movements": left}


MOVEMENTS = Setting(
    "moves",
    "moves",
    frozenset({"movements"}),
    MOVES,
    lambda speech: movement_words(speech.lane.movements),
    lambda speech: movement_words(speech.lane.movements)[1:],
    red=True,
    more_alternatives=_of_lane,
    shown={
        "movements": [
            Movement(
                control="rotate",
                points=tuple(Point(4 * bar * TICKS_PER_QUARTER, bar) for bar in range(4)),
                loop_bars=4,
            ).model_dump(mode="json")
        ]
    },
)


def pattern_choices(score: Score, word: str) -> list[Choice]:
    """Return what can be done with a movement of a whole pattern. Raises KeyError if there is no such movement."""
    return movement_choices(score.movements, _of_all)[word]()
