"""A clip's notes as lanes: steps that fit them, strips for all that is their own, and the shortest way to say them."""

from collections.abc import Iterable, Iterator, Sequence
from functools import partial
from typing import Any

import numpy as np
from pydantic import BaseModel

from lattice.clips.clip import Clip, Note, Track
from lattice.clips.grids import Grid, best_grid
from lattice.clips.guess import guess_clip, is_melodic
from lattice.clips.shorter import Line, once_round, shorter
from lattice.clips.single_lines import single_lines
from lattice.clips.sounds import TUNED, sounds_of
from lattice.document.base import MAX_NAME
from lattice.document.feel import STRAIGHT, LaneSwing, Swing
from lattice.document.kit import DOCKSIDE, Kit
from lattice.document.lane import INKS, Lane
from lattice.document.piece import Pattern
from lattice.document.problems import DocumentError, read
from lattice.document.scale import Scale
from lattice.document.source import MAX_STEPS, Drawn, Euclidean
from lattice.document.strip import (
    LENGTH,
    NUDGE,
    PITCH,
    Free,
    LengthStrip,
    NudgeStrip,
    OctaveStrip,
    PitchStrip,
    VelocityStrip,
)
from lattice.document.timing import MAX_BARS_OF_A_PATTERN, Once, PassRestart
from lattice.render.size import MAX_NOTES_AT_ONCE
from lattice.sentence.step_value import say_step_value
from lattice.theory.scales import OCTAVE, in_scale, steps_between
from lattice.theory.voicing import nearest_root
from lattice.units import TICKS_PER_QUARTER

__all__ = ["LaneOffer", "lane_offers", "left_out", "pattern_of"]

MAX_LANES = 64


class LaneOffer(BaseModel):
    """A lane that plays some of a clip's notes, and what is said of it.

    *step*: what fits best, said; *mean_off_percent*, *worst_off_percent*: how far the notes lie off it, in % of a step,
    before they are nudged; *remarks*: what the lane cannot say exactly. *shorter*: a lane that plays the same by a rule
    or a shorter cycle, and *this_is* in words; none where there is none.
    """

    lane: Lane
    step: str
    mean_off_percent: float
    worst_off_percent: float
    remarks: list[str]
    this_is: str = ""
    shorter: Lane | None = None


def lane_offers(clip: Clip, kit: Kit = DOCKSIDE) -> list[LaneOffer]:
    """Return lanes that play the notes of *clip*: one for each track of a single note, else one for each note number.

    A track of pitches becomes a melodic lane, or several where more than one sounds at once.

    What is longer than a cycle may be is shared out over lanes that sound once, one after the other.
    Raises DocumentError if it needs more lanes or bars than a pattern has, or no step value fits.
    """
    if clip.bars > MAX_BARS_OF_A_PATTERN:
        message = (
            f"a pattern has at most {MAX_BARS_OF_A_PATTERN} bars, the clip has {clip.bars}: crop it first"
        )
        raise DocumentError.of("clip", message)
    if clip.note_count > MAX_NOTES_AT_ONCE:
        message = f"lanes are made of at most {MAX_NOTES_AT_ONCE:,} notes, the clip has {clip.note_count:,}: crop it"
        raise DocumentError.of("clip", message)
    offers: list[LaneOffer] = []
    guessed = guess_clip(clip)
    scale = guessed.scale if guessed else Scale()
    for name, track, notes in single_lines(clip):
        offers += _offers(clip, name, track, notes, kit, scale, len(offers))
        if len(offers) > MAX_LANES:
            raise DocumentError.of("clip", f"it needs more than the {MAX_LANES} lanes that a pattern has")
    if not offers:
        raise DocumentError.of("clip", "it has no notes to make lanes of")
    return offers


def left_out(clip: Clip) -> list[str]:
    """Return what of *clip* no lanes and no pattern have, in words."""
    counted = {
        "change of tempo": len(clip.tempo_changes),
        "change of meter": len(clip.meter_changes),
        "move of a controller": sum(len(track.controls) for track in clip.tracks),
    }
    return [
        f"{count:,} {remark if count == 1 else remark.replace(' of', 's of', 1)}"
        for remark, count in counted.items()
        if count
    ]


