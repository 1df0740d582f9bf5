"""What a screen is told of a window: shapes and words of every lane, the chosen ones whole, and what sounds."""

from typing import Literal

from pydantic import BaseModel

from lattice.document.kit import Voice
from lattice.document.pitched import Tone
from lattice.document.port import Program
from lattice.document.step_value import StepValue
from lattice.document.strip import Shape
from lattice.sentence import Choice, Field, Part, Sentence, Word

__all__ = [
    "AwayPicture",
    "AwayStretch",
    "Bench",
    "BurstPicture",
    "ChordPicture",
    "ControlColumns",
    "EventColumns",
    "KeptPicture",
    "LanePicture",
    "Meeting",
    "MovementPicture",
    "Option",
    "Property",
    "PropertyName",
    "Rendering",
    "SoundSettings",
    "Sounds",
    "Staff",
    "StripPicture",
]

PropertyName = Literal["velocity", "chance", "ratchet", "nudge", "length", "pitch"]


class EventColumns(BaseModel):
    """`lattice.render.Events` as lists: what sounds in the window.

    *voices*: which of the voices of `Sounds` the built-in sounds strike; *semitones*: by how much they tune it;
    *settings*: with which of its settings.
    """

    lanes: list[int]
    starts: list[int]
    lengths: list[int]
    pitches: list[int]
    velocities: list[int]
    tunes: list[int]
    channels: list[int]
    straights: list[int]
    voices: list[int]
    semitones: list[int]
    settings: list[int]


class ControlColumns(BaseModel):
    """`lattice.render.controls.Controls` as lists."""

    lanes: list[int]
    ticks: list[int]
    controllers: list[int]
    values: list[int]
    channels: list[int]


class BurstPicture(BaseModel):
    """One burst in the window, in ticks: *place* among the lane's; where its *notes* begin; *sounds*: if it does."""

    place: int
    start: int
    end: int
    notes: list[int]
    velocities: list[int]
    sounds: bool


class Option(BaseModel):
    """A value of a control that is no number, and how it is *said*."""

    value: StepValue | str
    says: str


class MovementPicture(BaseModel):
    """A movement in the window: a line that is level from each point to the next.

    *places*: which of the movement's points each is that is drawn, *ticks*: where, *shares*: how high, 0-1, *says*: its
    value. The first may be one that held already when the window began; place -1: what the document holds.
    *low*, *high*: between which numbers a hand may move it; or *options*, from low to high, where it is no number.
    """

    control: str
    name: str
    off: bool
    places: list[int]
    ticks: list[int]
    shares: list[float]
    says: list[str]
    low: int
    high: int
    options: list[Option]


class KeptPicture(BaseModel):
    """The notes of a clip that plays in a lane's place, as far as they begin in the window; when it begins again."""

    name: str
    starts: list[int]
    lengths: list[int]
    pitches: list[int]
    velocities: list[int]
    begins: list[int]


class AwayPicture(BaseModel):
    """The notes that detours play in a lane's stead, as far as they begin in the window: *pitches* as in MIDI."""

    starts: list[int]
    lengths: list[int]
    pitches: list[int]
    velocities: list[int]


class AwayStretch(BaseModel):
    """Where a detour holds, in ticks, and what it *says*. *by_hand*: a hand holds it, or did."""

    start: int
    end: int
    says: str
    by_hand: bool


class Staff(BaseModel):
    """Between which pitches a melodic lane is drawn. *note*: the lane's, on which its thread lies.

    *lines*: those of its scale; *roots*: those of its root.

    *names*: of every pitch from *low* to *high*, as the scale spells them.
    """

    low: int
    high: int
    note: int
    lines: list[int]
    roots: list[int]
    names: list[str]


