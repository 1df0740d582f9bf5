"""A page of help for each setting of a lane and of a pattern, made from the tables that sentences are made from.

A new row of the table brings its page: what it offers, or what it says that shows it, becomes an example, and so does
each alternative of its words.
"""

from collections.abc import Iterator
from functools import cache
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field

from lattice.document import DOCKSIDE, Euclidean, Lane, Scale, Score, read
from lattice.document.detour import PaceDetour, PatternDetour, RepeatDetour
from lattice.document.movement import Movement, Point
from lattice.document.problems import DocumentError
from lattice.document.step_value import StepValue
from lattice.document.strip import Free, PitchStrip
from lattice.render.pitch_context import pitch_context_of
from lattice.sentence import SETTINGS, Speech, standing
from lattice.sentence.setting import Setting
from lattice.sentence.table import GROUPS
from lattice.sentence.words import Group, Part, Patch
from lattice.starters.progressions import PROGRESSIONS
from lattice.steps.lane_steps import steps_of_lane
from lattice.units import TICKS_PER_QUARTER

__all__ = ["BASES", "Base", "Example", "HelpWord", "help_words"]

Base = Literal["beat", "melody", "luck", "tune"]
DICE = 7
_MOST_EXAMPLES, _MOST_OF_A_WORD = 14, 6

_PULSE = Lane(id="thud", name="Thud", voice="thud", source=Euclidean(hits=4, steps=16), velocity=70, ink=3)
_SHOWN: dict[Base, Lane] = {
    "beat": Lane(id="shown", name="Bottle", voice="bottle", source=Euclidean(hits=5, steps=8)),
    "melody": Lane(id="shown", name="Low reed", voice="low-reed", source=Euclidean(hits=5, steps=8)),
    "luck": Lane(
        id="shown", name="Bottle", voice="bottle", source=Euclidean(hits=5, steps=8), chance_percent=50
    ),
    "tune": Lane(
        id="shown",
        name="Buoy",
        voice="buoy",
        source=Euclidean(hits=5, steps=8),
        pitch_strip=PitchStrip(values=(0, 2, 4, 1, 5), free=Free(advance="hit")),
    ),
}
# What else such a lane has, so that a setting can be heard.
_HEARD_WITH: dict[str, Patch] = {
    "restart": {"source": {"kind": "euclidean", "hits": 4, "steps": 7}},
    "luck": {"chance_percent": 50},
    "evened": {"velocity_strip": {"values": [124, 40, 90, 30, 110, 50, 70, 30]}},
    "glide": {
        "length_percent": 220,
        "pitch_strip": {"values": [0, 4, 7, 2], "free": {"advance": "hit"}},
    },
}
BASES: dict[Base, Score] = {
    name: Score(
        tempo=112,
        scale=Scale(root=2, name="dorian"),
        kit=DOCKSIDE,
        bars=4,
        lanes=(lane, _PULSE),
        progression=PROGRESSIONS[1].progression if name == "melody" else None,
    )
    for name, lane in _SHOWN.items()
}
"""The small scores that settings are shown in: a lane that is shown, of eight steps, above a pulse."""


class Example(BaseModel):
    """What a setting says once it is in use, and the fields, of the lane or the score, that begin to use it."""

    text: str
    patch: Patch


class HelpWord(BaseModel):
    """A setting: what it is called, what it does, and examples of it on the lane `shown` of a *base*, or on all of it.

    *group*: where the bench has it; `pattern` for what holds for a whole pattern.
    """

    setting: str
    label: str
    group: Group | Literal["pattern"]
    explains: str
    red: bool
    base: Base
    examples: list[Example]
    plain: Annotated[Patch | None, Field(description="what sends it back to plain; none: nothing is plain")]


@cache
def help_words() -> tuple[HelpWord, ...]:
    """Return a page for each setting of a lane, in the order of the bench, then for what holds for a pattern."""
    rows = {row.name: row for row in SETTINGS}
    of_lanes = [_of_lane(rows[name], group) for group, names in GROUPS.items() for name in names]
    return (*of_lanes, *_of_patterns())


# ---- Settings of a lane ----


def _of_lane(row: Setting, group: Group) -> HelpWord:
    base, examples = next(
        ((base, found) for base in BASES if (found := list(_examples(row, base)))), ("beat", [])
    )
    return HelpWord(
        setting=row.name,
        label=row.label,
        group=group,
        explains=row.explains,
        red=row.red,
        base=base,
        examples=examples[:_MOST_EXAMPLES],
        plain=row.plain(),
    )


