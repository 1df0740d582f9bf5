"""When lanes begin a cycle together again."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import reduce
from math import gcd, lcm
from typing import Self

from lattice.steps.step_clock import StepClock

__all__ = ["CannotTellError", "Moments", "cycle_starts", "meeting"]

MAX_MOMENTS = 100_000


class CannotTellError(ValueError):
    """There are too many moments to compare."""


@dataclass(frozen=True)
class Moments:
    """Moments that repeat for ever: each of *at*, and again *every* so many quarters.

    *at*: quarters, ascending, from 0 to less than *every*; empty for no moment at all.
    """

    every: Fraction
    at: tuple[Fraction, ...] = (Fraction(0),)

    def next_after(self, time: Fraction) -> Fraction | None:
        """Return the first moment later than *time*; None if there is none.

        >>> Moments(Fraction(4), (Fraction(0), Fraction(3))).next_after(Fraction(3))
        Fraction(4, 1)
        """
        if not self.at:
            return None
        rounds, into = divmod(time, self.every)
        here = next((moment for moment in self.at if moment > into), None)
        return rounds * self.every + (self.every + self.at[0] if here is None else here)

    def within(self, first: Fraction, end: Fraction) -> Iterable[Fraction]:
        """Yield the moments from *first* up to *end*, ascending."""
        for rounds in range(int(first // self.every), -int(-end // self.every)):
            yield from (time for moment in self.at if first <= (time := rounds * self.every + moment) < end)

    def met(self, other: Self) -> Self:
        """Return the moments of both: by the Chinese remainder theorem, in whole numbers.

        Raises CannotTellError where more than MAX_MOMENTS would have to be compared.
        """
        unit = lcm(*(time.denominator for time in (self.every, other.every, *self.at, *other.at)))
        mine, theirs = int(self.every * unit), int(other.every * unit)
        common = gcd(mine, theirs)
        alike: dict[int, list[int]] = {}
        for moment in other.at:
            alike.setdefault(int(moment * unit) % common, []).append(int(moment * unit))
        rounds = theirs // common
        inverse = pow(mine // common, -1, rounds)
        found = []
        for moment in self.at:
            here = int(moment * unit)
            for there in alike.get(here % common, ()):
                found.append(here + mine * ((there - here) // common * inverse % rounds))
            if len(found) > MAX_MOMENTS:
                raise CannotTellError("there are too many beginnings to compare")
        return type(self)(
            Fraction(mine * rounds, unit), tuple(Fraction(moment, unit) for moment in sorted(found))
        )


def cycle_starts(clock: StepClock) -> Moments:
    """Return when cycles of *clock* begin. Raises CannotTellError where there are too many between two restarts."""
    cycle, cycles = clock.cycle_quarters, clock.cycles_per_run
    if clock.period is None or cycles is None:
        return Moments(cycle)
    if not clock.once and (clock.period / cycle).denominator == 1:
        return Moments(cycle)  # it would have begun again anyway
    if cycles > MAX_MOMENTS:
        raise CannotTellError("there are too many beginnings to compare")
    return Moments(clock.period, tuple(clock.offset + number * cycle for number in range(cycles)))


def meeting(starts: Sequence[Moments]) -> Moments:
    """Return the moments at which all of *starts* fall together; none if they never do.

    Exact, however far apart: for cycles that run free, the least common multiple of their lengths.
    Raises ValueError if there is nothing to meet; CannotTellError where there is too much to compare.

    >>> meeting([Moments(Fraction(7, 4)), Moments(Fraction(4))]).every
    Fraction(28, 1)
    """
    if not starts or any(moments.every <= 0 for moments in starts):
        raise ValueError(f"need at least one cycle longer than 0, got {starts=}")
    # The free ones first: each of them has one moment, so that few are left to compare.
    return reduce(Moments.met, sorted(starts, key=lambda moments: len(moments.at)))
