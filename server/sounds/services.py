"""Every change to stored sounds: one function each."""

from pathlib import PurePosixPath, PureWindowsPath

from accounts.models import User
from accounts.owned import owned_by
from accounts.stored import check_room
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404

from lattice.document import DocumentError
from sounds.decode import NoSoundError, decode
from sounds.models import Sound

__all__ = ["MAX_SOUNDS", "delete", "get", "list_of", "store"]

MAX_SOUNDS = 128  # of one musician


def list_of(owner: User) -> QuerySet[Sound]:
    """Return the sounds of *owner* without their data."""
    return owned_by(owner, Sound).defer("data")


def get(owner: User, sound_id: int) -> Sound:
    """Return a sound of *owner*. Raises Http404 if there is none."""
    return get_object_or_404(owned_by(owner, Sound), pk=sound_id)


def store(owner: User, file_name: str, data: bytes) -> Sound:
    """Store the sound in *data*, called after its file. Raises DocumentError if it is none, or there are too many."""
    check_room(owner, Sound, MAX_SOUNDS)
    try:
        recording = decode(data)
    except NoSoundError as problem:
        raise DocumentError.of(name_of(file_name), str(problem)) from None
    return Sound.objects.create(
        owner=owner, name=name_of(file_name), seconds=recording.seconds, data=recording.flac
    )


def delete(owner: User, sound_id: int) -> None:
    """Delete a sound; voices that are made of it get a stand-in."""
    get(owner, sound_id).delete_for_now()


def name_of(file_name: str) -> str:
    """Return what a sound is called after its file: no path, no ending, nothing that cannot be printed."""
    bare = PurePosixPath(PureWindowsPath(file_name).name).stem
    return "".join(sign for sign in bare if sign.isprintable()).strip()[:80] or "Sound"
