"""Progressions to begin with, as numerals: they fit whatever scale of seven notes the piece is in."""

from typing import NamedTuple

from lattice.document.progression import PlacedChord, Progression
from lattice.document.step_value import StepValue
from lattice.document.timing import BarSpan, NoteSpan, Span

__all__ = ["PROGRESSIONS", "StarterProgression"]


class StarterProgression(NamedTuple):
    """*scales*: the kind of scale that it was made for, in words."""

    name: str
    explains: str
    scales: str
    progression: Progression


def _of(name: str, explains: str, scales: str, *rows: tuple[str, Span | int]) -> StarterProgression:
    chords = tuple(
        PlacedChord(chord=chord, lasts=BarSpan(bars=lasts) if isinstance(lasts, int) else lasts)
        for chord, lasts in rows
    )
    return StarterProgression(name, explains, scales, Progression(chords=chords, leading="nearest"))


def _notes(count: int, note: int, kind: str = "plain") -> Span:
    return NoteSpan(value=StepValue.model_validate({"note": note, "kind": kind, "multiplier": count}))


PROGRESSIONS: tuple[StarterProgression, ...] = (
    _of("Home and away", "two chords, two bars each: a place to stay", "minor", ("i", 2), ("VII", 2)),
    _of("Dorian lift", "the bright fourth against a minor home", "dorian", ("i", 2), ("IV", 2)),
    _of("Down the quay", "four steps down to the fifth", "minor", ("i", 1), ("VII", 1), ("VI", 1), ("v", 1)),
    _of("Harbour lights", "two bars of uneven chords, for seven eighths", "phrygian",
        ("i", _notes(7, 16)), ("II", _notes(2, 8)), ("vii", _notes(3, 16)),
        ("i", _notes(2, 8)), ("VI", _notes(5, 16)), ("II", _notes(5, 16))),
    _of("Slow tide", "four bars a chord, out and back", "minor", ("i", 4), ("VI", 4)),
    _of("Three and one", "the home chord long, the way back short", "minor", ("i", 3), ("v", 1)),
    _of("Open water", "major chords that never quite close", "mixolydian", ("I", 2), ("VII", 1), ("IV", 1)),
    _of("Four in the round", "the four-chord round of many songs", "major", ("I", 1), ("V", 1), ("vi", 1), ("IV", 1)),
    _of("Fifths falling", "each chord a fifth below the one before", "major",
        ("iii", 1), ("vi", 1), ("ii", 1), ("V", 1), ("I", 2)),
    _of("Lydian drift", "home and the major chord above it", "lydian", ("I", 2), ("II", 2)),
    _of("Under the bridge deck", "a half step above home, and back", "phrygian",
        ("i", 1), ("II", 1), ("i", 1), ("vii", 1)),
    _of("Sevenths at night", "soft four-note chords", "major", ("ii7", 1), ("V7", 1), ("Imaj7", 2)),
    _of("Twelve bars out", "twelve bars on the first, fourth and fifth", "mixolydian",
        ("I7", 4), ("IV7", 2), ("I7", 2), ("V7", 1), ("IV7", 1), ("I7", 2)),
    _of("Pedal and sigh", "suspended, then let go", "minor", ("isus4", 1), ("i", 1), ("ivsus2", 1), ("iv", 1)),
)  # fmt: skip
