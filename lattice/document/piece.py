"""The piece, its patterns, and the score that a pattern makes."""

from fractions import Fraction
from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, Field, model_validator

from lattice.document.arpeggio import TypedPool
from lattice.document.base import Document, Id, Name, Row
from lattice.document.detour import MAX_DETOURS, MAX_HELD_DETOURS, HeldDetour, PatternDetour
from lattice.document.feel import Swing
from lattice.document.kit import DOCKSIDE, Kit
from lattice.document.lane import INKS, Lane
from lattice.document.meter import Meter
from lattice.document.movement import PATTERN_CONTROLS, Movement, check_movements
from lattice.document.order import MAX_BARS_OF_A_ROW, MAX_BARS_OF_AN_ORDER, MAX_ROWS, OrderRow, RowPace
from lattice.document.perform import MAX_HANDS, BigControl
from lattice.document.problems import DocumentError, lane_error, repeated
from lattice.document.progression import Progression
from lattice.document.scale import Scale
from lattice.document.step_value import StepValue
from lattice.document.timing import MAX_BARS_OF_A_PATTERN
from lattice.theory.chords import parse_chord

__all__ = [
    "DICE",
    "TEMPO",
    "Dice",
    "Pattern",
    "Piece",
    "Rhythm",
    "Score",
    "Tempo",
    "score_of",
]


TEMPO = (20, 400)
DICE = (0, 999_999_999)


def _two_decimals(tempo: float) -> float:
    if round(tempo, 2) != tempo:
        raise ValueError(f"a tempo has at most two decimals, got {tempo}")
    return tempo


Tempo = Annotated[
    float,
    Field(ge=TEMPO[0], le=TEMPO[1], description="quarter notes a minute"),
    AfterValidator(_two_decimals),
]
Dice = Annotated[int, Field(ge=DICE[0], le=DICE[1])]


class Rhythm(Document):
    """What a pattern and a score have in common."""

    meter: Meter = Meter()
    bars: Annotated[int, Field(ge=1, le=MAX_BARS_OF_A_PATTERN, description="length of one pass")] = 16
    step_value: StepValue = StepValue()
    progression: Annotated[Progression | None, Field(description="none: no chords to follow")] = None
    lanes: Annotated[Row[Lane], Field(max_length=64)] = ()
    detours: Annotated[Row[PatternDetour], Field(max_length=MAX_DETOURS)] = ()
    degrees_up: Annotated[
        int, Field(ge=-28, le=28, description="all that is melodic, before the scale: it stays in it")
    ] = 0
    semitones_up: Annotated[
        int, Field(ge=-48, le=48, description="all that is melodic, after the scale: it may leave it")
    ] = 0
    movements: Annotated[Row[Movement], Field(max_length=len(PATTERN_CONTROLS))] = ()
    moved_detours: Annotated[
        Row[HeldDetour],
        Field(
            max_length=MAX_HELD_DETOURS, description="held while moves were recorded, in the order of time"
        ),
    ] = ()

    @model_validator(mode="after")
    def _movements_within(self) -> Self:
        check_movements(self.movements, PATTERN_CONTROLS, type(self), None)
        return self

    @model_validator(mode="after")
    def _lanes_differ(self) -> Self:
        if twice := repeated(lane.id for lane in self.lanes):
            raise ValueError(f"the lane id {twice!r} is there twice")
        return self

    @model_validator(mode="after")
    def _lanes_read_in_no_circle(self) -> Self:
        by_id = {lane.id: lane for lane in self.lanes}
        settled: set[str] = set()

        def follow(lane: Lane, way: tuple[str, ...]) -> None:
            if lane.id in way:
                circle = (*way[way.index(lane.id) :], lane.id)
                names = " follows ".join(f"“{by_id[one].name}”" for one in circle)
                first = by_id[circle[0]].name
                raise lane_error(
                    first, lane.reading(circle[1]), f"lanes follow each other in a circle: {names}"
                )
            for of in () if lane.id in settled else lane.reads:
                if of not in by_id:
                    raise lane_error(lane.name, lane.reading(of), f"there is no lane {of!r} to follow")
                follow(by_id[of], (*way, lane.id))
            settled.add(lane.id)

        for lane in self.lanes:
            follow(lane, ())
        return self

    @model_validator(mode="after")
    def _once_within_a_pass(self) -> Self:
        for lane in self.lanes:
            if lane.once and lane.once.offset_quarters(self.meter.bar_quarters) >= self.pass_quarters:
                message = f"it would begin after the pattern's end: the pattern has {self.bars} bars"
                raise lane_error(lane.name, "once", message)
        return self

    @property
    def pass_quarters(self) -> Fraction:
        """Length of one pass in quarter notes."""
        return self.bars * self.meter.bar_quarters

    def transposed(self, degrees: int, semitones: int) -> Self:
        """Return it with all that is melodic higher, before the scale and after it, as it moves while it plays too."""
        by = {"degrees_up": degrees, "semitones_up": semitones}
        movements = tuple(movement.higher(by.get(movement.control, 0)) for movement in self.movements)
        changed: dict[str, Any] = {field: getattr(self, field) + up for field, up in by.items()}
        return self.model_copy(update={**changed, "movements": movements})

    def lane(self, lane_id: str) -> Lane:
        """Return the lane with that id. Raises DocumentError if there is none."""
        for lane in self.lanes:
            if lane.id == lane_id:
                return lane
        raise DocumentError.of("lane", f"there is no lane {lane_id!r}")


