"""Keeping over switches: stretches of the tape that followed each other without a break, as one clip."""

from collections.abc import Sequence
from typing import NamedTuple

from lattice.clips.clip import Clip
from lattice.clips.edits.shape import joined
from lattice.clips.keep import (
    MAX_KEPT_BARS,
    Kept,
    NothingToKeepError,
    Tape,
    keep_bars,
    keep_last,
    make_clip,
    tracks_between,
)
from lattice.document.base import MAX_NAME
from lattice.document.piece import Score

__all__ = ["Heard", "KeptClip", "keep_over"]


class Heard(NamedTuple):
    """A stretch of the tape, and what played it: the name of its pattern, score and dice as they stood last."""

    pattern: str
    tape: Tape
    score: Score
    dice: int


class KeptClip(NamedTuple):
    """A clip that was kept, and how many notes of its bars came too late to be heard and are not in it."""

    clip: Clip
    late: int


class _Part(NamedTuple):
    heard: Heard
    first_tick: int
    end_tick: int

    @property
    def late(self) -> int:
        return sum(track.late_between(self.first_tick, self.end_tick) for track in self.heard.tape.tracks)


def keep_over(
    stretches: Sequence[Heard], piece: str, bars: int, chosen: tuple[int, int] | None = None
) -> KeptClip:
    """Return the last *bars* bars of *stretches*, each of which took over from the one before, as one clip.

    They end at the last bar line passed. Bars from before a switch are counted back from it; a bar that the switch cut
    short is kept beside them, as it was heard. *chosen*: instead, from a bar of the first stretch up to a bar of the
    last (counted from 0, the end excluded). Lanes are joined by their ids, else by name and channel. The clip's origin
    is what played last. Raises NothingToKeepError if no whole bar has sounded.
    """
    if chosen is None:
        while len(stretches) > 1 and not _has_whole_bar(stretches[-1].tape):
            stretches = stretches[:-1]
    last = stretches[-1]
    kept = keep_bars(last.tape, *chosen) if chosen and len(stretches) == 1 else None
    kept = kept or (keep_bars(last.tape, 0, chosen[1]) if chosen else keep_last(last.tape, bars))
    clip = make_clip(kept, last.tape, last.score, last.dice, piece=piece, pattern=last.pattern)
    if len(stretches) == 1 or (chosen is None and kept.bars >= bars):
        bar = last.tape.meter.bar_ticks
        return KeptClip(clip, _Part(last, kept.first_bar * bar, _end_of(kept, last.tape)).late)
    parts = _chosen(stretches, kept, chosen[0]) if chosen else _counted_back(stretches, kept, bars)
    if (
        sum(-(-(part.end_tick - part.first_tick) // part.heard.tape.meter.bar_ticks) for part in parts)
        > MAX_KEPT_BARS
    ):
        raise NothingToKeepError(f"At most {MAX_KEPT_BARS} bars are kept at once: choose fewer")
    whole = _clip_of(parts[0], piece)
    for part in parts[1:]:
        whole = joined(whole, _clip_of(part, piece))
    whole = whole.model_copy(update={"name": _name(piece, parts, whole), "origin": clip.origin})
    return KeptClip(whole, sum(part.late for part in parts))


def _has_whole_bar(tape: Tape) -> bool:
    bar = tape.meter.bar_ticks
    return tape.now_tick // bar > -(-tape.from_tick // bar)


def _end_of(kept: Kept, tape: Tape) -> int:
    return (kept.first_bar + kept.bars) * tape.meter.bar_ticks


def _counted_back(stretches: Sequence[Heard], kept: Kept, bars: int) -> list[_Part]:
    last = stretches[-1]
    parts = [_Part(last, last.tape.from_tick, _end_of(kept, last.tape))]
    missing = bars - kept.bars
    for heard in reversed(stretches[:-1]):
        if missing <= 0:
            break
        tape, bar = heard.tape, heard.tape.meter.bar_ticks
        head, tail = -parts[-1].heard.tape.from_tick % bar, tape.now_tick % bar
        missing -= head + tail == bar  # what carried on in the middle of a bar made it whole
        line = tape.now_tick // bar
        first = max(line - missing, -(-tape.from_tick // bar))
        missing -= max(0, line - first)
        # Where more is needed, what plays before goes on into it: from its very beginning.
        parts.append(
            _Part(heard, tape.from_tick if missing else min(first * bar, tape.now_tick), tape.now_tick)
        )
    earliest = parts[-1]
    bar = earliest.heard.tape.meter.bar_ticks
    parts[-1] = earliest._replace(first_tick=-(-earliest.first_tick // bar) * bar)
    return [part for part in reversed(parts) if part.end_tick > part.first_tick]


def _chosen(stretches: Sequence[Heard], kept: Kept, first_bar: int) -> list[_Part]:
    first, *between, last = stretches
    bar = first.tape.meter.bar_ticks
    begin = max(first_bar, -(-first.tape.from_tick // bar)) * bar
    parts = [
        _Part(first, begin, first.tape.now_tick),
        *(_Part(heard, heard.tape.from_tick, heard.tape.now_tick) for heard in between),
        _Part(last, last.tape.from_tick, _end_of(kept, last.tape)),
    ]
    return [part for part in parts if part.end_tick > part.first_tick]


def _clip_of(part: _Part, piece: str) -> Clip:
    heard, first, end = part
    return Clip(
        name=piece[:MAX_NAME],
        length_ticks=end - first,
        tempo=heard.score.tempo,
        meter=heard.tape.meter,
        scale=heard.score.scale,
        tracks=tracks_between(heard.tape, heard.score, first, end),
    )


def _name(piece: str, parts: Sequence[_Part], clip: Clip) -> str:
    first, last = parts[0].heard.pattern, parts[-1].heard.pattern
    place = f"{first if first == last else f'{first} to {last}'}, {clip.bars} bars"
    return f"{piece[: MAX_NAME - len(place) - 1]} {place}"[:MAX_NAME]
