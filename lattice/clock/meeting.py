"""When lanes begin a cycle together again."""

from collections.abc import Sequence
from fractions import Fraction
from math import gcd, lcm

__all__ = ["meeting", "say_bars"]

TOO_FAR_BARS = 10_000


def meeting(cycles: Sequence[Fraction]) -> Fraction:
    """Return when cycles that start together next start together again.

    *cycles*: length of each cycle in quarter notes, all > 0. Result in quarter notes.
    Raises ValueError if there is no cycle, or one is not longer than nothing.
    Source: least common multiple of fractions, lcm(numerators) / gcd(denominators) in lowest terms.

    >>> meeting([Fraction(7, 4), Fraction(4)])
    Fraction(28, 1)
    """
    if not cycles or min(cycles) <= 0:
        raise ValueError(f"need at least one cycle longer than 0, got {cycles=}")
    return Fraction(lcm(*(c.numerator for c in cycles)), gcd(*(c.denominator for c in cycles)))


def say_bars(bars: Fraction, quarters_per_minute: Fraction, bar_quarters: Fraction) -> str:
    """Return a length in *bars* as a musician says it; very long ones by the clock.

    >>> say_bars(Fraction(231), Fraction(112), Fraction(4))
    '231 bars'
    >>> say_bars(Fraction(7, 2), Fraction(112), Fraction(4))
    '3 1/2 bars'
    >>> say_bars(Fraction(7, 16), Fraction(112), Fraction(4))
    '7/16 bar'
    >>> say_bars(Fraction(45045), Fraction(112), Fraction(4))
    '45,045 bars, some 27 hours'
    """
    whole, part = divmod(bars, 1)
    words = [f"{int(whole):,}"] if whole else []
    if part:
        words.append(f"{part.numerator}/{part.denominator}")
    said = f"{' '.join(words)} {'bars' if bars > 1 else 'bar'}"
    if bars <= TOO_FAR_BARS:
        return said
    hours = bars * bar_quarters / quarters_per_minute / 60
    if hours < 48:
        return f"{said}, some {round(hours)} hours"
    if hours < 24 * 365:
        return f"{said}, some {round(hours / 24)} days"
    return f"more than {TOO_FAR_BARS:,} bars: years of playing"
