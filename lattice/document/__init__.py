"""The documents: the one definition that validation, storage, API and types all come from."""

from lattice.document.chance import StepChance
from lattice.document.kit import DOCKSIDE, Kit, Voice
from lattice.document.lane import Lane
from lattice.document.meter import Meter
from lattice.document.piece import Pattern, Piece, Score, score_of
from lattice.document.problems import DocumentError, Problem, explain, read
from lattice.document.source import Drawn, Echo, Euclidean, Made, Moved, Numbered, Reply, Rests, Thrown
from lattice.document.step_value import StepValue
from lattice.document.timing import BarRestart, BarSpan, NoteSpan, Once, PassRestart, StepRange
from lattice.document.turns import Edit, Thin

__all__ = [
    "DOCKSIDE",
    "BarRestart",
    "BarSpan",
    "DocumentError",
    "Drawn",
    "Echo",
    "Edit",
    "Euclidean",
    "Kit",
    "Lane",
    "Made",
    "Meter",
    "Moved",
    "NoteSpan",
    "Numbered",
    "Once",
    "PassRestart",
    "Pattern",
    "Piece",
    "Problem",
    "Reply",
    "Rests",
    "Score",
    "StepChance",
    "StepRange",
    "StepValue",
    "Thin",
    "Thrown",
    "Voice",
    "explain",
    "read",
    "score_of",
]
