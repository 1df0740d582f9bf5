"""From the tape to a clip: which bars are kept, and which notes belong to them."""

from collections.abc import Sequence
from typing import Annotated, NamedTuple, Self

from pydantic import Field, model_validator

from lattice.clips.clip import KEYS, MAX_TRACKS, Clip, Control, Key, Note, Origin, Track
from lattice.clips.moves import with_moving_sound
from lattice.document.base import MAX_NAME, Document, Row
from lattice.document.meter import Meter
from lattice.document.notes import MAX_NOTES, Tick
from lattice.document.piece import Score
from lattice.document.port import BUILT_IN
from lattice.render.sounding import lane_sound, port_of
from lattice.theory.signature import signature_of

__all__ = [
    "MAX_KEPT_BARS",
    "Kept",
    "NothingToKeepError",
    "Tape",
    "TapeTrack",
    "controls_between",
    "keep_bars",
    "keep_last",
    "make_clip",
    "tracks_between",
    "with_sound",
]

MAX_KEPT_BARS = 64  # recorded ahead; the last ones are kept 16 at a time at most


class NothingToKeepError(ValueError):
    """No whole bar has sounded where one should be kept."""


class TapeTrack(Track):
    """What sounded of one lane. *straights*: where the steps of the notes stand; none: where the notes begin.

    *late*: notes that came too late to be heard, with *late_straights* of theirs.
    """

    straights: Annotated[Row[Tick], Field(max_length=MAX_NOTES)] = ()
    late: Annotated[Row[Note], Field(max_length=MAX_NOTES)] = ()
    late_straights: Annotated[Row[Tick], Field(max_length=MAX_NOTES)] = ()

    @model_validator(mode="after")
    def _one_for_each_note(self) -> Self:
        for notes, straights in ((self.notes, self.straights), (self.late, self.late_straights)):
            if straights and len(straights) != len(notes):
                raise ValueError(f"{len(straights)} straight times do not fit {len(notes)} notes")
        return self

    def late_between(self, first_tick: int, end_tick: int) -> int:
        """Return how many notes came too late whose steps stand from *first_tick* to before *end_tick*."""
        straights = self.late_straights or [note.start for note in self.late]
        return sum(first_tick <= straight < end_tick for straight in straights)

    def with_late(self) -> "TapeTrack":
        """Return the track as if what came too late had been heard."""
        notes = zip(self.notes, self.straights or [note.start for note in self.notes], strict=True)
        late = zip(self.late, self.late_straights or [note.start for note in self.late], strict=True)
        rows = sorted([*notes, *late])
        joined = {"notes": tuple(note for note, _ in rows), "straights": tuple(at for _, at in rows)}
        return self.model_copy(update={**joined, "late": (), "late_straights": ()})


class Tape(Document):
    """One stretch of what sounded: *tracks* hold the notes in ticks from the pattern's start.

    *from_tick*: where playing began; *now_tick*: where it is, or where it stopped. The *meter* is the
    last one that held: across a change it counts for the whole stretch.
    """

    from_tick: Tick
    now_tick: Tick
    meter: Meter
    tracks: Annotated[Row[TapeTrack], Field(max_length=MAX_TRACKS)] = ()

    @model_validator(mode="after")
    def _runs_forward(self) -> Self:
        if self.now_tick < self.from_tick:
            raise ValueError(f"a tape from tick {self.from_tick} cannot have come to {self.now_tick}")
        return self

    def with_late(self) -> "Tape":
        """Return the tape as if what came too late had been heard."""
        return self.model_copy(update={"tracks": tuple(track.with_late() for track in self.tracks)})


class Kept(NamedTuple):
    """What was kept: *first_bar* counted from 0, tracks with notes from the first bar's line on."""

    first_bar: int
    bars: int
    tracks: tuple[Track, ...]

    def sounding(self, score: Score, bar_ticks: int) -> tuple[Track, ...]:
        """Return the tracks with the sounds that their lanes have in *score*, and as those moved."""
        return _sounding(self.tracks, score, self.first_bar * bar_ticks, self.bars * bar_ticks)


def _sounding(tracks: Sequence[Track], score: Score, first: int, length: int) -> tuple[Track, ...]:
    return tuple(with_moving_sound(with_sound(track, score), score, first, length) for track in tracks)


def tracks_between(tape: Tape, score: Score, first_tick: int, end_tick: int) -> tuple[Track, ...]:
    """Return what sounded of *tape* between two ticks, counted from the first, with the sounds of *score*."""
    return _sounding(_tracks(tape, first_tick, end_tick), score, first_tick, end_tick - first_tick)