class ChordPicture(BaseModel):
    """A chord of the progression in the window: its *place* there, from when to when in ticks, what is written.

    *name*: the same by its letter; *numeral*: as a numeral, '' where there is none. *lasts*: how long, in words.
    *notes*: those that it has. *inversions*: the positions that it can be in, in words, the root position first.
    """

    place: int
    start: int
    end: int
    written: str
    name: str
    numeral: str
    lasts: str
    notes: str
    inversions: list[str]


class LanePicture(BaseModel):
    """A lane in the window. All positions are ticks from the pattern's start.

    *starts*, *numbers*: of every step that begins in the window, its time after swing and its number in the lane;
    *hits*: indices into those, of the hits. Then, hit by hit: *sounds* (1 if dice and cycle rules let it sound),
    *velocities*, *lengths*, *chances* (%); and each of these, or nothing where all are plain: *onsets* (when its first
    note begins), *ratchets* (notes), *accents* (1 for one), *ties* (1 if it lasts until the next hit), *octaves*,
    *letters* (a for linked steps, '' for others), *covered* (1 where a burst plays instead), *louder* (the name of the
    lane that is heard instead, since it hits the same voice at the same moment, and harder; '' for none). *values*:
    what the property that was asked for has at each step, what the lane and its strip make together; *painted_on*: the
    fields to lay on the lane before values are painted, where it has a part in them. Of a melodic lane, hit by hit
    too: *pitches* (all that begin with it; none where its pool is empty), *degrees* (what its pitch strip says).
    *staff*: None for a voice of the kit. *folded*: how many of its hits have notes that were moved by octaves into
    what MIDI has. *held*: the keys that its pool has after all that hands did, ascending. *tone*: of a pitched
    voice. *port*, *plays_on*: where its notes go, and on which channel there.

    *cycle_starts*, *cycle_ends*: of the cycles that begin in the window. *steps*: how many step numbers there are;
    *first_step*, *last_step*: the range that takes part. *cycle_hits*: the steps that are hits in the lane's very first
    cycle; *edited*: those forced by hand; *ruled*: of these, the ones that would be hits without that. *draws*: for
    each step number, the drawn step that it shows; empty where a touch is a hand edit. *cycle_length*: of its cycle,
    in words. *is_gapped*: whether it is silent between its cycles. *follows*: the id of the lane that it is made
    from. *kept*: the clip that plays in its place; *away*: what detours play in its stead.
    *busy*: the number of its busy-ness; none for a lane made from another. *movements*: what is moved while it plays.
    """

    id: str
    silent: bool
    steps: int
    first_step: int
    last_step: int
    cycle_hits: list[int]
    step_ticks: float
    cycle_ticks: float
    cycle_length: str
    is_gapped: bool
    follows: str | None
    starts: list[int]
    numbers: list[int]
    hits: list[int]
    sounds: list[int]
    velocities: list[int]
    lengths: list[int]
    chances: list[float]
    onsets: list[int]
    ratchets: list[int]
    accents: list[int]
    ties: list[int]
    octaves: list[int]
    letters: list[str]
    covered: list[int]
    louder: list[str]
    bursts: list[BurstPicture]
    values: list[int]
    painted_on: dict[str, object] | None
    pitches: list[list[int]]
    degrees: list[int]
    staff: Staff | None
    folded: int
    held: list[int]
    tone: Tone | None
    port: str
    plays_on: int
    cycle_starts: list[int]
    cycle_ends: list[int]
    draws: list[int]
    edited: list[int]
    ruled: list[int]
    kept: KeptPicture | None
    away: AwayPicture | None
    sentence: Sentence
    busy: Word | None
    movements: list[MovementPicture]


class StripPicture(BaseModel):
    """One strip on the bench. *explains*: what its values do; *words*: all that can be set of it beside them.

    *values*: all of them, from *low* to *high*; *own*: 1 where the strip has one of its own, else the value is *plain*,
    what the lane gives. *places*: which value each step that begins in the window
    has, of a strip that does not go with the lane. *lowest*, *highest*: what a value may
    be at all. *throw_low*, *throw_high*, *throw_shape*: how it is thrown until a hand says otherwise.
    """

    name: str
    path: str
    explains: str
    lowest: int
    highest: int
    throw_low: int
    throw_high: int
    throw_shape: Shape
    low: int
    high: int
    plain: int
    unit: str
    is_free: bool
    is_plain: bool
    values: list[int]
    own: list[int]
    places: list[int]
    words: list[Word]


