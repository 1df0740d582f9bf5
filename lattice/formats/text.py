"""A pattern as text, to be read in a terminal."""

import numpy as np

from lattice.document.piece import Score
from lattice.render.pitch_context import PitchContext, pitch_context_of
from lattice.sentence import Speech, sentence
from lattice.sentence.detours import detour_words
from lattice.steps.lane_steps import LaneSteps, steps_of_lanes

__all__ = ["pattern_text"]

MAX_PLACES = 128


def pattern_text(score: Score, dice: int) -> str:
    """Return a line for each lane: its name, its first cycle as played (x a hit, . a rest), what acts on it.

    Hits are those before chance. The pattern's detours follow, a line each.
    """
    lines = steps_of_lanes(score, dice)
    tunes = [pitch_context_of(lane, score, dice) for lane in score.lanes]
    rows = [
        (lane_steps.lane.name, _first_cycle(lane_steps), _said(lane_steps, context))
        for lane_steps, context in zip(lines, tunes, strict=True)
    ]
    widths = [max((len(row[column]) for row in rows), default=0) for column in (0, 1)]
    detours = [
        "".join(word.text for word in detour_words(one, place, score.lanes))
        for place, one in enumerate(score.detours)
    ]
    said_lanes = [f"{name:<{widths[0]}}  {hits:<{widths[1]}}  {said}" for name, hits, said in rows]
    return "\n".join([*said_lanes, *detours])


def _first_cycle(lane_steps: LaneSteps) -> str:
    length = min(lane_steps.clock.cycle, lane_steps.clock.per_run or lane_steps.clock.cycle, MAX_PLACES)
    return "".join(np.where(lane_steps.hits(0, length), "x", ".").tolist())


def _said(lane_steps: LaneSteps, context: PitchContext | None) -> str:
    parts = sentence(Speech(lane_steps, context)).parts
    return " · ".join("".join(word.text for word in part.words) for part in parts)
