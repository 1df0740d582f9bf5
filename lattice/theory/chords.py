"""Chords by name (“Dm7”) or by roman numeral in a scale (“iv”, “V7”): what is written becomes a root and its tones."""

import re
from collections.abc import Sequence
from typing import NamedTuple

from lattice.theory.names import accidentals_of, pitch_class_of, pitch_names
from lattice.theory.scales import OCTAVE

__all__ = [
    "NUMERALS",
    "NUMERAL_NOTES",
    "QUALITIES",
    "Chord",
    "chord_name",
    "is_numeral",
    "numeral_of",
    "parse_chord",
    "scale_chords",
]

# What is written after a chord's letter, and the semitones of its tones above the root.
QUALITIES: dict[str, tuple[int, ...]] = {
    "": (0, 4, 7),
    "m": (0, 3, 7),
    "dim": (0, 3, 6),
    "aug": (0, 4, 8),
    "sus2": (0, 2, 7),
    "sus4": (0, 5, 7),
    "5": (0, 7),
    "6": (0, 4, 7, 9),
    "m6": (0, 3, 7, 9),
    "7": (0, 4, 7, 10),
    "maj7": (0, 4, 7, 11),
    "m7": (0, 3, 7, 10),
    "mmaj7": (0, 3, 7, 11),
    "dim7": (0, 3, 6, 9),
    "m7b5": (0, 3, 6, 10),
    "aug7": (0, 4, 8, 10),
    "7sus4": (0, 5, 7, 10),
    "add9": (0, 4, 7, 14),
    "madd9": (0, 3, 7, 14),
    "9": (0, 4, 7, 10, 14),
    "maj9": (0, 4, 7, 11, 14),
    "m9": (0, 3, 7, 10, 14),
}
# Other ways to write the same.
_ALIKE = {
    "maj": "", "M": "", "min": "m", "mi": "m", "-": "m", "°": "dim", "o": "dim", "+": "aug", "sus": "sus4",
    "M7": "maj7", "Δ": "maj7", "Δ7": "maj7", "min7": "m7", "-7": "m7", "mM7": "mmaj7", "m(maj7)": "mmaj7",
    "°7": "dim7", "o7": "dim7", "ø": "m7b5", "ø7": "m7b5", "m7♭5": "m7b5", "-7b5": "m7b5", "+7": "aug7",
    "M9": "maj9", "min9": "m9",
}  # fmt: skip
NUMERALS = ("I", "II", "III", "IV", "V", "VI", "VII")
NUMERAL_NOTES = len(NUMERALS)  # a scale that numerals count in has as many notes
# A small numeral says minor by itself; of what is written after it, these mean something else than after a letter.
_AFTER_SMALL = {
    "": "m", "6": "m6", "7": "m7", "maj7": "mmaj7", "M7": "mmaj7", "add9": "madd9", "9": "m9",
    "dim": "dim", "°": "dim", "o": "dim", "dim7": "dim7", "°7": "dim7", "o7": "dim7",
    "ø": "m7b5", "ø7": "m7b5", "7b5": "m7b5", "sus2": "sus2", "sus4": "sus4", "sus": "sus4", "7sus4": "7sus4", "5": "5",
}  # fmt: skip
_NUMERAL = re.compile(r"^([#♯b♭]*)(VII|VI|IV|V|III|II|I|vii|vi|iv|v|iii|ii|i)(.*)$")
_NAMED = re.compile(r"^([A-G][#♯b♭]?)(.*)$")


class Chord(NamedTuple):
    """*root*: semitones above C, 0-11; *tones*: semitones above the root, ascending from 0."""

    root: int
    tones: tuple[int, ...]

    @property
    def pitch_classes(self) -> tuple[int, ...]:
        """Its notes within an octave, in semitones above the root, ascending."""
        return tuple(sorted({tone % OCTAVE for tone in self.tones}))


