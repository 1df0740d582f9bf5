"""An arpeggio in words: the order of its notes, the pool that they come from, what else acts on it."""

from typing import Any

import numpy as np

from lattice.document.arpeggio import (
    MAX_OCTAVES,
    MOST_AT_ONCE,
    Arpeggio,
    ChordPool,
    HeldPool,
    LanePool,
    Latch,
    NoteOrder,
    Pedal,
    Pool,
    ScalePool,
    TypedPool,
)
from lattice.document.source import MAX_EVERY
from lattice.render.held_keys import gathered, held_pools
from lattice.sentence.melody import melodic, melodic_offers
from lattice.sentence.setting import Setting, Speech
from lattice.sentence.source import could_follow
from lattice.sentence.words import Choice, Offer, Patch, Word, choice, choices, number, ordinal, text
from lattice.theory.names import note_name
from lattice.theory.scales import folded, scale_note_below, scale_steps

__all__ = ["ARPEGGIO"]

_ORDERS_SAID: dict[NoteOrder, str] = {
    "up": "up",
    "down": "down",
    "up-and-down": "up and down",
    "up-and-down-twice": "up and down, ends twice",
    "as-played": "as played",
    "inward": "inward",
    "outward": "outward",
    "shuffled": "shuffled",
    "random": "random",
    "all": "all at once",
}
_LATCH_SAID: dict[Latch, str] = {
    "off": "held keys",
    "replace": "keys latched",
    "add": "keys latched and added",
}
_RESTARTS_SAID = {"free": "runs on", "cycle": "anew each cycle", "chord": "anew each chord"}
_FEW = 6  # keys are named one by one
_KEYS_BEGIN = "anew with each hand"


def _say(speech: Speech) -> list[Word]:
    arpeggio = speech.lane.arpeggio
    if arpeggio is None:
        return []
    words = [_order(arpeggio)]
    if arpeggio.octaves > 1:
        words += [text(" over "), _octaves(arpeggio), text(" octaves")]
    words += [text(", "), *_pool_words(speech, arpeggio)]
    if arpeggio.restart != "free":
        words += [text(", "), choice(_restart_said(arpeggio, arpeggio.restart), "arpeggio begins")]
    if arpeggio.pedal:
        words += [text(", "), *_pedal_words(speech, arpeggio.pedal)]
    if arpeggio.velocity == "keys":
        words += [text(", "), choice("keys' velocity", "arpeggio velocity")]
    return words


def _on_bench(speech: Speech) -> list[Word]:
    arpeggio = speech.lane.arpeggio
    if arpeggio is None:
        return [choice("none", "note order")]
    words = [_order(arpeggio), text(" over "), _octaves(arpeggio)]
    words += [text(" octave, " if arpeggio.octaves == 1 else " octaves, "), *_pool_words(speech, arpeggio)]
    words += [text(", "), choice(_restart_said(arpeggio, arpeggio.restart), "arpeggio begins"), text(", ")]
    words += _pedal_words(speech, arpeggio.pedal) if arpeggio.pedal else [choice("no pedal note", "pedal")]
    hard = "keys' velocity" if arpeggio.velocity == "keys" else "the lane's velocity"
    return [*words, text(", "), choice(hard, "arpeggio velocity")]


