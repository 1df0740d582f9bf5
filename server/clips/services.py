"""Every change to stored clips: one function each, in one transaction."""

from collections.abc import Sequence
from typing import NamedTuple

from accounts.models import User
from accounts.owned import deleted_by, owned_by, to_change
from accounts.stored import check_bytes, check_room
from django.db import transaction
from django.db.models import Max, Q, QuerySet
from django.shortcuts import get_object_or_404
from pieces import models as piece_models
from pieces import services as pieces
from pieces.differences import WHOLE_EACH, document_then, kept_as

from clips.models import Clip, ClipMoment
from lattice import clips
from lattice.clips.lanes import lane_offers, pattern_of
from lattice.document import DOCKSIDE, DocumentError, Kit, Pattern, Piece, Swing, read

__all__ = [
    "MAX_AT_ONCE",
    "MAX_CLIPS",
    "MAX_MOMENTS",
    "Steps",
    "copy",
    "delete",
    "describe",
    "document_of",
    "edit",
    "get",
    "join",
    "lanes_as_piece",
    "list_of",
    "matching",
    "pattern_from",
    "redo",
    "reopened",
    "restore",
    "sets_and_tags",
    "some",
    "steps_of",
    "store",
    "store_all",
    "undo",
]

MAX_AT_ONCE = 256  # clips that are imported, or exported, together
MAX_CLIPS = 20_000  # of one musician
MAX_MOMENTS = 5_000  # of one clip


class Steps(NamedTuple):
    """What can be undone and done again, called as the musician sees it; empty where nothing can."""

    undo: str
    redo: str


def list_of(owner: User) -> QuerySet[Clip]:
    """Return the clips of *owner*, the newest first."""
    return owned_by(owner, Clip)


def matching(owner: User, words: str = "", set_name: str | None = None, tag: str = "") -> QuerySet[Clip]:
    """Return the clips of *owner* that tell each of *words* in name, origin, set or tags, the newest first."""
    found = list_of(owner)
    for word in words.split()[:8]:
        told = Q(from_piece__icontains=word) | Q(from_pattern__iexact=word) | Q(set_name__icontains=word)
        found = found.filter(Q(name__icontains=word) | told | Q(tags__icontains=word))
    if set_name is not None:
        found = found.filter(set_name=set_name)
    return found.filter(tags__contains=[tag]) if tag else found


def sets_and_tags(owner: User) -> tuple[list[str], list[str]]:
    """Return the names of the sets, and the tags, that clips of *owner* have."""
    sets = (
        list_of(owner).exclude(set_name="").order_by("set_name").values_list("set_name", flat=True).distinct()
    )
    tags = {tag for row in list_of(owner).exclude(tags=[]).values_list("tags", flat=True) for tag in row}
    return list(sets), sorted(tags)


def get(owner: User, clip_id: int) -> Clip:
    """Return a clip of *owner*. Raises Http404 if there is none."""
    return get_object_or_404(owned_by(owner, Clip), pk=clip_id)


def some(owner: User, ids: Sequence[int]) -> list[Clip]:
    """Return clips of *owner* in the order of their *ids*. Raises Http404 if one is not there."""
    found = list_of(owner).in_bulk(ids)
    return [found.get(one) or get(owner, one) for one in dict.fromkeys(ids)]


def document_of(stored: Clip) -> clips.Clip:
    """Return the stored document, validated."""
    return read(clips.Clip, stored.document)


@transaction.atomic
def store(owner: User, clip: clips.Clip, label: str = "Kept", keeping: str | None = None) -> Clip:
    """Store *clip* as new, with its first moment; or return what the same *keeping* has stored before.

    Also where that was deleted since: it was kept, and nobody asked for it again.
    """
    if keeping and (known := Clip.objects.filter(owner=owner, keeping=keeping).first()):
        return known
    stored = store_all(owner, [clip], label)[0]
    if keeping:
        stored.keeping = keeping
        stored.save(update_fields=["keeping"])
    return stored


@transaction.atomic
def store_all(owner: User, several: Sequence[clips.Clip], label: str, set_name: str = "") -> list[Clip]:
    """Store clips as new: all of them or none. Raises DocumentError if there is no room for so many."""
    if len(several) > MAX_AT_ONCE:
        raise DocumentError.of("clips", f"at most {MAX_AT_ONCE} clips at once, these are {len(several)}")
    check_room(owner, Clip, MAX_CLIPS, len(several))
    stored = []
    for clip in several:
        document = clip.model_dump(mode="json")
        one = Clip.objects.create(owner=owner, document=document, set_name=set_name)
        _remember(one, 1, after=0, label=label)
        stored.append(one)
    return stored


@transaction.atomic
def describe(
    owner: User,
    clip_id: int,
    name: str | None = None,
    tags: Sequence[str] | None = None,
    set_name: str | None = None,
) -> Clip:
    """Call a clip *name*, give it other *tags*, put it into a set; None: as it is."""
    stored = get_object_or_404(owned_by(owner, Clip).select_for_update(), pk=clip_id)
    if name is not None:
        stored.document = read(clips.Clip, stored.document | {"name": name}).model_dump(mode="json")
    if tags is not None:
        stored.tags = sorted(set(tags))
    if set_name is not None:
        stored.set_name = set_name
    stored.save(update_fields=["document", "tags", "set_name"])
    return get(owner, clip_id)


