"""The running order over HTTP: how it looks, and what is kept of it."""

from typing import Annotated, Literal

from accounts.auth import signed_in, to_compute, user_of
from clips import services as clips
from clips.schemas import ClipLine
from config.answers import answer
from config.asked import Asked
from config.bodies import Body
from config.downloads import attached, zipped
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import BaseModel, Field, StringConstraints

from lattice.clips import Clip
from lattice.clips.order import markers, order_clip, row_clip
from lattice.document import DocumentError, Lane, Pattern, Piece, read, score_of
from lattice.document.base import Id
from lattice.document.notes import Tick
from lattice.document.order import OrderRow
from lattice.edits.bring import Brought, bring
from lattice.formats.midi import Export, midi_file
from lattice.order.rows import stands, written
from lattice.order.switching import SwitchAt, SwitchTo, switch
from lattice.render import Window
from lattice.screen import Alternative, Sounds, sounds
from lattice.screen.alternatives import row_alternatives
from lattice.screen.order import OrderPicture, order_picture
from pieces.schemas import MAX_SCREEN_BARS

router = Router(auth=to_compute)

MIDI = "audio/midi"
Rows = Annotated[list[Annotated[int, Field(ge=0)]] | None, Field(max_length=500, description="none: all")]


class OrderQuestion(Body):
    """The piece whose running order is meant."""

    piece: Piece


class OrderFile(OrderQuestion):
    """How to write an order: *whole*, one file with a marker a row, or a file a row, of *rows* by their places."""

    of: Literal["whole", "rows"] = "whole"
    rows: Rows = None
    export: Export = Export()


class OrderKeeping(OrderQuestion):
    """What to keep: the *whole* as one clip, or a clip a row, of some *rows* by their places."""

    of: Literal["whole", "rows"] = "rows"
    rows: Rows = None


class Switching(Body):
    """From *tick* on what is *leaving*, which began *began* ticks after play was pressed, may give way.

    *at*: the next step, beat, bar or end of a pass; *to*: begin, or carry on. *bars*: how many of what comes to hear.
    """

    leaving: Asked
    coming: Asked
    tick: Tick
    at: SwitchAt = "bar"
    to: SwitchTo = "begin"
    began: Tick = 0
    bars: Annotated[int, Field(ge=1, le=MAX_SCREEN_BARS)] = 4


class Switched(BaseModel):
    """At *tick* of what is leaving, what comes is heard from its *from_tick* on: *sounds* of its bars."""

    tick: int
    from_tick: int
    sounds: Sounds


class RowWords(OrderQuestion):
    """The *word* of a *setting* of the row at a *place*; without a setting, what the row could begin to use."""

    place: Annotated[int, Field(ge=0)]
    setting: Annotated[str, StringConstraints(max_length=80)] = ""
    word: Annotated[str, StringConstraints(max_length=80)] = ""


class HeardPattern(Body):
    """A pattern by its id, heard for so many ticks."""

    pattern: Id
    ticks: Tick


class PlayedAlong(OrderQuestion):
    """Which patterns were heard one after the other."""

    heard: Annotated[list[HeardPattern], Field(max_length=500)]


class Rewritten(BaseModel):
    """Rows for a running order."""

    rows: list[OrderRow]


class Bringing(OrderQuestion):
    """*what* to bring of *lanes*, by their ids, from the pattern *origin* *into* another."""

    origin: Id
    into: Id
    lanes: Annotated[list[Id], Field(min_length=1, max_length=64)]
    what: Brought = "lanes"


class Raising(OrderQuestion):
    """By how much a *pattern* is to be higher: before the scale, and after it."""

    pattern: Id
    degrees: Annotated[int, Field(ge=-28, le=28)] = 0
    semitones: Annotated[int, Field(ge=-48, le=48)] = 0


class HigherPattern(BaseModel):
    """The pattern as it is then."""

    pattern: Pattern


class BroughtLanes(BaseModel):
    """All lanes of a pattern."""

    lanes: list[Lane]


class KeptClips(BaseModel):
    """The clips that were kept."""

    clips: list[ClipLine]


@router.post("", response={200: OrderPicture, **refusals()})
def order(request: HttpRequest, body: OrderQuestion) -> HttpResponse:
    """A running order as it is drawn."""
    return answer(order_picture(body.piece))


