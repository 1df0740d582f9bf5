"""Lengths of chords in words: bars, or note values."""

from fractions import Fraction

from lattice.document.meter import Meter
from lattice.document.progression import Progression
from lattice.document.timing import BarSpan, Span
from lattice.sentence.step_value import say_step_value
from lattice.steps.meeting import in_bars

__all__ = ["say_progression", "say_span"]

_PARTS_OF_A_BAR = (1, 2, 4)


def say_span(span: Span) -> str:
    """Return a span as musicians say it.

    >>> from lattice.document.step_value import StepValue
    >>> from lattice.document.timing import NoteSpan
    >>> say_span(BarSpan(bars=2)), say_span(NoteSpan(value=StepValue(note=8, multiplier=3)))
    ('2 bars', '3/8')
    """
    if isinstance(span, BarSpan):
        return in_bars(Fraction(span.bars))
    value = span.value
    if value.kind == "plain" and value.divisor == 1:
        return f"{value.multiplier}/{value.note}"
    return say_step_value(value)


def say_progression(progression: Progression | None, meter: Meter) -> str:
    """Return how many chords there are and over how long; '' where there are none.

    >>> from lattice.document.progression import PlacedChord
    >>> say_progression(Progression(chords=(PlacedChord(chord="Dm"), PlacedChord(chord="G"))), Meter())
    '2 chords over 2 bars'
    """
    if progression is None:
        return ""
    count = len(progression.chords)
    quarters = sum((one.lasts.quarters(meter.bar_quarters) for one in progression.chords), Fraction(0))
    bars, beats = quarters / meter.bar_quarters, quarters / meter.beat_quarters
    is_beats = bars.denominator not in _PARTS_OF_A_BAR and beats.denominator == 1
    over = f"{beats}/{meter.denominator}" if is_beats else in_bars(bars)
    return f"{count} {'chord' if count == 1 else 'chords'} over {over}"
