"""Edits of a clip: each an action that says what is to be done, and does it."""

from typing import Annotated, NamedTuple

from pydantic import Field

from lattice.clips.clip import Clip
from lattice.clips.edits.facts import SetClip, SetControls, SetTrack
from lattice.clips.edits.feel import Harder, Humanised, Paint, Quantise, Ramp, Swung
from lattice.clips.edits.notes import Add, CopiedNote, Delete, Move, Paste, Resize, SetNotes, Transpose
from lattice.clips.edits.shape import Crop, Lengthen, Pace, Repeat, Scatter, joined
from lattice.clips.sheet import Chosen, Sheet

__all__ = ["Action", "Chosen", "CopiedNote", "Edited", "edited", "joined"]

Action = Annotated[
    Add
    | Delete
    | Move
    | Transpose
    | Resize
    | SetNotes
    | Paste
    | Quantise
    | Swung
    | Humanised
    | Harder
    | Ramp
    | Paint
    | Scatter
    | Repeat
    | Crop
    | Lengthen
    | Pace
    | SetControls
    | SetTrack
    | SetClip,
    Field(discriminator="kind"),
]


class Edited(NamedTuple):
    """A clip after an edit, which of its notes are chosen now, and what the history calls it.

    *came_from*: for each note, counted through all tracks, which it was before the edit; -1 for one that is new.
    *lost*: how many notes are gone: deleted, cropped, or merged with another of their pitch.
    """

    clip: Clip
    chosen: Chosen
    came_from: tuple[int, ...]
    label: str
    lost: int


def edited(clip: Clip, action: Action, chosen: Chosen = ()) -> Edited:
    """Return what *clip* becomes by *action* on its *chosen* notes: in order, and without overlaps.

    Raises DocumentError if a note is chosen that is not there, or the edit cannot be.
    """
    sheet = Sheet.of(clip, chosen)
    after, its_chosen, came_from = action.apply(sheet).finished()
    lost = len(sheet) - len({place for place in came_from if place >= 0})
    return Edited(after, its_chosen, came_from, action.label(sheet), lost)
