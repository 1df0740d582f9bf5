"""What a lane is played with beside its own line: the tempo, where it counts, and the swing."""

from fractions import Fraction
from typing import NamedTuple

from lattice.document.feel import Swing
from lattice.document.lane import Lane
from lattice.document.piece import Score

__all__ = ["STRAIGHT_ON", "Feel", "feel_of"]


class Feel(NamedTuple):
    """*swing*: the lane's own or else the piece's; *quarters_per_minute*: 0 where no note depends on it."""

    swing: Swing
    quarters_per_minute: Fraction


STRAIGHT_ON = Feel(Swing(), Fraction(0))  # without swing, at no tempo


def feel_of(lane: Lane, score: Score) -> Feel:
    """Return how *lane* is played in *score*: equal for scores that it sounds the same in."""
    strays = lane.humanise is not None and lane.humanise.ms > 0
    return Feel(lane.swing or score.swing, score.quarters_per_minute if strays else Fraction(0))
