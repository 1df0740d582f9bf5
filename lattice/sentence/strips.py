"""A lane's strips in words: in its sentence, and beside the bars that the bench paints."""

from collections.abc import Mapping
from typing import Any, get_args

from lattice.document.controllers import controller_name
from lattice.document.lane import Lane
from lattice.document.limits import limits
from lattice.document.strip import (
    MAX_SPREAD,
    STRIPS,
    ChordStrip,
    ControlStrip,
    Free,
    NudgeStrip,
    OctaveStrip,
    PitchStrip,
    RatchetStrip,
    Shape,
    Spread,
    Strip,
)
from lattice.document.strip_places import StripAt, strip_at, strips_of
from lattice.document.timing import DIRECTIONS, Direction
from lattice.sentence.clock import DIRECTIONS_SAID
from lattice.sentence.setting import Alternatives, Setting, Speech, nothing, offered
from lattice.sentence.words import Choice, Patch, Word, choice, choices, number, text
from lattice.steps.strip_values import bounds

__all__ = [
    "CHANCE",
    "CHORDS",
    "CONTROLS",
    "LENGTH",
    "NUDGE",
    "OCTAVE",
    "RATCHET",
    "VELOCITY",
    "count_said",
    "offered_by",
    "spread_words",
    "strip_words",
]

_SHAPES: dict[Shape, str] = {"even": "even odds", "middle": "leaning to the middle"}


# ---- Words of any strip ----


def strip_words(at: StripAt) -> list[Word]:
    """Return all that can be set of a strip beside its values."""
    name, strip = at.name, at.present
    free = strip.free
    words = [
        choice(f"own length, on at each {free.advance}" if free else "one value a step", f"{name} timing")
    ]
    if free:
        words += [text(" · "), choice(DIRECTIONS_SAID[free.direction], f"{name} direction")]
    words.append(text(" · "))
    if strip.spread is None:
        words.append(choice("no spread", f"{name} spreads"))
    else:
        low, high = bounds(strip.spread, at.kind)
        words += [
            choice("spread", f"{name} spreads"),
            *spread_words(at),
            text(" between "),
            number(
                f"{name} lowest", f"{at.path}.spread.low", low, at.kind.low, high, stored=strip.spread.low
            ),
            text(" and "),
            number(
                f"{name} highest", f"{at.path}.spread.high", high, low, at.kind.high, stored=strip.spread.high
            ),
            text(", "),
            choice(_SHAPES[strip.spread.shape], f"{name} shape"),
        ]
    if isinstance(strip, RatchetStrip) and at.strip:
        words += [
            text(" · fades from "),
            number("fades from", f"{at.path}.fade_from", strip.fade_from, *limits(RatchetStrip, "fade_from")),
            text(" % to "),
            number("fades to", f"{at.path}.fade_to", strip.fade_to, *limits(RatchetStrip, "fade_to")),
            text(" % · climbs "),
            number("climbs", f"{at.path}.climb", strip.climb, *limits(RatchetStrip, "climb")),
            text(" "),
            choice(strip.climb_unit, "climb unit"),
        ]
    if isinstance(strip, PitchStrip):
        words += [text(" · in "), choice(strip.unit, "pitch unit")]
    return words


def spread_words(at: StripAt) -> list[Word]:
    if at.strip is None or at.strip.spread is None:
        return []
    widest = min(MAX_SPREAD, at.kind.high - at.kind.low)
    return [
        text(" ±"),
        number(f"{at.name} spread", f"{at.path}.spread.by", at.strip.spread.by, 1, widest),
    ]


def count_said(at: StripAt, speech: Speech, one: str = "value", many: str = "values") -> str:
    """Say how many values a strip has, and how it is read where it does not go with the lane."""
    strip = at.present
    if strip.free:
        values = len(strip.values)
        return f"{values} {one if values == 1 else many} at each {strip.free.advance}"
    own = sum(value is not None for value in strip.values[: speech.lane_steps.steps])
    return f"on {own}" if own else ""