def scale_chords(root: int, degrees: Sequence[int]) -> tuple[str, ...]:
    """Return the chords of three notes, every second one of the scale, that have a name: numerals, or names without.

    >>> scale_chords(4, (0, 1, 3, 5, 7, 8, 10))
    ('i', 'II', 'III', 'iv', 'vdim', 'VI', 'vii')
    """
    size = len(degrees)
    found = []
    for first in range(size):
        above = [degrees[(first + step) % size] + OCTAVE * ((first + step) // size) for step in (0, 2, 4)]
        tones = tuple(degree - above[0] for degree in above)
        chord = Chord((root + above[0]) % OCTAVE, tones)
        if tones in QUALITIES.values():
            found.append(numeral_of(chord, root, degrees) or chord_name(chord, root, degrees))
    return tuple(found)


def is_numeral(text: str) -> bool:
    """Return whether a chord is written as a numeral."""
    return _NUMERAL.match(text) is not None


def parse_chord(text: str, root: int, degrees: Sequence[int]) -> Chord:
    """Return the chord that *text* writes, a numeral counted in the scale on *root* with *degrees*.

    A letter or a capital numeral says major, a small numeral minor, what follows says otherwise: 7 is the dominant's
    seventh, maj7 the major one. Signs before a numeral raise or lower its note of the scale. Raises ValueError for what
    is no chord, and for a numeral in a scale that has not seven notes.

    >>> parse_chord("F♯m7", 0, ()), parse_chord("II", 4, (0, 1, 3, 5, 7, 8, 10))
    (Chord(root=6, tones=(0, 3, 7, 10)), Chord(root=5, tones=(0, 4, 7)))
    """
    if numeral := _NUMERAL.match(text):
        signs, said, after = numeral.groups()
        quality = _quality(after) if said.isupper() else _AFTER_SMALL.get(after)
        if quality is None:
            raise ValueError(f"no chord is called {text!r}: nothing is known as {after!r} after {said}")
        if len(degrees) != NUMERAL_NOTES:
            raise ValueError(
                f"{text!r} needs a scale of seven notes, this one has {len(degrees)}: name the chord"
            )
        raised = accidentals_of(signs) or 0
        note = root + degrees[NUMERALS.index(said.upper())] + raised
        return Chord(note % OCTAVE, QUALITIES[quality])
    if named := _NAMED.match(text):
        letter, after = named.groups()
        quality, note_of_letter = _quality(after), pitch_class_of(letter)
        if quality is not None and note_of_letter is not None:
            return Chord(note_of_letter, QUALITIES[quality])
    raise ValueError(f"no chord is called {text!r}: write a name as Dm7 or B♭sus4, or a numeral as iv or V7")


def _quality(after: str) -> str | None:
    plain = _ALIKE.get(after, after)
    return plain if plain in QUALITIES else None


def chord_name(chord: Chord, root: int, degrees: Sequence[int]) -> str:
    """Return the name of *chord* with its letter as the scale spells it.

    >>> chord_name(Chord(5, (0, 4, 7)), 4, (0, 1, 3, 5, 7, 8, 10))
    'F'
    """
    letter = pitch_names(root, tuple(degrees))[chord.root]
    return letter + next((said for said, tones in QUALITIES.items() if tones == chord.tones), "?")


def numeral_of(chord: Chord, root: int, degrees: Sequence[int]) -> str | None:
    """Return *chord* as a numeral in the scale; None where that has not seven notes, or there is no such numeral.

    >>> numeral_of(Chord(5, (0, 4, 7)), 4, (0, 1, 3, 5, 7, 8, 10))
    'II'
    """
    if len(degrees) != NUMERAL_NOTES:
        return None
    quality = next((said for said, tones in QUALITIES.items() if tones == chord.tones), None)
    if quality is None:
        return None
    for raised, sign in ((0, ""), (-1, "♭"), (1, "♯")):
        above = (chord.root - root - raised) % OCTAVE
        if above in degrees:
            said = NUMERALS[tuple(degrees).index(above)]
            minor = 3 in chord.tones
            small = next((after for after, meant in _AFTER_SMALL.items() if minor and meant == quality), None)
            return sign + (said + quality if small is None else said.lower() + small)
    return None
