"""A lane that fills a span: its steps spread evenly, exactly, over bars or a note value."""

import pytest

from lattice.document import BarSpan, DocumentError, Euclidean, Lane, Meter, NoteSpan, StepValue, read
from lattice.render import Window, render
from tests.lattice.scores import lane, score

SEVEN = Euclidean(hits=7, steps=7)


@pytest.mark.parametrize(
    ("span", "meter", "ticks"),
    [
        (BarSpan(bars=1), Meter(), 4 * 13440),
        (BarSpan(bars=3), Meter(numerator=7, denominator=8), 3 * 47040),
        (NoteSpan(value=StepValue(note=2)), Meter(), 2 * 13440),
        (NoteSpan(value=StepValue(note=4, kind="dotted", multiplier=3)), Meter(), 3 * 20160),
    ],
)
def test_the_cycle_fills_the_span_again_and_again(span, meter, ticks):
    starts = render(score(lane(source=SEVEN, span=span), meter=meter), 1, Window(first_bar=0, bars=12)).starts
    exact = [
        (2 * number * ticks + 7) // 14 for number in range(len(starts))
    ]  # half up, from the absolute value
    assert starts.tolist() == exact


def test_a_span_of_bars_follows_the_meter():
    filled = lane(source=SEVEN, span=BarSpan())
    for numerator in (3, 4, 5):
        assert len(render(score(filled, meter=Meter(numerator=numerator)), 1, Window(bars=2))) == 14


def test_a_span_beside_a_step_value_is_refused():
    both = lane(source=SEVEN).model_dump(mode="json") | {
        "span": {"kind": "bars", "bars": 1},
        "step_value": {"note": 8},
    }
    with pytest.raises(DocumentError, match="has no step value of its own"):
        read(Lane, both)
