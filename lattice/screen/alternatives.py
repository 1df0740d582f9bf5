"""What a word could be instead, or a lane could begin to use: each with the thread that it would make."""

from collections.abc import Sequence

from pydantic import BaseModel

from lattice.document.lane import Lane
from lattice.document.piece import Piece, Score
from lattice.document.problems import DocumentError, read
from lattice.render.pitch_context import pitch_context_of
from lattice.render.size import MAX_NOTES_AT_ONCE
from lattice.render.window import Window
from lattice.screen.picture import lane_picture
from lattice.screen.pictures import LanePicture
from lattice.sentence import Speech, alternatives, offers, row_choices, row_offers, standing_choices
from lattice.sentence.words import Patch
from lattice.steps.lane_steps import steps_of_lane

__all__ = ["Alternative", "alternatives_of", "offers_of", "row_alternatives", "standing_alternatives"]


class Alternative(BaseModel):
    """One way to go on: what it is called, the fields that it sets, the thread that it would make of the lane.

    *key*: the same for the same alternative on every lane. *thread*: none where it is no thread's, or all together
    would have more notes than an answer holds.
    """

    key: str
    text: str
    explains: str
    patch: Patch
    chosen: bool
    thread: LanePicture | None


def alternatives_of(
    score: Score, dice: int, lane_id: str, setting: str, word: str, window: Window
) -> list[Alternative]:
    """Return what *word* of a lane's *setting* could be. Raises DocumentError if there is no such lane or word."""
    speech = _speech(score, dice, lane_id)
    try:
        found = alternatives(speech, setting, word)
    except KeyError:
        raise DocumentError.of(setting, f"has no word {word!r}", lane=speech.lane.name) from None
    threads = _threads(score, dice, speech.lane, [choice.patch for choice in found], window)
    return [
        Alternative(
            key=choice.key,
            text=choice.text,
            explains="",
            patch=choice.patch,
            chosen=choice.chosen,
            thread=thread,
        )
        for choice, thread in zip(found, threads, strict=True)
    ]


def offers_of(score: Score, dice: int, lane_id: str, window: Window) -> list[Alternative]:
    """Return what a lane could begin to use. Raises DocumentError if there is no such lane."""
    speech = _speech(score, dice, lane_id)
    found = offers(speech)
    threads = _threads(score, dice, speech.lane, [offer.patch for offer in found], window)
    return [
        Alternative(
            key=offer.setting,
            text=offer.text,
            explains=offer.explains,
            patch=offer.patch,
            chosen=False,
            thread=thread,
        )
        for offer, thread in zip(found, threads, strict=True)
    ]


def standing_alternatives(score: Score, setting: str, word: str = "") -> list[Alternative]:
    """Return what the *word* of a pattern's *setting* could be. Raises DocumentError if there is no such word."""
    try:
        found = standing_choices(score, setting, word)
    except KeyError:
        raise DocumentError.of(setting, "has no alternatives") from None
    return [Alternative(**choice.model_dump(), explains="", thread=None) for choice in found]


def row_alternatives(piece: Piece, place: int, setting: str, word: str) -> list[Alternative]:
    """Return what a *word* of a row of the order could be, or without a setting what it could begin to use.

    Raises DocumentError if there is no such row or word.
    """
    if place >= len(piece.order):
        raise DocumentError.of("order", f"there is no row {place + 1}")
    row = piece.order[place]
    if not setting:
        return [
            Alternative(
                key=one.setting,
                text=one.text,
                explains=one.explains,
                patch=one.patch,
                chosen=False,
                thread=None,
            )
            for one in row_offers(piece, row)
        ]
    try:
        found = row_choices(piece, row, setting, word)
    except KeyError:
        raise DocumentError.of(setting, f"has no word {word!r}") from None
    return [Alternative(**one.model_dump(), explains="", thread=None) for one in found]


def _speech(score: Score, dice: int, lane_id: str) -> Speech:
    lane_steps = steps_of_lane(score, dice, lane_id)
    return Speech(lane_steps, pitch_context_of(lane_steps.lane, score, dice), score)


def _threads(
    score: Score, dice: int, lane: Lane, patches: Sequence[Patch], window: Window
) -> list[LanePicture | None]:
    """Return the thread that each of *patches* makes of *lane*; none from where they have too many steps and notes."""
    found: list[LanePicture | None] = []
    left = MAX_NOTES_AT_ONCE
    for patch in patches:
        thread = _thread(score, dice, lane, patch, window) if left > 0 else None
        left -= len(thread.starts) + sum(map(len, thread.pitches)) if thread else 0
        found.append(thread)
    return found


def _thread(score: Score, dice: int, lane: Lane, patch: Patch, window: Window) -> LanePicture | None:
    """Return the thread that *patch* makes; none where it alone would be too much."""
    changed = read(Lane, lane.model_dump(mode="json") | patch)
    lanes = tuple(changed if one.id == lane.id else one for one in score.lanes)
    # The lanes are known to fit: what is offered is what the document allows.
    try:
        return lane_picture(score.model_copy(update={"lanes": lanes}), dice, lane.id, window)
    except DocumentError:
        return None
