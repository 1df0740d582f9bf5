"""The documents: the one definition that validation, storage, API and types all come from."""

from lattice.document.kit import DOCKSIDE, Kit, Voice
from lattice.document.lane import Lane
from lattice.document.meter import Meter
from lattice.document.piece import Pattern, Piece, Score, score_of
from lattice.document.problems import DocumentError, Problem, explain, read
from lattice.document.source import Drawn, Euclidean, Numbered, Thrown
from lattice.document.step_value import StepValue
from lattice.document.timing import BarSpan, NoteSpan
from lattice.document.turns import Edit, Thin

__all__ = [
    "DOCKSIDE",
    "BarSpan",
    "DocumentError",
    "Drawn",
    "Edit",
    "Euclidean",
    "Kit",
    "Lane",
    "Meter",
    "NoteSpan",
    "Numbered",
    "Pattern",
    "Piece",
    "Problem",
    "Score",
    "StepValue",
    "Thin",
    "Thrown",
    "Voice",
    "explain",
    "read",
    "score_of",
]
