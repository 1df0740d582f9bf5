"""Every change to stored clips: one function each."""

from accounts.models import User
from accounts.owned import deleted_by, owned_by
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404

from clips.models import Clip
from lattice import clips
from lattice.document import read

__all__ = ["delete", "document_of", "get", "list_of", "rename", "restore", "store"]


def list_of(owner: User) -> QuerySet[Clip]:
    """Return the clips of *owner*, the newest first."""
    return owned_by(owner, Clip)


def get(owner: User, clip_id: int) -> Clip:
    """Return a clip of *owner*. Raises Http404 if there is none."""
    return get_object_or_404(owned_by(owner, Clip), pk=clip_id)


def document_of(stored: Clip) -> clips.Clip:
    """Return the stored document, validated."""
    return read(clips.Clip, stored.document)


def store(owner: User, clip: clips.Clip) -> Clip:
    """Store *clip* as new."""
    return Clip.objects.create(owner=owner, document=clip.model_dump(mode="json"))


def rename(owner: User, clip_id: int, name: str) -> Clip:
    """Call a clip *name*."""
    stored = get(owner, clip_id)
    stored.document = read(clips.Clip, stored.document | {"name": name}).model_dump(mode="json")
    stored.save(update_fields=["document"])
    return get(owner, clip_id)


def delete(owner: User, clip_id: int) -> None:
    """Take a clip off the list; `restore` brings it back."""
    get(owner, clip_id).delete_for_now()


def restore(owner: User, clip_id: int) -> Clip:
    """Bring a deleted clip back."""
    get_object_or_404(deleted_by(owner, Clip), pk=clip_id).restore()
    return get(owner, clip_id)
