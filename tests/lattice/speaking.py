"""Lanes that speak: what tests of sentences say."""

from lattice.document import (
    Lane,
    Score,
)
from lattice.render.pitch_context import pitch_context_of
from lattice.sentence import (
    Sentence,
    Speech,
    sentence,
)
from lattice.steps.lane_steps import steps_of_lanes
from tests.lattice.scores import score


def speeches(score: Score) -> list[Speech]:
    return [
        Speech(lane_steps, pitch_context_of(lane_steps.lane, score, 1), score)
        for lane_steps in steps_of_lanes(score, 1)
    ]


def spoken(lane: Lane, *others: Lane) -> Sentence:
    return sentence(speeches(score(*others, lane))[-1])


def text(lane: Lane, *others: Lane) -> str:
    return " · ".join("".join(word.text for word in part.words) for part in spoken(lane, *others).parts)
