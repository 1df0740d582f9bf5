"""Playing pitches into a lane: step by step, or along with the loop. Each returns the fields that it changes."""

from collections.abc import Sequence
from fractions import Fraction
from typing import Any, NamedTuple

import numpy as np

from lattice.document.keys import HeldKey
from lattice.document.lane import Lane
from lattice.document.problems import DocumentError, read
from lattice.document.strip import LONGEST, NUDGE, PITCH, RATCHET
from lattice.edits.chosen import is_hit, turned
from lattice.edits.copied import with_values
from lattice.render.pitch_context import PitchContext
from lattice.steps.lane_steps import LaneSteps, steps_as
from lattice.theory.scales import scale_note_below, scale_steps, steps_between
from lattice.units import TICKS_PER_QUARTER

__all__ = ["Entered", "Recorded", "enter_note", "enter_rest", "enter_tie", "record_keys"]


class Entered(NamedTuple):
    """A pitch for a step number. *velocity*, *length*, *nudge*: None where the lane's own is kept."""

    step: int
    pitch: int
    velocity: int | None = None
    length: int | None = None
    nudge: int | None = None
    ratchet: int = 1


class Recorded(NamedTuple):
    """The fields of a lane after keys were played along, and how many of the keys found no room on its steps."""

    patch: dict[str, Any]
    left_out: int


def enter_note(
    lane_steps: LaneSteps, context: PitchContext | None, step: int, pitch: int, velocity: int | None
) -> dict[str, Any]:
    """Return the fields after *pitch* was entered on a step: a voice of the kit is struck there, whatever the pitch.

    Raises DocumentError where the lane takes none.
    """
    return _laid(lane_steps, context, [Entered(step, pitch, velocity)])


def enter_rest(lane_steps: LaneSteps, step: int) -> dict[str, Any]:
    """Return the fields after a rest was entered on a step."""
    return turned(lane_steps, {step: False})


def enter_tie(lane_steps: LaneSteps, step: int) -> dict[str, Any]:
    """Return the fields after a tie was entered: the step rests, and the hit before it lasts to its end, not beyond.

    Raises DocumentError if there is no hit before it in the cycle.
    """
    hits = [number for number, hit in enumerate(is_hit(lane_steps)[:step]) if hit]
    if not hits:
        raise DocumentError.of(
            "step", "there is no note before it that could be tied", lane=lane_steps.lane.name
        )
    return turned(lane_steps, {step: False}) | with_values(
        lane_steps, "length", {hits[-1]: 100 * (step + 1 - hits[-1])}
    )


def record_keys(
    lane_steps: LaneSteps, context: PitchContext | None, keys: Sequence[HeldKey], *, over: bool, nudges: bool
) -> Recorded:
    """Return the fields after *keys* were played along: each on the step that begins nearest, as long as it was held.

    *over*: in place of all that the lane had, else added to it. *nudges*: how far off its step a key was is kept.
    Where a key of the same pass is on that step already, the same pitch again makes a ratchet of it, and another goes
    to the next free step within a beat; where there is none it is left out. A key of a later pass takes the place of
    an earlier one. Raises DocumentError where the lane takes none.
    """
    entered: dict[int, Entered] = {}
    counts: dict[int, int] = {}  # on which of the played steps each was played
    taken = set() if over else {number for number, hit in enumerate(is_hit(lane_steps)) if hit}
    left_out = 0
    for key in sorted(keys, key=lambda one: one.start):
        count, one = _nearest_step(lane_steps, key, nudges)
        before = entered.get(one.step) if counts.get(one.step) == count else None
        if before and (context is None or before.pitch == one.pitch):
            left_out += before.ratchet == RATCHET.high
            entered[one.step] = before._replace(ratchet=min(RATCHET.high, before.ratchet + 1))
            continue
        if before:
            free = _free_step(lane_steps, count, {*entered, *taken})
            if free is None:
                left_out += 1
                continue
            count, step = free
            one = one._replace(step=step, nudge=0 if nudges else None)
        entered[one.step] = one
        counts[one.step] = count
    if over:
        rests = {
            number: False for number, hit in enumerate(is_hit(lane_steps)) if hit and number not in entered
        }
        lane_steps = steps_as(lane_steps, _changed(lane_steps.lane, turned(lane_steps, rests)))
        return Recorded(
            _beside(lane_steps.lane) | _laid(lane_steps, context, list(entered.values())), left_out
        )
    return Recorded(_laid(lane_steps, context, list(entered.values())), left_out)


def _free_step(lane_steps: LaneSteps, count: int, taken: set[int]) -> tuple[int, int] | None:
    """Return the next played step after *count*, within a beat, whose number is not *taken*, and that number."""
    within = max(1, int(1 / lane_steps.clock.step))
    after = np.arange(count + 1, count + 1 + within)
    free = [(int(at), int(number)) for at, number in zip(after, lane_steps.numbers(after), strict=True)]
    return next(((at, number) for at, number in free if number not in taken), None)


