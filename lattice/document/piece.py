"""The piece, its patterns, and the score that a pattern makes."""

from fractions import Fraction
from typing import Annotated, Literal, Self

from pydantic import AfterValidator, Field, model_validator

from lattice.document.base import Document, Id, Name, Row
from lattice.document.feel import Swing
from lattice.document.kit import DOCKSIDE, Kit
from lattice.document.lane import Lane
from lattice.document.meter import Meter
from lattice.document.problems import DocumentError, lane_error, repeated
from lattice.document.source import Made
from lattice.document.step_value import StepValue
from lattice.document.timing import MAX_BARS_OF_A_PATTERN

__all__ = ["DICE", "TEMPO", "Dice", "Pattern", "Piece", "Rhythm", "Score", "Tempo", "score_of"]


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
    lanes: Annotated[Row[Lane], Field(max_length=64)] = ()

    @model_validator(mode="after")
    def _lanes_differ(self) -> Self:
        if twice := repeated(lane.id for lane in self.lanes):
            raise ValueError(f"the lane id {twice!r} is there twice")
        return self

    @model_validator(mode="after")
    def _made_lanes_follow(self) -> Self:
        by_id = {lane.id: lane for lane in self.lanes}
        for lane in self.lanes:
            way = [lane]
            while isinstance(source := way[-1].source, Made):
                if (followed := by_id.get(source.of)) is None:
                    raise lane_error(way[-1].name, "source", f"there is no lane {source.of!r} to follow")
                way.append(followed)
                if followed is lane:
                    names = " follows ".join(f"“{one.name}”" for one in way)
                    raise lane_error(lane.name, "source", f"lanes follow each other in a circle: {names}")
                if len(way) > len(by_id):
                    break  # a circle further on: said of the lanes in it
        return self

    @model_validator(mode="after")
    def _once_within_a_pass(self) -> Self:
        for lane in self.lanes:
            if lane.once and lane.once.offset_quarters(self.meter.bar_quarters) >= self.pass_quarters:
                said = f"it would begin after the pattern's end: the pattern has {self.bars} bars"
                raise lane_error(lane.name, "once", said)
        return self

    @property
    def pass_quarters(self) -> Fraction:
        """Length of one pass in quarter notes."""
        return self.bars * self.meter.bar_quarters

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


class Score(Rhythm):
    """A pattern with everything that decides its sound filled in."""

    tempo: Tempo
    swing: Swing = Swing()
    kit: Kit

    @model_validator(mode="after")
    def _voices_known(self) -> Self:
        _check_voices(self.lanes, self.kit)
        return self

    @property
    def quarters_per_minute(self) -> Fraction:
        """The tempo, exactly."""
        return Fraction(round(self.tempo * 100), 100)


class Piece(Document):
    """The document a musician works on."""

    version: Literal[2] = 2
    name: Name
    tempo: Tempo = 112
    swing: Swing = Swing()
    kit: Kit = DOCKSIDE
    patterns: Annotated[Row[Pattern], Field(min_length=1, max_length=64)]

    @model_validator(mode="after")
    def _patterns_fit(self) -> Self:
        if twice := repeated(pattern.id for pattern in self.patterns):
            raise ValueError(f"the pattern id {twice!r} is there twice")
        for pattern in self.patterns:
            _check_voices(pattern.lanes, self.kit)
        return self

    def pattern(self, pattern_id: str) -> Pattern:
        """Return the pattern with that id. Raises KeyError if there is none."""
        for pattern in self.patterns:
            if pattern.id == pattern_id:
                return pattern
        raise KeyError(pattern_id)


def _check_voices(lanes: tuple[Lane, ...], kit: Kit) -> None:
    for lane in lanes:
        if kit.voice(lane.voice) is None:
            raise lane_error(lane.name, "voice", f"the kit {kit.name!r} has no voice {lane.voice!r}")


def score_of(piece: Piece, pattern: Pattern) -> Score:
    """Return the score of *pattern* in *piece*."""
    shared = {field: getattr(pattern, field) for field in Rhythm.model_fields}
    return Score(tempo=piece.tempo, swing=piece.swing, kit=piece.kit, **shared)
