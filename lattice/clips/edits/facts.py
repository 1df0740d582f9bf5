"""What a clip and its tracks hold besides notes: controllers, tempo, key, names and channels."""

from typing import Annotated, Literal, NamedTuple

from pydantic import Field

from lattice.clips.clip import MAX_TRACKS, Control, Key, Track
from lattice.clips.edits.action import ClipAction, Place
from lattice.clips.sheet import Sheet
from lattice.document.base import Name, Row
from lattice.document.controllers import controller_name
from lattice.document.notes import MAX_NOTES
from lattice.document.piece import Tempo
from lattice.document.problems import DocumentError

__all__ = ["SetClip", "SetControls", "SetTrack"]


class Point(NamedTuple):
    """The *value* that a controller is sent at a *tick*."""

    tick: Place
    value: Annotated[int, Field(ge=0, le=127)]


class SetControls(ClipAction):
    """What a *controller* is sent from *first_tick* to before *end_tick*: *points*, ascending."""

    kind: Literal["controls"] = "controls"
    track: Annotated[int, Field(ge=0, lt=MAX_TRACKS)]
    controller: Annotated[int, Field(ge=0, le=119)]
    first_tick: Place
    end_tick: Place
    points: Annotated[Row[Point], Field(max_length=MAX_NOTES)] = ()

    def apply(self, sheet: Sheet) -> Sheet:
        end = min(self.end_tick, sheet.clip.length_ticks)
        if any(not self.first_tick <= tick < end for tick, _ in self.points):
            raise DocumentError.of("points", f"they must lie from tick {self.first_tick} to before {end}")

        def is_kept(one: Control) -> bool:
            return one.controller != self.controller or not self.first_tick <= one.tick < end

        track = _track(sheet, self.track)
        kept = [one for one in track.controls if is_kept(one)]
        fresh = [Control(tick, self.controller, value) for tick, value in self.points]
        controls = tuple(sorted([*kept, *fresh], key=lambda one: one.tick))
        return _with_track(sheet, self.track, controls=controls)

    def label(self, sheet: Sheet) -> str:
        return f"{controller_name(self.controller)} painted"


class SetTrack(ClipAction):
    """A track's name and MIDI channel."""

    kind: Literal["track"] = "track"
    track: Annotated[int, Field(ge=0, lt=MAX_TRACKS)]
    lane: Name | None = None
    channel: Annotated[int | None, Field(ge=1, le=16)] = None

    def apply(self, sheet: Sheet) -> Sheet:
        _track(sheet, self.track)
        fields = {"lane": self.lane, "channel": self.channel}
        return _with_track(
            sheet, self.track, **{name: one for name, one in fields.items() if one is not None}
        )

    def label(self, sheet: Sheet) -> str:
        told = f"called {self.lane}" if self.lane else f"on channel {self.channel}"
        return f"{_track(sheet, self.track).lane} {told}"


class SetClip(ClipAction):
    """The clip's tempo, from its beginning to its end; its key."""

    kind: Literal["clip"] = "clip"
    tempo: Tempo | None = None
    key: Key | Literal["none"] | None = None

    def apply(self, sheet: Sheet) -> Sheet:
        fields: dict[str, object] = {}
        if self.tempo is not None:
            fields |= {"tempo": self.tempo, "tempo_changes": ()}
        if self.key is not None:
            fields["key"] = None if self.key == "none" else self.key
        return sheet.with_clip(**fields)

    def label(self, sheet: Sheet) -> str:
        return f"tempo {self.tempo:g}" if self.tempo is not None else f"key {self.key}"


def _track(sheet: Sheet, track: int) -> Track:
    if track >= len(sheet.clip.tracks):
        raise DocumentError.of(
            "track", f"the clip has {len(sheet.clip.tracks)} tracks, got number {track + 1}"
        )
    return sheet.clip.tracks[track]


def _with_track(sheet: Sheet, track: int, **fields: object) -> Sheet:
    tracks = list(sheet.clip.tracks)
    tracks[track] = tracks[track].model_copy(update=fields)
    return sheet.with_clip(tracks=tuple(tracks))
