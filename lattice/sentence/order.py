"""Rows of a running order in words: what each plays, for how long, and how it differs from its pattern."""

from collections.abc import Callable
from fractions import Fraction

from lattice.document.limits import limits
from lattice.document.order import OrderRow, RowPace
from lattice.document.piece import Pattern, Piece
from lattice.document.scale import Scale
from lattice.sentence.melody import root_choices, said_scale, scale_choices
from lattice.sentence.words import Choice, Offer, Part, Patch, Word, choice, choices, number, text

__all__ = ["row_choices", "row_offers", "row_parts", "say_pace"]

_PACES = ((1, 2), (2, 3), (3, 4), (1, 1), (4, 3), (3, 2), (2, 1))
_MINOR = "minor"
_TRANSPOSED = "All that is melodic higher or lower in this row: by degrees of the scale, or by semitones."
_SCALE = "What degrees and numerals are counted in while this row plays."
_PACE = "Steps, spans and chords go by so many times as fast; bars stay as long as they are."
_WITHOUT = "Lanes that are silent in this row."


def say_pace(pace: RowPace) -> str:
    """Return what a pace makes of a step; '' where it is plain.

    >>> say_pace(RowPace(times=2, over=3)), say_pace(RowPace(times=2)), say_pace(RowPace())
    ('at 2/3 of the pace: a step lasts 3/2 as long', 'at 2 times the pace: a step lasts 1/2 as long', '')
    """
    rate = Fraction(pace.times, pace.over)
    return "" if rate == 1 else f"at {_rate(rate)}: a step lasts {1 / rate} as long"


def _rate(rate: Fraction) -> str:
    return f"{rate} times the pace" if rate.denominator == 1 else f"{rate} of the pace"


def row_parts(row: OrderRow, pattern: Pattern) -> list[Part]:
    """Return all that a row says: its pattern, its repeats, how long each is, and what is not plain."""
    bars = row.bars or pattern.bars
    parts = [
        _part("pattern", "Which pattern plays.", [choice(pattern.name, "pattern")]),
        _part(
            "length",
            "How many times, and how long each is; plain, once and as long as the pattern. Lanes run on through them.",
            [
                number("repeats", "repeats", row.repeats, *limits(OrderRow, "repeats")),
                text(" × "),
                number("bars", "bars", bars, *limits(OrderRow, "bars")),
                text(" bar" if bars == 1 else " bars"),
            ],
            {"repeats": 1, "bars": None},
        ),
    ]
    words: list[Word] = []
    for field, unit in (("degrees_up", "degree"), ("semitones_up", "semitone")):
        up = getattr(row, field)
        if up:
            words += [text(" and ")] if words else []
            words += [
                number(f"{unit}s up", field, up, *limits(OrderRow, field), negated=up < 0),
                text(f" {unit}{'' if abs(up) == 1 else 's'} {'up' if up > 0 else 'down'}"),
            ]
    if words:
        parts.append(_part("transposed", _TRANSPOSED, words, {"degrees_up": 0, "semitones_up": 0}, red=True))
    if row.scale:
        root, kind = said_scale(row.scale)
        said = [text("in "), choice(root, "root"), text(" "), choice(kind, "scale")]
        parts.append(_part("scale", _SCALE, said, {"scale": None}, red=True))
    rate = Fraction(row.pace.times, row.pace.over)
    if rate != 1:
        paced = [text("at "), choice(_rate(rate), "pace")]
        parts.append(_part("pace", _PACE, paced, {"pace": RowPace().model_dump()}, red=True))
    if muted := [lane.name for lane in pattern.lanes if lane.id in row.mutes]:
        named = " and ".join([", ".join(muted[:-1]), muted[-1]] if len(muted) > 1 else muted)
        silent = [text("without "), choice(named, "lanes")]
        parts.append(_part("without", _WITHOUT, silent, {"mutes": []}, red=True))
    return parts


def _part(
    setting: str, explains: str, words: list[Word], plain: Patch | None = None, *, red: bool = False
) -> Part:
    return Part(setting=setting, explains=explains, red=red, words=words, plain=plain)


def row_choices(piece: Piece, row: OrderRow, setting: str, word: str) -> list[Choice]:
    """Return what a *word* of a row's *setting* could be instead. Raises KeyError if there is no such word."""
    known: dict[tuple[str, str], Callable[[], list[Choice]]] = {
        ("pattern", "pattern"): lambda: choices(
            [(one.id, one.name) for one in piece.patterns],
            row.pattern,
            # The row stays as long as it was set to be; of its silent lanes those that the other pattern has.
            lambda key: {"pattern": key, "mutes": _mutes_in(piece.pattern(key), row)},
        ),
        ("scale", "root"): lambda: root_choices(_scale_of(piece, row), _scale_patch),
        ("scale", "scale"): lambda: scale_choices(_scale_of(piece, row), _scale_patch),
        ("pace", "pace"): lambda: _pace_choices(row),
        ("without", "lanes"): lambda: _lane_choices(piece, row),
    }
    return known[setting, word]()


def _mutes_in(pattern: Pattern, row: OrderRow) -> list[str]:
    return [lane.id for lane in pattern.lanes if lane.id in row.mutes]


def row_offers(piece: Piece, row: OrderRow) -> list[Offer]:
    """Return what a row does not have yet."""
    offers = []
    if not row.degrees_up and not row.semitones_up:
        offers += [
            Offer(setting="transposed", text="3 degrees up", explains=_TRANSPOSED, patch={"degrees_up": 3}),
            Offer(setting="semitones", text="a fourth up", explains=_TRANSPOSED, patch={"semitones_up": 5}),
        ]
    if row.scale is None:
        scale = _scale_of(piece, row)
        other = "major" if scale.name == _MINOR else _MINOR
        changed = scale.model_copy(update={"name": other, "degrees": ()})
        said = " ".join(said_scale(changed))
        offers.append(Offer(setting="scale", text=f"in {said}", explains=_SCALE, patch=_scale_patch(changed)))
    if row.pace == RowPace():
        slow = {"pace": RowPace(times=2, over=3).model_dump()}
        offers.append(Offer(setting="pace", text="at 2/3 of the pace", explains=_PACE, patch=slow))
    for lane in piece.pattern(row.pattern).lanes:
        if lane.id not in row.mutes:
            silent = {"mutes": [*row.mutes, lane.id]}
            offers.append(
                Offer(setting=f"without {lane.id}", text=f"without {lane.name}", explains="", patch=silent)
            )
    return offers


def _scale_of(piece: Piece, row: OrderRow) -> Scale:
    return row.scale or piece.pattern(row.pattern).scale or piece.scale


def _scale_patch(scale: Scale) -> Patch:
    return {"scale": scale.model_dump(mode="json")}


def _pace_choices(row: OrderRow) -> list[Choice]:
    paces = {str(Fraction(times, over)): RowPace(times=times, over=over) for times, over in _PACES}
    said = [(key, "at its pace" if key == "1" else _rate(Fraction(key))) for key in paces]
    here = str(Fraction(row.pace.times, row.pace.over))
    return choices(said, here, lambda key: {"pace": paces[key].model_dump()})


def _lane_choices(piece: Piece, row: OrderRow) -> list[Choice]:
    found = []
    for lane in piece.pattern(row.pattern).lanes:
        silent = lane.id in row.mutes
        mutes = [one for one in row.mutes if one != lane.id] if silent else [*row.mutes, lane.id]
        said = f"with {lane.name} again" if silent else f"without {lane.name}"
        found.append(Choice(key=lane.id, text=said, patch={"mutes": mutes}, chosen=False))
    return found