@router.post("/switch", response={200: Switched, **refusals()})
def switch_pattern(request: HttpRequest, body: Switching) -> HttpResponse:
    """When a pattern gives way to another while it plays, and what is heard of that from then on."""
    leaving, coming = body.leaving, body.coming
    meter = coming.score.meter
    place = switch(leaving.score, leaving.dice, body.tick, body.at, body.to, body.began, meter)
    first = place.from_tick // meter.bar_ticks
    heard = sounds(coming.score, coming.dice, read(Window, {"first_bar": first, "bars": body.bars}))
    return answer(Switched.model_construct(tick=place.tick, from_tick=place.from_tick, sounds=heard))


@router.post("/alternatives", response={200: list[Alternative], **refusals()})
def alternatives(request: HttpRequest, body: RowWords) -> list[Alternative]:
    """What a word of a row could be instead, or what the row could begin to use."""
    return row_alternatives(body.piece, body.place, body.setting, body.word)


@router.post("/written", response={200: Rewritten, **refusals()})
def write_down(request: HttpRequest, body: PlayedAlong) -> HttpResponse:
    """The rows that what was switched by hand makes."""
    patterns = {pattern.id: pattern for pattern in body.piece.patterns}
    rows = [written(patterns[one.pattern], one.ticks) for one in body.heard if one.pattern in patterns]
    return answer(Rewritten(rows=rows))


@router.post("/bring", response={200: BroughtLanes, **refusals()})
def bring_lanes(request: HttpRequest, body: Bringing) -> HttpResponse:
    """What the lanes of a pattern become when lanes, strips or settings of another are brought into it."""
    there = score_of(body.piece, _pattern(body.piece, body.into))
    origin = score_of(body.piece, _pattern(body.piece, body.origin))
    return answer(BroughtLanes(lanes=list(bring(origin, there, body.lanes, body.what))))


@router.post("/higher", response={200: HigherPattern, **refusals()})
def higher(request: HttpRequest, body: Raising) -> HttpResponse:
    """A pattern with all that is melodic higher, also where that is moved while it plays."""
    pattern = _pattern(body.piece, body.pattern).transposed(body.degrees, body.semitones)
    return answer(HigherPattern(pattern=read(Pattern, pattern.model_dump(mode="json"))))


def _pattern(piece: Piece, pattern_id: str) -> Pattern:
    try:
        return piece.pattern(pattern_id)
    except KeyError:
        raise DocumentError.of("pattern", f"there is no pattern {pattern_id!r}") from None


@router.post("/midi", response={200: bytes, **refusals()})
def midi(request: HttpRequest, body: OrderFile) -> HttpResponse:
    """A running order as one MIDI file, or as a zip of one for each row."""
    if body.of == "whole":
        clip = order_clip(body.piece, moves=body.export.moves)
        return attached(midi_file(clip, body.export, markers(body.piece)), f"{clip.name}.mid", MIDI)
    files = [
        (f"{clip.name}.mid", midi_file(clip, body.export))
        for clip in _clips_of_rows(body.piece, body.rows, moves=body.export.moves)
    ]
    return zipped(files, f"{body.piece.name}, rows.zip")


@router.post("/keep", auth=signed_in, response={201: KeptClips, **refusals()})
def keep(request: HttpRequest, body: OrderKeeping) -> HttpResponse:
    """Keep a running order as one clip, or as a clip a row, in a set of its piece."""
    several = [order_clip(body.piece)] if body.of == "whole" else _clips_of_rows(body.piece, body.rows)
    stored = clips.store_all(user_of(request), several, "Kept from the order", body.piece.name)
    return answer(KeptClips(clips=[ClipLine.of(one) for one in stored]), 201)


def _clips_of_rows(piece: Piece, places: list[int] | None, *, moves: bool = False) -> list[Clip]:
    """Return a clip for each of the rows. Raises DocumentError if one is not there, or there is none."""
    rows = stands(piece)
    wanted = rows if places is None else [stand for stand in rows if stand.place in places]
    if not wanted or (places is not None and len(wanted) < len(set(places))):
        raise DocumentError.of("order", "there is no such row: add one first")
    if len(wanted) > clips.MAX_AT_ONCE:
        raise DocumentError.of("order", f"at most {clips.MAX_AT_ONCE} rows at once, these are {len(wanted)}")
    return [row_clip(piece, stand, moves=moves) for stand in wanted]
