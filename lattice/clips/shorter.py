"""What a single line of notes is in fewer words: a rule, a cycle that comes again."""

from collections.abc import Hashable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

from lattice.document.source import MAX_STEPS, Drawn, Euclidean
from lattice.document.timing import PassRestart
from lattice.steps.euclidean import euclidean

__all__ = ["Line", "Shorter", "once_round", "shorter"]

_LEAST_ROUNDS = 3  # of a cycle that the end cuts off


@dataclass(frozen=True)
class Line:
    """What one lane plays in *count* steps. *hits*: step numbers; *rows*: what each hit has, by its step.

    *restarts*: whether it has to begin again with each pass of the pattern, as the end cuts a step or a cycle off.
    """

    count: int
    hits: tuple[int, ...]
    rows: dict[str, dict[int, int]]
    restarts: bool = False

    def within(self, first: int, end: int) -> "Line":
        """Return the steps from *first* to before *end*."""
        rows = {
            name: {step - first: value for step, value in row.items() if first <= step < end}
            for name, row in self.rows.items()
        }
        hits = tuple(hit - first for hit in self.hits if first <= hit < end)
        return Line(end - first, hits, rows, self.restarts)


class Shorter(NamedTuple):
    """A cycle of *steps* that plays the same hits: in words, and as *fields* of its lane."""

    says: str
    steps: int
    fields: dict[str, Any]


def once_round(line: Line) -> Line | None:
    """Return one cycle of a line that plays the same again and again, all that its hits have included.

    None where no cycle is short enough for a lane.
    """
    played = {hit: tuple(row.get(hit) for row in line.rows.values()) for hit in line.hits}
    for period in range(1, min(MAX_STEPS, line.count // 2) + 1):
        if _comes_again(played, line.count, period):
            cycle = line.within(0, period)
            return Line(period, cycle.hits, cycle.rows, line.restarts or line.count % period != 0)
    return None


def shorter(line: Line, steps_a_bar: int) -> Shorter | None:
    """Return what the hits of *line* are in fewer words; None where only drawing does.

    In more than a bar a cycle may be cut off by the end; it then begins again with each pass.
    """
    hits = dict.fromkeys(line.hits)
    parts = [period for period in range(1, line.count) if line.count % period == 0]
    whole = next((period for period in parts if _comes_again(hits, line.count, period)), line.count)
    if line.count > steps_a_bar:
        for period in range(1, min(whole, line.count // _LEAST_ROUNDS + 1)):
            if line.count % period and _comes_again(hits, line.count, period):
                says, fields = _rule(line.hits, period) or _drawn(line.hits, period)
                fields["restart"] = PassRestart()
                return Shorter(f"{says}, beginning again with each pass", period, fields)
    found = _rule(line.hits, whole) or (_drawn(line.hits, whole) if whole < line.count else None)
    return Shorter(found[0], whole, found[1]) if found else None


def _comes_again(played: Mapping[int, Hashable], count: int, period: int) -> bool:
    """Return whether all that is *played*, by step, in *count* steps is the same each *period* steps.

    >>> _comes_again({0: None, 3: None, 8: None, 11: None}, 16, 8), _comes_again({0: None, 7: None}, 16, 7)
    (True, False)
    """
    nothing = object()
    return all(
        played.get(step, nothing) == played.get(step + period, nothing) for step in range(count - period)
    )


def _rule(hits: Sequence[int], period: int) -> tuple[str, dict[str, Any]] | None:
    """Return what *hits* are by rule in a cycle of *period* steps, in words and as fields of a lane.

    >>> _rule((1, 3, 6), 8)[0]
    '3 in 8, rotated 3'
    """
    first = tuple(hit for hit in hits if hit < period)
    spread = euclidean(len(first), period)
    for rotate in range(period):
        if tuple(sorted((hit + rotate) % period for hit in spread)) == first:
            says = f"{len(first)} in {period}" + (f", rotated {rotate}" if rotate else "")
            says = "a hit on every step" if len(first) == period == 1 else says
            return says, {"source": Euclidean(hits=len(first), steps=period), "rotate": rotate}
    return None


def _drawn(hits: Sequence[int], period: int) -> tuple[str, dict[str, Any]]:
    first = tuple(hit for hit in hits if hit < period)
    return f"{period} steps that repeat", {"source": Drawn(steps=period, hits=first)}
