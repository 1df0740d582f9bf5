"""Plain notes and controller values in ticks, as clips and kept lanes hold them."""

from typing import Annotated, NamedTuple

from pydantic import Field

from lattice.document.controllers import MOST_BENT, Controller

__all__ = ["MAX_NOTES", "MAX_TICKS", "Control", "Note", "Tick", "Tuned"]

MAX_NOTES = 100_000
_MAX_TUNE = 132  # semitones: as far as twelve notes of a ratchet climb, an octave each
MAX_TICKS = 2**53  # what JSON's readers keep exact

Tick = Annotated[int, Field(ge=0, le=MAX_TICKS)]
Tuned = Annotated[int, Field(ge=-_MAX_TUNE, le=_MAX_TUNE)]


class Note(NamedTuple):
    """Start and length in ticks, pitch and velocity as in MIDI.

    *tune*: semitones by which the built-in sound is higher, while the MIDI note stays: of a kit's voice that climbs.
    """

    start: Tick
    length: Annotated[int, Field(ge=1, le=MAX_TICKS)]
    pitch: Annotated[int, Field(ge=0, le=127)]
    velocity: Annotated[int, Field(ge=1, le=127)]
    tune: Tuned = 0


class Control(NamedTuple):
    """A value sent to a MIDI controller, at a tick; 128 is the channel's pressure, 129 its pitch bend."""

    tick: Tick
    controller: Controller
    value: Annotated[int, Field(ge=-MOST_BENT, lt=MOST_BENT)]
