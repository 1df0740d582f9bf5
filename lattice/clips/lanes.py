"""A clip's notes as lanes: steps that fit them, strips for all that is their own, and the shortest way to say them."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import partial
from typing import Any

import numpy as np
from pydantic import BaseModel

from lattice.clips.clip import Clip, Note, Track
from lattice.clips.guess import guess_clip, is_melodic
from lattice.clips.single_lines import single_lines
from lattice.clips.sounds import TUNED, sounds_of
from lattice.clock.ticks import TICKS_PER_QUARTER
from lattice.document.base import MAX_NAME
from lattice.document.kit import DOCKSIDE, Kit
from lattice.document.lane import INKS, Lane
from lattice.document.piece import Pattern
from lattice.document.problems import DocumentError, read
from lattice.document.scale import Scale
from lattice.document.source import MAX_STEPS, Drawn, Euclidean
from lattice.document.step_value import KINDS, NOTES, StepValue
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
from lattice.document.timing import MAX_BARS_OF_A_PATTERN, Once
from lattice.pitch.scales import OCTAVE, in_scale, steps_between
from lattice.pitch.voicing import nearest_root
from lattice.render.size import MAX_NOTES_AT_ONCE
from lattice.rhythm.euclidean import euclidean
from lattice.sentence.step_value import say_step_value

__all__ = ["CLOSE_PERCENT", "LaneOffer", "lane_offers", "pattern_of"]

CLOSE_PERCENT = 12  # of a step: notes that lie so near to a grid are meant to be on it
LOOSE_PERCENT = 35  # those that are swung or loosened may still be
_FINEST_COUNTED = Fraction(1, 12)  # a triplet 1/32
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


@dataclass(frozen=True)
class _Fit:
    """Notes on a grid: *step*, *count* steps in the clip, the step number of each note, and how far off it lies."""

    step: StepValue
    count: int
    numbers: tuple[int, ...]
    offs: tuple[Fraction, ...]

    @property
    def worst(self) -> Fraction:
        return max((abs(off) for off in self.offs), default=Fraction(0))

    @property
    def mean(self) -> Fraction:
        return sum(map(abs, self.offs), Fraction(0)) / max(1, len(self.offs))


def lane_offers(clip: Clip, kit: Kit = DOCKSIDE) -> list[LaneOffer]:
    """Return lanes that play the notes of *clip*: one for each track of a single note, else one for each note number.

    A track of pitches becomes a melodic lane, or several where more than one sounds at once.

    What is longer than a cycle may be is shared out over lanes that sound once, one after the other.
    Raises DocumentError if it needs more lanes or bars than a pattern has, or no step value fits.
    """
    if clip.bars > MAX_BARS_OF_A_PATTERN:
        said = f"a pattern has at most {MAX_BARS_OF_A_PATTERN} bars, the clip has {clip.bars}: crop it first"
        raise DocumentError.of("clip", said)
    if clip.note_count > MAX_NOTES_AT_ONCE:
        said = f"lanes are made of at most {MAX_NOTES_AT_ONCE:,} notes, the clip has {clip.note_count:,}: crop it first"
        raise DocumentError.of("clip", said)
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


def pattern_of(clip: Clip, offers: Sequence[LaneOffer], shorter: frozenset[int], pattern_id: str) -> Pattern:
    """Return a pattern of the lanes offered; those at the places in *shorter* by their shorter way to be said.

    With melodic lanes it has the clip's scale, and the chords that were guessed in it: nothing follows them yet.
    """
    guessed = guess_clip(clip)
    lanes = [
        offer.shorter if place in shorter and offer.shorter else offer.lane
        for place, offer in enumerate(offers)
    ]
    return Pattern(
        id=pattern_id,
        name=clip.name,
        meter=clip.meter,
        bars=clip.bars,
        dice=clip.origin.dice if clip.origin else 1,
        scale=guessed.scale if guessed else None,
        progression=guessed.progression if guessed else None,
        lanes=tuple(lanes),
    )


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
    fit = _best_fit(clip, name, notes)
    if is_melodic(track):
        fields, plain = _melodic_fields(track, notes, scale, name)
        shared: dict[str, Any] = {
            "name": name,
            "ink": (track.ink if len(clip.tracks) > 1 else place) % INKS,
            "step_value": fit.step,
            "channel": track.channel,
            **fields,
        }
        yield from _parts(clip, fit, notes, shared, place, plain, scale)
        return
    sounding = min(note.pitch for note in notes)
    plain = track.sound.note if track.sound and (sounding - track.sound.note) % OCTAVE == 0 else sounding
    # A lane's own voice sounds its notes, too: where the kit has neither, its first does.
    voice = kit.voice(sounds_of(track)[sounding].voice.id) or kit.voices[0]
    shared = {
        "name": name,
        "voice": voice.id,
        "ink": (track.ink if len(clip.tracks) > 1 else place) % INKS,
        "step_value": fit.step,
        "channel": None if track.channel == kit.channel else track.channel,
        "note": None if voice.pitch == plain else plain,
    }
    yield from _parts(clip, fit, notes, shared, place, plain, None)


def _parts(
    clip: Clip,
    fit: _Fit,
    notes: list[Note],
    shared: dict[str, Any],
    place: int,
    plain: int,
    scale: Scale | None,
) -> Iterator[LaneOffer]:
    """Yield the lane of *notes*; of more steps than one has, several that sound once, one after the other."""
    name = shared["name"]
    chunk = fit.count
    if fit.count > MAX_STEPS:
        per_bar = clip.meter.bar_quarters / fit.step.quarters
        chunk = int(MAX_STEPS // per_bar * per_bar) if per_bar.denominator == 1 else 0
        if chunk == 0:
            steps = f"{fit.count:,} steps of {say_step_value(fit.step)}"
            raise DocumentError.of(
                "clip", f"it has {steps}: a lane has {MAX_STEPS}. Crop it, or quantise it", lane=name
            )
    for number, first in enumerate(range(0, fit.count, chunk)):
        inside = [at for at, step in enumerate(fit.numbers) if first <= step < first + chunk]
        if not inside and fit.count > chunk:
            continue
        part = _Fit(
            fit.step,
            min(chunk, fit.count - first),
            tuple(fit.numbers[at] - first for at in inside),
            tuple(fit.offs[at] for at in inside),
        )
        once = None
        if fit.count > chunk:
            once = Once(bars=int(first * fit.step.quarters / clip.meter.bar_quarters))
        told = shared | {"id": f"kept-{place + number + 1}", "once": once}
        if number:
            told["name"] = f"{name[: MAX_NAME - 4]} {number + 1}"
        yield _offer(part, [notes[at] for at in inside], told, plain, scale)


def _best_fit(clip: Clip, name: str, notes: list[Note]) -> _Fit:
    """Return the longest step that gives each note one of its own, and that all lie close to.

    Steps as musicians count them come first, even where swung or loosened notes lie less close; then finer ones.
    """
    fits = []
    for step in _STEPS:
        exact = Fraction(clip.length_ticks) / (step.quarters * TICKS_PER_QUARTER)
        if exact.denominator == 1:
            fit = _fit(step, int(exact), notes)
            if len(set(fit.numbers)) == len(notes):
                fits.append(fit)
    if not fits:
        said = "no step value holds each of its notes: quantise the clip, or crop it to whole bars"
        raise DocumentError.of("clip", said, lane=name)
    counted = [fit for fit in fits if fit.step.quarters >= _FINEST_COUNTED]
    halved = [fit for fit in counted if fit.step.divisor == 1]
    for some, percent in ((counted, CLOSE_PERCENT), (halved, LOOSE_PERCENT), (fits, CLOSE_PERCENT)):
        for fit in some:
            if fit.worst * 100 <= percent:
                return fit
    return min(fits, key=lambda fit: fit.worst)


def _fit(step: StepValue, count: int, notes: list[Note]) -> _Fit:
    length = step.quarters * TICKS_PER_QUARTER
    numbers, offs = [], []
    for note in notes:
        exact = note.start / length
        # What lies nearest to the end is late on the last step: early on the first it would sound twice in one pass.
        number = min(count - 1, int(exact + Fraction(1, 2)))
        numbers.append(number)
        offs.append(exact - number)
    return _Fit(step, count, tuple(numbers), tuple(offs))


def _candidates() -> list[StepValue]:
    plain = [read(StepValue, {"note": note, "kind": kind}) for note in NOTES for kind in KINDS]
    shared = [read(StepValue, {"note": note, "divisor": divisor}) for note in NOTES for divisor in (5, 7)]
    by_length = {step.quarters: step for step in [*shared, *plain]}
    return [by_length[length] for length in sorted(by_length, reverse=True)]


_STEPS = _candidates()


def _offer(
    fit: _Fit, notes: list[Note], shared: dict[str, Any], plain: int, scale: Scale | None
) -> LaneOffer:
    step = fit.step.quarters * TICKS_PER_QUARTER
    remarks = []
    lengths = [max(1, round(100 * note.length / step)) for note in notes]
    if any(length > LENGTH.high for length in lengths):
        remarks.append(f"notes longer than {LENGTH.high} % of a step end sooner")
    rows = {
        "velocity": {at: note.velocity for at, note in zip(fit.numbers, notes, strict=True)},
        "length_percent": {at: min(one, LENGTH.high) for at, one in zip(fit.numbers, lengths, strict=True)},
        "nudge": {
            at: min(max(round(100 * off), NUDGE.low), NUDGE.high)
            for at, off in zip(fit.numbers, fit.offs, strict=True)
        },
    }
    pitches = dict(zip(fit.numbers, (note.pitch for note in notes), strict=True))
    if scale is None:
        rows["octave"] = {at: (pitch - plain) // OCTAVE for at, pitch in pitches.items()}
    else:
        rows |= _pitch_rows(pitches, plain, scale)
    hits = tuple(sorted(fit.numbers))
    source = Drawn(steps=fit.count, hits=hits)
    lane = _lane(shared | {"source": source}, _strips(rows, fit.count, fit.count))
    period = _period(hits, fit.count)
    this_is, way = _shorter(hits, fit.count, period)
    shorter = None
    if way is not None and (period == fit.count or not shared["once"]):
        shorter = _lane(shared | way, _strips(rows, fit.count, period))
    return LaneOffer(
        lane=lane,
        step=say_step_value(fit.step),
        mean_off_percent=round(float(fit.mean * 100), 1),
        worst_off_percent=round(float(fit.worst * 100), 1),
        remarks=remarks,
        this_is=this_is if shorter else "",
        shorter=shorter,
    )


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


def _period(hits: Sequence[int], count: int) -> int:
    """Return after how many steps *hits* of *count* repeat.

    >>> _period((0, 3, 8, 11), 16)
    8
    """
    there = set(hits)
    for period in range(1, count):
        if count % period == 0 and all((hit + period) % count in there for hit in there):
            return period
    return count


def _shorter(hits: Sequence[int], count: int, period: int) -> tuple[str, dict[str, Any] | None]:
    """Return what *hits* are, in words, and the fields that say so; None where only drawing does.

    >>> _shorter((1, 3, 6), 8, 8)[0]
    '3 in 8, rotated 3'
    """
    first = tuple(hit for hit in hits if hit < period)
    spread = euclidean(len(first), period)
    for rotate in range(period):
        if tuple(sorted((hit + rotate) % period for hit in spread)) == first:
            said = f"{len(first)} in {period}" + (f", rotated {rotate}" if rotate else "")
            return said, {"source": Euclidean(hits=len(first), steps=period), "rotate": rotate}
    if period < count:
        return f"{period} steps that repeat", {"source": Drawn(steps=period, hits=first)}
    return "", None
