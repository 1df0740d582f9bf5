"""The key signature that a scale is written with."""

from collections.abc import Sequence

from lattice.theory.scales import OCTAVE, SCALES

__all__ = ["signature_of"]

_MAJOR = ("C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B")
_MINOR = ("Cm", "C#m", "Dm", "Ebm", "Em", "Fm", "F#m", "Gm", "G#m", "Am", "Bbm", "Bm")


def signature_of(root: int, degrees: Sequence[int]) -> str | None:
    """Return the name of the major or minor key with the notes of a scale, as MIDI files say it; None if none has them.

    A mode is written with the signature of the major key that has its notes; harmonic and melodic minor with that of
    their minor key.

    >>> signature_of(2, SCALES["dorian"]), signature_of(9, SCALES["harmonic-minor"]), signature_of(0, SCALES["blues"])
    ('C', 'Am', None)
    """
    own = tuple(degrees)
    if own in (SCALES["minor"], SCALES["harmonic-minor"], SCALES["melodic-minor"]):
        return _MINOR[root]
    notes = {(root + degree) % OCTAVE for degree in own}
    for key in range(OCTAVE):
        if notes == {(key + degree) % OCTAVE for degree in SCALES["major"]}:
            return _MAJOR[key]
    return None
