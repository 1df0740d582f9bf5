"""What acts on a lane, in words, in order: the table that every screen reads.

A setting has a part in the sentence when it is not plain, an offer behind the "+" when it is, and a field on the bench
always. Each word that can be changed says which field it changes and between what values, so that no screen needs to
know.
"""

from collections.abc import Mapping

from lattice.document.lane import Lane
from lattice.document.limits import limits
from lattice.document.source import MAX_EVERY, MAX_STEPS
from lattice.document.turns import Thin
from lattice.sentence.arpeggio import ARPEGGIO
from lattice.sentence.bursts import BURSTS
from lattice.sentence.clock import CLOCK
from lattice.sentence.feel import STROKES, TIMING
from lattice.sentence.luck import LUCK
from lattice.sentence.melody import MELODY
from lattice.sentence.movements import MOVEMENTS
from lattice.sentence.setting import Setting, Speech, either, offered
from lattice.sentence.sound import SOUND
from lattice.sentence.source import (
    followed_choices,
    ground_choices,
    next_number_choices,
    offer_replies,
    part_choices,
    say_source,
    source_choices,
)
from lattice.sentence.strips import CHANCE, CHORDS, CONTROLS, LENGTH, NUDGE, OCTAVE, RATCHET, VELOCITY
from lattice.sentence.words import (
    Choice,
    Field,
    Group,
    Offer,
    Part,
    Sentence,
    Word,
    choice,
    choices,
    number,
    ordinal,
    text,
)
from lattice.steps.settle import settled

__all__ = ["GROUPS", "SETTINGS", "alternatives", "bench", "busy_word", "offers", "sentence"]


def sentence(speech: Speech) -> Sentence:
    """Return what acts on a lane."""
    return Sentence(
        parts=[
            Part(setting=row.name, explains=row.explains, red=row.red, words=words, plain=row.plain())
            for row in SETTINGS
            if (words := row.say(speech))
        ]
    )


def bench(speech: Speech) -> list[Field]:
    """Return every setting of a lane, plain or not, as a labelled field, group by group."""
    return [
        Field(
            setting=row.name,
            label=row.label,
            group=group,
            explains=row.explains,
            red=row.red and bool(said),
            words=words,
            plain=row.plain(),
            is_plain=not said,
        )
        for group, names in GROUPS.items()
        for row in map(_ROWS.__getitem__, names)
        for said in [row.say(speech)]
        if (words := row.on_bench(speech))
    ]


def offers(speech: Speech) -> list[Offer]:
    """Return what could act on a lane that does not yet."""
    return [offer for row in SETTINGS for offer in row.offers(speech)]


def alternatives(speech: Speech, setting: str, word: str) -> list[Choice]:
    """Return what the *word* of a *setting* could be instead. Raises KeyError if there is no such word."""
    row = next((row for row in SETTINGS if row.name == setting), None)
    known = {**row.alternatives, **row.more_alternatives(speech)} if row else {}
    if word not in known:
        raise KeyError(f"{setting}: {word}")
    return known[word](speech)


# ---- Turns ----


def _rotated(speech: Speech) -> Word:
    turned = speech.lane.rotate
    furthest = MAX_STEPS - 1 if speech.is_made else max(speech.lane_steps.steps - 1, abs(turned))
    return number("rotated", "rotate", turned, -furthest, furthest)


def _complement_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("hits", "its hits"), ("rests", "its rests")],
        "rests" if speech.lane.complement else "hits",
        lambda key: {"complement": key == "rests"},
    )


def _busy(speech: Speech) -> list[Word]:
    busy = speech.lane.busy
    low, high = limits(Lane, "busy")
    return [number("busy-ness", "busy", busy, low, high, negated=busy < 0), text(" %")]


def busy_word(speech: Speech) -> Word | None:
    """Return the number of a lane's busy-ness; None for a lane made from another, which has none."""
    return None if speech.is_made else _busy(speech)[0]


def _say_busy(speech: Speech) -> list[Word]:
    if speech.lane.busy == 0:
        return []
    return [text("busier " if speech.lane.busy > 0 else "sparser "), *_busy(speech)]


def _offer_busy(speech: Speech) -> list[Offer]:
    if speech.is_made or speech.lane.busy:
        return []
    return [Offer(setting="busy-ness", text="busier 20 %", explains=_BUSY, patch={"busy": 20})]


def _say_thin(speech: Speech) -> list[Word]:
    thin = speech.lane.thin
    if thin is None:
        return []
    words = [
        choice(thin.keeps, "only or without"),
        text(" each "),
        number("each", "thin.every", thin.every, max(2, thin.first), MAX_EVERY),
        text(f"{ordinal(thin.every)} "),
        choice("hit of a cycle" if thin.each_cycle else "hit", "counted"),
    ]
    if thin.first > 1:
        first = number("from", "thin.first", thin.first, 1, thin.every)
        words += [text(", from the "), first, text(ordinal(thin.first))]
    return words


def _thin_choices(speech: Speech) -> list[Choice]:
    thin = speech.lane.thin or Thin()
    each = f"each {thin.every}{ordinal(thin.every)} hit"
    return choices(
        [("every", "every hit"), ("only", f"only {each}"), ("without", f"without {each}")],
        speech.lane.thin.keeps if speech.lane.thin else "every",
        lambda key: {"thin": None if key == "every" else thin.model_dump() | {"keeps": key}},
    )


