"""MIDI controllers: their numbers, their names, what they may be sent."""

from collections.abc import Iterable
from typing import Annotated

from pydantic import AfterValidator, Field

from lattice.units import half_up

__all__ = [
    "BEND",
    "CONTROLLERS",
    "MOST_BENT",
    "PRESSURE",
    "Controller",
    "as_sent",
    "check_values",
    "control_range",
    "controller_name",
    "neutral",
]

_NUMBERED = 120  # from here on a control change is a command to the channel
_HIGHEST = 127
MOST_BENT = 8192
# Beside the controllers that MIDI numbers, 0 to 119: what moves a channel by messages of their own.
PRESSURE, BEND = 128, 129
# As MIDI 1.0 and General MIDI 2 name them; the built-in sounds answer to these.
CONTROLLERS: dict[int, str] = {
    1: "modulation",
    5: "glide time",
    7: "volume",
    10: "pan",
    11: "expression",
    64: "sustain",
    65: "glide",
    71: "timbre",
    72: "release",
    73: "attack",
    74: "brightness",
    75: "decay",
    91: "room send",
    PRESSURE: "pressure",
    BEND: "bend",
}
# MIDI 1.0: volume and expression are open until they are closed; pan, balance and the sound controllers lie in the
# middle.
_OPEN, _IN_THE_MIDDLE = (7, 11), (8, 10, 71, 72, 73, 74, 75)


def neutral(controller: int) -> int:
    """Return the value at which a controller changes nothing.

    >>> [neutral(controller) for controller in (1, 7, 10, 74, BEND)]
    [0, 127, 64, 64, 0]
    """
    if controller in _OPEN:
        return _HIGHEST
    return 64 if controller in _IN_THE_MIDDLE else 0


def control_range(controller: int) -> tuple[int, int]:
    """Return the least and the greatest value of a controller.

    >>> control_range(74), control_range(BEND)
    ((0, 127), (-8192, 8191))
    """
    return (-MOST_BENT, MOST_BENT - 1) if controller == BEND else (0, _HIGHEST)


def controller_name(controller: int) -> str:
    """Return what people call a controller: its number and what it does.

    >>> [controller_name(controller) for controller in (74, 20, BEND)]
    ['74 brightness', 'control 20', 'bend']
    """
    name = CONTROLLERS.get(controller)
    if name is None:
        return f"control {controller}"
    return name if controller in (PRESSURE, BEND) else f"{controller} {name}"


def as_sent(value: int, low: int, high: int) -> int:
    """Return a number from *low* to *high* as a controller says it: its range spread over 0 to 127, rounded half up.

    >>> [as_sent(value, 0, 100) for value in (0, 50, 100)]
    [0, 64, 127]
    """
    return half_up((value - low) * _HIGHEST, high - low)


def check_values(controller: int, values: Iterable[int]) -> None:
    """Raise ValueError where one of *values* is not within the range of *controller*."""
    low, high = control_range(controller)
    for value in values:
        if not low <= value <= high:
            raise ValueError(f"{controller_name(controller)} goes from {low} to {high}, got {value}")


def _known(controller: int) -> int:
    if _NUMBERED <= controller < PRESSURE:
        raise ValueError(
            f"there is no such controller: 0 to {_NUMBERED - 1}, {PRESSURE} pressure, {BEND} bend"
        )
    return controller


Controller = Annotated[int, Field(ge=0, le=BEND), AfterValidator(_known)]
