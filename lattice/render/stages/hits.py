"""Which steps are hits, and on which clock: the rule is in `lattice.steps`."""

from lattice.render.stages.stage import NeverRepeatsError, Reading, Round, Stage

__all__ = ["HITS_STAGE"]


def _repeats(reading: Reading) -> Round:
    """The hits themselves are what all others are counted in: see `lattice.render.periods`."""
    if reading.lane_steps.is_random and not reading.lane_steps.lane.luck_bars:
        raise NeverRepeatsError("luck decides its order")
    return Round()


HITS_STAGE = Stage(
    "hits",
    frozenset(
        {
            "source",
            "rotate",
            "complement",
            "busy",
            "thin",
            "edits",
            "step_value",
            "span",
            "once",
            "step_range",
        }
        | {"direction", "restart", "luck_bars"}
    ),
    repeats=_repeats,
    is_moved_by_luck=lambda lane_steps: lane_steps.is_random,
    widest_at_least=("source.steps",),  # of a span: fewer steps are longer
)
