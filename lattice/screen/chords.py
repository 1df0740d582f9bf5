"""The chords of a progression as they are drawn above the lanes."""

from fractions import Fraction

import numpy as np

from lattice.document.piece import Score
from lattice.document.progression import MAX_INVERSION
from lattice.render.progression import chords_of
from lattice.screen.pictures import ChordPicture
from lattice.sentence.lengths import say_span
from lattice.sentence.words import ordinal
from lattice.theory.chords import Chord, chord_name, numeral_of
from lattice.theory.names import pitch_names
from lattice.theory.scales import OCTAVE, scale_steps
from lattice.units import TICKS_PER_QUARTER, ticks

__all__ = ["chord_pictures"]

_LOW = 4 * OCTAVE  # where chords are moved: far from the ends of MIDI


def chord_pictures(score: Score, first_tick: int, end_tick: int) -> list[ChordPicture]:
    """Return the chords of which some part lies from *first_tick* to before *end_tick*.

    Where all that is melodic is higher, they are named as they are heard then; what is written stays as it is.
    """
    if score.progression is None:
        return []
    scale = score.scale.root, score.scale.semitones
    chords = chords_of(score.progression, score.scale, score.meter.bar_quarters, score.rate)
    names = pitch_names(*scale)
    found = []
    number = int(chords.number_at(np.array([first_tick]), 1)[0])
    while chords.start_of(number) < Fraction(end_tick, TICKS_PER_QUARTER):
        place = number % len(chords.chords)
        chord = _as_heard(chords.chords[place], score)
        found.append(
            ChordPicture.model_construct(
                place=place,
                start=ticks(chords.start_of(number)),
                end=ticks(chords.start_of(number + 1)),
                written=score.progression.chords[place].chord,
                name=chord_name(chord, *scale),
                numeral=numeral_of(chord, *scale) or "",
                lasts=say_span(score.progression.chords[place].lasts),
                notes=" ".join(names[(chord.root + tone) % OCTAVE] for tone in chord.tones),
                inversions=_inversions(chord),
            )
        )
        number += 1
    return found


def _inversions(chord: Chord) -> list[str]:
    """Return the positions of a chord in words: as many as it has notes, as far as a document can say them."""
    higher = range(1, min(len(chord.tones), MAX_INVERSION + 1))
    return ["root position", *(f"{place}{ordinal(place)} inversion" for place in higher)]


def _as_heard(chord: Chord, score: Score) -> Chord:
    """Return *chord* with each of its notes higher by the score's degrees, in its scale, and then by its semitones."""
    if not (score.degrees_up or score.semitones_up):
        return chord
    notes = _LOW + chord.root + np.array(chord.tones)
    higher = scale_steps(
        notes, np.full(notes.size, score.degrees_up), score.scale.root, score.scale.semitones
    )
    tones = tuple(int(note - higher[0]) for note in higher)
    return Chord(int(higher[0] + score.semitones_up) % OCTAVE, tones)
