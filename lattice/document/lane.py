"""One lane: a voice, where its hits come from, and all that acts on them."""

from itertools import pairwise
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from lattice.document.arpeggio import Arpeggio, LanePool
from lattice.document.base import Document, Id, Name, Row
from lattice.document.burst import MAX_BURSTS, Burst
from lattice.document.chance import CycleRule, Link, StepRule
from lattice.document.feel import Accent, Humanise, LaneSwing
from lattice.document.ground import Source
from lattice.document.keys import Keys
from lattice.document.lane_clip import LaneClip
from lattice.document.movement import CONTROLS, MAX_MOVEMENTS, Movement, check_movements
from lattice.document.pitched import MAX_ATTACK_MS, MAX_GLIDE_MS, MAX_RELEASE_MS, PITCHED, WHOLE_KIT, Tone
from lattice.document.port import Program
from lattice.document.problems import lane_error, repeated
from lattice.document.scale import Scale
from lattice.document.source import MAX_STEPS, Made
from lattice.document.step_value import StepValue
from lattice.document.strip import (
    MAX_CONTROLS,
    ChanceStrip,
    ChordStrip,
    ControlStrip,
    LengthStrip,
    NudgeStrip,
    OctaveStrip,
    PitchStrip,
    RatchetStrip,
    VelocityStrip,
)
from lattice.document.timing import (
    MAX_BARS_OF_A_PATTERN,
    Direction,
    Once,
    Restart,
    Span,
    StepRange,
)
from lattice.document.turns import Edit, Thin

__all__ = ["CLOCK_FIELDS", "INKS", "Follows", "Lane"]

INKS = 16  # eight inks, then the same eight lighter
# What a lane made from another takes from that one, and so has not of its own.
CLOCK_FIELDS = ("step_value", "span", "once", "step_range", "direction", "restart")


Follows = Literal["none", "root", "tones", "nearest"]


