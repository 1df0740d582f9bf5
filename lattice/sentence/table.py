"""What acts on a lane, in words, in order: the table that every screen reads.

A setting has a part in the sentence when it is not plain, and an offer behind the "+" when it is. Each word
that can be changed says which field it changes and between what values, so that no screen needs to know.
"""

from lattice.document.lane import Lane
from lattice.document.source import Drawn
from lattice.document.step_value import StepValue
from lattice.document.timing import MAX_SPAN_BARS, BarSpan, NoteSpan
from lattice.document.turns import MAX_EVERY, Thin
from lattice.sentence.setting import Setting, Speech, offered_if_plain, one_number, ready
from lattice.sentence.source import say_source
from lattice.sentence.step_value import note_value_words, say_step_value, say_step_value_in_words
from lattice.sentence.words import Choice, Offer, Part, Sentence, Word, choice, number, text

__all__ = ["SETTINGS", "sentence"]


def sentence(lane: Lane, settled: Drawn, pattern_step: StepValue) -> Sentence:
    """Return what acts on *lane*, which plays what *settled* draws, and what could act on it."""
    speech = Speech(lane, settled, pattern_step)
    parts, offers = [], []
    for setting in SETTINGS:
        if words := setting.say(speech):
            part = {"setting": setting.name, "explains": setting.explains, "red": setting.red}
            parts.append(Part(**part, words=words, plain=setting.plain()))
        offers += setting.offers(speech)
    return Sentence(parts=parts, offers=offers)


def _say_rotate(speech: Speech) -> list[Word]:
    furthest = max(speech.lane.source.steps - 1, abs(speech.lane.rotate))
    turned = speech.lane.rotate
    return [text("rotated "), number("rotated", "rotate", turned, -furthest, furthest)] if turned else []


def _say_complement(speech: Speech) -> list[Word]:
    if not speech.lane.complement:
        return []
    choices = [
        Choice(text="its rests", patch={}, chosen=True),
        Choice(text="its hits", patch={"complement": False}, chosen=False),
    ]
    return [choice("its rests", "hits or rests", choices)]


def _say_step_value(speech: Speech) -> list[Word]:
    value = speech.lane.step_value
    if value is None:
        return []
    words = say_step_value_in_words(value)
    return [*words] if value.divisor > 1 else [text("step "), *words]


def _offer_step_values(speech: Speech) -> list[Offer]:
    value = speech.lane.step_value
    offers: list[Offer] = []
    if speech.lane.span:
        return offers  # the span decides how long a step lasts
    if value is None:
        own = StepValue(note=16 if speech.pattern_step.note == 8 else 8)
        explains = "Steps longer or shorter than the pattern's: this lane drifts or runs ahead."
        offers += ready(
            "step value", f"step {say_step_value(own)}", explains, {"step_value": own.model_dump()}
        )
    if value is None or value.divisor == 1:
        tuplet = StepValue(note=2, divisor=7)
        explains = "So many equal steps in one note value: a tuplet against the others."
        offers += ready("tuplet", say_step_value(tuplet), explains, {"step_value": tuplet.model_dump()})
    if value is not None and value.multiplier == 1:
        longer = value.model_copy(update={"multiplier": 3})
        explains = "Each step lasts several note values."
        offers += ready(
            "multiple", f"step {say_step_value(longer)}", explains, {"step_value": longer.model_dump()}
        )
    return offers


def _say_span(speech: Speech) -> list[Word]:
    match speech.lane.span:
        case BarSpan(bars=bars):
            count = number("bars", "span.bars", bars, 1, MAX_SPAN_BARS)
            return [text("over "), count, text(" bar" if bars == 1 else " bars")]
        case NoteSpan(value=value):
            chosen = note_value_words(
                value, "span.value", lambda other: {"span": NoteSpan(value=other).model_dump()}
            )
            return [text("over "), *chosen]
        case _:
            return []


def _offer_spans(speech: Speech) -> list[Offer]:
    if speech.lane.span:
        return []
    # A span decides how long a step lasts: a step value of the lane's own would contradict it.
    spans = (("over 1 bar", BarSpan()), ("over 1/2", NoteSpan(value=StepValue(note=2))))
    return [
        Offer(setting=said, text=said, explains=_SPAN, patch={"span": span.model_dump(), "step_value": None})
        for said, span in spans
    ]


