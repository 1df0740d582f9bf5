"""How a lane's steps run through time, in words. A lane made from another has no clock of its own to speak of."""

from fractions import Fraction
from typing import Any

from lattice.document.step_value import NOTES, StepValue
from lattice.document.timing import (
    DIRECTIONS,
    MAX_BARS_OF_A_PATTERN,
    MAX_OFFSET_NOTES,
    MAX_SPAN_BARS,
    BarRestart,
    BarSpan,
    Direction,
    NoteSpan,
    Once,
    PassRestart,
    StepRange,
)
from lattice.sentence.lane_step import STEP_VALUE, own_or
from lattice.sentence.setting import Setting, Speech, offered
from lattice.sentence.step_value import note_choices, note_value_words
from lattice.sentence.words import Choice, Offer, Patch, Word, choice, choices, number, text

__all__ = ["CLOCK", "DIRECTIONS_SAID"]

DIRECTIONS_SAID: dict[Direction, str] = {
    "forward": "forward",
    "backward": "backward",
    "to-and-fro": "to and fro",
    "to-and-fro-twice": "to and fro, ends twice",
    "shuffled": "shuffled",
    "random": "random",
    "wander": "wandering",
}


def _offer_own(text: str, explains: str, patch: Patch, field: str) -> Any:
    return offered(
        text,
        explains,
        patch,
        lambda speech: speech.is_made or getattr(speech.lane, field) not in (None, "forward"),
    )


# ---- Spans ----

_BAR_SPAN = BarSpan()
_HALF_NOTE = NoteSpan(value=StepValue(note=2))


def _say_span(speech: Speech) -> list[Word]:
    over = [choice("over", "timing"), text(" ")]
    match speech.lane.span:
        case BarSpan(bars=bars):
            return [
                *over,
                number("bars", "span.bars", bars, 1, MAX_SPAN_BARS),
                text(" bar" if bars == 1 else " bars"),
            ]
        case NoteSpan(value=value):
            return [*over, *note_value_words(value, "span.value")]
        case _:
            return []


def _span_choices(speech: Speech) -> list[Choice]:
    span = speech.lane.span
    spans = {"step": None, "bars": _BAR_SPAN.model_dump(), "note": _HALF_NOTE.model_dump()}
    said = {"step": "keeps its step", "bars": "over 1 bar", "note": "over 1/2"}
    return choices(
        list(said.items()),
        span.kind if span else "step",
        # A span decides how long a step lasts: a step value of the lane's own would contradict it.
        lambda key: {"span": spans[key], "step_value": None},
    )


def _span_note_choices(speech: Speech) -> list[Choice]:
    if not isinstance(speech.lane.span, NoteSpan):
        return []
    return note_choices(speech.lane.span.value, lambda other: {"span": NoteSpan(value=other).model_dump()})


def _offer_spans(speech: Speech) -> list[Offer]:
    if speech.lane.span or speech.is_made:
        return []
    spans = (("over 1 bar", _BAR_SPAN), ("over 1/2", _HALF_NOTE))
    return [
        Offer(setting=said, text=said, explains=_SPAN, patch={"span": span.model_dump(), "step_value": None})
        for said, span in spans
    ]


# ---- Once ----


