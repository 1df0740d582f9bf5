"""The running order kept whole: one clip with a marker a row."""

from collections import defaultdict

from lattice.clips.clip import MAX_TRACKS, Clip, MeterChange, Track
from lattice.clips.keep import key_of
from lattice.clips.moves import standing_still, with_moves
from lattice.clips.take import take, take_clip
from lattice.document.base import MAX_NAME
from lattice.document.notes import MAX_NOTES, Control, Note
from lattice.document.piece import Piece
from lattice.document.problems import DocumentError
from lattice.order.rows import Stand, row_score, stands
from lattice.render.window import Window

__all__ = ["Marker", "markers", "order_clip", "row_clip", "row_name"]

Marker = tuple[int, str]


def row_name(piece: Piece, stand: Stand) -> str:
    """Return what a row is called: its number and its pattern."""
    return f"{stand.place + 1} {piece.pattern(stand.row.pattern).name}"


def markers(piece: Piece) -> list[Marker]:
    """Return (tick, name) of each row of the order."""
    return [(stand.start, row_name(piece, stand)) for stand in stands(piece)]


def row_clip(piece: Piece, stand: Stand, *, moves: bool = False) -> Clip:
    """Return what a row plays as a clip; *moves*: with movements as controllers."""
    score, dice = row_score(piece, stand.place)
    clip = take_clip(take(score, dice, Window(bars=stand.bars)), piece.name, row_name(piece, stand))
    return with_moves(clip, score, 0) if moves else clip


def order_clip(piece: Piece, *, moves: bool = False) -> Clip:
    """Return all of a piece's running order as a clip: lanes of one id, name and channel are one track.

    *moves*: with movements as controllers.

    Raises DocumentError if there are no rows, or too many notes.
    """
    rows = stands(piece)
    if not rows:
        raise DocumentError.of("order", "there are no rows yet: add one first")
    found: dict[tuple[str | None, str, int], list[tuple[Track, int]]] = defaultdict(list)
    notes = 0
    for stand in rows:
        for track in row_clip(piece, stand, moves=moves).tracks:
            notes += len(track.notes)
            if notes > MAX_NOTES:
                message = f"it has more than {MAX_NOTES:,} notes: keep a clip of each row instead"
                raise DocumentError.of("order", message)
            found[track.lane_id, track.lane, track.channel].append((track, stand.start))
    if len(found) > MAX_TRACKS:
        raise DocumentError.of("order", f"its rows have {len(found)} lanes, {MAX_TRACKS} is the most")
    first, _ = row_score(piece, 0)
    meters = [piece.pattern(stand.row.pattern).meter for stand in rows]
    changes = [
        MeterChange(stand.start, meter)
        for stand, before, meter in zip(rows[1:], meters, meters[1:], strict=False)
        if meter != before
    ]
    return Clip(
        name=f"{piece.name[: MAX_NAME - 7]}, whole",
        length_ticks=rows[-1].end,
        tempo=piece.tempo,
        meter=first.meter,
        key=key_of(first),
        scale=first.scale,
        meter_changes=tuple(changes),
        tracks=tuple(_joined(tracks) for tracks in found.values()),
    )


def _later(track: Track, ticks: int) -> Track:
    notes = tuple(Note(note.start + ticks, *note[1:]) for note in track.notes)
    controls = tuple(Control(point.tick + ticks, *point[1:]) for point in track.controls)
    return track.model_copy(update={"notes": notes, "controls": controls})


def _joined(placed: list[tuple[Track, int]]) -> Track:
    """Return tracks of one lane, each from a tick on, as one: where one is moved, the others say how they stand."""
    moved = frozenset(controller for track, _ in placed for controller in track.moved)
    tracks = [_later(standing_still(track, moved), start) for track, start in placed]
    notes = tuple(note for track in tracks for note in track.notes)
    controls = tuple(point for track in tracks for point in track.controls)
    return tracks[0].model_copy(update={"notes": notes, "controls": controls})
