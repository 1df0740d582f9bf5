"""How long a clip is and where in it the notes lie: scattered, repeated, cropped, joined, at another pace."""

from itertools import pairwise
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from lattice.clips.clip import Clip, MeterChange, TempoChange
from lattice.clips.edits.action import ClipAction, Percent, Place, said_notes
from lattice.clips.keep import controls_between
from lattice.clips.sheet import Sheet, step_parts
from lattice.document.notes import MAX_NOTES
from lattice.document.problems import DocumentError
from lattice.document.source import MAX_THROW
from lattice.document.step_value import StepValue
from lattice.luck.draws import DRAW_BITS, PLACES, Purpose, draws
from lattice.units import Ticks, half_up

__all__ = ["Crop", "Lengthen", "Pace", "Repeat", "Scatter", "joined"]

MAX_SLOTS = 100_000


class Scatter(ClipAction):
    """*percent* of the notes move to other slots of the span that they lie in: a quick fill.

    A slot is a *step*; notes keep their place in it. Those that go, and where to, are picked by *throw*. No note goes
    where another of its track and pitch is, or was.
    """

    kind: Literal["scatter"] = "scatter"
    percent: Percent
    throw: Annotated[int, Field(ge=1, le=MAX_THROW)]
    step: StepValue = StepValue()

    def apply(self, sheet: Sheet) -> Sheet:
        where = np.flatnonzero(sheet.meant)
        if not where.size:
            return sheet
        numerator, denominator = step_parts(self.step)
        slots = sheet.starts * denominator // numerator
        first, last = int(slots[where].min()), int(slots[where].max())
        end_tick = min(sheet.clip.length_ticks, ((last + 1) * numerator - 1) // denominator + 1)
        if last - first >= MAX_SLOTS:
            raise DocumentError.of(
                "step", f"at most {MAX_SLOTS:,} slots: choose fewer notes or a longer step"
            )
        count = (2 * self.percent * where.size + 100) // 200
        going = where[np.argsort(self._drawn(where, Purpose.SCATTER_FROM), kind="stable")[:count]]
        luck = self._drawn(going, Purpose.SCATTER_TO)
        free: dict[tuple[int, int], list[int]] = {}
        starts = sheet.starts.copy()
        for note, drawn in zip(going.tolist(), luck.tolist(), strict=True):
            key = int(sheet.tracks[note]), int(sheet.pitches[note])
            if key not in free:
                mates = (sheet.tracks == key[0]) & (sheet.pitches == key[1])
                free[key] = np.setdiff1d(np.arange(first, last + 1), slots[mates]).tolist()
            if not free[key]:
                continue
            slot = free[key].pop((drawn * len(free[key])) >> DRAW_BITS)
            moved = (slot - int(slots[note])) * numerator
            starts[note] += half_up(moved, denominator)
        return sheet.at(sheet.meant, starts=np.clip(starts, 0, end_tick - 1)[sheet.meant])

    def label(self, sheet: Sheet) -> str:
        return f"{self.percent} % of {said_notes(sheet.meant_count)} scattered"

    def _drawn(self, notes: Ticks, purpose: Purpose) -> NDArray[np.uint64]:
        cycles, places = np.divmod(notes, PLACES)
        return draws(self.throw, "clip", purpose, cycles, places)


class Repeat(ClipAction):
    """The chosen notes again, *times* more, after the span that they fill in whole steps; or all of the clip."""

    kind: Literal["repeat"] = "repeat"
    times: Annotated[int, Field(ge=1, le=64)] = 1
    step: StepValue = StepValue()

    def apply(self, sheet: Sheet) -> Sheet:
        if not sheet.chosen.any():
            return self._whole(sheet)
        again = sheet.take(sheet.chosen)
        numerator, denominator = step_parts(self.step)
        first = int(again.starts.min()) * denominator // numerator
        end = -(-int(again.ends.max()) * denominator // numerator)
        _check_count(len(sheet) + self.times * len(again))
        for time in range(1, self.times + 1):
            by = half_up(time * (end - first) * numerator, denominator)
            sheet = sheet.joined(again.again(by))
        return sheet.grown()

    def _whole(self, sheet: Sheet) -> Sheet:
        clip = sheet.clip
        _check_count(len(sheet) * (self.times + 1))
        result = sheet
        for time in range(1, self.times + 1):
            at = time * clip.length_ticks
            result = result.joined(sheet.again(at))
            result = result.with_clip(**_going_on(result.clip, clip, at))
        return result

    def label(self, sheet: Sheet) -> str:
        return f"repeated {self.times} times" if self.times > 1 else "repeated"


class Crop(ClipAction):
    """Only what lies from *first_tick* to before *end_tick*: notes that begin there, and what controllers hold.

    An end that is none is that of the bars in which chosen notes begin.
    """

    kind: Literal["crop"] = "crop"
    first_tick: Place | None = None
    end_tick: Place | None = None

    def apply(self, sheet: Sheet) -> Sheet:
        clip = sheet.clip
        bar, starts = clip.meter.bar_ticks, sheet.starts[sheet.meant]
        first, last = int(starts.min(initial=clip.length_ticks)) // bar, int(starts.max(initial=0)) // bar
        first = first * bar if self.first_tick is None else self.first_tick
        end = (last + 1) * bar if self.end_tick is None else self.end_tick
        end = min(end, clip.length_ticks)
        if end <= first:
            raise DocumentError.of("end_tick", f"nothing lies from tick {first} to {end}")
        inside = sheet.take((sheet.starts >= first) & (sheet.starts < end))
        inside = inside.at(np.ones(len(inside), bool), starts=inside.starts - first)
        return inside.with_clip(
            length_ticks=end - first,
            tracks=tuple(
                track.model_copy(update={"controls": controls_between(track.controls, first, end)})
                for track in clip.tracks
            ),
            **_standing_at(clip, first),
            tempo_changes=tuple(
                one._replace(tick=one.tick - first) for one in clip.tempo_changes if first < one.tick < end
            ),
            meter_changes=tuple(
                one._replace(tick=one.tick - first) for one in clip.meter_changes if first < one.tick < end
            ),
        )

    def label(self, sheet: Sheet) -> str:
        return "cropped"


class Lengthen(ClipAction):
    """The clip lasts so many whole *bars*. Raises DocumentError where notes begin later: crop to remove them."""

    kind: Literal["lengthen"] = "lengthen"
    bars: Annotated[int, Field(ge=1, le=10_000)]

    def apply(self, sheet: Sheet) -> Sheet:
        length = self.bars * sheet.clip.meter.bar_ticks
        beyond = int((sheet.starts >= length).sum())
        if beyond:
            notes = "1 note begins" if beyond == 1 else f"{beyond:,} notes begin"
            message = f"{notes} after bar {self.bars:,}: choose the bars to keep and crop the clip to them"
            raise DocumentError.of("bars", message)
        if length < sheet.clip.length_ticks:
            return Crop(first_tick=0, end_tick=length).apply(sheet)
        return sheet.with_clip(length_ticks=length)

    def label(self, sheet: Sheet) -> str:
        return f"{self.bars} bars long"


class Pace(ClipAction):
    """All of the clip at half the pace, twice as long, or at double."""

    kind: Literal["pace"] = "pace"
    pace: Literal["half", "double"]

    def apply(self, sheet: Sheet) -> Sheet:
        clip = sheet.clip
        up, down = (2, 1) if self.pace == "half" else (1, 2)

        def paced(tick: int) -> int:
            return half_up(tick * up, down)

        every = np.ones(len(sheet), bool)
        starts = half_up(sheet.starts * up, down)
        ends = half_up(sheet.ends * up, down)
        length = max(1, paced(clip.length_ticks))
        meters = [(0, clip.meter), *((paced(one.tick), one.meter) for one in clip.meter_changes)]
        for (since, meter), (tick, _) in pairwise(meters):
            if (tick - since) % meter.bar_ticks:
                message = f"a change of meter would come in the middle of a bar, at tick {tick:,}"
                raise DocumentError.of("meter_changes", message)
        sheet = sheet.at(every, starts=np.minimum(starts, length - 1), lengths=np.maximum(1, ends - starts))
        return sheet.with_clip(
            length_ticks=length,
            tracks=tuple(
                track.model_copy(
                    update={"controls": tuple(one._replace(tick=paced(one.tick)) for one in track.controls)}
                )
                for track in clip.tracks
            ),
            tempo_changes=tuple(one._replace(tick=paced(one.tick)) for one in clip.tempo_changes),
            meter_changes=tuple(one._replace(tick=paced(one.tick)) for one in clip.meter_changes),
        )

    def label(self, sheet: Sheet) -> str:
        return f"{self.pace} pace"


def joined(clip: Clip, other: Clip) -> Clip:
    """Return *clip* with *other* after it: notes of a lane that both have lie on one track.

    Tracks belong together that come from the same lane, or have the same name and channel. Where *other* has another
    tempo or meter, that holds from there on.
    Raises DocumentError if it becomes too long.
    """
    tracks = list(clip.tracks)
    places: list[int] = []
    for track in other.tracks:
        known = ((at, one) for at, one in enumerate(tracks) if at not in places)
        same = (at for at, one in known if one.channel == track.channel and _is_same(one, track))
        place = next(same, len(tracks))
        if place == len(tracks):
            tracks.append(track.model_copy(update={"notes": (), "controls": ()}))
        places.append(place)
    whole = clip.model_copy(update={"tracks": tuple(tracks)})
    sheet, more = Sheet.of(whole), Sheet.of(other)
    _check_count(len(sheet) + len(more))
    at = clip.length_ticks
    every = np.ones(len(more), bool)
    more = more.at(every, starts=more.starts + at)
    if places:
        more = more.at(every, tracks=np.array(places)[more.tracks])
    shifted = other.model_copy(
        update={
            "tracks": tuple(
                next((track for track, its in zip(other.tracks, places, strict=True) if its == place), None)
                or one.model_copy(update={"controls": ()})
                for place, one in enumerate(tracks)
            )
        }
    )
    return sheet.joined(more).with_clip(**_going_on(whole, shifted, at)).finished().clip


def _is_same(one: object, other: object) -> bool:
    return any(
        getattr(one, field) is not None and getattr(one, field) == getattr(other, field)
        for field in ("lane_id", "lane")
    )


def _going_on(clip: Clip, following: Clip, at: int) -> dict[str, object]:
    """Return length, controls and changes of *clip* with *following*, of the same tracks, after *at* ticks of it."""
    now = _standing_at(clip, at)
    tempos = [*clip.tempo_changes]
    if now["tempo"] != following.tempo:
        tempos.append(TempoChange(at, following.tempo))
    meters = [*clip.meter_changes]
    if now["meter"] != following.meter:
        meters.append(MeterChange(at, following.meter))
    return {
        "length_ticks": at + following.length_ticks,
        "tracks": tuple(
            one.model_copy(
                update={
                    "controls": (
                        *one.controls,
                        *(move._replace(tick=move.tick + at) for move in its.controls),
                    )
                }
            )
            for one, its in zip(clip.tracks, following.tracks, strict=True)
        ),
        "tempo_changes": (*tempos, *(one._replace(tick=one.tick + at) for one in following.tempo_changes)),
        "meter_changes": (*meters, *(one._replace(tick=one.tick + at) for one in following.meter_changes)),
    }


def _standing_at(clip: Clip, tick: int) -> dict[str, object]:
    """Return the tempo and meter that hold at *tick*."""
    tempos = [one.tempo for one in clip.tempo_changes if one.tick <= tick]
    meters = [one.meter for one in clip.meter_changes if one.tick <= tick]
    return {"tempo": tempos[-1] if tempos else clip.tempo, "meter": meters[-1] if meters else clip.meter}


def _check_count(count: int) -> None:
    if count > MAX_NOTES:
        raise DocumentError.of("notes", f"a clip holds at most {MAX_NOTES:,} notes, this makes {count:,}")
