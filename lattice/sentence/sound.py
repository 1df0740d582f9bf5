"""Where a lane's notes go, how its sound stands in the room, what stands or plays in its place, in words."""

from lattice.sentence.setting import Setting, Speech, either, offered, one_number
from lattice.sentence.words import Choice, Word, choice, choices, number, text

__all__ = ["SOUND"]

_FIRST_CHANNEL, _FIRST_NOTE = 1, 60


def _say_channel(speech: Speech) -> list[Word]:
    channel = speech.lane.channel
    if channel is None:
        return []
    return [choice("channel", "channel"), text(" "), number("channel", "channel", channel, 1, 16)]


def _channel_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("kit", "the kit's channel"), ("own", f"channel {_FIRST_CHANNEL}")],
        "kit" if speech.lane.channel is None else "own",
        lambda key: {"channel": _FIRST_CHANNEL if key == "own" else None},
    )


def _say_note(speech: Speech) -> list[Word]:
    note = speech.lane.note
    return [] if note is None else [choice("note", "note"), text(" "), number("note", "note", note, 0, 127)]


def _note_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("kit", "the voice's note"), ("own", f"note {_FIRST_NOTE}")],
        "kit" if speech.lane.note is None else "own",
        lambda key: {"note": _FIRST_NOTE if key == "own" else None},
    )


def _say_pan(speech: Speech) -> list[Word]:
    pan = speech.lane.pan
    if pan == 0:
        return []
    return [text("pan "), number("pan", "pan", pan, -100, 100), text(" right" if pan > 0 else " left")]


def _anchor_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("free", "free"), ("anchored", "anchored")],
        "anchored" if speech.lane.anchored else "free",
        lambda key: {"anchored": key == "anchored"},
    )


def _clip_choices(speech: Speech) -> list[Choice]:
    clip = speech.lane.clip
    if clip is None:
        return []
    return choices(
        [("clip", f"clip “{clip.name}” plays here"), ("lane", "the lane itself again")],
        "clip",
        lambda key: {"clip": clip.model_dump(mode="json") if key == "clip" else None},
    )


def _say_clip(speech: Speech) -> list[Word]:
    clip = speech.lane.clip
    return [] if clip is None else [choice(f"clip “{clip.name}” plays here", "clip")]


_CLIP = "Kept notes play in the lane's place; all that it says beside is set aside, not gone."
_CHANNEL = "The MIDI channel of your own instrument for this lane; the kit's where nothing is said."
_NOTE = "The MIDI note number that this lane plays; its voice's where nothing is said."
_LEVEL = "How loud the built-in sound of this lane is."
_PAN = "Where the built-in sound stands between left and right."
_ANCHOR = "No throw, and nothing done to all lanes, touches it."

SOUND: tuple[Setting, ...] = (
    one_number("level", "level_db", (-48, 6), -6, explains=_LEVEL, unit=" dB"),
    Setting(
        "pan",
        "pan",
        frozenset({"pan"}),
        _PAN,
        _say_pan,
        lambda speech: _say_pan(speech)[1:] or [number("pan", "pan", 0, -100, 100)],
        offers=offered("pan 30 right", _PAN, {"pan": 30}, lambda speech: speech.lane.pan != 0),
    ),
    Setting(
        "channel",
        "channel",
        frozenset({"channel"}),
        _CHANNEL,
        _say_channel,
        lambda speech: _say_channel(speech)[2:] or [choice("the kit's", "channel")],
        alternatives={"channel": _channel_choices},
        offers=offered(
            f"channel {_FIRST_CHANNEL}",
            _CHANNEL,
            {"channel": _FIRST_CHANNEL},
            lambda speech: speech.lane.channel is not None,
        ),
    ),
    Setting(
        "note",
        "note",
        frozenset({"note"}),
        _NOTE,
        _say_note,
        lambda speech: _say_note(speech)[2:] or [choice("the voice's", "note")],
        alternatives={"note": _note_choices},
        offers=offered(
            f"note {_FIRST_NOTE}", _NOTE, {"note": _FIRST_NOTE}, lambda speech: speech.lane.note is not None
        ),
    ),
    Setting(
        "anchor",
        "standing",
        frozenset({"anchored"}),
        _ANCHOR,
        lambda speech: [choice("anchored", "standing")] if speech.lane.anchored else [],
        lambda speech: [choice("anchored" if speech.lane.anchored else "free", "standing")],
        alternatives={"standing": _anchor_choices},
        offers=offered("anchored", _ANCHOR, {"anchored": True}, lambda speech: speech.lane.anchored),
    ),
    Setting(
        "clip",
        "plays",
        frozenset({"clip"}),
        _CLIP,
        _say_clip,
        either(_say_clip, lambda _: [text("itself")]),
        red=True,
        alternatives={"clip": _clip_choices},
    ),
)