class Bench(BaseModel):
    """One lane whole: every setting as a field, its strips, when what it plays repeats.

    *voice*: what it sounds with, and its note. *rates*: what one hand may make of its step, slow to fast; *rate*:
    which of them it has, or the next slower one. *without*: for each lane that it reads, by id, the fields to set so
    that it keeps playing when that lane is removed. *pool*: of an arpeggio, what it reads and when that repeats with
    its hits; *fits*: the fields that make it do so with each cycle, none where it does. *channel*: what its
    controllers move where the lane is sent as MIDI.
    """

    id: str
    voice: str
    fields: list[Field]
    strips: list[StripPicture]
    rates: list[Choice]
    rate: int
    repeats: str
    without: dict[str, dict[str, object]]
    pool: str
    fits: dict[str, object] | None
    channel: str


class Property(BaseModel):
    """What the whole lattice shows in place of beads: a strip's *name*, where it lies in a lane, its range."""

    name: str
    path: str
    low: int
    high: int
    unit: str


class Meeting(BaseModel):
    """When lanes begin a cycle together: *says*, and where in the window. *of*: their ids."""

    says: str
    at: list[int]
    of: list[str]


class SoundSettings(BaseModel):
    """How a built-in sound is struck: *level_db*, *pan* (% to the right), *room* (%); *tone*: of a pitched voice."""

    level_db: int
    pan: int
    room: int
    tone: Tone | None


class ChosenProgram(BaseModel):
    """What the instrument of a *lane* is to choose on its *port* and *channel*."""

    lane: str
    port: str
    channel: int
    program: Program


class Sounds(BaseModel):
    """What is heard of a window, and nothing that is drawn. *held*: what controllers hold when it begins.

    *lanes*: their ids; *ports*: where the notes of each go, by name; *programs*: what is chosen there. *voices*,
    *settings*: those that its notes strike, and how. *ends*: the tick at which all is over; None: never.
    """

    first_tick: int
    end_tick: int
    bar_ticks: int
    beat_ticks: int
    lanes: list[str]
    ports: list[str]
    programs: list[ChosenProgram]
    voices: list[Voice]
    settings: list[SoundSettings]
    events: EventColumns
    controls: ControlColumns
    held: ControlColumns
    ends: int | None


class Drawn(BaseModel):
    """All that is drawn of a window but the meeting.

    *progression*: how many chords there are and over how long, in words; '' where there are none.
    *scale_chords*: the chords of three notes that lie in the scale. *away*: where detours hold.
    """

    first_tick: int
    end_tick: int
    bar_ticks: int
    beat_ticks: int
    standing: list[Part]
    chords: list[ChordPicture]
    progression: str
    scale_chords: list[str]
    away: list[AwayStretch]
    property: Property | None
    lanes: list[LanePicture]
    benches: list[Bench]


class Rendering(Drawn):
    """The answer to a score, a dice number and a window: what is heard of it are its `Sounds`."""

    meeting: Meeting


class News(Drawn):
    """Of a `Rendering` what a page does not have already.

    *marks*: a fingerprint of every item that may be left out, new or not, in order: "lane" and its id; "bench" and a
    lane's id, for all of it but "field" and "strip", each by lane and name; "standing" and its setting; "meeting". The
    page sends those back that it has. *benches* hold the fields and strips alone that are new. *meeting*: none where
    it is known. *sounds*: what is heard, of the window that was asked for; none where none was.
    """

    meeting: Meeting | None
    marks: dict[str, str]
    sounds: Sounds | None
