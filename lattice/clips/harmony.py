"""Guessing the scale and the chords of notes, and how sure that is."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp

import numpy as np
from numpy.typing import NDArray

from lattice.document.progression import PlacedChord, Progression
from lattice.document.scale import Scale
from lattice.document.timing import BarSpan
from lattice.theory.chords import QUALITIES, Chord, chord_name, numeral_of
from lattice.theory.scales import OCTAVE, SCALES, ScaleName

__all__ = ["Guess", "Heard", "guess"]

# The scales that are thought of; of those with the same notes, the plainer name.
_THOUGHT_OF: tuple[ScaleName, ...] = (
    "major", "minor", "dorian", "phrygian", "lydian", "mixolydian", "harmonic-minor", "melodic-minor", "locrian",
    "major-pentatonic", "minor-pentatonic", "blues", "whole-tone", "diminished-half-whole",
)  # fmt: skip
_CHORDS = ("", "m", "7", "maj7", "m7", "dim", "sus4", "5")
# How much it counts that notes lie in the scale, and that the tune rests on its root; each note more is a little worse.
_ON_ROOT, _ON_FIFTH, _LAST, _LOWEST, _SIZE, _UNHEARD = 0.3, 0.1, 0.08, 0.08, 0.012, 0.03
_SHARPNESS = 22  # how fast belief falls with the score
_OUTSIDE, _TONES, _BASS = 0.7, 0.03, 0.15


@dataclass(frozen=True)
class Heard:
    """A note: *start* and *length* in ticks, MIDI *pitch*."""

    start: int
    length: int
    pitch: int


@dataclass(frozen=True)
class Guess:
    """*scale*, *progression* (a chord a bar; None where none was heard) and how sure each is, in %."""

    scale: Scale
    scale_sure: int
    progression: Progression | None
    chords_sure: int


def guess(notes: Sequence[Heard], bar_ticks: int, known: Scale | None = None) -> Guess | None:
    """Return what scale and chords *notes* are likely in; None of no notes. *known*: the scale, where that is sure.

    A scale is scored by the share of the notes' time that lies in it and that rests on its root and fifth, by the last
    and the lowest note, and by how few notes it needs; how sure: its share of e to the scores of all that were thought
    of. A bar's chord is the one of which most time sounds in it and least beside it; how sure: the share that does.
    """
    if not notes:
        return None
    if known:
        return Guess(known, 100, *_progression(notes, bar_ticks, known))
    weights = _weights(notes)
    last = max(notes, key=lambda note: (note.start + note.length, -note.pitch)).pitch % OCTAVE
    lowest = min(note.pitch for note in notes) % OCTAVE
    scored = [
        (_score(weights, last, lowest, root, SCALES[name]), -place, root, name)
        for place, name in enumerate(_THOUGHT_OF)
        for root in range(OCTAVE)
    ]
    best = max(scored)
    total = sum(exp(_SHARPNESS * (score - best[0])) for score, *_ in scored)
    scale = Scale(root=best[2], name=best[3])
    progression, sure = _progression(notes, bar_ticks, scale)
    return Guess(scale, round(100 / total), progression, sure)


def _weights(notes: Sequence[Heard]) -> NDArray[np.float64]:
    """Return the share of all sounding time that each pitch class has."""
    weights = np.zeros(OCTAVE)
    for note in notes:
        weights[note.pitch % OCTAVE] += note.length
    share: NDArray[np.float64] = weights / weights.sum()
    return share


def _score(
    weights: NDArray[np.float64],
    last: int,
    lowest: int,
    root: int,
    degrees: Sequence[int],
) -> float:
    own = [(root + degree) % OCTAVE for degree in degrees]
    inside = float(weights[own].sum())
    rests = _ON_ROOT * weights[root] + _ON_FIFTH * weights[(root + 7) % OCTAVE] * (7 in degrees)
    ends = _LAST * (last == root) + _LOWEST * (lowest == root)
    unheard = _UNHEARD * sum(weights[pitch] == 0 for pitch in own)
    return float(inside + rests + ends - _SIZE * len(own) - unheard)


def _progression(notes: Sequence[Heard], bar_ticks: int, scale: Scale) -> tuple[Progression | None, int]:
    bars = -(-max(note.start + 1 for note in notes) // bar_ticks)
    found: list[tuple[Chord, int]] = []
    shares = []
    for bar in range(min(bars, 64)):
        first, end = bar * bar_ticks, (bar + 1) * bar_ticks
        here = [
            Heard(
                max(note.start, first),
                min(note.start + note.length, end) - max(note.start, first),
                note.pitch,
            )
            for note in notes
            if note.start < end and note.start + note.length > first
        ]
        if here:
            chord, share = _chord(here)
            shares.append(share)
        elif found:
            chord = found[-1][0]
        else:
            continue
        if found and found[-1][0] == chord and found[-1][1] < 16:
            found[-1] = (chord, found[-1][1] + 1)
        else:
            found.append((chord, 1))
    if not found:
        return None, 0
    chords = tuple(
        PlacedChord(
            chord=numeral_of(chord, scale.root, scale.semitones)
            or chord_name(chord, scale.root, scale.semitones),
            lasts=BarSpan(bars=lasts),
        )
        for chord, lasts in found
    )
    return Progression(chords=chords), round(100 * sum(shares) / len(shares))


def _chord(notes: Sequence[Heard]) -> tuple[Chord, float]:
    weights = _weights(notes)
    bass = min(notes, key=lambda note: (note.pitch, note.start)).pitch % OCTAVE

    def score(chord: Chord) -> float:
        inside = float(weights[[(chord.root + tone) % OCTAVE for tone in chord.tones]].sum())
        return inside - _OUTSIDE * (1 - inside) - _TONES * len(chord.tones) + _BASS * (bass == chord.root)

    best = max((Chord(root, QUALITIES[quality]) for quality in _CHORDS for root in range(OCTAVE)), key=score)
    return best, float(weights[[(best.root + tone) % OCTAVE for tone in best.tones]].sum())
