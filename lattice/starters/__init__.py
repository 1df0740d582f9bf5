"""Ready-made beginnings: lanes, patterns and pieces of our own, to be turned into something else."""

from lattice.starters.beginning import begun, begun_piece
from lattice.starters.grounds import GROUND_BEATS
from lattice.starters.lanes import LANES
from lattice.starters.melodies import MELODIES
from lattice.starters.patterns import PATTERNS
from lattice.starters.pieces import PIECES
from lattice.starters.starter import MAX_TAGS, Kind, Starter, starting_fields

__all__ = [
    "GROUND_BEATS",
    "LANES",
    "MAX_TAGS",
    "MELODIES",
    "PATTERNS",
    "PIECES",
    "SHIPPED",
    "Kind",
    "Starter",
    "begun",
    "begun_piece",
    "starting_fields",
]

SHIPPED = (*LANES, *MELODIES, *PATTERNS, *GROUND_BEATS, *PIECES)
