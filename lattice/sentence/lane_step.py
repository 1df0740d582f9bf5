"""How long a lane's step lasts, in words; and what one hand may make of it."""

from lattice.document.step_value import StepValue
from lattice.sentence.setting import Setting, Speech, Words
from lattice.sentence.step_value import note_choices, note_value_words, say_step_value, step_rates
from lattice.sentence.words import Choice, Offer, Word, choice, text

__all__ = ["STEP_VALUE", "own_or", "rate_beside", "rates"]

_EXPLAINS = "How long a step lasts in this lane; the pattern's where nothing is said."
_TUPLET = StepValue(note=2, divisor=7)


def own_or(say: Words, plain: Words) -> Words:
    """Return what the bench says of a setting; nothing of a lane that runs on another one's clock."""
    return lambda speech: [] if speech.is_made else say(speech) or plain(speech)


def _say_step_value(speech: Speech) -> list[Word]:
    value = speech.lane.step_value
    if value is None:
        return []
    words = _say_step(speech)
    return words if value.divisor > 1 else [text("step "), *words]


def _say_step(speech: Speech) -> list[Word]:
    value = speech.lane.step_value
    return note_value_words(value, "step_value") if value else []


def _say_patterns_step(speech: Speech) -> list[Word]:
    said = "the span's" if speech.lane.span else f"the pattern's, {say_step_value(speech.frame.step_value)}"
    return [choice(said, "step")] if not speech.lane.span else [text(said)]


def _step_choices(speech: Speech) -> list[Choice]:
    value = speech.lane.step_value
    shown = value or speech.frame.step_value
    found = note_choices(shown, lambda other: {"step_value": other.model_dump()})
    if shown.divisor == 1:
        patch = {"step_value": _TUPLET.model_dump()}
        found.append(Choice(key="tuplet", text=say_step_value(_TUPLET), patch=patch, chosen=False))
    if value is None:
        return [
            one.model_copy(
                update={
                    "patch": {"step_value": shown.model_dump()} if one.chosen else one.patch,
                    "chosen": False,
                }
            )
            for one in found
        ]
    return found


def _offer_step_values(speech: Speech) -> list[Offer]:
    value = speech.lane.step_value
    if speech.lane.span or speech.is_made:
        return []  # the span, or the other lane, decides how long a step lasts

    def offer(setting: str, text: str, explains: str, step: StepValue) -> Offer:
        return Offer(setting=setting, text=text, explains=explains, patch={"step_value": step.model_dump()})

    offers: list[Offer] = []
    if value is None:
        own = StepValue(note=16 if speech.frame.step_value.note == 8 else 8)
        explains = "Steps longer or shorter than the pattern's."
        offers.append(offer("step value", f"step {say_step_value(own)}", explains, own))
    if value is None or value.divisor == 1:
        explains = "So many equal steps in one note value: a tuplet."
        offers.append(offer("tuplet", say_step_value(_TUPLET), explains, _TUPLET))
    if value is not None and value.multiplier == 1:
        longer = value.model_copy(update={"multiplier": 3})
        offers.append(
            offer(
                "multiple", f"step {say_step_value(longer)}", "Each step lasts several note values.", longer
            )
        )
    return offers


def rates(speech: Speech) -> list[Choice]:
    """Return what one hand may make of the step, slow to fast; nothing of a lane that runs on another one's clock."""
    if speech.is_made:
        return []
    here = None if speech.lane.span else speech.lane_steps.clock.step
    return [
        Choice(
            key=f"{rate.note} {rate.kind}",
            text=say_step_value(rate),
            patch={"step_value": rate.model_dump(), "span": None},
            chosen=rate.quarters == here,
        )
        for rate in step_rates()
    ]


def rate_beside(speech: Speech) -> int:
    """Return which of `rates` a lane has, or the one that is next slower; -1 where it is slower than all."""
    step = speech.lane_steps.clock.step
    return sum(rate.quarters >= step for rate in step_rates()) - 1


STEP_VALUE = Setting(
    "step value",
    "step",
    frozenset({"step_value"}),
    _EXPLAINS,
    _say_step_value,
    own_or(_say_step, _say_patterns_step),
    alternatives={"step": _step_choices},
    offers=_offer_step_values,
)