class Pattern(Rhythm):
    """One pattern of a piece, with dice of its own."""

    id: Id
    name: Name
    dice: Dice = 1
    ink: Annotated[int, Field(ge=0, lt=INKS)] = 0
    scale: Annotated[Scale | None, Field(description="none: the piece's")] = None


class Score(Rhythm):
    """A pattern with everything that decides its sound filled in."""

    tempo: Tempo
    swing: Swing = Swing()
    scale: Scale = Scale()
    kit: Kit
    held_detours: Annotated[
        Row[HeldDetour], Field(max_length=MAX_HELD_DETOURS, description="by hand, in the order of time")
    ] = ()
    pace: Annotated[
        RowPace, Field(description="of step values, spans and chord lengths; bars stay as long")
    ] = RowPace()
    ends_after: Annotated[
        int | None,
        Field(ge=1, le=MAX_BARS_OF_A_ROW, description="bars; its notes are cut there; none: never"),
    ] = None

    @model_validator(mode="after")
    def _voices_known(self) -> Self:
        _check_voices(self.lanes, self.kit)
        return self

    @model_validator(mode="after")
    def _chords_known(self) -> Self:
        _check_chords(self, self.scale)
        return self

    @property
    def rate(self) -> Fraction:
        """How many times as fast its steps go by."""
        return Fraction(self.pace.times, self.pace.over)

    @property
    def end_tick(self) -> int | None:
        """The tick at which it ends; None if it goes on."""
        return None if self.ends_after is None else self.ends_after * self.meter.bar_ticks

    @property
    def quarters_per_minute(self) -> Fraction:
        """The tempo, exactly."""
        return Fraction(round(self.tempo * 100), 100)


class Piece(Document):
    """The document a musician works on."""

    version: Literal[3] = 3
    name: Name
    tempo: Tempo = 112
    swing: Swing = Swing()
    scale: Scale = Scale()
    kit: Kit = DOCKSIDE
    patterns: Annotated[Row[Pattern], Field(min_length=1, max_length=64)]
    order: Annotated[Row[OrderRow], Field(max_length=MAX_ROWS, description="which pattern when")] = ()
    hands: Annotated[
        Row[BigControl], Field(max_length=MAX_HANDS, description="laid out to perform with")
    ] = ()

    @model_validator(mode="after")
    def _rows_fit(self) -> Self:
        by_id = {pattern.id: pattern for pattern in self.patterns}
        for place, row in enumerate(self.order, 1):
            pattern = by_id.get(row.pattern)
            if pattern is None:
                raise lane_error(None, f"order.{place}.pattern", f"there is no pattern {row.pattern!r}")
            if row.scale:
                try:
                    _check_chords(pattern, row.scale)
                except ValueError as refusal:
                    message = f"pattern {pattern.name} has chords that this scale cannot read: {refusal}"
                    raise lane_error(None, f"order.{place}.scale", message) from None
        bars = sum(row.repeats * (row.bars or by_id[row.pattern].bars) for row in self.order)
        if bars > MAX_BARS_OF_AN_ORDER:
            message = f"it lasts {bars:,} bars, {MAX_BARS_OF_AN_ORDER:,} is the most: take fewer repeats"
            raise lane_error(None, "order", message)
        return self

    @model_validator(mode="after")
    def _patterns_fit(self) -> Self:
        if twice := repeated(pattern.id for pattern in self.patterns):
            raise ValueError(f"the pattern id {twice!r} is there twice")
        for pattern in self.patterns:
            _check_voices(pattern.lanes, self.kit)
            _check_chords(pattern, pattern.scale or self.scale)
        return self

    def pattern(self, pattern_id: str) -> Pattern:
        """Return the pattern with that id. Raises KeyError if there is none."""
        for pattern in self.patterns:
            if pattern.id == pattern_id:
                return pattern
        raise KeyError(pattern_id)


def _check_voices(lanes: tuple[Lane, ...], kit: Kit) -> None:
    for lane in lanes:
        if not lane.is_melodic and kit.voice(lane.voice) is None:
            raise lane_error(lane.name, "voice", f"the kit {kit.name!r} has no voice {lane.voice!r}")


def _check_chords(rhythm: Rhythm, scale: Scale) -> None:
    """Raise ValueError where a chord cannot be read in *scale*, the one of the pattern."""
    for place, chord in enumerate(rhythm.progression.written() if rhythm.progression else ()):
        try:
            parse_chord(chord, scale.root, scale.semitones)
        except ValueError as refusal:
            raise lane_error(None, f"progression.chords.{place + 1}.chord", str(refusal)) from None
    for lane in rhythm.lanes:
        pool = lane.arpeggio.pool if lane.arpeggio else None
        if isinstance(pool, TypedPool) and pool.chord:
            try:
                parse_chord(pool.chord, scale.root, scale.semitones)
            except ValueError as refusal:
                raise lane_error(lane.name, "arpeggio.pool.chord", str(refusal)) from None


def score_of(piece: Piece, pattern: Pattern) -> Score:
    """Return the score of *pattern* in *piece*."""
    shared = {field: getattr(pattern, field) for field in Rhythm.model_fields}
    return Score(
        tempo=piece.tempo, swing=piece.swing, scale=pattern.scale or piece.scale, kit=piece.kit, **shared
    )
