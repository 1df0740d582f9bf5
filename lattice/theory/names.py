"""How notes are called: letters with sharps or flats, as the scale spells them."""

from collections.abc import Sequence
from functools import lru_cache

from lattice.theory.scales import OCTAVE

__all__ = ["LETTERS", "accidentals_of", "note_name", "pitch_class_of", "pitch_names"]

LETTERS = "CDEFGAB"
_NATURAL = dict(zip(LETTERS, (0, 2, 4, 5, 7, 9, 11), strict=True))
_SHARPS = ("C", "C♯", "D", "D♯", "E", "F", "F♯", "G", "G♯", "A", "A♯", "B")
_FLATS = ("C", "D♭", "D", "E♭", "E", "F", "G♭", "G", "A♭", "A", "B♭", "B")
_SIGNS = {"#": 1, "♯": 1, "b": -1, "♭": -1}


def accidentals_of(signs: str) -> int | None:
    """Return by how many semitones *signs* raise a note (negative: lower); None if there are other signs among them."""
    return sum(_SIGNS[sign] for sign in signs) if all(sign in _SIGNS for sign in signs) else None


def pitch_class_of(name: str) -> int | None:
    """Return the semitones above C, 0-11, of a note without octave; None if *name* is none.

    >>> pitch_class_of("E♭"), pitch_class_of("c#"), pitch_class_of("H")
    (3, 1, None)
    """
    raised = accidentals_of(name[1:])
    if not name or name[0].upper() not in _NATURAL or raised is None or len(name) > 3:
        return None
    return (_NATURAL[name[0].upper()] + raised) % OCTAVE


def note_name(pitch: int, root: int = 0, degrees: Sequence[int] = ()) -> str:
    """Return a MIDI note as the scale on *root* spells it, with its octave; middle C (60) is C4.

    >>> note_name(63), note_name(63, 10, (0, 2, 4, 5, 7, 9, 11))
    ('D♯4', 'E♭4')
    """
    name = pitch_names(root, tuple(degrees))[pitch % OCTAVE]
    octave = pitch // OCTAVE - 1
    # The octave number goes with the letter: B♯ below and C♭ above belong to the octave of theirs.
    natural = _NATURAL[name[0]]
    octave += (natural - pitch % OCTAVE > OCTAVE // 2) * -1 + (pitch % OCTAVE - natural > OCTAVE // 2) * 1
    return f"{name}{octave}"


@lru_cache(maxsize=512)
def pitch_names(root: int, degrees: tuple[int, ...] = ()) -> tuple[str, ...]:
    """Return how the scale on *root* spells all twelve notes from C on.

    A scale of seven notes takes one letter for each, by whichever name of its root needs fewer signs; all other notes,
    and scales of other sizes, take sharps or flats as the major scale of that root does, or the minor one where the
    third is minor.

    >>> " ".join(pitch_names(4, (0, 1, 3, 5, 7, 8, 10))[pitch % 12] for pitch in (4, 5, 7, 9, 11, 12, 14))
    'E F G A B C D'
    """
    reference = _MINOR if 3 in degrees and 4 not in degrees else _MAJOR
    wanted = degrees if len(degrees) == len(LETTERS) else reference
    spellings = [spelt for letter in LETTERS if (spelt := _spelt(letter, root, wanted))]
    if not spellings:  # a scale that crowds more than its letters reach
        return pitch_names(root, reference)
    best = min(
        spellings, key=lambda spelt: (sum(len(name) - 1 for name in spelt.values()), "♭" in spelt[root])
    )
    plain = _FLATS if any("♭" in name for name in best.values()) else _SHARPS
    return tuple(
        best.get(pitch, plain[pitch]) if wanted == degrees else plain[pitch] for pitch in range(OCTAVE)
    )


_MAJOR, _MINOR = (0, 2, 4, 5, 7, 9, 11), (0, 2, 3, 5, 7, 8, 10)


def _spelt(letter: str, root: int, degrees: tuple[int, ...]) -> dict[int, str] | None:
    """Return the names of the scale's notes by pitch class, one letter each from *letter* on; None if it can't be."""
    begin = LETTERS.index(letter)
    names = {}
    for place, step in enumerate(degrees):
        one = LETTERS[(begin + place) % len(LETTERS)]
        raised = (root + step - _NATURAL[one] + OCTAVE // 2) % OCTAVE - OCTAVE // 2
        if abs(raised) > 2 or (place == 0 and abs(raised) > 1):
            return None
        names[(root + step) % OCTAVE] = one + ("♯" * raised if raised > 0 else "♭" * -raised)
    return names