def _tracks(tape: Tape, first_tick: int, end_tick: int) -> tuple[Track, ...]:
    tracks = (_inside(track, first_tick, end_tick) for track in tape.tracks)
    return tuple(track for track in tracks if track.notes or track.controls)


def keep_last(tape: Tape, bars: int) -> Kept:
    """Return the last *bars* whole bars that end at the last bar line passed; fewer if fewer sounded.

    Raises NothingToKeepError if no whole bar has sounded yet.
    """
    bar = tape.meter.bar_ticks
    end = tape.now_tick // bar
    begun = -(-tape.from_tick // bar)
    return keep_bars(tape, max(begun, end - bars), end)


def keep_bars(tape: Tape, first_bar: int, end_bar: int, most: int = MAX_KEPT_BARS) -> Kept:
    """Return the bars from *first_bar* up to *end_bar*, as far as they sounded whole, at *most* so many.

    A note whose step stands in a bar belongs to it and keeps its whole length; if it came early it starts with the
    first bar. What a controller held when that begins is sent there.
    Raises NothingToKeepError if none of them sounded whole.
    """
    bar = tape.meter.bar_ticks
    first = max(first_bar, -(-tape.from_tick // bar))
    end = min(end_bar, tape.now_tick // bar, first + most)
    if end <= first:
        raise NothingToKeepError(
            "No whole bar has sounded there yet: a bar can be kept once its end has passed"
        )
    return Kept(first, end - first, _tracks(tape, first * bar, end * bar))


def make_clip(
    kept: Kept,
    tape: Tape,
    score: Score,
    dice: int,
    *,
    piece: str,
    pattern: str,
    lanes: tuple[str, ...] | None = None,
) -> Clip:
    """Return what was kept as a clip, called by where it came from. *lanes*: those that were chosen; None: all.

    *score*, *dice*: as they stood when it was kept. Tempo and meter are those of the score and the tape:
    across a change the last one counts.
    """
    bars = (
        f"bar {kept.first_bar + 1}"
        if kept.bars == 1
        else f"bars {kept.first_bar + 1}–{kept.first_bar + kept.bars}"
    )
    place = f"{pattern}, {bars}"
    return Clip(
        name=f"{piece[: MAX_NAME - len(place) - 1]} {place}"[:MAX_NAME],
        length_ticks=kept.bars * tape.meter.bar_ticks,
        tempo=score.tempo,
        meter=tape.meter,
        key=key_of(score),
        scale=score.scale,
        tracks=kept.sounding(score, tape.meter.bar_ticks),
        origin=Origin(
            piece=piece,
            pattern=pattern,
            score=score,
            dice=dice,
            first_bar=kept.first_bar,
            bars=kept.bars,
            lanes=lanes,
        ),
    )


def key_of(score: Score) -> Key | None:
    """Return the key signature of a score in which a lane plays pitches; None for drums alone, and odd scales."""
    if not any(lane.is_melodic for lane in score.lanes):
        return None
    said = signature_of(score.scale.root, score.scale.semitones)
    return next((key for key in KEYS if key == said), None)


def _inside(track: TapeTrack, first_tick: int, end_tick: int) -> Track:
    straights = track.straights or [note.start for note in track.notes]
    notes = tuple(
        Note(max(0, note[0] - first_tick), *note[1:])
        for note, straight in zip(track.notes, straights, strict=True)
        if first_tick <= straight < end_tick
    )
    return Track(
        lane=track.lane,
        lane_id=track.lane_id,
        ink=track.ink,
        channel=track.channel,
        notes=notes,
        controls=controls_between(track.controls, first_tick, end_tick),
    )


def controls_between(controls: Sequence[Control], first_tick: int, end_tick: int) -> tuple[Control, ...]:
    """Return what is sent from *first_tick* to before *end_tick*, counted from there, and before it what is held."""
    held = {point.controller: point for point in controls if point.tick <= first_tick}
    moves = [point for point in controls if first_tick < point.tick < end_tick]
    return tuple(point._replace(tick=max(0, point.tick - first_tick)) for point in (*held.values(), *moves))


def with_sound(track: Track, score: Score) -> Track:
    """Return *track* with the sound, port and program that its lane has in *score*, if it is still there."""
    lane = next((lane for lane in score.lanes if lane.id == track.lane_id), None)
    sound = lane_sound(lane, score) if lane else None
    if lane is None or sound is None:
        return track
    port = port_of(lane, score.kit)
    where = {"port": None if port == BUILT_IN else port, "program": lane.program}
    return track.model_copy(update={"sound": sound, **where})