def _octaves(arpeggio: Arpeggio) -> Word:
    most = min(MAX_OCTAVES, MOST_AT_ONCE // Arpeggio.size_of(arpeggio.pool))
    return number("octaves", "arpeggio.octaves", arpeggio.octaves, 1, most)


def _order(arpeggio: Arpeggio) -> Word:
    said = _ORDERS_SAID[arpeggio.order]
    grows = isinstance(arpeggio.pool, HeldPool | LanePool)
    return choice(
        f"{said}, {MOST_AT_ONCE} at most" if arpeggio.order == "all" and grows else said, "note order"
    )


def _restart_said(arpeggio: Arpeggio, restart: str) -> str:
    return (
        _KEYS_BEGIN if restart == "chord" and isinstance(arpeggio.pool, HeldPool) else _RESTARTS_SAID[restart]
    )


def _pool_words(speech: Speech, arpeggio: Arpeggio) -> list[Word]:
    match arpeggio.pool:
        case HeldPool(latch=latch):
            return [choice(_LATCH_SAID[latch], "pool"), *_held_words(speech, latch)]
        case TypedPool(chord=chord, notes=notes):
            said = chord or " ".join(_named(speech, note) for note in notes)
            return [choice(said, "pool")]
        case ChordPool():
            unheard = "" if speech.context and speech.context.chords else ", when there are chords"
            return [choice(f"the chord{unheard}", "pool")]
        case ScalePool(low=low, high=high):
            most = MOST_AT_ONCE // arpeggio.octaves - 1
            return [
                choice("the scale", "pool"),
                text(" from "),
                number("lowest degree", "arpeggio.pool.low", low, max(-28, high - most), high),
                text(" to "),
                number("highest degree", "arpeggio.pool.high", high, low, min(28, low + most)),
            ]
        case LanePool():
            name = (
                speech.context.source.lane_steps.lane.name if speech.context and speech.context.source else ""
            )
            return [choice("notes of", "pool"), text(" "), choice(name, "pool lane")]


def _held_words(speech: Speech, latch: Latch) -> list[Word]:
    """Say which keys the pool has after all that hands did."""
    pools = held_pools(speech.lane.keys, latch).pools
    held = sorted({note.pitch for note in pools[-1]}) if pools else []
    if not held:
        return []
    few = " ".join(_named(speech, pitch) for pitch in held)
    return [text(f" {few}" if len(held) <= _FEW else f", {len(held)} of them")]


def _named(speech: Speech, pitch: int) -> str:
    scale = speech.context.scale if speech.context else None
    return note_name(pitch, scale.root, scale.semitones) if scale else note_name(pitch)


def _pedal_words(speech: Speech, pedal: Pedal) -> list[Word]:
    said = "pedal note" if pedal.note is None else f"pedal {_named(speech, pedal.note)}"
    every = number("pedal every", "arpeggio.pedal.every", pedal.every, max(2, pedal.first), MAX_EVERY)
    words = [choice(said, "pedal"), text(" each "), every, text(f"{ordinal(pedal.every)} hit")]
    if pedal.first > 1:
        first = number("pedal from", "arpeggio.pedal.first", pedal.first, 1, pedal.every)
        words += [text(" from the "), first, text(ordinal(pedal.first))]
    if pedal.again:
        words += [text(", "), choice("begins again after it", "after the pedal")]
    return words


# ---- What it could be instead ----


def _with(speech: Speech, **fields: Any) -> Patch:
    arpeggio = speech.lane.arpeggio or Arpeggio()
    return {"arpeggio": arpeggio.model_copy(update=fields).model_dump(mode="json")}


def _order_choices(speech: Speech) -> list[Choice]:
    arpeggio = speech.lane.arpeggio
    return choices(
        [("none", "no arpeggio"), *_ORDERS_SAID.items()],
        arpeggio.order if arpeggio else "none",
        lambda key: {"arpeggio": None} if key == "none" else _with(speech, order=key),
    )


def _pool_choices(speech: Speech) -> list[Choice]:
    arpeggio = speech.lane.arpeggio or Arpeggio()
    pool = arpeggio.pool
    if speech.context is None:
        return []
    typed = pool if isinstance(pool, TypedPool) else TypedPool(notes=_notes_of(speech))
    said = typed.chord or " ".join(_named(speech, note) for note in typed.notes)
    known: dict[str, tuple[str, Any]] = {
        latch: (_LATCH_SAID[latch], HeldPool(latch=latch)) for latch in _LATCH_SAID
    }
    known["typed"] = (f"always {said}", typed)
    known["chord"] = ("the chord of the progression", ChordPool())
    known["scale"] = ("the scale, an octave of it", pool if isinstance(pool, ScalePool) else ScalePool())
    followed = could_follow(speech)
    if followed or isinstance(pool, LanePool):
        lane_pool = pool if isinstance(pool, LanePool) else LanePool(of=followed[0].id)
        name = next((one.name for one in followed if one.id == lane_pool.of), "")
        known["lane"] = (f"notes of {name}", lane_pool)
    chosen = pool.latch if isinstance(pool, HeldPool) else pool.kind
    return choices(
        [(key, said) for key, (said, _) in known.items()],
        chosen,
        lambda key: _with(speech, pool=known[key][1]) | _still_held(speech, known[key][1]),
    )


def _still_held(speech: Speech, pool: Pool) -> Patch:
    """Return the keys that another latch begins with: what is held now, and none that a latch has replaced."""
    was = speech.lane.arpeggio.pool if speech.lane.arpeggio else None
    keys = speech.lane.keys
    if not isinstance(pool, HeldPool) or not isinstance(was, HeldPool) or not keys.held:
        return {}
    last = max(one.end if one.end is not None else one.start for one in keys.held)
    return {"keys": gathered(keys, was.latch, begin=last).model_dump(mode="json")}


def _notes_of(speech: Speech) -> tuple[int, ...]:
    """Return three notes to begin a typed pool with: the lane's, and those two and four degrees above."""
    if speech.context is None:
        return ()
    scale = speech.context.scale.root, speech.context.scale.semitones
    first = scale_note_below(np.full(3, speech.context.note), *scale)
    return tuple(folded(scale_steps(first, np.array([0, 2, 4]), *scale)).tolist())


def _pool_lane_choices(speech: Speech) -> list[Choice]:
    pool = speech.lane.arpeggio.pool if speech.lane.arpeggio else None
    if not isinstance(pool, LanePool):
        return []
    return choices(
        [(other.id, other.name) for other in could_follow(speech)],
        pool.of,
        lambda of: _with(speech, pool=LanePool(of=of)),
    )


def _restart_choices(speech: Speech) -> list[Choice]:
    arpeggio = speech.lane.arpeggio or Arpeggio()
    return choices(
        [(key, _restart_said(arpeggio, key)) for key in _RESTARTS_SAID],
        arpeggio.restart,
        lambda key: _with(speech, restart=key),
    )


def _pedal_choices(speech: Speech) -> list[Choice]:
    arpeggio = speech.lane.arpeggio or Arpeggio()
    pedal = arpeggio.pedal
    known = {
        "none": ("no pedal note", None),
        "lane": ("the lane's note", (pedal or Pedal()).model_copy(update={"note": None})),
    }
    if speech.context:
        for key, by in (("octave", 12), ("below", -12)):
            note = min(127, max(0, speech.context.note + by))
            known[key] = (f"{_named(speech, note)}", (pedal or Pedal()).model_copy(update={"note": note}))
    chosen = "none" if pedal is None else next((k for k, (_, one) in known.items() if one == pedal), "own")
    if chosen == "own" and pedal and pedal.note is not None:
        known["own"] = (_named(speech, pedal.note), pedal)
    return choices(
        [(key, said) for key, (said, _) in known.items()],
        chosen,
        lambda key: _with(speech, pedal=known[key][1]),
    )


def _after_pedal_choices(speech: Speech) -> list[Choice]:
    pedal = speech.lane.arpeggio.pedal if speech.lane.arpeggio else None
    if pedal is None:
        return []
    return choices(
        [("on", "goes on after it"), ("again", "begins again after it")],
        "again" if pedal.again else "on",
        lambda key: _with(speech, pedal=pedal.model_copy(update={"again": key == "again"})),
    )


def _velocity_choices(speech: Speech) -> list[Choice]:
    arpeggio = speech.lane.arpeggio or Arpeggio()
    return choices(
        [("lane", "the lane's velocity"), ("keys", "keys' velocity")],
        arpeggio.velocity,
        lambda key: _with(speech, velocity=key),
    )


def _offers(speech: Speech) -> list[Offer]:
    arpeggio = speech.lane.arpeggio
    if arpeggio is None:
        return [Offer(setting="arpeggio", text="arpeggio", explains=_ARPEGGIO, patch=_with(speech))]
    found = []
    if arpeggio.octaves == 1 and 2 * Arpeggio.size_of(arpeggio.pool) <= MOST_AT_ONCE:
        said = "over 2 octaves"
        found.append(Offer(setting=said, text=said, explains=_OCTAVES, patch=_with(speech, octaves=2)))
    if arpeggio.restart == "free":
        said = _RESTARTS_SAID["cycle"]
        found.append(Offer(setting=said, text=said, explains=_RESTART, patch=_with(speech, restart="cycle")))
    if arpeggio.pedal is None:
        said = "pedal note each 4th hit"
        found.append(Offer(setting=said, text=said, explains=_PEDAL, patch=_with(speech, pedal=Pedal())))
    elif not arpeggio.pedal.again:
        said = "begins again after the pedal note"
        again = arpeggio.pedal.model_copy(update={"again": True})
        found.append(Offer(setting=said, text=said, explains=_PEDAL, patch=_with(speech, pedal=again)))
    if arpeggio.velocity == "lane" and isinstance(arpeggio.pool, HeldPool | LanePool):
        said = "keys' velocity"
        found.append(Offer(setting=said, text=said, explains=_VELOCITY, patch=_with(speech, velocity="keys")))
    return found


_ARPEGGIO = (
    "Its hits play the notes of a pool one after the other: held keys, a chord, the scale, another lane's."
)
_OCTAVES = "The pool's notes again one or more octaves higher."
_RESTART = "When the order begins again with its first note."
_PEDAL = "One note returns on each so-many-th hit, in place of the order's."
_VELOCITY = "Notes are as hard as the keys, or the notes, that they come from."

ARPEGGIO = Setting(
    "arpeggio",
    "arpeggio",
    frozenset({"arpeggio", "keys"}),
    _ARPEGGIO,
    melodic(_say),
    melodic(_on_bench),
    alternatives={
        "note order": _order_choices,
        "pool": _pool_choices,
        "pool lane": _pool_lane_choices,
        "arpeggio begins": _restart_choices,
        "pedal": _pedal_choices,
        "after the pedal": _after_pedal_choices,
        "arpeggio velocity": _velocity_choices,
    },
    offers=melodic_offers(_offers),
)