def pattern_of(
    clip: Clip,
    offers: Sequence[LaneOffer],
    shorter: frozenset[int],
    pattern_id: str,
    swing: Swing | None = None,
) -> Pattern:
    """Return a pattern of the lanes offered; those at the places in *shorter* by their shorter way to be said.

    It is as many bars long as its lanes need to play the clip. With melodic lanes it has the clip's scale, and the
    chords that were guessed in it: nothing follows them yet. *swing*: that of the piece that it is for, if it has any;
    its lanes are as straight as the clip.
    """
    guessed = guess_clip(clip)
    lanes = [
        offer.shorter if place in shorter and offer.shorter else offer.lane
        for place, offer in enumerate(offers)
    ]
    if swing and swing.percent != STRAIGHT:
        lanes = [lane.model_copy(update={"swing": lane.swing or LaneSwing()}) for lane in lanes]
    return Pattern(
        id=pattern_id,
        name=clip.name,
        meter=clip.meter,
        bars=_bars_of(lanes, clip),
        dice=clip.origin.dice if clip.origin else 1,
        scale=guessed.scale if guessed else None,
        progression=guessed.progression if guessed else None,
        lanes=tuple(lanes),
    )


def _bars_of(lanes: Sequence[Lane], clip: Clip) -> int:
    """Return the bars of the shortest pass in which *lanes* repeat; those of the clip where one begins again."""
    strips = [strip for lane in lanes for field, *_ in _FIELDS.values() if (strip := getattr(lane, field))]
    if any(lane.once or lane.restart for lane in lanes) or any(strip.free for strip in strips):
        return clip.bars
    cycles = []
    for lane in lanes:
        # As all lanes are that are made here.
        assert isinstance(lane.source, Drawn | Euclidean)
        assert lane.step_value
        cycles.append(lane.source.steps * lane.step_value.quarters)
    bars = (bars for bars in range(1, clip.bars) if clip.bars % bars == 0)
    whole = (
        one
        for one in bars
        if all((one * clip.meter.bar_quarters / cycle).denominator == 1 for cycle in cycles)
    )
    return next(whole, clip.bars)


