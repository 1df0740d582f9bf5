"""Making the demo musician and what is theirs."""

from accounts.models import User
from clips import services as clips
from django.db import transaction
from pieces import services as pieces

from demo.pieces import PIECES
from lattice.clips import keep_bars, make_clip, undisturbed
from lattice.document import score_of
from lattice.render import Window

__all__ = ["DEMO_NAME", "demo_musician"]

DEMO_NAME = "demo musician"
KEPT = ((0, 0, 4), (0, 8, 12), (2, 3, 5))  # of which piece, from which bar, up to which


@transaction.atomic
def demo_musician() -> User:
    """Return the demo musician, made with pieces and clips the first time; later nothing is touched."""
    user, is_new = User.objects.get_or_create(username=DEMO_NAME)
    if is_new:
        user.set_unusable_password()
        user.save()
        for piece in PIECES:
            pieces.create(user, piece, label="The demo's own")
        for number, first, end in KEPT:
            _keep(user, number, first, end)
    return user


def _keep(user: User, number: int, first_bar: int, end_bar: int) -> None:
    piece = PIECES[number]
    pattern = piece.patterns[0]
    score = score_of(piece, pattern)
    tape = undisturbed(score, pattern.dice, Window(bars=end_bar))
    kept = keep_bars(tape, first_bar, end_bar)
    clips.store(user, make_clip(kept, tape, score, pattern.dice, piece=piece.name, pattern=pattern.name))
