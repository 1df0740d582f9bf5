"""Ready-made beginnings: lanes and patterns of our own, to be turned into something else."""

from lattice.starters.beginning import begun
from lattice.starters.grounds import GROUND_BEATS
from lattice.starters.lanes import LANES
from lattice.starters.patterns import PATTERNS
from lattice.starters.starter import MAX_TAGS, Starter, starting_fields

__all__ = ["GROUND_BEATS", "LANES", "MAX_TAGS", "PATTERNS", "Starter", "begun", "starting_fields"]
