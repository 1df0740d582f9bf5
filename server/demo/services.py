"""Making the demo musician and what is theirs."""

from accounts.models import User
from clips import services as clips
from clips.models import Clip
from django.db import transaction
from pieces import models as piece_models
from pieces import services as pieces
from takes import services as takes

from demo.pieces import LANTERN_QUAY, NIGHT_FERRY, PIECES, SLACK_WATER
from lattice.clips import take, take_clip
from lattice.clips.edits.feel import Ramp
from lattice.clips.edits.notes import Delete
from lattice.clips.edits.shape import Scatter
from lattice.document import Piece, score_of
from lattice.render import Window

__all__ = ["DEMO_NAME", "demo_musician"]

DEMO_NAME = "demo musician"
# Piece, pattern, from which bar, how many, called what, in which set, with which tags; the last lies first.
KEPT = (
    (SLACK_WATER, 0, 0, 4, "Slack tide", "Slack Water", ("fast",)),
    (SLACK_WATER, 0, 12, 2, "Ratchets at the sluice", "Slack Water", ("fast", "ratchets")),
    (LANTERN_QUAY, 0, 0, 4, "Lamps along the quay", "Lantern Quay", ("seven",)),
    (LANTERN_QUAY, 0, 8, 2, "One lamp out", "Lantern Quay", ("seven", "sparse")),
    (NIGHT_FERRY, 1, 0, 4, "Crew below deck", "Night Ferry", ("break",)),
    (NIGHT_FERRY, 0, 3, 2, "Two bars off Skerry Light", "Night Ferry", ("verse",)),
    (NIGHT_FERRY, 0, 8, 4, "Last crossing", "Night Ferry", ("verse", "kept live")),
)
# Piece, pattern, how many takes of how many bars, and which of them are kept.
THROWN = (
    (SLACK_WATER, 0, 6, 2, (4,)),
    (LANTERN_QUAY, 0, 6, 4, (2,)),
    (NIGHT_FERRY, 0, 8, 2, (3, 6)),
)


@transaction.atomic
def demo_musician() -> User:
    """Return the demo musician, made with pieces, takes and clips the first time; later nothing is touched."""
    user, is_new = User.objects.get_or_create(username=DEMO_NAME)
    if is_new:
        user.set_unusable_password()
        user.save()
        stored = {piece.name: pieces.create(user, piece, label="The demo's own") for piece in PIECES}
        for piece, pattern, count, bars, kept in THROWN:
            _throw(user, piece, stored[piece.name], pattern, count, bars, kept)
        for piece, pattern, first, bars, name, set_name, tags in KEPT:
            clip = _keep(user, piece, pattern, first, bars, name)
            clips.describe(user, clip.pk, tags=tags, set_name=set_name)
        _clean(user, Clip.objects.get(owner=user, name="Last crossing"))
    return user


def _keep(user: User, piece: Piece, at: int, first_bar: int, bars: int, name: str) -> Clip:
    pattern = piece.patterns[at]
    score = score_of(piece, pattern)
    taken = take(score, pattern.dice, Window(first_bar=first_bar, bars=bars))
    clip = take_clip(taken, piece.name, pattern.name)
    return clips.store(user, clip.model_copy(update={"name": name}))


def _throw(
    user: User,
    piece: Piece,
    stored: piece_models.Piece,
    at: int,
    count: int,
    bars: int,
    kept: tuple[int, ...],
) -> None:
    pattern = piece.patterns[at]
    sheet = takes.begin(
        user,
        score_of(piece, pattern),
        pattern.dice,
        Window(bars=bars),
        piece=piece.name,
        pattern=pattern.name,
        piece_id=stored.pk,
        count=count - 1,
    )
    for number in kept:
        takes.keep(user, sheet.pk, number)


def _clean(user: User, stored: Clip) -> None:
    """Take the hits off the clip's end, and scatter some of its last bar into a fill that rises."""
    clip = clips.document_of(stored)
    bar = clip.meter.bar_ticks
    last_beat = clip.length_ticks - bar // 8
    late = [[at for at, note in enumerate(track.notes) if note.start >= last_beat] for track in clip.tracks]
    stored, _ = clips.edit(user, stored.pk, stored.revision, Delete(), late)
    clip = clips.document_of(stored)
    fill = [
        [at for at, note in enumerate(track.notes) if note.start >= clip.length_ticks - bar]
        if track.lane in ("Bottle", "Winch", "Rope")
        else []
        for track in clip.tracks
    ]
    stored, done = clips.edit(user, stored.pk, stored.revision, Scatter(percent=60, throw=7), fill)
    clips.edit(user, stored.pk, stored.revision, Ramp(first=60, last=116), done.chosen)
