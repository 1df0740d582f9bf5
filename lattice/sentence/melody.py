"""A melodic lane's pitches in words: scale, degrees, the chords that it follows. Nothing of a voice of the kit."""

from collections.abc import Callable
from typing import get_args

import numpy as np

from lattice.document.lane import Follows, Lane
from lattice.document.limits import limits
from lattice.document.scale import SCALES_SAID, Scale
from lattice.document.strip import PitchStrip
from lattice.document.strip_places import strip_at
from lattice.sentence.setting import Setting, Speech, Words, either, offered
from lattice.sentence.strips import count_said, offered_by, spread_words
from lattice.sentence.words import Choice, Offer, Patch, Word, choice, choices, number, text
from lattice.steps.strip_values import own_values
from lattice.theory.names import pitch_names

__all__ = ["MELODY", "melodic", "root_choices", "said_scale", "scale_choices"]

_FOLLOWS_SAID: dict[Follows, str] = {
    "none": "keeps its own notes",
    "root": "follows the root",
    "tones": "follows the chord tones",
    "nearest": "nearest chord tone",
}


def melodic(words: Words) -> Words:
    """Return a function that says *words*, and nothing of a lane that plays a voice of the kit."""
    return lambda speech: words(speech) if speech.context else []


def melodic_offers(offers: Callable[[Speech], list[Offer]]) -> Callable[[Speech], list[Offer]]:
    """Return what offers what *offers* does, and nothing to a lane that plays a voice of the kit."""
    return lambda speech: offers(speech) if speech.context else []


# ---- Scale ----


def said_scale(scale: Scale) -> tuple[str, str]:
    """Return the names of a scale's root and of its kind.

    >>> said_scale(Scale(root=2, name="dorian"))
    ('D', 'dorian')
    """
    return pitch_names(scale.root, scale.semitones)[scale.root], SCALES_SAID[scale.name]


def root_choices(scale: Scale, patch: Callable[[Scale], Patch]) -> list[Choice]:
    """Return the twelve roots that *scale* could have; *patch* says what choosing one sets."""
    others = {str(root): scale.model_copy(update={"root": root}) for root in range(12)}
    said = [(key, said_scale(other)[0]) for key, other in others.items()]
    return choices(said, str(scale.root), lambda key: patch(others[key]))


def scale_choices(scale: Scale, patch: Callable[[Scale], Patch]) -> list[Choice]:
    """Return the named scales, and one's own with the same notes, on the root of *scale*."""
    named = {
        name: Scale.model_validate({"root": scale.root, "name": name})
        for name in SCALES_SAID
        if name != "custom"
    }
    own = Scale(root=scale.root, name="custom", degrees=scale.semitones)
    known = {**named, "custom": own}
    return choices(list(SCALES_SAID.items()), scale.name, lambda key: patch(known[key]))


def _own_scale(scale: Scale | None) -> Patch:
    return {"scale": scale.model_dump(mode="json") if scale else None}


def _scale_words(speech: Speech) -> list[Word]:
    assert speech.context
    root, kind = said_scale(speech.context.scale)
    return [choice(root, "root"), text(" "), choice(kind, "scale")]


def _scale_choices(speech: Speech) -> list[Choice]:
    if speech.context is None:
        return []
    own = scale_choices(speech.context.scale, _own_scale)
    if speech.lane.scale is None:
        return own
    back = Choice(key="pattern", text="the pattern's scale", patch=_own_scale(None), chosen=False)
    return [back, *own]


def _root_choices(speech: Speech) -> list[Choice]:
    return root_choices(speech.context.scale, _own_scale) if speech.context else []


# ---- Pitches ----


def _pitches_said(speech: Speech, strip: PitchStrip) -> str:
    """Say how many pitches a strip has on how many hits of a cycle, and how far it leaps, where that can be said."""
    unit = "" if strip.unit == "degrees" else " in semitones"
    if strip.free:
        return count_said(strip_at(speech.lane, "pitch"), speech, "pitch", "pitches") + unit
    lane_steps = speech.lane_steps
    cycle = min(lane_steps.clock.cycle, lane_steps.clock.per_run or lane_steps.clock.cycle)
    numbers = lane_steps.numbers(np.arange(cycle))[lane_steps.hits(0, cycle)]
    values = own_values(strip, lane_steps.steps, 0)[numbers]
    pitches = np.unique(values).size
    said = f"{pitches} {'pitch' if pitches == 1 else 'pitches'}{unit} on {numbers.size}"
    said += " hit" if numbers.size == 1 else " hits"
    if raised := sum(strip.accidental(number) != 0 for number in numbers.tolist()) * (not unit):
        said += f", {raised} accidental" + ("s" if raised > 1 else "")
    leap = int(np.abs(np.diff(values)).max(initial=0))
    return f"{said}, leaps up to {leap}" if leap > 1 else said


