"""Where a lane's notes go, how its sound stands in the room, what stands or plays in its place, in words."""

from lattice.document.kit import DOCKSIDE, Kit
from lattice.document.lane import Lane
from lattice.document.lane_clip import LaneClip
from lattice.document.limits import limits
from lattice.document.notes import Note
from lattice.document.pitched import PITCHED, WHOLE_KIT
from lattice.document.port import BUILT_IN, SIMULATED, Program
from lattice.render.sounding import port_of
from lattice.sentence.setting import Setting, Speech, offered, one_number, unlabelled
from lattice.sentence.words import Choice, Offer, Word, choice, choices, number, text
from lattice.theory.names import note_name
from lattice.units import TICKS_PER_QUARTER

__all__ = ["SOUND"]

_FIRST_CHANNEL, _FIRST_NOTE = 1, 60


def _say_channel(speech: Speech) -> list[Word]:
    channel = speech.lane.channel
    if channel is None:
        return []
    return [
        choice("channel", "channel"),
        text(" "),
        number("channel", "channel", channel, *limits(Lane, "channel")),
    ]


def _channel_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("kit", f"{_whose(speech)} channel"), ("own", f"channel {_FIRST_CHANNEL}")],
        "kit" if speech.lane.channel is None else "own",
        lambda key: {"channel": _FIRST_CHANNEL if key == "own" else None},
    )


def _whose(speech: Speech) -> str:
    return "the voice's" if speech.lane.is_melodic else "the kit's"


def _nearest_root(speech: Speech) -> str:
    if speech.context is None:
        return "the voice's"
    return note_name(speech.context.note, speech.context.scale.root, speech.context.scale.semitones)


def _say_note(speech: Speech) -> list[Word]:
    note = speech.lane.note
    if note is None:
        return []
    words = [choice("note", "note"), text(" "), number("note", "note", note, *limits(Lane, "note"))]
    return [*words, text(f" ({_nearest_root(speech)})")] if speech.context else words


def _note_choices(speech: Speech) -> list[Choice]:
    return choices(
        [
            ("kit", "the root nearest its voice" if speech.context else "the voice's note"),
            ("own", f"note {_FIRST_NOTE}"),
        ],
        "kit" if speech.lane.note is None else "own",
        lambda key: {"note": _FIRST_NOTE if key == "own" else None},
    )


def _say_pan(speech: Speech) -> list[Word]:
    pan = speech.lane.pan
    if pan == 0:
        return []
    return [text("pan "), number("pan", "pan", pan, *limits(Lane, "pan"))]


def _anchor_choices(speech: Speech) -> list[Choice]:
    return choices(
        [("free", "not anchored"), ("anchored", "anchored")],
        "anchored" if speech.lane.anchored else "free",
        lambda key: {"anchored": key == "anchored"},
    )


def _clip_choices(speech: Speech) -> list[Choice]:
    clip = speech.lane.clip
    if clip is None:
        return []
    return choices(
        [("clip", f"plays clip “{clip.name}”"), ("lane", "plays its own notes")],
        "clip",
        lambda key: {"clip": clip.model_dump(mode="json") if key == "clip" else None},
    )


def _say_clip(speech: Speech) -> list[Word]:
    clip = speech.lane.clip
    return [] if clip is None else [text("plays "), choice(f"clip “{clip.name}”", "clip")]


def _glide(speech: Speech) -> list[Word]:
    glide = number("glide", "glide_ms", speech.lane.glide_ms, *limits(Lane, "glide_ms"))
    return [text("glides "), glide, text(" ms")]


def _plain_port(speech: Speech) -> str:
    return port_of(speech.lane, speech.score.kit) if speech.score else BUILT_IN


