"""Changing the scale of a piece or a pattern: degrees are read anew, and chords stay chords."""

from lattice.document.arpeggio import TypedPool
from lattice.document.lane import Lane
from lattice.document.piece import Pattern, Piece
from lattice.document.problems import DocumentError
from lattice.document.scale import Scale
from lattice.theory.chords import NUMERAL_NOTES, chord_name, is_numeral, parse_chord

__all__ = ["rescaled"]


def rescaled(piece: Piece, scale: Scale, pattern_id: str | None = None) -> Piece:
    """Return *piece* in *scale*; with *pattern_id* that pattern alone, which then has a scale of its own.

    Where the new scale has not seven notes, numerals become the names of the chords that they were. Raises
    DocumentError if there is no such pattern.
    """
    if pattern_id is not None and pattern_id not in {one.id for one in piece.patterns}:
        raise DocumentError.of("pattern", f"there is no pattern {pattern_id!r}")
    patterns = tuple(
        _named(one, one.scale or piece.scale, scale)
        if one.id == pattern_id or (pattern_id is None and one.scale is None)
        else one
        for one in piece.patterns
    )
    if pattern_id is None:
        return piece.model_copy(update={"scale": scale, "patterns": patterns})
    own = tuple(one.model_copy(update={"scale": scale}) if one.id == pattern_id else one for one in patterns)
    return piece.model_copy(update={"patterns": own})


def _named(pattern: Pattern, was: Scale, scale: Scale) -> Pattern:
    """Return *pattern* with its numerals written as names, where *scale* has no numerals."""
    if len(scale.semitones) == NUMERAL_NOTES:
        return pattern

    def name(text: str) -> str:
        if not is_numeral(text):
            return text
        return chord_name(parse_chord(text, was.root, was.semitones), was.root, was.semitones)

    def with_names(lane: Lane) -> Lane:
        arpeggio = lane.arpeggio
        if arpeggio is None or not isinstance(arpeggio.pool, TypedPool) or not arpeggio.pool.chord:
            return lane
        pool = arpeggio.pool.model_copy(update={"chord": name(arpeggio.pool.chord)})
        return lane.model_copy(update={"arpeggio": arpeggio.model_copy(update={"pool": pool})})

    progression = pattern.progression
    if progression:
        chords = tuple(one.model_copy(update={"chord": name(one.chord)}) for one in progression.chords)
        progression = progression.model_copy(update={"chords": chords})
    return pattern.model_copy(
        update={"progression": progression, "lanes": tuple(with_names(lane) for lane in pattern.lanes)}
    )