def _say_pitches(speech: Speech) -> list[Word]:
    lane = speech.lane
    strip = lane.pitch_strip
    scale = _scale_words(speech) if strip or lane.scale else []
    if strip is None:
        return scale
    words = [choice(_pitches_said(speech, strip), "pitch on steps"), *spread_words(strip_at(lane, "pitch"))]
    return [*scale, text(", "), *words]


# ---- Transposed ----


def _say_transposed(speech: Speech) -> list[Word]:
    lane = speech.lane
    words: list[Word] = []
    for field, unit in (("degrees_up", "degree"), ("semitones_up", "semitone")):
        by = getattr(lane, field)
        if by:
            said = f" {unit}{'' if abs(by) == 1 else 's'}{' up' if by > 0 else ''}"  # the sign says down
            words += [text(", ")] if words else []
            words += [number(f"{unit}s up", field, by, *limits(Lane, field)), text(said)]
    return words


def _transposed_on_bench(speech: Speech) -> list[Word]:
    lane = speech.lane
    return [
        number("degrees up", "degrees_up", lane.degrees_up, *limits(Lane, "degrees_up")),
        text(" degrees, "),
        number("semitones up", "semitones_up", lane.semitones_up, *limits(Lane, "semitones_up")),
        text(" semitones"),
    ]


# ---- Follows ----


def _say_follows(speech: Speech) -> list[Word]:
    lane = speech.lane
    if lane.follows == "none" or lane.arpeggio:
        return []
    unheard = "" if speech.context and speech.context.chords else ", when there are chords"
    return [choice(_FOLLOWS_SAID[lane.follows] + unheard, "follows")]


def _follows_on_bench(speech: Speech) -> list[Word]:
    if speech.lane.arpeggio:
        return []
    follows = speech.lane.follows
    said = "no chord" if follows == "none" else _FOLLOWS_SAID[follows].removeprefix("follows ")
    return [choice(said, "follows")]


def _follows_choices(speech: Speech) -> list[Choice]:
    return choices(
        [(one, _FOLLOWS_SAID[one]) for one in get_args(Follows)],
        speech.lane.follows,
        lambda key: {"follows": key},
    )


_PITCH = "The scale that its degrees are counted in, and the pitches that its steps have."
_FOLLOWS = "What it takes from the chord that is current: its notes change with the progression."
_TRANSPOSED = "Degrees move it within the scale; semitones move it afterwards, and may leave the scale."

MELODY: tuple[Setting, ...] = (
    Setting(
        "pitch",
        "pitch",
        frozenset({"scale", "pitch_strip"}),
        _PITCH,
        melodic(_say_pitches),
        melodic(either(_say_pitches, _scale_words)),
        alternatives={"root": _root_choices, "scale": _scale_choices},
        more_alternatives=offered_by("pitch"),
        offers=melodic_offers(
            offered(
                "5 pitches",
                _PITCH,
                {"pitch_strip": PitchStrip(values=(0, 2, 4, 2, 6, 1)).model_dump(mode="json")},
                lambda speech: speech.lane.pitch_strip is not None or speech.lane.arpeggio is not None,
            )
        ),
    ),
    Setting(
        "follows",
        "follows",
        frozenset({"follows"}),
        _FOLLOWS,
        melodic(_say_follows),
        melodic(_follows_on_bench),
        alternatives={"follows": _follows_choices},
        offers=melodic_offers(
            offered(
                "follows the root",
                _FOLLOWS,
                {"follows": "root"},
                lambda speech: speech.lane.follows != "none" or speech.lane.arpeggio is not None,
            )
        ),
    ),
    Setting(
        "transposed",
        "transposed",
        frozenset({"degrees_up", "semitones_up"}),
        _TRANSPOSED,
        melodic(_say_transposed),
        melodic(_transposed_on_bench),
        offers=melodic_offers(
            offered(
                "2 degrees up",
                _TRANSPOSED,
                {"degrees_up": 2},
                lambda speech: bool(speech.lane.degrees_up or speech.lane.semitones_up),
            )
        ),
    ),
)
