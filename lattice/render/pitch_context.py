"""What a melodic lane's pitches come from, beside its own line: note, scale, chords, keys, the lane that it reads."""

from dataclasses import dataclass, replace

from lattice.document.arpeggio import Arpeggio, HeldPool, LanePool, TypedPool
from lattice.document.keys import Keys
from lattice.document.lane import Lane
from lattice.document.movement import Movement
from lattice.document.piece import Score
from lattice.document.pitched import PITCHED
from lattice.document.scale import Scale
from lattice.render.progression import Chords, chords_of
from lattice.steps.lane_steps import LaneSteps, steps_as, steps_of_lane
from lattice.steps.moving import moving, numbers_at
from lattice.theory.chords import Chord, parse_chord
from lattice.theory.voicing import nearest_root
from lattice.units import Ticks

__all__ = ["PitchContext", "SourceLane", "Transposed", "home_note", "pitch_context_of", "scale_of"]


@dataclass(frozen=True)
class Transposed:
    """How much higher all that is melodic in a pattern is: *degrees*, before the scale, and *semitones*, after it.

    *movements*: of both, while it plays.
    """

    degrees: int
    semitones: int
    movements: tuple[Movement, ...]
    bar_ticks: int

    def degrees_at(self, ticks: Ticks) -> Ticks | int:
        """Return by how many degrees it is higher at each of *ticks*."""
        return self._at("degrees_up", self.degrees, ticks)

    def semitones_at(self, ticks: Ticks) -> Ticks | int:
        """Return by how many semitones it is higher at each of *ticks*."""
        return self._at("semitones_up", self.semitones, ticks)

    def _at(self, control: str, document: int, ticks: Ticks) -> Ticks | int:
        for movement in self.movements:
            if movement.control == control:
                return numbers_at(movement, ticks, self.bar_ticks, document)
        return document


@dataclass(frozen=True)
class PitchContext:
    """Equal for scores in which the lane has the same pitches.

    *note*: the lane's. *chords*, *keys*, *typed*, *source*: only what the lane listens to, else None.
    *transposed*: how far the whole pattern is transposed; None if it is not, or if the lane's source already is.
    """

    note: int
    scale: Scale
    chords: Chords | None = None
    keys: Keys | None = None
    typed: Chord | None = None
    source: "SourceLane | None" = None
    transposed: Transposed | None = None


@dataclass(frozen=True)
class SourceLane:
    """A lane as another one reads it: without swing, nudges and humanise. *note*: its own, or the kit's."""

    lane_steps: LaneSteps
    context: PitchContext | None
    note: int


def scale_of(lane: Lane, score: Score) -> Scale:
    """Return the scale that *lane* counts in."""
    return lane.scale or score.scale


def home_note(lane: Lane, score: Score) -> int:
    """Return the MIDI note of a melodic lane's degree 0: its own, or the scale's root nearest to its voice's home."""
    return (
        nearest_root(scale_of(lane, score).root, PITCHED[lane.voice].home) if lane.note is None else lane.note
    )


def pitch_context_of(lane: Lane, score: Score, dice: int) -> PitchContext | None:
    """Return what *lane* takes its pitches from in *score*; None for a voice of the kit, which has but one."""
    if not lane.is_melodic:
        return None
    context = PitchContext(home_note(lane, score), scale_of(lane, score))
    arpeggio = lane.arpeggio
    if not (arpeggio and isinstance(arpeggio.pool, LanePool)):
        context = replace(context, transposed=_transposed(score))
    if score.progression and _listens(lane, arpeggio):
        bar = score.meter.bar_quarters
        context = replace(context, chords=chords_of(score.progression, score.scale, bar, score.rate))
    if arpeggio is None:
        return context
    match arpeggio.pool:
        case HeldPool():
            context = replace(context, keys=lane.keys)
        case TypedPool(chord=str(said)):
            context = replace(context, typed=parse_chord(said, score.scale.root, score.scale.semitones))
        case LanePool(of=of):
            context = replace(context, source=_heard(score.lane(of), score, dice))
    return context


def _transposed(score: Score) -> Transposed | None:
    moved = tuple(one for one in moving(score.movements) if one.control in ("degrees_up", "semitones_up"))
    if not (score.degrees_up or score.semitones_up or moved):
        return None
    return Transposed(score.degrees_up, score.semitones_up, moved, score.meter.bar_ticks)


def _listens(lane: Lane, arpeggio: Arpeggio | None) -> bool:
    """Return whether the progression has a say in the lane's pitches."""
    if arpeggio is None:
        return lane.follows != "none"
    return arpeggio.pool.kind == "chord" or (arpeggio.restart == "chord" and arpeggio.pool.kind != "held")


def _heard(lane: Lane, score: Score, dice: int) -> SourceLane:
    straight = lane.model_copy(update={"nudge_strip": None, "humanise": None})
    lane_steps = steps_as(steps_of_lane(score, dice, lane.id), straight)
    context = pitch_context_of(lane, score, dice)
    voice = score.kit.voice(lane.voice)
    struck = lane.note if lane.note is not None else voice.pitch if voice else 0
    return SourceLane(lane_steps, context, context.note if context else struck)