class Lane(Document):
    """A field left at its default is *plain*: it does nothing and the sentence does not name it.

    What concerns pitch lies dormant while the *voice* is one of the kit.
    """

    id: Id
    name: Name
    voice: Id
    ink: Annotated[int, Field(ge=0, lt=INKS)] = 0
    source: Source
    rotate: Annotated[
        int, Field(gt=-MAX_STEPS, lt=MAX_STEPS, description="steps later; negative: earlier")
    ] = 0
    complement: Annotated[bool, Field(description="its rests: hits and rests change places")] = False
    busy: Annotated[
        int, Field(ge=-100, le=100, description="% busier: of its rests, hits; negative: sparser")
    ] = 0
    thin: Annotated[Thin | None, Field(description="none: every hit")] = None
    edits: Annotated[Row[Edit], Field(max_length=MAX_STEPS, description="ascending by step")] = ()
    step_value: Annotated[StepValue | None, Field(description="none: the pattern's")] = None
    span: Annotated[Span | None, Field(description="what a cycle fills; none: it keeps its step")] = None
    once: Annotated[Once | None, Field(description="one cycle in each pass; none: it goes round")] = None
    step_range: Annotated[StepRange | None, Field(description="none: all steps")] = None
    direction: Direction = "forward"
    restart: Annotated[Restart | None, Field(description="none: never")] = None
    bursts: Annotated[Row[Burst], Field(max_length=MAX_BURSTS)] = ()
    scale: Annotated[Scale | None, Field(description="none: the pattern's")] = None
    follows: Annotated[Follows, Field(description="what of the progression a melodic lane follows")] = "none"
    pitch_strip: PitchStrip | None = None
    degrees_up: Annotated[int, Field(ge=-28, le=28, description="higher before the scale: stays in it")] = 0
    semitones_up: Annotated[int, Field(ge=-48, le=48, description="higher after the scale: may leave it")] = 0
    arpeggio: Annotated[Arpeggio | None, Field(description="none: its own pitches")] = None
    keys: Annotated[Keys, Field(description="what was held on the keyboard for its pool of held keys")] = (
        Keys()
    )
    velocity: Annotated[int, Field(ge=1, le=127)] = 100
    velocity_strip: VelocityStrip | None = None
    accent: Annotated[Accent | None, Field(description="none: no hit is accented")] = None
    beat_weight: Annotated[int, Field(ge=0, le=100, description="%: how much weaker weak places are")] = 0
    evened: Annotated[int, Field(ge=0, le=100, description="%: velocities pulled towards their mean")] = 0
    ratchet_strip: RatchetStrip | None = None
    length_percent: Annotated[int, Field(ge=1, le=1600, description="length of a note, in % of a step")] = 100
    length_strip: LengthStrip | None = None
    nudge_strip: NudgeStrip | None = None
    octave_strip: OctaveStrip | None = None
    chord_strip: ChordStrip | None = None
    control_strips: Annotated[Row[ControlStrip], Field(max_length=MAX_CONTROLS)] = ()
    chance_percent: Annotated[int, Field(ge=0, le=100, description="how often a hit sounds")] = 100
    chance_strip: ChanceStrip | None = None
    links: Annotated[Row[Link], Field(max_length=MAX_STEPS, description="ascending by step")] = ()
    cycle_rule: Annotated[CycleRule | None, Field(description="none: in every cycle")] = None
    step_rules: Annotated[Row[StepRule], Field(max_length=MAX_STEPS, description="ascending by step")] = ()
    luck_bars: Annotated[
        int | None,
        Field(ge=1, le=MAX_BARS_OF_A_PATTERN, description="luck repeats every so many bars; none: never"),
    ] = None
    swing: Annotated[LaneSwing | None, Field(description="none: the piece's")] = None
    humanise: Annotated[Humanise | None, Field(description="none: exactly in time and strength")] = None
    glide_ms: Annotated[
        int,
        Field(ge=0, le=MAX_GLIDE_MS, description="a note that begins while another sounds glides from it"),
    ] = 0
    room: Annotated[
        int, Field(ge=0, le=100, description="% of the built-in sound that is sent to the room")
    ] = 0
    port: Annotated[
        Name | None, Field(description="where its notes go; none: the kit's, or built-in sounds")
    ] = None
    program: Annotated[
        Program | None, Field(description="what its instrument chooses; none: as it stands")
    ] = None
    channel: Annotated[int | None, Field(ge=1, le=16, description="MIDI channel; none: the kit's")] = None
    note: Annotated[
        int | None,
        Field(
            ge=0,
            le=127,
            description="MIDI note number; none: the voice's, or the root nearest to a pitched one's",
        ),
    ] = None
    level_db: Annotated[int, Field(ge=-48, le=6, description="of the built-in sound")] = 0
    brightness: Annotated[
        int | None, Field(ge=0, le=100, description="% of a pitched voice's overtones; none: the voice's")
    ] = None
    attack_ms: Annotated[int | None, Field(ge=0, le=MAX_ATTACK_MS, description="none: the voice's")] = None
    release_ms: Annotated[int | None, Field(ge=0, le=MAX_RELEASE_MS, description="none: the voice's")] = None
    pan: Annotated[int, Field(ge=-100, le=100, description="% to the right; negative: to the left")] = 0
    anchored: Annotated[bool, Field(description="no throw and no action on all lanes touches it")] = False
    clip: Annotated[
        LaneClip | None, Field(description="kept notes that play in its place; none: none do")
    ] = None
    movements: Annotated[Row[Movement], Field(max_length=MAX_MOVEMENTS)] = ()
    mute: bool = False
    solo: bool = False

    @model_validator(mode="after")
    def _one_of_each_step(self) -> Self:
        for said, rows in (("edits", self.edits), ("links", self.links), ("cycle rules", self.step_rules)):
            steps = [row.step for row in rows]
            if any(later <= earlier for earlier, later in pairwise(steps)):
                raise ValueError(
                    f"the {said} must be ascending by step and each step there once, got {steps}"
                )
        return self

    @model_validator(mode="after")
    def _one_strip_a_controller(self) -> Self:
        if (twice := repeated(strip.controller for strip in self.control_strips)) is not None:
            raise ValueError(f"there are two strips for controller {twice}")
        return self

    @model_validator(mode="after")
    def _movements_within(self) -> Self:
        check_movements(self.movements, CONTROLS, type(self), self.name)
        return self

    @model_validator(mode="after")
    def _one_clock(self) -> Self:
        if isinstance(self.source, Made):
            for field in CLOCK_FIELDS:
                if getattr(self, field) != type(self).model_fields[field].default:
                    raise ValueError(
                        f"a lane made from another runs on its clock: it has no {field} of its own"
                    )
            if self.busy:
                raise lane_error(
                    self.name, "busy", "a lane made from another is as busy as that one: make that busier"
                )
        return self

    @model_validator(mode="after")
    def _one_length_of_a_step(self) -> Self:
        if self.span and self.step_value:
            raise ValueError("a lane that fills a span has no step value of its own: the span decides it")
        return self

    @property
    def is_melodic(self) -> bool:
        """Whether its voice plays any pitch."""
        return self.voice in PITCHED

    @property
    def tone(self) -> Tone | None:
        """How its pitched voice is set: by the lane, or as the voice is; None for voices of the kit."""
        if not self.is_melodic or self.voice == WHOLE_KIT:
            return None
        voice = PITCHED[self.voice]
        return Tone(
            brightness=voice.brightness if self.brightness is None else self.brightness,
            attack_ms=voice.attack_ms if self.attack_ms is None else self.attack_ms,
            release_ms=voice.release_ms if self.release_ms is None else self.release_ms,
        )

    @property
    def reads(self) -> tuple[str, ...]:
        """The ids of the lanes that it is made from, or whose notes its arpeggio plays."""
        made = (self.source.of,) if isinstance(self.source, Made) else ()
        pool = self.arpeggio.pool if self.arpeggio else None
        return (*made, pool.of) if isinstance(pool, LanePool) else made

    def reading(self, of: str) -> str:
        """Return the field by which it reads the lane of that id."""
        return "source" if isinstance(self.source, Made) and self.source.of == of else "arpeggio"