def _beside(lane: Lane) -> dict[str, Any]:
    return {field: lane.model_dump(mode="json")[field] for field in ("source", "edits")}


def _changed(lane: Lane, patch: dict[str, Any]) -> Lane:
    return read(Lane, lane.model_dump(mode="json") | patch)


def _nearest_step(lane_steps: LaneSteps, key: HeldKey, nudges: bool) -> tuple[int, Entered]:
    """Return which of the played steps begins nearest, counted from 0, and the key on it."""
    clock = lane_steps.clock
    after = clock.first_at(key.start)
    counts = np.array([max(0, after - 1), after])
    exact, denominator = clock.exact(counts)
    offs = [Fraction(key.start) - Fraction(at, denominator) for at in exact.tolist()]
    nearest = 0 if abs(offs[0]) <= abs(offs[1]) else 1
    step = clock.step * TICKS_PER_QUARTER
    length = 100 if key.end is None else round(100 * (key.end - key.start) / step)
    return int(counts[nearest]), Entered(
        int(lane_steps.numbers(counts)[nearest]),
        key.key,
        key.velocity,
        min(LONGEST, max(1, length)),
        min(NUDGE.high, max(NUDGE.low, round(100 * offs[nearest] / step))) if nudges else None,
    )


def _laid(lane_steps: LaneSteps, context: PitchContext | None, entered: Sequence[Entered]) -> dict[str, Any]:
    lane = lane_steps.lane
    found = _values(lane, context, entered) if context else {}
    values: dict[int, int | None] = {step: value for step, (value, _) in found.items()}
    accidentals = {step: raised for step, (_, raised) in found.items()}
    patch = turned(lane_steps, {one.step: True for one in entered})
    rows: dict[str, dict[int, int | None]] = {
        "pitch": values,
        "velocity": {one.step: one.velocity for one in entered},
        "length": {one.step: one.length for one in entered},
        "nudge": {one.step: one.nudge for one in entered},
        "ratchet": {one.step: one.ratchet if one.ratchet > 1 else None for one in entered},
    }
    for name, row in rows.items():
        if told := {step: value for step, value in row.items() if value is not None}:
            raised = accidentals if name == "pitch" else None
            patch |= with_values(steps_as(lane_steps, _changed(lane, patch)), name, {**told}, raised)
    if lane.octave_strip:
        patch |= with_values(lane_steps, "octave", dict.fromkeys(one.step for one in entered))
    return patch


def _values(lane: Lane, context: PitchContext, entered: Sequence[Entered]) -> dict[int, tuple[int, int]]:
    """Return, by step, what the pitch strip has to say and the accidental of that degree."""
    _check(lane, context)
    found = {one.step: _value(context, lane, one.pitch) for one in entered}
    for one in entered:
        if not PITCH.low <= found[one.step][0] <= PITCH.high:
            message = f"{one.pitch} is too far from the lane's note, {context.note}: move that first"
            raise DocumentError.of("pitch", message, lane=lane.name)
    return found


def _check(lane: Lane, context: PitchContext) -> None:
    if lane.arpeggio:
        message = "it plays an arpeggio: what is played on the keys fills its pool"
        raise DocumentError.of("arpeggio", message, lane=lane.name)
    if lane.follows in ("root", "tones") and context.chords:
        message = "it follows the chords: let it keep its own notes, then play them in"
        raise DocumentError.of("follows", message, lane=lane.name)
    if lane.pitch_strip and lane.pitch_strip.free:
        message = "its pitch strip has a length of its own: let it go with the lane, then play notes in"
        raise DocumentError.of("pitch_strip", message, lane=lane.name)


def _base(context: PitchContext) -> int:
    return int(scale_note_below(np.array([context.note]), context.scale.root, context.scale.semitones)[0])


def _value(context: PitchContext, lane: Lane, pitch: int) -> tuple[int, int]:
    """Return what the strip has to say for a step to sound *pitch*, and the accidental of that degree.

    A note outside the scale is the nearest degree raised or lowered; of two equally near the lower, raised.
    """
    scale = context.scale.root, context.scale.semitones
    # What is moved while it plays sounds as the hand heard it where nothing is.
    whole = context.transposed
    degrees_up = lane.degrees_up + (whole.degrees if whole else 0)
    wanted = np.array([pitch - lane.semitones_up - (whole.semitones if whole else 0)])
    if lane.pitch_strip and lane.pitch_strip.unit == "semitones":
        own = scale_steps(np.array([context.note]), np.array([degrees_up]), *scale)
        return int(wanted[0] - own[0]), 0
    below = scale_note_below(wanted, *scale)
    above = scale_steps(below, np.array([1]), *scale)
    degree = below if wanted[0] - below[0] <= above[0] - wanted[0] else above
    return steps_between(_base(context), int(degree[0]), *scale) - degrees_up, int(wanted[0] - degree[0])
