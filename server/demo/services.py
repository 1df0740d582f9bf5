"""Making the demo musician and what is theirs."""

from accounts.models import User
from clips import services as clips
from django.db import transaction
from pieces import services as pieces

from demo.pieces import LANTERN_QUAY, NIGHT_FERRY, PIECES
from lattice.clips import keep_bars, make_clip, undisturbed
from lattice.document import Piece, score_of
from lattice.render import Window

__all__ = ["DEMO_NAME", "demo_musician"]

DEMO_NAME = "demo musician"
# Of which piece, from which bar, up to which, called what; the last one kept lies first.
KEPT = (
    (LANTERN_QUAY, 0, 4, "Lamps along the quay"),
    (NIGHT_FERRY, 3, 5, "Two bars off Skerry Light"),
    (NIGHT_FERRY, 8, 12, "Last crossing"),
)


@transaction.atomic
def demo_musician() -> User:
    """Return the demo musician, made with pieces and clips the first time; later nothing is touched."""
    user, is_new = User.objects.get_or_create(username=DEMO_NAME)
    if is_new:
        user.set_unusable_password()
        user.save()
        for piece in PIECES:
            pieces.create(user, piece, label="The demo's own")
        for piece, first, end, name in KEPT:
            _keep(user, piece, first, end, name)
    return user


def _keep(user: User, piece: Piece, first_bar: int, end_bar: int, name: str) -> None:
    pattern = piece.patterns[0]
    score = score_of(piece, pattern)
    tape = undisturbed(score, pattern.dice, Window(bars=end_bar))
    kept = keep_bars(tape, first_bar, end_bar)
    clip = make_clip(kept, tape, score, pattern.dice, piece=piece.name, pattern=pattern.name)
    clips.store(user, clip.model_copy(update={"name": name}))