def _examples(row: Setting, base: Base) -> Iterator[Example]:
    """Yield what shows *row* on a base: what it says itself, what it offers, and what its words could be then."""
    with_it = _HEARD_WITH.get(row.name, {})
    offered = [row.shown] if row.shown else [offer.patch for offer in row.offers(_speech(base, with_it))]
    told: set[str] = set()
    for patch in [with_it | one for one in offered] or [with_it]:
        speech = _speech(base, patch)
        if not row.say(speech):
            continue
        others = {**row.alternatives, **row.more_alternatives(speech)}
        further = [
            patch | one.patch
            for choices in others.values()
            for one in [one for one in choices(speech) if not one.chosen][:_MOST_OF_A_WORD]
        ]
        for whole in [patch, *further] if offered else further:
            example = _said(row, base, whole)
            if example and example.text not in told:
                told.add(example.text)
                yield example


def _said(row: Setting, base: Base, patch: Patch) -> Example | None:
    """Return the example that *patch* makes, in the words of the sentence; None where it says nothing of *row*."""
    try:
        words = row.say(_speech(base, patch))
    except DocumentError:
        return None
    said = "".join(word.text for word in words).strip()
    return Example(text=said, patch=patch) if said else None


def _speech(base: Base, patch: Patch) -> Speech:
    score = BASES[base]
    shown = read(Lane, score.lanes[0].model_dump(mode="json") | patch)
    changed = score.model_copy(update={"lanes": (shown, *score.lanes[1:])})
    return Speech(steps_of_lane(changed, DICE, shown.id), pitch_context_of(shown, changed, DICE), changed)


# ---- What holds for a whole pattern ----

_BAR = 4 * TICKS_PER_QUARTER
_MOVED = Movement(
    control="semitones_up", points=tuple(Point(bar * _BAR, 3 * bar) for bar in range(4)), loop_bars=4
)
# What shows each; the dice need something that is left to luck.
_OF_PATTERNS: dict[str, tuple[Base, list[Patch]]] = {
    "tempo": ("beat", [{"tempo": 140}, {"tempo": 84}]),
    "swing": ("beat", [{"swing": {"percent": 62}}, {"swing": {"percent": 66, "note": 8}}]),
    "meter": ("beat", [{"meter": {"numerator": 7, "denominator": 8}}, {"meter": {"numerator": 3}}]),
    "bars": ("beat", [{"bars": 2}, {"bars": 8}]),
    "step value": ("beat", [{"step_value": {"note": 8}}, {"step_value": {"note": 16, "kind": "triplet"}}]),
    "dice": ("luck", [{"dice": 8}]),
    "scale": ("tune", [{"scale": {"root": 2, "name": name}} for name in ("minor", "phrygian", "lydian")]),
    "transposed": ("tune", [{"degrees_up": 2}, {"semitones_up": 5}]),
    "moves": ("tune", [{"movements": [_MOVED.model_dump(mode="json")]}]),
    "detour": ("beat", [
        {"detours": [PatternDetour(detour=detour, bars=1, every=2).model_dump(mode="json")]}
        for detour in (RepeatDetour(length=StepValue(note=8)), PaceDetour())
    ]),
}  # fmt: skip


def _of_patterns() -> Iterator[HelpWord]:
    for setting, (base, patches) in _OF_PATTERNS.items():
        examples, explains, red = [], "", False
        stored = BASES[base].model_dump(mode="json") | {"dice": DICE}
        for patch in patches:
            part = _standing(setting, base, patch)
            examples.append(Example(text="".join(word.text for word in part.words), patch=patch))
            explains, red = part.explains, part.red
        yield HelpWord(
            setting=setting,
            label=setting,
            group="pattern",
            explains=explains,
            red=red,
            base=base,
            examples=examples,
            plain={name: stored[name] for patch in patches for name in patch},
        )


def _standing(setting: str, base: Base, patch: dict[str, Any]) -> Part:
    stored = BASES[base].model_dump(mode="json")
    score = read(Score, stored | {name: value for name, value in patch.items() if name != "dice"})
    parts = standing(score, patch.get("dice", DICE))
    return next(part for part in parts if part.setting.startswith(setting))