def _melodic_fields(track: Track, notes: list[Note], scale: Scale, name: str) -> tuple[dict[str, Any], int]:
    """Return the fields of a lane that plays a track's pitches, and the note that they are counted from."""
    median = sorted(note.pitch for note in notes)[len(notes) // 2]
    plain = nearest_root(scale.root, median)
    voice = track.sound.voice.id if track.sound and track.sound.tone else TUNED
    if max(abs(note.pitch - plain) for note in notes) > PITCH.high:
        raise DocumentError.of("clip", "its pitches lie further apart than a pitch strip reaches", lane=name)
    tone = track.sound.tone.model_dump() if track.sound and track.sound.tone else {}
    return {"voice": voice, "note": plain} | tone, plain


def _offers(
    clip: Clip, name: str, track: Track, notes: list[Note], kit: Kit, scale: Scale, place: int
) -> Iterator[LaneOffer]:
    grid = best_grid(clip, name, notes)
    shared: dict[str, Any] = {
        "name": name,
        "ink": (track.ink if len(clip.tracks) > 1 else place) % INKS,
        "step_value": grid.step,
        "swing": grid.swing,
        "port": track.port,
        "program": track.program,
    }
    rows, remarks = _rows(grid, notes)
    if is_melodic(track):
        fields, plain = _melodic_fields(track, notes, scale, name)
        shared |= {"channel": track.channel} | fields
        rows |= _pitch_rows(_by_step(grid, (note.pitch for note in notes)), plain, scale)
    else:
        sounding = min(note.pitch for note in notes)
        plain = track.sound.note if track.sound and (sounding - track.sound.note) % OCTAVE == 0 else sounding
        # A lane's own voice sounds its notes, too: where the kit has neither, its first does.
        voice = kit.voice(sounds_of(track)[sounding].voice.id) or kit.voices[0]
        shared |= {
            "voice": voice.id,
            "channel": None if track.channel == kit.channel else track.channel,
            "note": None if voice.pitch == plain else plain,
        }
        rows["octave"] = _by_step(grid, ((note.pitch - plain) // OCTAVE for note in notes))
    line = Line(grid.count, tuple(sorted(grid.numbers)), rows, restarts=not grid.whole)
    for number, (part, once) in enumerate(_parts(clip, grid, line, name)):
        told = shared | {"id": f"kept-{place + number + 1}", "once": once}
        if number:
            told["name"] = f"{name[: MAX_NAME - 4]} {number + 1}"
        yield _offer(clip, grid, part, told, remarks)


def _by_step(grid: Grid, values: Iterable[int]) -> dict[int, int]:
    return dict(zip(grid.numbers, values, strict=True))


def _rows(grid: Grid, notes: list[Note]) -> tuple[dict[str, dict[int, int]], list[str]]:
    """Return what notes of any track have, by step, and what of it a lane cannot say."""
    step = grid.step.quarters * TICKS_PER_QUARTER
    lasting = zip(notes, grid.lengths, strict=True)
    lengths = [max(1, round(100 * note.length / (step * length))) for note, length in lasting]
    remarks = []
    if any(length > LENGTH.high for length in lengths):
        remarks.append(f"notes longer than {LENGTH.high} % of a step end sooner")
    if any(note.tune for note in notes):
        remarks.append("what its ratchets climb is left out")
    rows = {
        "velocity": _by_step(grid, (note.velocity for note in notes)),
        "length_percent": _by_step(grid, (min(length, LENGTH.high) for length in lengths)),
        "nudge": _by_step(grid, (min(max(round(100 * off), NUDGE.low), NUDGE.high) for off in grid.offs)),
    }
    return rows, remarks


def _parts(clip: Clip, grid: Grid, line: Line, name: str) -> Iterator[tuple[Line, Once | None]]:
    """Yield what lanes of no more steps than one has play: one cycle if it is always the same.

    Else several that sound once, one after the other.
    """
    if line.count <= MAX_STEPS:
        yield line, None
    elif cycle := once_round(line):
        yield cycle, None
    else:
        per_bar = clip.meter.bar_quarters / grid.step.quarters
        chunk = int(MAX_STEPS // per_bar * per_bar) if per_bar.denominator == 1 else 0
        if chunk == 0:
            steps = f"{line.count:,} steps of {say_step_value(grid.step)}"
            message = f"it has {steps}: a lane has {MAX_STEPS}. Crop it, or quantise it"
            raise DocumentError.of("clip", message, lane=name)
        for first in range(0, line.count, chunk):
            part = line.within(first, min(first + chunk, line.count))
            if part.hits:
                yield part, Once(bars=int(first * grid.step.quarters / clip.meter.bar_quarters))


def _offer(clip: Clip, grid: Grid, line: Line, shared: dict[str, Any], remarks: list[str]) -> LaneOffer:
    source = {"source": Drawn(steps=line.count, hits=line.hits)}
    if line.restarts:
        shared = shared | {"restart": PassRestart()}
    lane = _lane(shared, source, _strips(line.rows, line.count, line.count))
    way = shorter(line, int(clip.meter.bar_quarters / grid.step.quarters))
    if way and shared["once"] and way.steps < line.count:
        way = None  # it sounds once: a cycle that comes again would not
    return LaneOffer(
        lane=lane,
        step=_said_steps(grid),
        mean_off_percent=round(float(grid.mean * 100), 1),
        worst_off_percent=round(float(grid.worst * 100), 1),
        remarks=remarks,
        this_is=way.says if way else "",
        shorter=_lane(shared, way.fields, _strips(line.rows, line.count, way.steps)) if way else None,
    )


def _said_steps(grid: Grid) -> str:
    message = say_step_value(grid.step)
    return f"{message}, swing {grid.swing.percent} %" if grid.swing else message


def _pitch_rows(pitches: dict[int, int], plain: int, scale: Scale) -> dict[str, dict[int, int]]:
    """Return pitches by step as degrees of the scale; as semitones where some are outside it."""
    if in_scale(np.array(list(pitches.values())), scale.root, scale.semitones).all():
        return {
            "degrees": {
                at: steps_between(plain, pitch, scale.root, scale.semitones) for at, pitch in pitches.items()
            }
        }
    return {"semitones": {at: pitch - plain for at, pitch in pitches.items()}}


def _lane(*fields: dict[str, Any]) -> Lane:
    whole = {name: value for some in fields for name, value in some.items()}
    return read(Lane, whole)


def _strips(rows: dict[str, dict[int, int]], count: int, period: int) -> dict[str, Any]:
    """Return lane fields for values by step number: plain where all are alike, else strips of *count* steps.

    Over a cycle of *period* steps a strip that does not repeat with it has its own length.
    """
    fields: dict[str, Any] = {}
    for name, (field, model, plain) in _FIELDS.items():
        if (values := rows.get(name)) is None:
            continue
        if len(set(values.values())) <= 1:
            value = next(iter(values.values()), None)
            if plain and value is not None:
                fields[plain] = value
                continue
            if not value:
                continue
        row = [values.get(step) for step in range(count)]
        known = {(step % period, value) for step, value in values.items()}
        if len({step for step, _ in known}) == len(known):
            by_step = dict(known)
            fields[field] = model(values=tuple(by_step.get(step) for step in range(period)))
        else:
            fields[field] = model(values=tuple(row), free=Free())
    return fields


# Of what a note has: its strip, the strip's model, and the lane's own field where all notes are alike.
_FIELDS: dict[str, tuple[str, Any, str]] = {
    "velocity": ("velocity_strip", VelocityStrip, "velocity"),
    "length_percent": ("length_strip", LengthStrip, "length_percent"),
    "nudge": ("nudge_strip", NudgeStrip, ""),
    "octave": ("octave_strip", OctaveStrip, ""),
    "degrees": ("pitch_strip", PitchStrip, ""),
    "semitones": ("pitch_strip", partial(PitchStrip, unit="semitones"), ""),
}
