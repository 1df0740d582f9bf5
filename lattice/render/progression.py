"""A progression in time: which chord is when, and how each lies."""

from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property, lru_cache
from itertools import accumulate

import numpy as np

from lattice.document.progression import Progression
from lattice.document.scale import Scale
from lattice.theory.chords import Chord, parse_chord
from lattice.theory.voicing import led, voiced
from lattice.units import TICKS_PER_QUARTER, Ticks

__all__ = ["Chords", "chords_of"]

_SAFE = 1 << 62


@dataclass(frozen=True)
class Chords:
    """Chords that repeat for ever from the pattern's start. *lasts*: quarters, one for each of *chords*."""

    chords: tuple[Chord, ...]
    inversions: tuple[int, ...]
    lasts: tuple[Fraction, ...]
    is_led: bool

    @cached_property
    def total(self) -> Fraction:
        """Length of all of them in quarter notes."""
        return sum(self.lasts, Fraction(0))

    @cached_property
    def starts(self) -> tuple[Fraction, ...]:
        """When each begins in the first round, in quarter notes."""
        return tuple(accumulate(self.lasts[:-1], initial=Fraction(0)))

    def number_at(self, numerators: Ticks, denominator: int) -> Ticks:
        """Return the running number, from 0, of the chord at exact times.

        *numerators* / *denominator*: ticks, not before 0.
        """
        total = self.total * TICKS_PER_QUARTER
        starts = [start * TICKS_PER_QUARTER for start in self.starts]
        parts = int(np.lcm.reduce([one.denominator for one in (total, *starts)]))
        round_parts = int(total * parts) * denominator
        furthest = max(round_parts, int(numerators.max(initial=0)) * parts)
        # Beyond 64 bits: Python's own whole numbers.
        kind: type = object if furthest >= _SAFE else np.int64
        rounds, into = np.divmod(numerators.astype(kind) * parts, round_parts)
        bounds: Ticks = np.array([int(start * parts) * denominator for start in starts], kind)
        places = np.searchsorted(bounds, into, side="right") - 1
        result: Ticks = rounds.astype(np.int64) * len(self.chords) + places
        return result

    def start_of(self, number: int) -> Fraction:
        """Return when the chord of that running number begins, in quarter notes."""
        rounds, place = divmod(number, len(self.chords))
        return rounds * self.total + self.starts[place]

    def voicings(self, note: int) -> tuple[tuple[int, ...], ...]:
        """Return the pitches of each chord near *note*: as written, or each led from the one before."""
        return _voicings(self, note)


@lru_cache(maxsize=256)
def _voicings(chords: Chords, note: int) -> tuple[tuple[int, ...], ...]:
    found = [voiced(chords.chords[0], chords.inversions[0], note)]
    for chord, inversion in zip(chords.chords[1:], chords.inversions[1:], strict=True):
        if chords.is_led:
            found.append(led(chord, found[-1], inversion or None))
        else:
            found.append(voiced(chord, inversion, note))
    return tuple(found)


@lru_cache(maxsize=256)
def chords_of(
    progression: Progression, scale: Scale, bar_quarters: Fraction, rate: Fraction = Fraction(1)
) -> Chords:
    """Return *progression* read in *scale*, where a bar lasts *bar_quarters*, *rate* times as fast.

    Raises ValueError as `parse_chord` does.
    """
    rows = progression.chords
    return Chords(
        chords=tuple(parse_chord(one.chord, scale.root, scale.semitones) for one in rows),
        inversions=tuple(one.inversion for one in rows),
        lasts=tuple(one.lasts.quarters(bar_quarters) / rate for one in rows),
        is_led=progression.leading == "nearest",
    )