def _say_once(speech: Speech) -> list[Word]:
    once = speech.lane.once
    if once is None:
        return []
    words = [choice("once", "loops or once")]
    if once == Once(note=once.note):
        return words
    bar, whole = speech.frame.meter.bar_quarters, speech.frame.pass_quarters
    beat = Fraction(4, once.note)
    words.append(text(", from "))
    if once.bars:
        most = -((once.count * beat - whole) // bar) - 1
        words += [
            number("bars later", "once.bars", once.bars, 0, most),
            text(" bar" if once.bars == 1 else " bars"),
        ]
    if once.bars and once.count:
        words.append(text(" + "))
    if once.count:
        most = min(MAX_OFFSET_NOTES, -((once.bars * bar - whole) // beat) - 1)
        words += [
            number("notes later", "once.count", once.count, 0, most),
            text("/"),
            choice(str(once.note), "note of the offset"),
        ]
    return words


def _once_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("loops", "loops"), ("once", "once in each pass of the pattern")],
        "once" if speech.lane.once else "loops",
        lambda key: {"once": Once().model_dump() if key == "once" else None},
    )


def _offset_choices(speech: Speech) -> list[Choice]:
    once = speech.lane.once
    if once is None:
        return []
    bar, whole = speech.frame.meter.bar_quarters, speech.frame.pass_quarters
    fitting = [note for note in NOTES if once.model_copy(update={"note": note}).offset_quarters(bar) < whole]
    return choices(
        [(str(note), f"1/{note}") for note in fitting],
        str(once.note),
        lambda key: {"once": once.model_dump() | {"note": int(key)}},
    )


def _offer_once(speech: Speech) -> list[Offer]:
    once = speech.lane.once
    if speech.is_made:
        return []

    def offer(text: str, explains: str, value: Once) -> Offer:
        return Offer(setting=text, text=text, explains=explains, patch={"once": value.model_dump()})

    if once is None:
        return [offer("once", _ONCE, Once())]
    offers = []
    if not once.count and speech.frame.pass_quarters - once.bars * speech.frame.meter.bar_quarters > 1:
        offers.append(
            offer(
                "from 1/4", "It begins so many notes later.", once.model_copy(update={"count": 1, "note": 4})
            )
        )
    if not once.bars and speech.frame.bars > 1 and not once.count:
        offers.append(
            offer("from 1 bar", "It begins so many bars later.", once.model_copy(update={"bars": 1}))
        )
    return offers


# ---- Step range, direction, restart ----


def _say_range(speech: Speech) -> list[Word]:
    chosen = speech.lane.step_range
    if chosen is None:
        return []
    last = speech.lane_steps.steps - 1

    def end(name: str, field: str, stored: int) -> Word:
        return number(name, field, min(stored, last), 0, last, counted_from=1, stored=stored)

    return [
        text("steps "),
        end("first step", "step_range.first", chosen.first),
        text("–"),
        end("last step", "step_range.last", chosen.last),
    ]


def _range_choices(speech: Speech) -> list[Choice]:
    steps = speech.lane_steps.steps
    half = max(1, steps // 2)
    ranges = {
        "all": ("all steps", None),
        "first": (f"steps 1–{half}", StepRange(first=0, last=half - 1)),
        "second": (
            f"steps {min(steps, half + 1)}–{steps}",
            StepRange(first=min(steps - 1, half), last=steps - 1),
        ),
    }
    return choices(
        [(key, said) for key, (said, _) in ranges.items()],
        "all",
        lambda key: {"step_range": chosen.model_dump() if (chosen := ranges[key][1]) else None},
    )


def _offer_range(speech: Speech) -> list[Offer]:
    if speech.is_made or speech.lane.step_range or speech.lane_steps.steps < 2:
        return []
    half = max(1, speech.lane_steps.steps // 2)
    patch = {"step_range": StepRange(first=0, last=half - 1).model_dump()}
    return [Offer(setting="step range", text=f"steps 1–{half}", explains=_RANGE, patch=patch)]


def _say_direction(speech: Speech) -> list[Word]:
    direction = speech.lane.direction
    return [] if direction == "forward" else [choice(DIRECTIONS_SAID[direction], "direction")]


def _direction_choices(speech: Speech) -> list[Choice]:
    return choices(
        [(direction, DIRECTIONS_SAID[direction]) for direction in DIRECTIONS],
        speech.lane.direction,
        lambda key: {"direction": key},
    )


def _say_restart(speech: Speech) -> list[Word]:
    match speech.lane.restart:
        case BarRestart(bars=bars):
            count = number("bars between restarts", "restart.bars", bars, 1, MAX_BARS_OF_A_PATTERN)
            return [
                choice("restarts", "restart"),
                text(" every "),
                count,
                text(" bar" if bars == 1 else " bars"),
            ]
        case PassRestart():
            return [choice("restarts", "restart"), text(" with each pass")]
        case _:
            return []


def _restart_on_bench(speech: Speech) -> list[Word]:
    """Return when it restarts: that it does stands before it, as the label."""
    words = _say_restart(speech)
    if len(words) == 2:
        return [choice("with each pass", "restart")]
    return [choice("every", "restart"), text(" "), *words[2:]] if words else []


def _restart_choices(speech: Speech) -> list[Choice]:
    restarts = {"never": None, "bars": BarRestart().model_dump(), "pass": PassRestart().model_dump()}
    said = {"never": "never restarts", "bars": "restarts every 2 bars", "pass": "restarts with each pass"}
    restart = speech.lane.restart
    return choices(
        list(said.items()), restart.kind if restart else "never", lambda key: {"restart": restarts[key]}
    )


_SPAN = "A cycle's steps spread evenly over a span: a polyrhythm."
_ONCE = "One cycle in each pass of the pattern, then silence."
_RANGE = "Only these steps take part: drag the ends of its band."
_DIRECTION = "In which order the steps are read."
_RESTART = "The cycle begins again, however far it has come."

CLOCK: tuple[Setting, ...] = (
    STEP_VALUE,
    Setting(
        "span",
        "timing",
        frozenset({"span"}),
        _SPAN,
        _say_span,
        own_or(_say_span, lambda _: [choice("keeps its step", "timing")]),
        alternatives={"timing": _span_choices, "step": _span_note_choices},
        offers=_offer_spans,
    ),
    Setting(
        "once",
        "cycle",
        frozenset({"once"}),
        _ONCE,
        _say_once,
        own_or(_say_once, lambda _: [choice("loops", "loops or once")]),
        red=True,
        alternatives={"loops or once": _once_choices, "note of the offset": _offset_choices},
        offers=_offer_once,
    ),
    Setting(
        "step range",
        "step range",
        frozenset({"step_range"}),
        _RANGE,
        _say_range,
        own_or(_say_range, lambda _: [choice("all steps", "step range")]),
        red=True,
        alternatives={"step range": _range_choices},
        offers=_offer_range,
    ),
    Setting(
        "direction",
        "direction",
        frozenset({"direction"}),
        _DIRECTION,
        _say_direction,
        own_or(_say_direction, lambda _: [choice("forward", "direction")]),
        red=True,
        alternatives={"direction": _direction_choices},
        offers=_offer_own("backward", _DIRECTION, {"direction": "backward"}, "direction"),
    ),
    Setting(
        "restart",
        "restart",
        frozenset({"restart"}),
        _RESTART,
        _say_restart,
        own_or(_restart_on_bench, lambda _: [choice("never", "restart")]),
        red=True,
        alternatives={"restart": _restart_choices},
        offers=_offer_own(
            "restarts every 2 bars", _RESTART, {"restart": BarRestart().model_dump()}, "restart"
        ),
    ),
)
