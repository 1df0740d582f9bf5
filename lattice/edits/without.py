"""What a lane becomes when one that it reads is gone: drawn as it stood, or with what sounded there for a pool."""

from typing import Any

from lattice.document.arpeggio import MAX_TYPED, HeldPool, LanePool, Pool, TypedPool
from lattice.document.piece import Score
from lattice.document.source import Made
from lattice.render.pipeline import sounding_in
from lattice.render.pitch_context import PitchContext
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.settle import settled

__all__ = ["without_lanes"]

_BARS = 8  # of the other lane are listened to


def without_lanes(
    lane_steps: LaneSteps, context: PitchContext | None, score: Score
) -> dict[str, dict[str, Any]]:
    """Return, by the id of each lane that the lane of *lane_steps* reads, the fields that let it go on without that."""
    lane = lane_steps.lane
    found: dict[str, dict[str, Any]] = {of: {} for of in lane.reads}
    if isinstance(lane.source, Made):
        found[lane.source.of] |= settled(lane_steps)
    if lane.arpeggio and isinstance(lane.arpeggio.pool, LanePool):
        pool = _heard(context, score)
        arpeggio = lane.arpeggio.model_copy(update={"pool": pool})
        found[lane.arpeggio.pool.of] |= {"arpeggio": arpeggio.model_dump(mode="json")}
    return found


def _heard(context: PitchContext | None, score: Score) -> Pool:
    """Return a pool of the notes that sound in the lane that is read; held keys where none is heard."""
    if context is None or context.source is None:
        return HeldPool()
    end = min(score.bars, _BARS) * score.meter.bar_ticks
    pitches = sorted(set(sounding_in(context.source, 0, end)[2].tolist()))
    return TypedPool(notes=tuple(pitches[:MAX_TYPED])) if pitches else HeldPool()