@transaction.atomic
def edit(
    owner: User, clip_id: int, based_on: int, action: clips.Action, chosen: Sequence[Sequence[int]]
) -> tuple[Clip, clips.Edited]:
    """Do *action* to the *chosen* notes of a clip, as the revision after *based_on*.

    Raises Http404, NewerRevisionError if another revision came first, DocumentError if it cannot be; nothing is stored
    then.
    """
    stored = to_change(owner, Clip, clip_id, based_on)
    done = clips.edited(document_of(stored), action, tuple(map(tuple, chosen)))
    return _changed(stored, done.clip, done.label), done


@transaction.atomic
def join(owner: User, clip_id: int, based_on: int, other_id: int) -> Clip:
    """Put another clip of *owner* after this one. Raises as `edit` does."""
    stored = to_change(owner, Clip, clip_id, based_on)
    other = document_of(get(owner, other_id))
    return _changed(stored, clips.joined(document_of(stored), other), f"“{other.name}” joined on")


@transaction.atomic
def undo(owner: User, clip_id: int, based_on: int) -> Clip:
    """Go back to the moment before. Raises as `edit` does; DocumentError if there is none."""
    stored = to_change(owner, Clip, clip_id, based_on)
    return _stand_at(stored, stored.moments.get(number=stored.stands_at).after)


@transaction.atomic
def redo(owner: User, clip_id: int, based_on: int) -> Clip:
    """Go on to the newest moment that came after this one. Raises as `undo` does."""
    stored = to_change(owner, Clip, clip_id, based_on)
    following = stored.moments.filter(after=stored.stands_at).aggregate(newest=Max("number"))["newest"]
    return _stand_at(stored, following or 0)


def steps_of(stored: Clip) -> Steps:
    """Return what can be undone and done again."""
    moments = stored.moments.defer("document", "changes")
    here = moments.get(number=stored.stands_at)
    following = moments.filter(after=stored.stands_at).order_by("number").last()
    return Steps(here.label if here.after else "", following.label if following else "")


def delete(owner: User, clip_id: int) -> None:
    """Take a clip off the list; `restore` brings it back."""
    get(owner, clip_id).delete_for_now()


def restore(owner: User, clip_id: int) -> Clip:
    """Bring a deleted clip back."""
    get_object_or_404(deleted_by(owner, Clip), pk=clip_id).restore()
    return get(owner, clip_id)


def copy(owner: User, clip_id: int) -> Clip:
    """Store a copy of a clip beside it, in the same set."""
    stored = get(owner, clip_id)
    document = document_of(stored)
    named = read(clips.Clip, stored.document | {"name": f"{document.name[:75]} copy"})
    return store_all(owner, [named], f"Copy of “{document.name}”", stored.set_name)[0]


def reopened(owner: User, clip_id: int) -> piece_models.Piece:
    """Store the pattern that a clip came from as a piece, as it stood. Raises DocumentError if it came from none."""
    origin = document_of(get(owner, clip_id)).origin
    if origin is None:
        raise DocumentError.of("origin", "it came from a file, not from a pattern")
    return pieces.create(owner, clips.as_it_stood(origin), "As it stood")


def pattern_from(
    owner: User, clip_id: int, shorter: Sequence[int], pattern_id: str, kit: Kit, swing: Swing
) -> Pattern:
    """Return a clip's notes as a pattern of lanes for a piece of that *kit* and *swing*.

    Those at *shorter* by their shorter way to be said.
    """
    clip = document_of(get(owner, clip_id))
    return pattern_of(clip, lane_offers(clip, kit), frozenset(shorter), pattern_id, swing)


def lanes_as_piece(owner: User, clip_id: int, shorter: Sequence[int]) -> piece_models.Piece:
    """Store a clip's notes as a new piece of lanes."""
    clip = document_of(get(owner, clip_id))
    kit = clip.origin.score.kit if clip.origin else DOCKSIDE
    pattern = pattern_of(clip, lane_offers(clip, kit), frozenset(shorter), "a")
    piece = Piece(name=clip.name, tempo=clip.tempo, kit=kit, patterns=(pattern,))
    return pieces.create(owner, piece, f"Lanes of “{clip.name}”")


def _changed(stored: Clip, clip: clips.Clip, label: str) -> Clip:
    last = stored.moments.aggregate(last=Max("number"))["last"] or 0
    if last >= MAX_MOMENTS:
        raise DocumentError.of("moments", f"it was changed {MAX_MOMENTS:,} times: go on in a copy of it")
    if (last + 1) % WHOLE_EACH == 1:  # all that is stored is added up once in a while
        check_bytes(stored.owner)
    stored.document = clip.model_dump(mode="json")
    _remember(stored, last + 1, after=stored.stands_at, label=label[:200])
    return _saved(stored, last + 1)


def _stand_at(stored: Clip, number: int) -> Clip:
    then = document_then(stored.moments.all(), number)
    if then is None:
        raise DocumentError.of("stands_at", "there is nothing further to go to")
    # Name and origin are no moments of its notes.
    standing = {field: stored.document[field] for field in ("name", "origin")}
    stored.document = read(clips.Clip, then | standing).model_dump(mode="json")
    return _saved(stored, number)


def _saved(stored: Clip, stands_at: int) -> Clip:
    stored.revision += 1
    stored.stands_at = stands_at
    stored.save(update_fields=["document", "revision", "stands_at"])
    return stored


def _remember(stored: Clip, number: int, after: int, label: str) -> None:
    """Add a moment: all of the document but where the clip came from, which never changes."""
    now = {field: value for field, value in stored.document.items() if field != "origin"}
    kept = kept_as(number, now, document_then(stored.moments.all(), number - 1))
    ClipMoment.objects.create(clip=stored, number=number, after=after, label=label, **kept)
