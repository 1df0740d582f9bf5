"""The documents: the one definition that validation, storage, API and types all come from."""

from lattice.document.arpeggio import (
    Arpeggio,
    ChordPool,
    HeldPool,
    LanePool,
    Pedal,
    ScalePool,
    TypedPool,
)
from lattice.document.burst import Burst, EveryBars, EveryCycle
from lattice.document.chance import CycleRule, Link, StepRule
from lattice.document.feel import Accent, Humanise, LaneSwing, Swing
from lattice.document.ground import Before, GroundSource
from lattice.document.keys import HeldKey, Keys, Sustain
from lattice.document.kit import DOCKSIDE, Kit, Voice
from lattice.document.lane import Lane
from lattice.document.lane_clip import LaneClip
from lattice.document.meter import Meter
from lattice.document.notes import Control, Note
from lattice.document.piece import Pattern, Piece, Score, score_of
from lattice.document.problems import DocumentError, Problem, explain, read
from lattice.document.progression import PlacedChord, Progression
from lattice.document.scale import Scale
from lattice.document.source import Drawn, Echo, Euclidean, Made, Moved, Numbered, Reply, Rests, Thrown
from lattice.document.step_value import StepValue
from lattice.document.strip import (
    ChanceStrip,
    ChordStrip,
    ControlStrip,
    Free,
    LengthStrip,
    NudgeStrip,
    OctaveStrip,
    PitchStrip,
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
    "Arpeggio",
    "BarRestart",
    "BarSpan",
    "Before",
    "Burst",
    "ChanceStrip",
    "ChordPool",
    "ChordStrip",
    "Control",
    "ControlStrip",
    "CycleRule",
    "DocumentError",
    "Drawn",
    "Echo",
    "Edit",
    "Euclidean",
    "EveryBars",
    "EveryCycle",
    "Free",
    "GroundSource",
    "HeldKey",
    "HeldPool",
    "Humanise",
    "Keys",
    "Kit",
    "Lane",
    "LaneClip",
    "LanePool",
    "LaneSwing",
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
    "Pedal",
    "Piece",
    "PitchStrip",
    "PlacedChord",
    "Problem",
    "Progression",
    "RatchetStrip",
    "Reply",
    "Rests",
    "Scale",
    "ScalePool",
    "Score",
    "Spread",
    "StepRange",
    "StepRule",
    "StepValue",
    "Strip",
    "Sustain",
    "Swing",
    "Thin",
    "Thrown",
    "TypedPool",
    "VelocityStrip",
    "Voice",
    "explain",
    "read",
    "score_of",
]
