"""The lane is rotated."""

from lattice.around.ways.way import Fields, Luck, Subject, Way

__all__ = ["TURN"]


def _change(subject: Subject, target: int, luck: Luck) -> dict[str, Fields]:
    """Rotate it by up to max(1, steps x target / 200) steps, either way."""
    by = luck.sign() * luck.up_to(max(1, subject.steps * target // 200))
    turned = subject.lane.rotate + by
    # Round the cycle, so that it never leaves what a rotation may be.
    return {
        subject.lane.id: {"rotate": turned % subject.steps if turned >= 0 else -(-turned % subject.steps)}
    }


TURN = Way("turn", "All hits move the same way round", lambda subject: subject.steps > 1, _change)