def _port_choices(speech: Speech) -> list[Choice]:
    """Where it could go: the ports that ship with the application, and those that the piece names."""
    own, plain = speech.lane.port, port_of(speech.lane.model_copy(update={"port": None}), _kit(speech))
    named = sorted({port for lane in speech.lanes if (port := lane.port)} | {BUILT_IN, SIMULATED})
    kit = "the kit’s port" if _kit(speech).port and plain == _kit(speech).port else plain
    others = [(port, port) for port in named if port != plain or port == own]
    return choices([("", kit), *others], own or "", lambda key: {"port": key or None})


def _kit(speech: Speech) -> Kit:
    return speech.score.kit if speech.score else DOCKSIDE


def _say_program(speech: Speech) -> list[Word]:
    program = speech.lane.program
    if program is None:
        return []
    words = [
        choice("program", "program"),
        text(" "),
        number("program", "program.number", program.number, *limits(Program, "number")),
    ]
    if program.bank is None:
        return words
    return [*words, text(" of bank "), number("bank", "program.bank", program.bank, *limits(Program, "bank"))]


def _program_choices(speech: Speech) -> list[Choice]:
    program = speech.lane.program
    own = Program(number=program.number if program else 1)
    known = {"none": None, "number": own, "bank": own.model_copy(update={"bank": 0})}
    chosen = "none" if program is None else "number" if program.bank is None else "bank"
    return choices(
        [("none", "as it stands"), ("number", f"program {own.number}"), ("bank", "program of a bank")],
        chosen,
        lambda key: {"program": one.model_dump() if (one := known[key]) else None},
    )


_ROOM = "How much of the built-in sound is sent to the room that all share: it answers there."
_GLIDE = (
    "A note that begins while another of the lane sounds glides there from it; longer notes overlap more."
)
_PORT = "Where its notes go: the built-in sounds, the simulated instrument, or one of your own."
_PROGRAM = "Which of its sounds your instrument chooses as play begins."
_CLIP = "Kept notes play in the lane's place; all that it says beside is set aside, not gone."
_CHANNEL = "The MIDI channel of your own instrument for this lane; the kit's where nothing is said."
_NOTE = "The MIDI note number that this lane plays; its voice's where nothing is said."
_LEVEL = "How loud the built-in sound of this lane is."
_PAN = "Where the built-in sound stands between left, -100, and right, 100."
_ANCHOR = "No throw, and nothing done to all lanes, touches it."

_BRIGHTNESS = "How strong the overtones of a pitched voice are."
_ATTACK = "How long a pitched voice takes to swell."
_RELEASE = "How long a pitched voice rings on when its note ends."


def _of_the_voice(field: str, label: str, unit: str, explains: str, shown: int) -> Setting:
    """A row of a number that a pitched voice has of its own, unless the lane says another."""

    def voices(speech: Speech) -> int:
        return int(getattr(PITCHED[speech.lane.voice], field))

    def say(speech: Speech) -> list[Word]:
        value = getattr(speech.lane, field)
        if value is None or not _is_synthesised(speech):
            return []
        return [
            choice(label, label),
            text(" "),
            number(label, field, value, *limits(Lane, field)),
            text(unit),
        ]

    def on_bench(speech: Speech) -> list[Word]:
        if not _is_synthesised(speech):
            return []
        return say(speech)[2:] or [choice(f"{voices(speech)}{unit}", label)]

    def found(speech: Speech) -> list[Choice]:
        own = getattr(speech.lane, field)
        known = [("voice", f"the voice's {voices(speech)}{unit}"), ("own", f"its own {label}")]
        return choices(
            known,
            "voice" if own is None else "own",
            lambda key: {field: None if key == "voice" else voices(speech)},
        )

    return Setting(
        label,
        label,
        frozenset({field}),
        explains,
        say,
        on_bench,
        alternatives={label: found},
        offers=lambda speech: (
            [Offer(setting=label, text=label, explains=explains, patch={field: voices(speech)})]
            if _is_synthesised(speech) and getattr(speech.lane, field) is None
            else []
        ),
        shown={field: shown},
    )


