"""Lengths in words: bars, note values, and by the clock where they are very long."""

from fractions import Fraction

from lattice.document.meter import Meter
from lattice.document.progression import Progression
from lattice.document.timing import BarSpan, Span
from lattice.sentence.step_value import say_step_value

__all__ = ["in_bars", "say_bars", "say_every", "say_progression", "say_span"]

_PARTS_OF_A_BAR = (1, 2, 4)
_TOO_FAR_BARS = 10_000


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


def say_bars(bars: Fraction, quarters_per_minute: Fraction, bar_quarters: Fraction) -> str:
    """Return a length in *bars* as a musician says it; very long ones by the clock.

    >>> say_bars(Fraction(231), Fraction(112), Fraction(4))
    '231 bars'
    >>> say_bars(Fraction(7, 2), Fraction(112), Fraction(4))
    '3 1/2 bars'
    >>> say_bars(Fraction(7, 16), Fraction(112), Fraction(4))
    '7/16 bar'
    >>> say_bars(Fraction(45045), Fraction(112), Fraction(4))
    'more than 10,000 bars: some 27 hours of playing'
    """
    if bars > _TOO_FAR_BARS:
        hours = bars * bar_quarters / quarters_per_minute / 60
        return f"more than {_TOO_FAR_BARS:,} bars: {_say_hours(hours)} of playing"
    return in_bars(bars)


def say_every(bars: Fraction, quarters_per_minute: Fraction, bar_quarters: Fraction) -> str:
    """Return how often something happens that repeats after *bars*.

    >>> say_every(Fraction(1), Fraction(112), Fraction(4)), say_every(Fraction(231), Fraction(112), Fraction(4))
    ('every bar', 'every 231 bars')
    """
    return "every bar" if bars == 1 else f"every {say_bars(bars, quarters_per_minute, bar_quarters)}"


def in_bars(bars: Fraction) -> str:
    """Return a length as whole bars and a part of one.

    >>> in_bars(Fraction(5, 2)), in_bars(Fraction(1))
    ('2 1/2 bars', '1 bar')
    """
    whole, part = divmod(bars, 1)
    words = [f"{int(whole):,}"] if whole else []
    if part:
        words.append(f"{part.numerator}/{part.denominator}")
    return f"{' '.join(words)} {'bars' if bars > 1 else 'bar'}"


def _say_hours(hours: Fraction) -> str:
    for unit, length in (("years", 24 * 365), ("days", 24)):
        if hours >= 2 * length:
            count = round(hours / length)
            return f"some {count:,} {unit}" if count < 10**6 else "millions of years"
    return f"some {round(hours)} hours"
