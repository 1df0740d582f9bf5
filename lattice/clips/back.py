"""From a clip back to its origin: to play in place of its lanes, or as the pattern that it was kept from."""

from collections.abc import Sequence

from lattice.clips.clip import Clip, Origin
from lattice.document.arpeggio import HeldPool
from lattice.document.base import MAX_NAME
from lattice.document.lane import Lane
from lattice.document.lane_clip import MAX_LANE_NOTES, LaneClip
from lattice.document.order import OrderRow
from lattice.document.piece import Pattern, Piece, Rhythm
from lattice.document.problems import DocumentError, read
from lattice.render.held_keys import gathered

__all__ = ["apart", "as_it_stood", "in_place"]


def in_place(clip: Clip, lanes: Sequence[str]) -> dict[str, LaneClip]:
    """Return what is to play in place of those of *lanes* that *clip* came from, by their ids.

    A lane that left no note in it gets an empty clip, so that nothing sounds twice or beside it.
    Raises DocumentError if the clip came from none of them, or a lane has more notes than may be kept in it.
    """
    origin = clip.origin
    made_of = [] if origin is None else [lane.id for lane in origin.score.lanes]
    if origin and origin.lanes is not None:
        made_of = [lane for lane in made_of if lane in origin.lanes]
    tracks = {track.lane_id: track for track in clip.tracks if track.lane_id}
    own = [lane for lane in lanes if lane in made_of or lane in tracks]
    if not own:
        raise DocumentError.of("lanes", f"“{clip.name}” came from none of the lanes of this pattern")
    kept = {}
    for lane in own:
        track = tracks.get(lane)
        notes = track.notes if track else ()
        if len(notes) > MAX_LANE_NOTES:
            message = f"at most {MAX_LANE_NOTES:,} notes play in place of a lane, these are {len(notes):,}"
            raise DocumentError.of("clip", message, lane=track.lane if track else None)
        kept[lane] = LaneClip(
            name=clip.name,
            length_ticks=clip.length_ticks,
            notes=notes,
            # The lane's own movements go on where it plays the clip.
            controls=tuple(one for one in track.controls if one.controller not in track.moved)
            if track
            else (),
        )
    return kept


def as_it_stood(origin: Origin) -> Piece:
    """Return a piece of one pattern: the score that a clip came from, with its dice, as it stood.

    What hands held in the clip's first bar, they hold from the pattern's start.
    """
    score = origin.score
    begin = origin.first_bar * score.meter.bar_ticks
    shared = {field: getattr(score, field) for field in Rhythm.model_fields}
    shared["lanes"] = tuple(_held_from(lane, begin) for lane in score.lanes)
    # What hands held while it played comes again; a row's pace is a row's.
    shared["moved_detours"] = (
        *score.moved_detours,
        *(one for one in score.held_detours if one.end is not None),
    )
    passes = score.ends_after // score.bars if score.ends_after else 0
    order = [OrderRow(pattern="a", repeats=passes, pace=score.pace)] if passes else []
    pattern = Pattern(id="a", name=origin.pattern, dice=origin.dice, **shared)
    name = f"{origin.piece[: MAX_NAME - 14]} as it stood"
    return read(
        Piece,
        {
            "name": name,
            "tempo": score.tempo,
            "swing": score.swing,
            "scale": score.scale,
            "kit": score.kit,
            "patterns": [pattern],
            "order": order,
        },
    )


def _held_from(lane: Lane, tick: int) -> Lane:
    pool = lane.arpeggio.pool if lane.arpeggio else None
    if not isinstance(pool, HeldPool) or not lane.keys.held:
        return lane
    return lane.model_copy(update={"keys": gathered(lane.keys, pool.latch, tick)})


def apart(clip: Clip) -> list[Clip]:
    """Return a clip for each track of *clip* that has notes, named after both."""
    return [
        clip.model_copy(
            update={
                "name": f"{clip.name[: MAX_NAME // 2]} {track.lane}"[:MAX_NAME].strip(),
                "tracks": (track,),
            }
        )
        for track in clip.tracks
        if track.notes
    ]
