"""What melody asks the engine for beside rendering: voices, progressions, contours, notes played in, other scales."""

from typing import Annotated, Literal, Self

from accounts.auth import to_compute
from config.answers import answer
from config.bodies import Body
from config.refusal import refusals
from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import BaseModel, Field, model_validator

from lattice import edits
from lattice.document import DocumentError, HeldKey, Keys, Kit, Meter, Piece, Progression, Scale
from lattice.document.arpeggio import Latch
from lattice.document.base import Id
from lattice.document.keys import MAX_KEYS
from lattice.document.pitched import PITCHED, Tone
from lattice.document.source import MAX_STEPS, MAX_THROW
from lattice.document.strip import PITCH
from lattice.edits.beginnings import first_progression
from lattice.edits.contours import Contour
from lattice.render.held_keys import gathered
from lattice.render.pitch_context import pitch_context_of
from lattice.screen.chord_lengths import ChordLength, chord_lengths
from lattice.screen.keyboard import Key, keyboard
from lattice.starters.progressions import PROGRESSIONS
from lattice.steps.lane_steps import steps_of_lane
from pieces.schemas import MAX_TICK, Changed, Question

router = Router(auth=to_compute)


class VoiceLine(BaseModel):
    """A voice that plays any pitch: what it is called, and how it sounds."""

    id: str
    name: str
    explains: str
    home: int
    tone: Tone


class ProgressionLine(BaseModel):
    """A progression to begin with. *scales*: the kind of scale it was made for."""

    name: str
    explains: str
    scales: str
    progression: Progression


class ContourQuestion(Question):
    """Which contour to draw on the pitches of *lanes*: between which values, by leaps of at most how many."""

    lanes: Annotated[list[Id], Field(min_length=1, max_length=64)]
    contour: Contour
    low: Annotated[int, Field(ge=PITCH.low, le=PITCH.high)]
    high: Annotated[int, Field(ge=PITCH.low, le=PITCH.high)]
    leap: Annotated[int, Field(ge=1, le=PITCH.high - PITCH.low)]
    throw: Annotated[int, Field(ge=1, le=MAX_THROW)] = 1


class EnterQuestion(Question):
    """What to enter on a *step* of a *lane*: a note's *pitch* and *velocity* (none: the lane's), a rest or a tie."""

    lane: Id
    what: Literal["note", "rest", "tie"]
    step: Annotated[int, Field(ge=0, lt=MAX_STEPS)]
    pitch: Annotated[int | None, Field(ge=0, le=127)] = None
    velocity: Annotated[int | None, Field(ge=1, le=127)] = None

    @model_validator(mode="after")
    def _a_note_has_a_pitch(self) -> Self:
        if self.what == "note" and self.pitch is None:
            raise ValueError("a note has a pitch")
        return self


class Held(Body):
    """What hands held for a lane, and how its pool latches it."""

    keys: Keys
    latch: Latch


class RecordQuestion(Question):
    """Keys that were played along with a *lane*. *over*: in place of what it had. *nudges*: whether they are kept."""

    lane: Id
    keys: Annotated[list[HeldKey], Field(min_length=1, max_length=MAX_KEYS)]
    over: bool = False
    nudges: bool = False


class PlayedIn(Changed):
    """How many keys found no free step beside."""

    left_out: int


class GatherQuestion(Body):
    """What lanes hold, by their ids: gathered from the tick *at* on (none: after all that hands did) at *begin*."""

    lanes: Annotated[dict[Id, Held], Field(max_length=64)]
    at: Annotated[int | None, Field(ge=0, le=MAX_TICK)] = None
    begin: Annotated[int, Field(ge=0, le=MAX_TICK)] = 0


class Gathered(BaseModel):
    """What is held, by the ids of lanes, with nothing of what went before."""

    lanes: dict[str, Keys]


class ChordsQuestion(Body):
    """In which *meter* and *scale* a progression is to lie."""

    meter: Meter
    scale: Scale


class ChordsOffered(BaseModel):
    """What hands may make of a progression: how long its chords may be, from short to long; and what to begin with."""

    lengths: list[ChordLength]
    first: Progression


