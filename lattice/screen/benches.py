"""One lane whole, as its bench shows it: every setting, its strips, when what it plays repeats."""

import numpy as np

from lattice.document.lane import Lane
from lattice.document.piece import Score
from lattice.document.pitched import PITCHED
from lattice.document.strip import LENGTH, PITCH
from lattice.document.strip_places import StripAt, plain_value, strips_of
from lattice.edits.without import without_lanes
from lattice.render.feel import feel_of
from lattice.render.lane import Played
from lattice.render.notes import note_of
from lattice.render.pitch_context import PitchContext
from lattice.screen.periods import pool_round, repeats_every
from lattice.screen.pictures import Bench, StripPicture
from lattice.sentence import Speech, bench, rate_beside, rates, strip_words
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.strip_values import own_values, plain_of, value_places
from lattice.theory.names import note_name
from lattice.units import Ticks

__all__ = ["bench_of"]

_DEGREES = 7  # about an octave of most scales


def bench_of(
    lane_steps: LaneSteps, played: Played, inside: slice, score: Score, first: int, end: int
) -> Bench:
    """Return a lane's bench in the window from tick *first* to before *end*; *inside*: the steps that begin there."""
    pool = pool_round(lane_steps, played.context, score, max(first, end - 1))
    return Bench.model_construct(
        id=lane_steps.lane.id,
        voice=_said_of_voice(lane_steps.lane, played.context, score),
        fields=bench(Speech(lane_steps, played.context)),
        strips=[_strip_picture(at, lane_steps, played, inside) for at in strips_of(lane_steps.lane)],
        rates=rates(Speech(lane_steps)),
        rate=rate_beside(Speech(lane_steps)),
        repeats=repeats_every(
            lane_steps, feel_of(lane_steps.lane, score), played.context, score, max(first, end - 1)
        ),
        without=without_lanes(lane_steps, played.context, score),
        pool=pool.says,
        fits=pool.fits,
        channel=_said_of_channel(lane_steps.lane, score),
    )


def _said_of_voice(lane: Lane, context: PitchContext | None, score: Score) -> str:
    """Say what a lane sounds with, and which note it plays: of a melodic lane the one that it counts from."""
    if context:  # a melodic lane has one
        name = note_name(context.note, context.scale.root, context.scale.semitones)
        return f"{PITCHED[lane.voice].name}, note {name}"
    channel, note = note_of(lane, score)
    voice = score.kit.voice(lane.voice)
    return f"{voice.name if voice else lane.voice} of {score.kit.name}, note {note}, channel {channel}"


def _said_of_channel(lane: Lane, score: Score) -> str:
    """Say what a lane's controllers move: here itself alone, in MIDI all that is on its channel."""
    channel, _ = note_of(lane, score)
    others = [one.name for one in score.lanes if one.id != lane.id and note_of(one, score)[0] == channel]
    if not others:
        return f"Nothing else is on channel {channel}."
    named = ", ".join(others[:3]) + (f" and {len(others) - 3} more" if len(others) > 3 else "")
    return f"Here it moves {lane.name} alone. In MIDI it moves all of channel {channel}: {named} too."


def _strip_picture(at: StripAt, lane_steps: LaneSteps, played: Played, inside: slice) -> StripPicture:
    strip = at.present
    plain = plain_value(at, lane_steps.lane)
    values = own_values(strip, lane_steps.steps, plain_of(at, lane_steps))
    own = [int(value is not None) for value in strip.values[: values.size]]
    low, high = _drawn_range(at, values)
    return StripPicture.model_construct(
        name=at.name,
        path=at.path,
        explains=at.kind.explains,
        lowest=at.kind.low,
        highest=at.kind.high,
        throw_low=at.kind.throw.low,
        throw_high=at.kind.throw.high,
        throw_shape=at.kind.throw.shape,
        low=low,
        high=high,
        plain=plain,
        unit=at.kind.unit,
        is_free=strip.free is not None,
        is_plain=at.strip is None,
        values=values.tolist(),
        own=own + [0] * (values.size - len(own)),
        places=value_places(strip, at.kind, played.step_window)[inside].tolist() if strip.free else [],
        words=strip_words(at),
    )


def _drawn_range(at: StripAt, values: Ticks) -> tuple[int, int]:
    """Return between what a strip is drawn: of pitches no more octaves than it has, and one to go on to.

    Of lengths four steps, where none is longer.
    """
    if at.kind is LENGTH:
        return at.kind.low, max(LENGTH.span, -(-int(values.max(initial=0)) // 100) * 100)
    if at.kind is not PITCH:
        return at.kind.low, at.kind.high
    furthest = int(np.abs(values).max(initial=0))
    reach = min(PITCH.high, _DEGREES * (furthest // _DEGREES + 1))
    return -reach, reach
