"""The keys of a keyboard as a scale sees them."""

from pydantic import BaseModel

from lattice.document.kit import Kit
from lattice.document.scale import Scale
from lattice.theory.names import note_name, pitch_names
from lattice.theory.scales import OCTAVE

__all__ = ["Key", "keyboard"]

_HIGHEST = 127
_BLACK = frozenset({1, 3, 6, 8, 10})


class Key(BaseModel):
    """A key of MIDI note *pitch*: its *name* with its octave (middle C, 60, is C4), and its *letter* without.

    *voice*: the id of the kit's voice on that note; None where it has none.
    """

    pitch: int
    name: str
    letter: str
    is_black: bool
    in_scale: bool
    is_root: bool
    voice: str | None


def keyboard(scale: Scale, kit: Kit | None = None) -> list[Key]:
    """Return all keys, MIDI notes 0-127, spelt as the scale spells them, with the voices of the *kit*.

    >>> [key.name for key in keyboard(Scale(root=2, name="dorian"))[60:65] if key.in_scale]
    ['C4', 'D4', 'E4']
    """
    voices = {voice.pitch: voice.id for voice in reversed(kit.voices if kit else ())}
    letters = pitch_names(scale.root, scale.semitones)
    inside = {(scale.root + degree) % OCTAVE for degree in scale.semitones}
    return [
        Key(
            pitch=pitch,
            name=note_name(pitch, scale.root, scale.semitones),
            letter=letters[pitch % OCTAVE],
            is_black=pitch % OCTAVE in _BLACK,
            in_scale=pitch % OCTAVE in inside,
            is_root=pitch % OCTAVE == scale.root,
            voice=voices.get(pitch),
        )
        for pitch in range(_HIGHEST + 1)
    ]