class KeyboardQuestion(Body):
    """Of which *scale* the keys are, none: spelt as without one; and which *kit* they strike, if any."""

    scale: Scale | None = None
    kit: Kit | None = None


class RescaleQuestion(Body):
    """Which *scale* to bring a *piece* to; with *pattern*, that pattern alone."""

    piece: Piece
    scale: Scale
    pattern: Id | None = None


@router.get("/voices", response={200: list[VoiceLine], **refusals()})
def voices(request: HttpRequest) -> list[VoiceLine]:
    """The voices that play any pitch."""
    return [
        VoiceLine(id=key, name=voice.name, explains=voice.explains, home=voice.home, tone=voice.tone)
        for key, voice in PITCHED.items()
    ]


@router.get("/progressions", response={200: list[ProgressionLine], **refusals()})
def progressions(request: HttpRequest) -> list[ProgressionLine]:
    """Progressions to begin with."""
    return [ProgressionLine.model_validate(one._asdict()) for one in PROGRESSIONS]


@router.post("/chords", response={200: ChordsOffered, **refusals()})
def chords(request: HttpRequest, body: ChordsQuestion) -> ChordsOffered:
    """How long chords may be made, and a progression to begin with."""
    return ChordsOffered(lengths=chord_lengths(body.meter), first=first_progression(body.scale))


@router.post("/keyboard", response={200: list[Key], **refusals()})
def keys(request: HttpRequest, body: KeyboardQuestion) -> list[Key]:
    """All keys of a keyboard, spelt and marked as a scale has them, with the voices that a kit has on them."""
    return keyboard(body.scale or Scale(), body.kit)


@router.post("/contour", response={200: Changed, **refusals()})
def contour(request: HttpRequest, body: ContourQuestion) -> Changed:
    """What lanes become when a contour is drawn on their pitches."""
    all_lane_steps = [steps_of_lane(body.score, body.dice, lane) for lane in body.lanes]
    asked = (body.contour, body.low, body.high, body.leap, body.throw)
    return Changed(
        patches={lane_steps.lane.id: edits.draw_contour(lane_steps, *asked) for lane_steps in all_lane_steps}
    )


@router.post("/enter", response={200: Changed, **refusals()})
def enter(request: HttpRequest, body: EnterQuestion) -> Changed:
    """What a lane becomes when a note, a rest or a tie is entered on a step."""
    lane_steps = steps_of_lane(body.score, body.dice, body.lane)
    if body.step >= lane_steps.steps:
        raise DocumentError.of("step", f"there are {lane_steps.steps} steps", lane=lane_steps.lane.name)
    if body.what == "rest":
        patch = edits.enter_rest(lane_steps, body.step)
    elif body.what == "tie":
        patch = edits.enter_tie(lane_steps, body.step)
    else:
        context = pitch_context_of(lane_steps.lane, body.score, body.dice)
        patch = edits.enter_note(lane_steps, context, body.step, body.pitch or 0, body.velocity)
    return Changed(patches={body.lane: patch})


@router.post("/record", response={200: PlayedIn, **refusals()})
def record(request: HttpRequest, body: RecordQuestion) -> PlayedIn:
    """What a lane becomes when keys were played along with it."""
    lane_steps = steps_of_lane(body.score, body.dice, body.lane)
    context = pitch_context_of(lane_steps.lane, body.score, body.dice)
    patch, left_out = edits.record_keys(lane_steps, context, body.keys, over=body.over, nudges=body.nudges)
    return PlayedIn(patches={body.lane: patch}, left_out=left_out)


@router.post("/gather", response={200: Gathered, **refusals()})
def gather(request: HttpRequest, body: GatherQuestion) -> HttpResponse:
    """What is held where a pattern begins anew, a latch changes, or a piece is put away: as it sounds then."""
    found = {lane: gathered(held.keys, held.latch, body.at, body.begin) for lane, held in body.lanes.items()}
    return answer(Gathered(lanes=found))


@router.post("/rescale", response={200: Piece, **refusals()})
def rescale(request: HttpRequest, body: RescaleQuestion) -> HttpResponse:
    """A piece in another scale."""
    return answer(edits.rescaled(body.piece, body.scale, body.pattern))