def _say_thin(speech: Speech) -> list[Word]:
    thin = speech.lane.thin
    if thin is None:
        return []
    other = "without" if thin.keeps == "only" else "only"
    keeps = [
        Choice(text=thin.keeps, patch={}, chosen=True),
        Choice(text=other, patch={"thin": thin.model_dump() | {"keeps": other}}, chosen=False),
    ]
    counted = [
        Choice(
            text=said,
            patch={} if thin.each_cycle == each else {"thin": thin.model_dump() | {"each_cycle": each}},
            chosen=thin.each_cycle == each,
        )
        for said, each in (("hit", False), ("hit of a cycle", True))
    ]
    words = [
        choice(thin.keeps, "only or without", keeps),
        text(" each "),
        number("each", "thin.every", thin.every, max(2, thin.first), MAX_EVERY),
        text(f"{ordinal(thin.every)} "),
        choice("hit of a cycle" if thin.each_cycle else "hit", "counted", counted),
    ]
    if thin.first > 1:
        first = number("from", "thin.first", thin.first, 1, thin.every)
        words += [text(", from the "), first, text(ordinal(thin.first))]
    return words


def _offer_thin(speech: Speech) -> list[Offer]:
    thin = speech.lane.thin
    if thin is None:
        return ready("thin", "only each 3rd hit", _THIN, {"thin": Thin().model_dump()})
    if thin.first == 1:
        explains = "Counting begins on a later hit."
        return ready("thin from", "from the 2nd", explains, {"thin": thin.model_dump() | {"first": 2}})
    return []


def ordinal(count: int) -> str:
    """Return what makes a number one of an order.

    >>> [f"{count}{ordinal(count)}" for count in (1, 2, 3, 4, 11, 12, 21)]
    ['1st', '2nd', '3rd', '4th', '11th', '12th', '21st']
    """
    if count % 100 in (11, 12, 13):
        return "th"
    return {1: "st", 2: "nd", 3: "rd"}.get(count % 10, "th")


def _say_edits(speech: Speech) -> list[Word]:
    awake = sum(edit.step < speech.lane.source.steps for edit in speech.lane.edits)
    asleep = len(speech.lane.edits) - awake
    if not speech.lane.edits:
        return []
    said = f"{awake} by hand" + (f" ({asleep} beyond its steps)" if asleep else "")
    choices = [
        Choice(text="as edited", patch={}, chosen=True),
        Choice(text="clear what was done by hand", patch={"edits": []}, chosen=False),
    ]
    return [choice(said, "by hand", choices)]


_SOURCE = "Where the hits come from: spread as evenly as they can be, or drawn by hand."
_ROTATE = "Every hit moves so many steps later, round the cycle."
_COMPLEMENT = "Hits and rests change places."
_SPAN = "The steps of a cycle are spread evenly over a span: a polyrhythm."
_THIN = "Only, or without, every so-many-th hit; counted from the start, so it drifts over the cycles."
_EDITS = "Single steps turned to hit or rest by hand, on top of all else."
_STEP_VALUE = "How long a step lasts in this lane; the pattern's where nothing is said."

SETTINGS: tuple[Setting, ...] = (
    Setting("source", frozenset({"source"}), False, _SOURCE, say_source, lambda _: []),
    Setting(
        "rotate",
        frozenset({"rotate"}),
        False,
        _ROTATE,
        _say_rotate,
        offered_if_plain("rotate", "rotate", "rotated 1", _ROTATE, 1),
    ),
    Setting(
        "complement",
        frozenset({"complement"}),
        True,
        _COMPLEMENT,
        _say_complement,
        offered_if_plain("complement", "complement", "its rests", _COMPLEMENT, True),
    ),
    Setting(
        "thin",
        frozenset({"thin"}),
        True,
        _THIN,
        _say_thin,
        _offer_thin,
    ),
    Setting("by hand", frozenset({"edits"}), True, _EDITS, _say_edits, lambda _: []),
    Setting("step value", frozenset({"step_value"}), False, _STEP_VALUE, _say_step_value, _offer_step_values),
    Setting("span", frozenset({"span"}), False, _SPAN, _say_span, _offer_spans),
    one_number(
        "velocity",
        "velocity",
        (1, 127),
        80,
        explains="How hard every hit is struck; 100 when nothing is said.",
    ),
    one_number(
        "length",
        "length_percent",
        (1, 400),
        50,
        explains="How long each note lasts, in parts of a step.",
        unit=" %",
    ),
    one_number(
        "chance",
        "chance_percent",
        (0, 100),
        75,
        explains="How often a hit sounds; the dice decide which.",
        unit=" %",
    ),
)
