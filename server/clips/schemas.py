"""What the API takes and gives of clips."""

from datetime import datetime
from typing import Annotated, Any

from config.asked import Asked
from config.bodies import Body
from pydantic import BaseModel, Field

from clips import models, services
from lattice.clips import (
    Action,
    Clip,
    Edited,
    Heard,
    Kept,
    KeptClip,
    PitchSound,
    Tape,
    Track,
    keep_bars,
    keep_last,
    keep_over,
    sounds_of,
)
from lattice.clips.clip import Control, Note
from lattice.clips.drawn import MOST_DRAWN, drawn_notes
from lattice.clips.guess import is_melodic
from lattice.clips.keep import MAX_KEPT_BARS
from lattice.clips.lanes import LaneOffer
from lattice.document import DOCKSIDE, DocumentError, Kit, Meter, Swing, read
from lattice.document.base import MAX_NAME, Id, Name
from lattice.formats.midi import Export
from lattice.starters.starter import MAX_TAGS, Tag

__all__ = [
    "AsLanes",
    "AsPattern",
    "ClipEdit",
    "ClipLine",
    "ClipPage",
    "Description",
    "EditedClip",
    "Exporting",
    "GridStep",
    "Imported",
    "InPlace",
    "Join",
    "Keeping",
    "KeptLine",
    "Made",
    "OpenClip",
    "Revision",
    "SheetTrack",
    "Stretch",
]

CLIPS_ON_A_PAGE = 50


class Stretch(Body):
    """Bars of the tape: from *first_bar*, counted from 0, up to *end_bar*."""

    first_bar: Annotated[int, Field(ge=0)]
    end_bar: Annotated[int, Field(ge=1)]


class KeptBefore(Asked):
    """A stretch of the tape from which the next took over: its pattern's name, and the score as it stood."""

    pattern: Name
    tape: Tape


class Keeping(Asked):
    """What to keep: the last *bars* or a *stretch* of the tape, and the score as it stood.

    *keeping*: a name of its own, so that one that is tried again is not stored twice. *before*: stretches that led to
    this one without a break, the oldest first: bars are counted back into them, and a *stretch* begins in the first.
    """

    keeping: Annotated[str | None, Field(min_length=8, max_length=36)] = None

    piece: Name
    pattern: Name
    tape: Tape
    bars: Annotated[int, Field(ge=1, le=MAX_KEPT_BARS)] = 4
    stretch: Stretch | None = None
    before: Annotated[list[KeptBefore], Field(max_length=MAX_KEPT_BARS)] = []
    with_late: Annotated[bool, Field(description="also what came too late to be heard")] = False

    def clip(self) -> KeptClip:
        """Return what is to be kept as a clip. Raises NothingToKeepError if none of it sounded whole."""
        stretches: list[KeptBefore | Keeping] = [*self.before, self]
        tapes = [one.tape.with_late() if self.with_late else one.tape for one in stretches]
        heard = [
            Heard(one.pattern, tape, one.score, one.dice) for one, tape in zip(stretches, tapes, strict=True)
        ]
        chosen = (self.stretch.first_bar, self.stretch.end_bar) if self.stretch else None
        return keep_over(heard, self.piece, self.bars, chosen)

    def kept(self) -> Kept:
        """Return what is to be kept. Raises NothingToKeepError if none of it sounded whole."""
        if self.stretch:
            first_bar = 0 if self.before else self.stretch.first_bar
            return keep_bars(self.tape, first_bar, self.stretch.end_bar)
        return keep_last(self.tape, self.bars)


class SheetTrack(BaseModel):
    """A track as a note sheet draws it."""

    lane: str
    ink: int
    channel: int
    notes: list[Note]
    controls: list[Control]

    @classmethod
    def of(cls, track: Track) -> "SheetTrack":
        """Return a track as it is drawn."""
        return cls.model_construct(
            lane=track.lane,
            ink=track.ink,
            channel=track.channel,
            notes=list(track.notes),
            controls=list(track.controls),
        )


class From(BaseModel):
    """Where a clip came from; *first_bar* counted from 0."""

    piece: str
    pattern: str
    dice: int
    first_bar: int
    bars: int


