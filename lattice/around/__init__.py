"""Looking around: patterns in the neighbourhood of one."""

from lattice.around.candidates import Candidate, Candidates, candidate, candidates
from lattice.around.ways import WAYS, WayName

__all__ = ["WAYS", "Candidate", "Candidates", "WayName", "candidate", "candidates"]
