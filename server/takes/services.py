"""Every change to stored takes: one function each, in one transaction; and making their notes again."""

from collections.abc import Sequence

from accounts.models import User
from accounts.owned import deleted_by, owned_by
from accounts.stored import check_room
from clips import services as clip_services
from clips.models import Clip
from django.db import transaction
from django.db.models import Count, Max, Q, QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone
from pieces.models import Piece

from lattice.clips import MAX_TAKES, Taken, take, take_clip, varied
from lattice.document import DocumentError, Score, read
from lattice.document.piece import DICE
from lattice.render import Window
from takes.models import Take, TakeSheet

__all__ = [
    "MAX_SHEETS", "begin", "delete", "drop", "get", "keep", "list_of", "made_again", "pick_up", "restore", "take_of",
    "throw_more", "vary",
]  # fmt: skip


MAX_SHEETS = 2_000  # of one musician


def list_of(owner: User) -> QuerySet[TakeSheet]:
    """Return the sheets of *owner*, the newest first, each with how many takes lie on it (*lying*)."""
    lying = Count("takes", filter=Q(takes__dropped_at=None))
    return owned_by(owner, TakeSheet).defer("score").annotate(lying=lying)


def get(owner: User, sheet_id: int) -> TakeSheet:
    """Return a sheet of *owner*. Raises Http404 if there is none."""
    return get_object_or_404(owned_by(owner, TakeSheet), pk=sheet_id)


def take_of(sheet: TakeSheet, number: int) -> Take:
    """Return a take of *sheet* that is not dropped. Raises Http404 if there is none."""
    return get_object_or_404(sheet.takes.filter(dropped_at=None), number=number)


@transaction.atomic
def begin(
    owner: User,
    score: Score,
    dice: int,
    window: Window,
    *,
    piece: str,
    pattern: str,
    lanes: tuple[str, ...] | None = None,
    piece_id: int | None = None,
    count: int = 0,
    vary: int = 0,
) -> TakeSheet:
    """Store a sheet with its first take, which has the pattern's own *dice*, and *count* more beside it.

    *vary*: how many % of their hits a throw of each take's own moves.

    Raises DocumentError if such a take cannot be made.
    """
    check_room(owner, TakeSheet, MAX_SHEETS)
    # What cannot be played is refused at once.
    take(score, dice, Window(first_bar=window.first_bar, bars=1), lanes)
    sheet = TakeSheet.objects.create(
        owner=owner,
        piece=owned_by(owner, Piece).filter(pk=piece_id).first() if piece_id else None,
        piece_name=piece,
        pattern_name=pattern,
        score=score.model_dump(mode="json"),
        lanes=None if lanes is None else list(lanes),
        first_bar=window.first_bar,
        bars=window.bars,
        vary=vary,
    )
    Take.objects.create(sheet=sheet, number=1, dice=dice)
    if count:
        throw_more(owner, sheet.pk, count)
    return sheet


@transaction.atomic
def throw_more(owner: User, sheet_id: int, count: int) -> list[Take]:
    """Store *count* more takes by the dice numbers that follow. Raises DocumentError if there are too many."""
    sheet = get_object_or_404(owned_by(owner, TakeSheet).select_for_update(), pk=sheet_id)
    if sheet.takes.filter(dropped_at=None).count() + count > MAX_TAKES:
        raise DocumentError.of("count", f"at most {MAX_TAKES} takes lie side by side: drop some first")
    last = sheet.takes.aggregate(last=Max("number"))["last"]
    first = sheet.takes.get(number=1).dice
    return Take.objects.bulk_create(
        Take(sheet=sheet, number=number, dice=(first + number - 1) % (DICE[1] + 1))
        for number in range(last + 1, last + count + 1)
    )


def vary(owner: User, sheet_id: int, percent: int) -> TakeSheet:
    """Have throws of the takes' own move *percent* of the hits of all but the first: the notes are others then."""
    sheet = get(owner, sheet_id)
    sheet.vary = percent
    sheet.save(update_fields=["vary"])
    return sheet


def drop(owner: User, sheet_id: int, number: int) -> None:
    """Take a take off its sheet; `pick_up` brings it back."""
    one = take_of(get(owner, sheet_id), number)
    one.dropped_at = timezone.now()
    one.save(update_fields=["dropped_at"])


def pick_up(owner: User, sheet_id: int, number: int) -> Take:
    """Bring a dropped take back."""
    one = get_object_or_404(get(owner, sheet_id).takes, number=number)
    one.dropped_at = None
    one.save(update_fields=["dropped_at"])
    return one


def delete(owner: User, sheet_id: int) -> None:
    """Take a sheet off the list; `restore` brings it back."""
    get(owner, sheet_id).delete_for_now()


def restore(owner: User, sheet_id: int) -> TakeSheet:
    """Bring a deleted sheet back."""
    get_object_or_404(deleted_by(owner, TakeSheet), pk=sheet_id).restore()
    return get(owner, sheet_id)


def made_again(sheet: TakeSheet, takes: Sequence[Take], most_notes: int | None = None) -> list[Taken]:
    """Return *takes* of *sheet* with their notes: the same whenever they are asked for.

    With *most_notes*, only as many of them as have no more together, two at least.
    """
    window = Window(first_bar=sheet.first_bar, bars=sheet.bars)
    score = read(Score, sheet.score)
    lanes = None if sheet.lanes is None else tuple(sheet.lanes)
    found: list[Taken] = []
    notes = 0
    for one in takes:
        made = take(varied(score, sheet.vary, one.number), one.dice, window, lanes)
        notes += sum(len(track.notes) for track in made.kept.tracks)
        if most_notes is not None and notes > most_notes and len(found) > 1:
            break
        found.append(made)
    return found


@transaction.atomic
def keep(owner: User, sheet_id: int, number: int) -> Clip:
    """Store a take as a clip, and mark it as kept."""
    sheet = get(owner, sheet_id)
    one = take_of(sheet, number)
    (taken,) = made_again(sheet, [one])
    made = take_clip(taken, sheet.piece_name, sheet.pattern_name)
    called = made.model_copy(update={"name": f"{made.name[:66]}, take {number}"})
    one.clip = clip_services.store(owner, called, f"Take {number}")
    one.save(update_fields=["clip"])
    return one.clip
