"""Throwing takes, comparing and keeping them."""

from typing import Annotated

from accounts.auth import user_of
from clips.schemas import ClipLine, Keeping
from config.answers import answer
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import Router, Status
from pydantic import Field

from lattice.clips import MAX_TAKES, Differences, Track, differences, take
from lattice.document import read
from lattice.render import MAX_NOTES_AT_ONCE, Window
from takes import services
from takes.schemas import DrawnTake, FromTape, More, OpenSheet, Opposed, SheetLine, Takes, Throwing, Vary

router = Router()


@router.get("", response={200: list[SheetLine], **refusals()})
def list_sheets(request: HttpRequest) -> list[SheetLine]:
    """The musician's sheets of takes, the newest first."""
    return [
        SheetLine.of(sheet, sheet.lying)  # type: ignore[attr-defined]  # counted with them
        for sheet in services.list_of(user_of(request))[:100]
    ]


@router.post("", response={201: OpenSheet, **refusals()})
def throw_takes(request: HttpRequest, body: Throwing) -> Status[OpenSheet]:
    """Throw takes of a pattern as it stands: the first by its own dice, the others by those that follow."""
    sheet = services.begin(
        user_of(request),
        body.score,
        body.dice,
        Window(first_bar=body.first_bar, bars=body.bars),
        piece=body.piece,
        pattern=body.pattern,
        lanes=None if body.lanes is None else tuple(body.lanes),
        piece_id=body.piece_id,
        count=body.count - 1,
        vary=body.vary,
    )
    return Status(201, OpenSheet.of(sheet))


@router.post("/tape", response={201: FromTape, **refusals()})
def take_from_tape(request: HttpRequest, body: Keeping) -> Status[FromTape]:
    """Keep bars of the tape as a take: what makes them again."""
    kept = body.kept()
    window = read(Window, {"first_bar": kept.first_bar, "bars": kept.bars})
    sheet = services.begin(
        user_of(request), body.score, body.dice, window, piece=body.piece, pattern=body.pattern
    )
    made = take(body.score, body.dice, window).tracks
    return Status(201, FromTape(sheet=SheetLine.of(sheet), differs=_notes(kept.tracks) != _notes(made)))


def _notes(tracks: tuple[Track, ...]) -> list[tuple[object, ...]]:
    return sorted((track.channel, *note) for track in tracks for note in track.notes)


@router.get("/{int:sheet_id}", response={200: OpenSheet, **refusals(404)})
def open_sheet(request: HttpRequest, sheet_id: int) -> OpenSheet:
    """A sheet and its takes, without their notes."""
    return OpenSheet.of(services.get(user_of(request), sheet_id))


@router.get("/{int:sheet_id}/drawn", response={200: Takes, **refusals(404)})
def drawn_takes(
    request: HttpRequest,
    sheet_id: int,
    first: Annotated[int, Field(ge=1)] = 1,
    last: Annotated[int, Field(ge=1)] = MAX_TAKES,
) -> HttpResponse:
    """The notes and measures of the takes from *first* to *last*: as many as one answer may hold, one at least."""
    sheet = services.get(user_of(request), sheet_id)
    wanted = sheet.takes.filter(dropped_at=None, number__range=(first, last))[:MAX_TAKES]
    first_of_all = sheet.takes.get(number=1)
    begun, *taken = services.made_again(sheet, [first_of_all, *wanted], MAX_NOTES_AT_ONCE)
    drawn = [DrawnTake.of(one.number, its, begun) for one, its in zip(wanted, taken, strict=False)]
    return answer(Takes.model_construct(takes=drawn))


@router.post("/{int:sheet_id}/more", response={200: OpenSheet, **refusals(404)})
def throw_more(request: HttpRequest, sheet_id: int, body: More) -> OpenSheet:
    """Throw more takes onto a sheet."""
    services.throw_more(user_of(request), sheet_id, body.count)
    return OpenSheet.of(services.get(user_of(request), sheet_id))


@router.post("/{int:sheet_id}/vary", response={200: OpenSheet, **refusals(404)})
def vary_takes(request: HttpRequest, sheet_id: int, body: Vary) -> OpenSheet:
    """Have each take but the first moved away from the pattern by a throw of its own."""
    return OpenSheet.of(services.vary(user_of(request), sheet_id, body.percent))


@router.post("/{int:sheet_id}/differences", response={200: Differences, **refusals(404)})
def what_differs(request: HttpRequest, sheet_id: int, body: Opposed) -> Differences:
    """Which notes only one of two takes has."""
    sheet = services.get(user_of(request), sheet_id)
    takes = [services.take_of(sheet, number) for number in (body.one, body.other)]
    one, other = services.made_again(sheet, takes)
    return differences(one.tracks, other.tracks)


@router.delete("/{int:sheet_id}", response={204: None, **refusals(404)})
def delete_sheet(request: HttpRequest, sheet_id: int) -> Status[None]:
    """Take a sheet off the list."""
    services.delete(user_of(request), sheet_id)
    return Status(204, None)


@router.post("/{int:sheet_id}/restore", response={200: SheetLine, **refusals(404)})
def restore_sheet(request: HttpRequest, sheet_id: int) -> SheetLine:
    """Bring a deleted sheet back."""
    return SheetLine.of(services.restore(user_of(request), sheet_id))


@router.delete("/{int:sheet_id}/{int:number}", response={204: None, **refusals(404)})
def drop_take(request: HttpRequest, sheet_id: int, number: int) -> Status[None]:
    """Drop a take."""
    services.drop(user_of(request), sheet_id, number)
    return Status(204, None)


@router.post("/{int:sheet_id}/{int:number}/pick-up", response={200: OpenSheet, **refusals(404)})
def pick_up_take(request: HttpRequest, sheet_id: int, number: int) -> OpenSheet:
    """Bring a dropped take back."""
    services.pick_up(user_of(request), sheet_id, number)
    return OpenSheet.of(services.get(user_of(request), sheet_id))


@router.post("/{int:sheet_id}/{int:number}/keep", response={201: ClipLine, **refusals(404)})
def keep_take(request: HttpRequest, sheet_id: int, number: int) -> HttpResponse:
    """Keep a take as a clip."""
    return answer(ClipLine.of(services.keep(user_of(request), sheet_id, number)), 201)