def _alternatives(speech: Speech, at: StripAt) -> dict[str, list[Choice]]:
    """Return what the words of a strip could be instead."""
    name, strip, kind = at.name, at.present, at.kind
    free, spread = strip.free, strip.spread

    def with_(**fields: Any) -> Patch:
        return at.patch(speech.lane, strip.model_copy(update=fields))

    def timing(key: str) -> Patch:
        if key == "lane":
            return with_(free=None)
        values = strip.values or (None,) * speech.lane_steps.steps
        return with_(
            values=values, free=Free(direction=free.direction if free else "forward", advance=_ADVANCES[key])
        )

    def direction(key: str) -> Patch:
        known: dict[str, Direction] = {one: one for one in DIRECTIONS}
        return with_(free=(free or Free()).model_copy(update={"direction": known[key]}))

    first = max(1, (kind.high - kind.low) // 12)
    found = {
        "timing": choices(
            [
                ("lane", "one value a step"),
                ("step", "own length, on at each step"),
                ("hit", "own length, on at each hit"),
            ],
            free.advance if free else "lane",
            timing,
        ),
        "spreads": choices(
            [("none", "no spread"), ("spread", f"spread ±{spread.by if spread else first}")],
            "spread" if spread else "none",
            lambda key: with_(spread=None if key == "none" else spread or Spread(by=first)),
        ),
        "on steps": choices(
            [("own", "as it is"), ("plain", "no strip")], "own", lambda _: at.patch(speech.lane, None)
        ),
    }
    if isinstance(strip, PitchStrip):
        found["unit"] = choices(_UNITS, strip.unit, lambda key: with_(unit=key))
    if isinstance(strip, RatchetStrip):
        units = choices(_UNITS, strip.climb_unit, lambda key: with_(climb_unit=key))
        return {f"{name} {word}": one for word, one in found.items()} | {"climb unit": units}
    if free:
        found["direction"] = choices(
            [(one, DIRECTIONS_SAID[one]) for one in DIRECTIONS], free.direction, direction
        )
    if spread:
        found["shape"] = choices(
            [(one, _SHAPES[one]) for one in get_args(Shape)],
            spread.shape,
            lambda key: with_(spread=spread.model_copy(update={"shape": key})),
        )
    return {f"{name} {word}": one for word, one in found.items()}


_UNITS = [("degrees", "degrees"), ("semitones", "semitones")]
_ADVANCES: dict[str, Any] = {"step": "step", "hit": "hit"}


# ---- The rows ----


def offered_by(*names: str) -> Any:
    """Return the alternatives of a row that speaks of the strips of those names; of all control strips if of none."""

    def more(speech: Speech) -> Mapping[str, Alternatives]:
        lane = speech.lane
        meant = [
            at
            for at in strips_of(lane)
            if (at.name in names if names else at.kind.field == STRIPS["control"].field)
        ]
        words = {word: one for at in meant for word, one in _alternatives(speech, at).items()}
        return {word: _always(one) for word, one in words.items()}

    return more


def _always(found: list[Choice]) -> Alternatives:
    return lambda _: found


def _beside_a_number(
    name: str,
    field: str,
    first: int,
    *,
    explains: str,
    unit: str = "",
    red: bool = False,
) -> Setting:
    """A row of one number of the lane and the strip that goes with it."""
    plain = Lane.model_fields[field].default

    def value(speech: Speech) -> list[Word]:
        at = strip_at(speech.lane, name)
        of_lane = number(name, field, getattr(speech.lane, field), *limits(Lane, field))
        # Other strips, of chance, act beside the number: all steps take it.
        if at.strip and at.kind.plain is None:
            of_lane.strip, of_lane.own = name, sum(value is not None for value in at.strip.values)
        words = [of_lane, *spread_words(at)]
        # On a ground a hit is struck as hard as its place says: the lane's velocity is a share of that.
        of_ground = " % of its ground's" if at.kind is STRIPS["velocity"] and speech.lane_steps.ground else ""
        words += [text(unit or of_ground)] if unit or of_ground else []
        if said := count_said(at, speech):
            words += [text(", "), choice(said, f"{name} on steps")]
        return words

    def is_plain(speech: Speech) -> bool:
        return getattr(speech.lane, field) == plain and strip_at(speech.lane, name).strip is None

    return Setting(
        name=name,
        label=name,
        fields=frozenset({field, STRIPS[name].field}),
        explains=explains,
        say=lambda speech: [] if is_plain(speech) else [text(f"{name} "), *value(speech)],
        on_bench=value,
        red=red,
        more_alternatives=offered_by(name),
        offers=offered(
            f"{name} {first}{unit}", explains, {field: first}, lambda speech: not is_plain(speech)
        ),
    )


def _of_its_own(
    name: str,
    said: str,
    *,
    explains: str,
    first: Strip | None = None,
    offer: str = "",
    shown: Patch | None = None,
) -> Setting:
    """A row of a strip that no number of the lane stands beside: the bench has it to paint."""
    field = STRIPS[name].field

    def of_strips(lane: Lane) -> bool:
        return any(at.name == name for at in strips_of(lane))

    def say(speech: Speech) -> list[Word]:
        at = next((at for at in strips_of(speech.lane) if at.name == name), None)
        if at is None or at.strip is None:
            return []
        return [choice(f"{said} {count_said(at, speech)}".strip(), f"{name} on steps"), *spread_words(at)]

    return Setting(
        name=name,
        label=name,
        fields=frozenset({field}),
        explains=explains,
        say=say,
        on_bench=nothing,
        more_alternatives=offered_by(name),
        offers=offered(
            offer,
            explains,
            {field: first.model_dump(mode="json") if first else None},
            lambda speech: first is None or bool(say(speech)) or not of_strips(speech.lane),
        ),
        shown=shown or {},
    )


def _say_controls(speech: Speech) -> list[Word]:
    words: list[Word] = []
    for at in strips_of(speech.lane):
        if at.kind.field == STRIPS["control"].field:
            words += [text(", ")] if words else []
            said = f"{at.name} {count_said(at, speech)}".strip()
            words += [choice(said, f"{at.name} on steps"), *spread_words(at)]
    return words


_VELOCITY = "How hard hits are struck, by one number or by a strip; 100 when nothing is said."
_CHANCE = "How often a hit sounds; the dice decide which. A strip's chances multiply the lane's."
_LENGTH = "How long notes last, in parts of a step; a strip may tie them to the next hit."
_RATCHET = "Several even notes in one step; they may fade and climb."
_NUDGE = "Steps a little earlier or later than they stand."
_OCTAVE = "Steps by octaves higher or lower."
_CHORDS = "Steps that sound a stack of every second degree; of an arpeggio its whole pool at once."
_CONTROL = "What is sent to a MIDI controller with each step."

VELOCITY = _beside_a_number("velocity", "velocity", 80, explains=_VELOCITY)
CHANCE = _beside_a_number("chance", "chance_percent", 75, explains=_CHANCE, unit=" %", red=True)
LENGTH = _beside_a_number("length", "length_percent", 50, explains=_LENGTH, unit=" %")
RATCHET = _of_its_own(
    "ratchet", "ratchet", explains=_RATCHET, offer="ratchet on 1", first=RatchetStrip(values=(3,), fade_to=60)
)
NUDGE = _of_its_own(
    "nudge", "nudged", explains=_NUDGE, offer="nudged ±5", first=NudgeStrip(spread=Spread(by=5))
)
OCTAVE = _of_its_own(
    "octave",
    "octaves",
    explains=_OCTAVE,
    shown={"octave_strip": OctaveStrip(values=(0, 0, 1, 0, 0, 1, 0, -1)).model_dump(mode="json")},
)
CHORDS = _of_its_own("chord", "chords", explains=_CHORDS, offer="chords on 1", first=ChordStrip(values=(3,)))
CONTROLS = Setting(
    name="control",
    label="control",
    fields=frozenset({"control_strips"}),
    explains=_CONTROL,
    say=_say_controls,
    on_bench=nothing,
    more_alternatives=offered_by(),
    offers=offered(
        controller_name(74),
        _CONTROL,
        {
            "control_strips": [
                ControlStrip(controller=74, values=(64,), spread=Spread(by=63)).model_dump(mode="json")
            ]
        },
        lambda speech: bool(speech.lane.control_strips),
    ),
)
