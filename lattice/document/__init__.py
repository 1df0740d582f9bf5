"""The documents: the one definition that validation, storage, API and types all come from."""

from lattice.document.burst import Burst
from lattice.document.chance import CycleRule, Link, StepRule
from lattice.document.feel import Accent, Humanise, Swing
from lattice.document.kit import DOCKSIDE, Kit, Voice
from lattice.document.lane import Lane
from lattice.document.lane_clip import LaneClip
from lattice.document.meter import Meter
from lattice.document.notes import Control, Note
from lattice.document.piece import Pattern, Piece, Score, score_of
from lattice.document.problems import DocumentError, Problem, explain, read
from lattice.document.source import Drawn, Echo, Euclidean, Made, Moved, Numbered, Reply, Rests, Thrown
from lattice.document.step_value import StepValue
from lattice.document.strip import (
    ChanceStrip,
    ControlStrip,
    Free,
    LengthStrip,
    NudgeStrip,
    OctaveStrip,
    RatchetStrip,
    Spread,
    Strip,
    VelocityStrip,
)
from lattice.document.timing import BarRestart, BarSpan, NoteSpan, Once, PassRestart, StepRange
from lattice.document.turns import Edit, Thin

__all__ = [
    "DOCKSIDE",
    "Accent",
    "BarRestart",
    "BarSpan",
    "Burst",
    "ChanceStrip",
    "Control",
    "ControlStrip",
    "CycleRule",
    "DocumentError",
    "Drawn",
    "Echo",
    "Edit",
    "Euclidean",
    "Free",
    "Humanise",
    "Kit",
    "Lane",
    "LaneClip",
    "LengthStrip",
    "Link",
    "Made",
    "Meter",
    "Moved",
    "Note",
    "NoteSpan",
    "NudgeStrip",
    "Numbered",
    "OctaveStrip",
    "Once",
    "PassRestart",
    "Pattern",
    "Piece",
    "Problem",
    "RatchetStrip",
    "Reply",
    "Rests",
    "Score",
    "Spread",
    "StepRange",
    "StepRule",
    "StepValue",
    "Strip",
    "Swing",
    "Thin",
    "Thrown",
    "VelocityStrip",
    "Voice",
    "explain",
    "read",
    "score_of",
]
