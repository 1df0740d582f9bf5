"""How long a chord of a progression may be made: what pulling its end offers."""

from fractions import Fraction

from pydantic import BaseModel

from lattice.document.meter import Meter
from lattice.document.step_value import StepValue
from lattice.document.timing import MAX_SPAN_BARS, BarSpan, NoteSpan, Span
from lattice.sentence.lengths import say_span
from lattice.units import ticks

__all__ = ["ChordLength", "chord_lengths"]

_MOST_NOTES = 16
_SHORTEST_NOTE = 64


class ChordLength(BaseModel):
    """A length in *ticks*, what the document says for it, and its words. *is_fine*: whether it ends between beats."""

    ticks: int
    lasts: Span
    says: str
    is_fine: bool


def chord_lengths(meter: Meter) -> list[ChordLength]:
    """Return the lengths that a chord may have in *meter*, from short to long.

    Whole bars are bars; others so many notes of the meter's beat, or of half of it where that is fine.

    >>> [one.says for one in chord_lengths(Meter()) if not one.is_fine][:5]
    ['1/4', '2/4', '3/4', '1 bar', '5/4']
    """
    found: dict[Fraction, ChordLength] = {}

    def add(span: Span, *, is_fine: bool = False) -> None:
        quarters = span.quarters(meter.bar_quarters)
        length = ChordLength(ticks=ticks(quarters), lasts=span, says=say_span(span), is_fine=is_fine)
        found.setdefault(quarters, length)

    for bars in range(1, MAX_SPAN_BARS + 1):
        add(BarSpan(bars=bars))
    for note in (meter.denominator, 2 * meter.denominator):
        for count in range(1, _MOST_NOTES + 1):
            if note <= _SHORTEST_NOTE:
                value = StepValue.model_validate({"note": note, "multiplier": count})
                add(NoteSpan(value=value), is_fine=note != meter.denominator)
    return [found[quarters] for quarters in sorted(found)]
