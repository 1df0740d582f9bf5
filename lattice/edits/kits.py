"""What hands do to a kit: exchange it, add voices to it, make one of new sounds with a lane for each."""

from collections.abc import Collection, Iterable
from typing import Any

from lattice.document.base import MAX_NAME, Id, free_id
from lattice.document.kit import Kit, Voice
from lattice.document.lane import INKS, Lane
from lattice.document.piece import Piece
from lattice.document.problems import DocumentError, read
from lattice.document.source import Euclidean

__all__ = ["exchanged", "kit_of", "with_voices"]

# Each against the others; round again where there are more lanes.
_SOURCES = tuple(Euclidean(hits=hits, steps=16) for hits in (4, 3, 5, 7, 2, 9, 6, 11))
_HIGHEST = 127  # MIDI note number
_FIRST_ADDED = 48  # MIDI note number: above those that a kit has by itself
_FIRST_OF_A_KIT = 36  # the lowest that drum machines commonly have


def exchanged(piece: Piece, kit: Kit) -> Piece:
    """Return *piece* with another *kit*. What that has not stays from the old one while a lane plays it.

    Raises DocumentError if there are more voices than a kit may have.
    """
    return _with_kit(piece, kit.name, [*kit.voices, *_played(piece, {voice.id for voice in kit.voices})], kit)


def with_voices(piece: Piece, voices: Iterable[Voice]) -> Piece:
    """Return *piece* with *voices* in its kit, on the next free notes from 48 on.

    A voice whose id is taken gets another. Raises DocumentError if there are more voices than a kit may have.
    """
    kit = piece.kit
    return _with_kit(piece, kit.name, [*kit.voices, *_placed(voices, kit.voices, _FIRST_ADDED)])


def kit_of(piece: Piece, pattern_id: Id, voices: Iterable[Voice]) -> Piece:
    """Return *piece* with a kit of *voices*, from note 36 on, and one more lane for each in one of its patterns.

    Voices that lanes play stay in it. Raises DocumentError if there is no voice or no such pattern, or if they are too
    many.
    """
    stay = _played(piece, ())
    own = _placed(voices, stay, _FIRST_OF_A_KIT)
    if not own:
        raise DocumentError.of("voices", "a kit is made of at least one sound")
    pattern = next((one for one in piece.patterns if one.id == pattern_id), None)
    if pattern is None:
        raise DocumentError.of("pattern", f"there is no pattern {pattern_id!r} to give lanes to")
    lanes = list(pattern.lanes)
    for number, voice in enumerate(own):
        lanes.append(
            Lane(
                id=free_id(voice.id, {lane.id for lane in lanes}),
                name=voice.name,
                voice=voice.id,
                ink=len(lanes) % INKS,
                source=_SOURCES[number % len(_SOURCES)],
            )
        )
    name = f"Kit of {own[0].name}"[:MAX_NAME].rstrip()
    stored = _with_kit(piece, name, [*own, *stay]).model_dump(mode="json")
    place = piece.patterns.index(pattern)
    stored["patterns"][place]["lanes"] = [lane.model_dump(mode="json") for lane in lanes]
    return read(Piece, stored)


def _with_kit(piece: Piece, name: str, voices: Iterable[Voice], of: Kit | None = None) -> Piece:
    kit: dict[str, Any] = (of or piece.kit).model_dump(mode="json")
    kit |= {"name": name, "voices": [voice.model_dump(mode="json") for voice in voices]}
    return read(Piece, piece.model_dump(mode="json") | {"kit": kit})


def _played(piece: Piece, others: Collection[Id]) -> list[Voice]:
    """Return the voices of the kit that lanes of any pattern play, but for *others*."""
    played = {lane.voice for pattern in piece.patterns for lane in pattern.lanes}
    return [voice for voice in piece.kit.voices if voice.id in played and voice.id not in others]


def _placed(voices: Iterable[Voice], others: Iterable[Voice], first: int) -> list[Voice]:
    """Return *voices* beside *others*, each with an id of its own and on the next free note.

    From note *first* up, then below it; where none is free, on the highest.
    """
    known = list(others)
    added: list[Voice] = []
    for voice in voices:
        beside = [*known, *added]
        taken = {one.pitch for one in beside}
        up, down = range(first, _HIGHEST + 1), range(first - 1, -1, -1)
        pitch = next((note for note in (*up, *down) if note not in taken), _HIGHEST)
        own = {"id": free_id(voice.id, {one.id for one in beside}), "pitch": pitch}
        added.append(voice.model_copy(update=own))
    return added