def _counted_choices(speech: Speech) -> list[Choice]:
    thin = speech.lane.thin or Thin()
    return choices(
        [("run", "counted on and on"), ("cycle", "counted anew in each cycle")],
        "cycle" if thin.each_cycle else "run",
        lambda key: {"thin": thin.model_dump() | {"each_cycle": key == "cycle"}},
    )


def _offer_thin(speech: Speech) -> list[Offer]:
    thin = speech.lane.thin
    if thin is None:
        patch = {"thin": Thin().model_dump()}
        return [Offer(setting="thin", text="only each 3rd hit", explains=_THIN, patch=patch)]
    if thin.first == 1:
        explains = "Counting begins on a later hit."
        patch = {"thin": thin.model_dump() | {"first": 2}}
        return [Offer(setting="thin from", text="from the 2nd", explains=explains, patch=patch)]
    return []


def _say_edits(speech: Speech) -> list[Word]:
    if not speech.lane.edits:
        return []
    awake = sum(edit.step < speech.lane_steps.steps for edit in speech.lane.edits)
    asleep = len(speech.lane.edits) - awake
    said = f"{awake} by hand" + (f" ({asleep} beyond its steps)" if asleep else "")
    if not awake:
        said = f"{asleep} by hand, beyond its steps"
    return [choice(said, "by hand")]


def _edit_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("edited", "as edited"), ("clear", "clear what was done by hand"), ("settle", "drawn as it stands")],
        "edited",
        lambda key: {"edits": []} if key == "clear" else settled(speech.lane_steps),
    )


_SOURCE = (
    "Where the hits come from: spread evenly, by number, thrown, drawn by hand, from a ground, or made from "
    "another lane."
)
_ROTATE = "Every hit moves so many steps later, round the cycle."
_COMPLEMENT = "Hits and rests change places."
_BUSY = "Higher, rests become hits, the strongest places first; lower, hits fall away, down to silence."
_THIN = "Only, or without, every so-many-th hit, counted on and on."
_EDITS = "Single steps turned to hit or rest by hand, on top of all else."

SETTINGS: tuple[Setting, ...] = (
    Setting(
        "source",
        "hits",
        frozenset({"source"}),
        _SOURCE,
        say_source,
        say_source,
        alternatives={
            "source": source_choices,
            "lane": followed_choices,
            "ground": ground_choices,
            "part": part_choices,
            "next number": next_number_choices,
        },
        offers=offer_replies,
    ),
    Setting(
        "rotate",
        "rotate",
        frozenset({"rotate"}),
        _ROTATE,
        lambda speech: [text("rotated "), _rotated(speech)] if speech.lane.rotate else [],
        lambda speech: [_rotated(speech)],
        offers=offered("rotated 1", _ROTATE, {"rotate": 1}, lambda speech: speech.lane.rotate != 0),
        shown={"rotate": 2},
    ),
    Setting(
        "complement",
        "sounds on",
        frozenset({"complement"}),
        _COMPLEMENT,
        lambda speech: [choice("its rests", "hits or rests")] if speech.lane.complement else [],
        lambda speech: [choice("its rests" if speech.lane.complement else "its hits", "hits or rests")],
        red=True,
        alternatives={"hits or rests": _complement_choices},
        offers=offered("its rests", _COMPLEMENT, {"complement": True}, lambda speech: speech.lane.complement),
    ),
    Setting(
        "busy-ness",
        "busy-ness",
        frozenset({"busy"}),
        _BUSY,
        _say_busy,
        lambda speech: [] if speech.is_made else (_say_busy(speech) or _busy(speech)),
        red=True,
        offers=_offer_busy,
    ),
    Setting(
        "thin",
        "thinned",
        frozenset({"thin"}),
        _THIN,
        _say_thin,
        either(_say_thin, lambda _: [choice("every hit", "only or without")]),
        red=True,
        alternatives={"only or without": _thin_choices, "counted": _counted_choices},
        offers=_offer_thin,
    ),
    Setting(
        "by hand",
        "by hand",
        frozenset({"edits"}),
        _EDITS,
        _say_edits,
        _say_edits,
        red=True,
        alternatives={"by hand": _edit_choices},
        shown={"edits": [{"step": 1, "hit": True}, {"step": 3, "hit": False}]},
    ),
    BURSTS,
    *CLOCK,
    *MELODY,
    ARPEGGIO,
    VELOCITY,
    *STROKES,
    RATCHET,
    LENGTH,
    NUDGE,
    OCTAVE,
    CHORDS,
    CONTROLS,
    CHANCE,
    *LUCK,
    *TIMING,
    MOVEMENTS,
    *SOUND,
)

GROUPS: Mapping[Group, tuple[str, ...]] = {
    # Which steps are hits, whether they sound, when, what is played, and with what sound.
    "steps": ("source", "rotate", "complement", "busy-ness", "thin", "by hand", "bursts"),
    "luck": ("chance", "links", "cycle rule", "cycle rules", "luck", "moves"),
    "time": ("step value", "span", "once", "step range", "direction", "restart", "swing", "humanise", "nudge"),
    "notes": (
        "pitch", "follows", "transposed", "arpeggio", "octave", "chord", "velocity", "accent", "beat weight", "evened",
        "ratchet", "length",
    ),
    "sound": (
        "level", "pan", "room", "brightness", "attack", "release", "glide", "control", "port",
        "program", "channel", "note", "anchor", "clip",
    ),
}  # fmt: skip
_ROWS = {row.name: row for row in SETTINGS}