def _is_synthesised(speech: Speech) -> bool:
    return speech.lane.is_melodic and speech.lane.voice != WHOLE_KIT


SOUND: tuple[Setting, ...] = (
    _of_the_voice("brightness", "brightness", " %", _BRIGHTNESS, shown=95),
    _of_the_voice("attack_ms", "attack", " ms", _ATTACK, shown=400),
    _of_the_voice("release_ms", "release", " ms", _RELEASE, shown=2000),
    one_number("level", "level_db", -6, explains=_LEVEL, unit=" dB"),
    Setting(
        "pan",
        "pan",
        frozenset({"pan"}),
        _PAN,
        _say_pan,
        lambda speech: _say_pan(speech)[1:] or [number("pan", "pan", 0, *limits(Lane, "pan"))],
        offers=offered("pan 30", _PAN, {"pan": 30}, lambda speech: speech.lane.pan != 0),
    ),
    one_number("room", "room", 30, explains=_ROOM, unit=" %"),
    Setting(
        "glide",
        "glide",
        frozenset({"glide_ms"}),
        _GLIDE,
        lambda speech: _glide(speech) if speech.lane.glide_ms else [],
        lambda speech: _glide(speech)[1:] if speech.lane.is_melodic else [],
        offers=offered(
            "glides 80 ms",
            _GLIDE,
            {"glide_ms": 80},
            lambda speech: speech.lane.glide_ms != 0 or not _is_synthesised(speech),
        ),
    ),
    Setting(
        "port",
        "port",
        frozenset({"port"}),
        _PORT,
        lambda speech: [text("to "), choice(speech.lane.port, "port")] if speech.lane.port else [],
        lambda speech: [choice(speech.lane.port or _plain_port(speech), "port")],
        alternatives={"port": _port_choices},
        offers=offered(
            f"to the {SIMULATED}", _PORT, {"port": SIMULATED}, lambda speech: speech.lane.port is not None
        ),
    ),
    Setting(
        "program",
        "program",
        frozenset({"program"}),
        _PROGRAM,
        _say_program,
        lambda speech: _say_program(speech)[2:] or [choice("as it stands", "program")],
        alternatives={"program": _program_choices},
        offers=offered(
            "program 1", _PROGRAM, {"program": {"number": 1}}, lambda speech: speech.lane.program is not None
        ),
    ),
    Setting(
        "channel",
        "channel",
        frozenset({"channel"}),
        _CHANNEL,
        _say_channel,
        lambda speech: _say_channel(speech)[2:] or [choice(_whose(speech), "channel")],
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
        lambda speech: _say_note(speech)[2:] or [choice(_nearest_root(speech), "note")],
        alternatives={"note": _note_choices},
        offers=offered(
            f"note {_FIRST_NOTE}", _NOTE, {"note": _FIRST_NOTE}, lambda speech: speech.lane.note is not None
        ),
    ),
    Setting(
        "anchor",
        "anchor",
        frozenset({"anchored"}),
        _ANCHOR,
        lambda speech: [choice("anchored", "anchor")] if speech.lane.anchored else [],
        lambda speech: [choice("anchored" if speech.lane.anchored else "not anchored", "anchor")],
        alternatives={"anchor": _anchor_choices},
        offers=offered("anchored", _ANCHOR, {"anchored": True}, lambda speech: speech.lane.anchored),
    ),
    Setting(
        "clip",
        "plays",
        frozenset({"clip"}),
        _CLIP,
        _say_clip,
        unlabelled(_say_clip),
        red=True,
        alternatives={"clip": _clip_choices},
        shown={
            "clip": LaneClip(
                name="Last crossing",
                length_ticks=4 * TICKS_PER_QUARTER,
                notes=tuple(Note(at * TICKS_PER_QUARTER // 2, 1680, 39, 90) for at in (0, 3, 4, 6, 7)),
            ).model_dump(mode="json")
        },
    ),
)
