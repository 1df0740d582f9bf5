"""How strokes are weighted and placed, in words: accent, beat weight, even out, swing, humanise."""

from typing import get_args

from lattice.document.feel import STRAIGHT, Accent, Humanise, LaneSwing, Swing
from lattice.document.limits import limits
from lattice.document.source import MAX_EVERY
from lattice.sentence.setting import Setting, Speech, either, offered, one_number, unlabelled
from lattice.sentence.words import Choice, Offer, Patch, Word, choice, choices, number, ordinal, text

__all__ = ["STROKES", "SWING", "TIMING", "swing_choices", "swing_words"]

_OWN_SWING = 58


# ---- Accent ----


def _say_accent(speech: Speech) -> list[Word]:
    accent = speech.lane.accent
    if accent is None:
        return []
    words = [
        text("accent "),
        number("accent velocity", "accent.velocity", accent.velocity, *limits(Accent, "velocity")),
        text(" on "),
        choice("each", "accent"),
        text(" "),
        number("accent each", "accent.every", accent.every, max(1, accent.first), MAX_EVERY),
        text(f"{ordinal(accent.every)} hit"),
    ]
    if accent.first > 1:
        first = number("accent from", "accent.first", accent.first, 1, accent.every)
        words += [text(", from the "), first, text(ordinal(accent.first))]
    return words


def _accent_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("none", "no accent"), ("each", "accent 120 on each 3rd hit")],
        "each" if speech.lane.accent else "none",
        lambda key: {"accent": Accent().model_dump() if key == "each" else None},
    )


def _offer_accent(speech: Speech) -> list[Offer]:
    accent = speech.lane.accent
    if accent is None:
        patch = {"accent": Accent().model_dump()}
        return [Offer(setting="accent", text="accent 120 on each 3rd hit", explains=_ACCENT, patch=patch)]
    if accent.first == 1 and accent.every > 1:
        patch = {"accent": accent.model_dump() | {"first": 2}}
        return [Offer(setting="accent from", text="accent from the 2nd", explains=_ACCENT, patch=patch)]
    return []


# ---- Swing and humanise ----


def swing_words(swing: Swing) -> list[Word]:
    """Return how much is swung, and which notes."""
    own = isinstance(swing, LaneSwing) and swing.own_steps
    return [
        number("swing", "swing.percent", swing.percent, *limits(Swing, "percent")),
        text(" % of "),
        choice("its own steps" if own else f"1/{swing.note}", "swung notes"),
    ]


def swing_choices(swing: Swing) -> list[Choice]:
    """Return which notes could be swung."""
    return choices(
        [(str(note), f"1/{note}") for note in get_args(Swing.model_fields["note"].annotation)],
        str(swing.note),
        lambda key: {"swing": swing.model_dump() | {"note": int(key)}},
    )


def _say_swing(speech: Speech) -> list[Word]:
    swing = speech.lane.swing
    return [choice("swing", "swing"), text(" "), *swing_words(swing)] if swing else []


def _swing_on_bench(speech: Speech) -> list[Word]:
    swing = speech.lane.swing
    return [*swing_words(swing), text(", "), choice("its own", "swing")] if swing else []


def _whose(own: Swing | None) -> str:
    if own is None:
        return "piece"
    return "straight" if own.percent == STRAIGHT else "own"


def _own_swing_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("piece", "the piece's swing"), ("own", f"swing {_OWN_SWING} %"), ("straight", "straight")],
        _whose(speech.lane.swing),
        lambda key: {
            "swing": None
            if key == "piece"
            else LaneSwing(percent=_OWN_SWING if key == "own" else STRAIGHT).model_dump()
        },
    )


def _swung_note_choices(speech: Speech) -> list[Choice]:
    swing = speech.lane.swing or LaneSwing()

    def patch(key: str) -> Patch:
        changed = {"own_steps": True} if key == "own" else {"own_steps": False, "note": int(key)}
        return {"swing": swing.model_dump() | changed}

    notes = [(str(note), f"1/{note}") for note in get_args(Swing.model_fields["note"].annotation)]
    chosen = "own" if swing.own_steps else str(swing.note)
    return choices([*notes, ("own", "its own steps, triplets and their kin too")], chosen, patch)


def _say_humanise(speech: Speech) -> list[Word]:
    humanise = speech.lane.humanise
    if humanise is None:
        return []
    return [
        text("humanise "),
        number("humanise ms", "humanise.ms", humanise.ms, *limits(Humanise, "ms")),
        text(" ms, "),
        number("humanise velocity", "humanise.velocity", humanise.velocity, *limits(Humanise, "velocity")),
        text(" "),
        choice("velocity", "humanise"),
    ]


def _humanise_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("exact", "exactly in time and strength"), ("human", "humanise 6 ms, 4 velocity")],
        "human" if speech.lane.humanise else "exact",
        lambda key: {"humanise": Humanise().model_dump() if key == "human" else None},
    )


_ACCENT = "Each so-many-th hit is struck harder, counted before chance, so that accents do not wander."
_WEIGHT = "Hits off the beat are weaker, half-way to the next a little, elsewhere more."
_EVENED = "Loud and soft are drawn together: at 100 % all are the same."
SWING = (
    "The first of each pair of notes takes more than half of it; triplets and their kin stay straight, "
    "unless a lane lets its own steps swing."
)
_HUMANISE = "Each hit is a little early or late, harder or softer: at most twice so much."

STROKES: tuple[Setting, ...] = (
    Setting(
        "accent",
        "accent",
        frozenset({"accent"}),
        _ACCENT,
        _say_accent,
        either(unlabelled(_say_accent), lambda _: [choice("none", "accent")]),
        alternatives={"accent": _accent_choices},
        offers=_offer_accent,
    ),
    one_number("beat weight", "beat_weight", 40, explains=_WEIGHT, unit=" %"),
    one_number("evened", "evened", 30, explains=_EVENED, unit=" %"),
)

TIMING: tuple[Setting, ...] = (
    Setting(
        "swing",
        "swing",
        frozenset({"swing"}),
        SWING,
        _say_swing,
        either(_swing_on_bench, lambda _: [choice("the piece's", "swing")]),
        alternatives={"swing": _own_swing_choices, "swung notes": _swung_note_choices},
        offers=offered(
            f"swing {_OWN_SWING} %",
            SWING,
            {"swing": LaneSwing(percent=_OWN_SWING).model_dump()},
            lambda speech: speech.lane.swing is not None,
        ),
    ),
    Setting(
        "humanise",
        "humanise",
        frozenset({"humanise"}),
        _HUMANISE,
        _say_humanise,
        either(unlabelled(_say_humanise), lambda _: [choice("exact", "humanise")]),
        alternatives={"humanise": _humanise_choices},
        offers=offered(
            "humanise 6 ms, 4 velocity",
            _HUMANISE,
            {"humanise": Humanise().model_dump()},
            lambda speech: speech.lane.humanise is not None,
        ),
    ),
)
