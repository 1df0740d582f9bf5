"""Which steps are hits, and on which clock: the rule is in `lattice.steps`."""

from lattice.render.stages.stage import Stage

__all__ = ["HITS_STAGE"]

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
    is_moved_by_luck=lambda line: line.is_random,
    widest_at_least=("source.steps",),  # of a span: fewer steps are longer
)