class ClipLine(BaseModel):
    """A clip as the list shows it, with as many of its notes as a small note sheet shows.

    *unreadable*: what is wrong with one that cannot be read any more; '' for others.
    """

    id: int
    created_at: datetime
    name: str
    tags: list[str]
    set_name: str
    origin: From | None
    bars: int
    notes: int
    tempo: float
    meter: Meter
    length_ticks: int
    tracks: list[SheetTrack]
    unreadable: str = ""

    @classmethod
    def of(cls, stored: models.Clip) -> "ClipLine":
        """Return what the list shows of a stored clip. It was validated when it was stored, and is not again."""
        try:
            return cls._of(stored)
        except (KeyError, TypeError, ValueError, AttributeError):
            try:
                services.document_of(stored)
            except DocumentError:
                return cls._broken(stored)
            raise  # the clip is right, so the fault is ours

    @classmethod
    def _broken(cls, stored: models.Clip) -> "ClipLine":
        return cls.model_construct(
            id=stored.pk,
            created_at=stored.created_at,
            name=str(stored.name or "A clip"),
            tags=stored.tags,
            set_name=stored.set_name,
            origin=None,
            bars=0,
            notes=0,
            tempo=0,
            meter=Meter(),
            length_ticks=1,
            tracks=[],
            unreadable="It is stored, but cannot be read any more.",
        )

    @classmethod
    def _of(cls, stored: models.Clip) -> "ClipLine":
        document: dict[str, Any] = stored.document
        origin, meter = document.get("origin"), Meter(**document["meter"])
        kept = [track for track in document["tracks"] if track["notes"] or track["controls"]]
        drawn = drawn_notes([track["notes"] for track in kept], document["length_ticks"])
        return cls.model_construct(
            id=stored.pk,
            created_at=stored.created_at,
            name=document["name"],
            tags=stored.tags,
            set_name=stored.set_name,
            origin=From.model_construct(**{field: origin[field] for field in From.model_fields})
            if origin
            else None,
            bars=-(-document["length_ticks"] // meter.bar_ticks),
            notes=sum(len(track["notes"]) for track in kept),
            tempo=document["tempo"],
            meter=meter,
            length_ticks=document["length_ticks"],
            tracks=[
                SheetTrack.model_construct(
                    lane=track["lane"],
                    ink=track["ink"],
                    channel=track["channel"],
                    notes=[Note(*row) for row in notes],
                    controls=[Control(*row) for row in track["controls"][:MOST_DRAWN]],
                )
                for track, notes in zip(kept, drawn, strict=True)
            ],
        )


class KeptLine(ClipLine):
    """The clip that was kept. *late*: how many notes of its bars came too late to be heard, and are not in it."""

    late: int


class ClipPage(BaseModel):
    """Some of the clips that were asked for: *total* are there. *sets*, *tags*: all that the musician has."""

    clips: list[ClipLine]
    total: int
    sets: list[str]
    tags: list[str]


class OpenClip(BaseModel):
    """A clip to work on: its *document* without its origin's score, and what sounds each of its notes, track by track.

    *undo*, *redo*: what can be undone and done again; empty where nothing can. *is_melody*: whether all its notes are
    pitches.
    """

    id: int
    revision: int
    created_at: datetime
    origin: From | None
    document: Clip
    bars: int
    sounds: list[dict[int, PitchSound]]
    undo: str
    redo: str
    is_melody: bool

    @classmethod
    def of(cls, stored: models.Clip) -> "OpenClip":
        """Return a stored clip to work on."""
        clip = services.document_of(stored)
        steps = services.steps_of(stored)
        origin = clip.origin
        return cls.model_construct(
            id=stored.pk,
            revision=stored.revision,
            created_at=stored.created_at,
            origin=From(**{field: getattr(origin, field) for field in From.model_fields}) if origin else None,
            document=clip.model_copy(update={"origin": None}),
            bars=clip.bars,
            sounds=[sounds_of(track) for track in clip.tracks],
            undo=steps.undo,
            redo=steps.redo,
            is_melody=clip.note_count > 0 and all(is_melodic(track) for track in clip.tracks if track.notes),
        )


class EditedClip(BaseModel):
    """A clip after an edit, and the places of the notes that are chosen now, track by track.

    *came_from*: for each note, counted through all tracks, which it was before the edit; -1 for one that is new. None
    where each is the note that it was. *lost*: how many notes are gone, deleted, cropped or merged with others.
    """

    clip: OpenClip
    chosen: list[list[int]]
    came_from: list[int] | None
    lost: int

    @classmethod
    def of(cls, stored: models.Clip, done: Edited) -> "EditedClip":
        """Return the answer about an edit that was stored."""
        stayed = done.came_from == tuple(range(len(done.came_from)))
        return cls.model_construct(
            clip=OpenClip.of(stored),
            chosen=[list(places) for places in done.chosen],
            came_from=None if stayed else list(done.came_from),
            lost=done.lost,
        )


class GridStep(BaseModel):
    """The length of a step in ticks, to draw a grid by; edits reckon with it exactly."""

    ticks: float


class Revision(Body):
    """The revision that a change is based on."""

    revision: Annotated[int, Field(ge=1)]


class ClipEdit(Revision):
    """What to do to the *chosen* notes: for each track the places of those chosen."""

    action: Action
    chosen: Annotated[list[list[Annotated[int, Field(ge=0)]]], Field(max_length=256)] = []


class Join(Revision):
    """The number of the clip to come after this one."""

    other: int


class Description(Body):
    """A new name, tags or set; none: as it is. An empty *set_name*: in no set."""

    name: Name | None = None
    tags: Annotated[list[Tag] | None, Field(max_length=MAX_TAGS)] = None
    set_name: Annotated[str | None, Field(max_length=MAX_NAME)] = None


class Exporting(Body):
    """How to write a file, as an address says it: a lattice.formats.midi.Export."""

    type: int = 1
    resolution: int = 960
    repeats: int = 1
    drums: str = "lanes"
    markers: bool = False
    key: str | None = None

    def export(self) -> Export:
        """Return it as the engine takes it. Raises DocumentError if it cannot be."""
        return read(Export, self.model_dump())


class Imported(BaseModel):
    """The clips of a file, what of it was not kept, and the scale and chords that were *heard* in it, if any."""

    clips: list[ClipLine]
    remarks: list[str]
    heard: str


class InPlace(Body):
    """The lanes that a clip could play in place of."""

    lanes: Annotated[list[Id], Field(min_length=1, max_length=64)]


class AsLanes(Body):
    """Places of the lanes offered that are to be said by their shorter way."""

    shorter: Annotated[list[Annotated[int, Field(ge=0, lt=64)]], Field(max_length=64)] = []


class AsPattern(AsLanes):
    """For a pattern of an open piece: its id there, the kit that its lanes play, and the piece's swing."""

    pattern_id: Id
    kit: Kit = DOCKSIDE
    swing: Swing = Swing()


class LanesOffered(BaseModel):
    """The lanes that a clip's notes could become; *left_out*: what of the clip none of them has, in words."""

    offers: list[LaneOffer]
    left_out: list[str]


class Made(BaseModel):
    """The number of a piece that was made."""

    piece: int
