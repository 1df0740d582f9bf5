"""What the screens for looking around show: a field of candidates, one of them, the grounds, the kinds of detour."""

from collections.abc import Sequence
from typing import Any, NamedTuple

import numpy as np
from pydantic import BaseModel, TypeAdapter

from lattice.around import WAYS, Candidates, WayName, candidate, candidates
from lattice.around.measured import measured
from lattice.document.detour import (
    PACES,
    Detour,
    DetourKind,
    OnlyDetour,
    PaceDetour,
    RepeatDetour,
    ShiftDetour,
    Variation,
)
from lattice.document.lane import Lane
from lattice.document.limits import limits
from lattice.document.meter import Meter
from lattice.document.piece import Score
from lattice.document.step_value import StepValue
from lattice.sentence.step_value import say_step_value
from lattice.steps.ground import ground_meter, places_of
from lattice.steps.lane_steps import steps_of_lanes
from lattice.theory.grounds import GROUNDS, GroundId, Part, ground_text
from lattice.units import Ticks

__all__ = [
    "Around",
    "CandidatePicture",
    "FieldPicture",
    "around",
    "candidate_picture",
    "field_picture",
]


START = -1  # the number of where a field begins


class FieldPoint(BaseModel):
    """A candidate in a field: *number* as the engine counts, from 0; -1 for the start. Measures as in `Candidate`."""

    number: int
    hits_a_bar: float
    syncopation: float
    evenness: float
    distance: float


class FieldPicture(BaseModel):
    """*points* around a *start*. *says*: how many, and what was left out; *nearest*: hits a bar, see `Candidates`."""

    start: FieldPoint
    points: list[FieldPoint]
    says: str
    nearest: float | None


class ThreadBeside(BaseModel):
    """A lane of a candidate, in ticks: its *steps*, its *hits*, those that *came*, and that are *gone*."""

    id: str
    steps: list[int]
    hits: list[int]
    came: list[int]
    gone: list[int]


class CandidatePicture(BaseModel):
    """One candidate: the fields that make it by lane id, what its lanes play in the first *end_tick* ticks, its
    measures, and what they say beside the start's."""

    patches: dict[str, dict[str, Any]]
    end_tick: int
    threads: list[ThreadBeside]
    point: FieldPoint
    says: str


class StandPicture(BaseModel):
    """A stand of a ground at (x, y): each part's strengths from 0 to 3."""

    name: str
    x: int
    y: int
    parts: dict[Part, list[int]]


class GroundPicture(BaseModel):
    """A ground: its meter, its parts, its stands."""

    id: GroundId
    name: str
    steps: int
    meter: Meter
    parts: list[Part]
    stands: list[StandPicture]


class WayLine(BaseModel):
    """A way and what it does."""

    name: WayName
    explains: str


class DetourOption(BaseModel):
    """A detour that can be chosen for its kind, as it is said."""

    text: str
    detour: Detour


class DetourLine(BaseModel):
    """A kind of detour. *plain*: the one to begin with; its one number is the *field* from *low* to *high*, in *unit*;
    or there are *options* to choose from."""

    kind: DetourKind
    explains: str
    plain: Detour
    field: str = ""
    low: int = 0
    high: int = 0
    unit: str = ""
    options: list[DetourOption] = []


class Around(BaseModel):
    """All that can be looked around with."""

    ways: list[WayLine]
    grounds: list[GroundPicture]
    detours: list[DetourLine]


def around() -> Around:
    """Return the ways, grounds and kinds of detour that there are."""
    return Around(
        ways=[WayLine.model_validate({"name": way.name, "explains": way.explains}) for way in WAYS.values()],
        grounds=[_ground(ground) for ground in GROUNDS],
        detours=_detours(),
    )


def _ground(ground: GroundId) -> GroundPicture:
    text = ground_text(ground)
    return GroundPicture(
        id=ground,
        name=text.name,
        steps=text.steps,
        meter=ground_meter(text),
        parts=list(text.parts),
        stands=[
            StandPicture(
                name=stand.name, x=x, y=y, parts={part: list(row) for part, row in stand.parts.items()}
            )
            for stand, (x, y) in zip(text.stands, places_of(ground), strict=True)
        ],
    )


_REPEATS = (
    StepValue(note=2),
    StepValue(note=4),
    StepValue(note=8),
    StepValue(note=8, kind="triplet"),
    StepValue(note=16),
    StepValue(note=16, kind="triplet"),
    StepValue(note=32),
)


def _detours() -> list[DetourLine]:
    low, high = limits(Variation, "distance")
    down, up = limits(ShiftDetour, "degrees")
    return [
        DetourLine(
            kind="variation",
            explains="A pattern near this one, another at each press; anchored lanes stay.",
            plain=Variation(),
            field="distance",
            low=low,
            high=high,
            unit=" %",
        ),
        DetourLine(
            kind="repeat",
            explains="The same short stretch again and again.",
            plain=RepeatDetour(),
            options=[
                DetourOption(text=say_step_value(length), detour=RepeatDetour(length=length))
                for length in _REPEATS
            ],
        ),
        DetourLine(
            kind="shift",
            explains="Melodic lanes move up or down the scale.",
            plain=ShiftDetour(degrees=2),
            field="degrees",
            low=down,
            high=up,
            unit=" degrees",
        ),
        DetourLine(
            kind="pace",
            explains="Faster or slower, from the next beat.",
            plain=PaceDetour(),
            options=[DetourOption(text=f"x {times}", detour=PaceDetour(times=times)) for times in PACES],
        ),
        DetourLine(
            kind="only",
            explains="Only the lanes that were chosen when it was set sound.",
            plain=OnlyDetour(lanes=("lane-1",)),
        ),
    ]


# ---- The field ----


def field_picture(
    score: Score, count: int, distance: int, ways: Sequence[WayName], throw: int, least: float, most: float
) -> FieldPicture:
    """Return a field of candidates: see `candidates`, which says what is refused."""
    found = candidates(score, count, distance, ways, throw, least, most)
    return FieldPicture.model_construct(
        start=_point(START, found.start),
        points=[_point(one.number, one) for one in found.found],
        says=_said(found, score, distance, least, most),
        nearest=found.nearest if not found.found else None,
    )


def _point(number: int, one: Any) -> FieldPoint:
    return FieldPoint.model_construct(
        number=number,
        hits_a_bar=round(one.hits_a_bar, 4),
        syncopation=round(one.syncopation, 4),
        evenness=round(one.evenness, 4),
        distance=round(one.distance, 4),
    )


def _said(found: Candidates, score: Score, distance: int, least: float, most: float) -> str:
    left_out = [
        f"{count:,} {said}"
        for count, said in (
            (found.too_few, f"with fewer than {least:g} hits a bar"),
            (found.too_many, f"with more than {most:g}"),
            (0 if found.found else found.heard_already, "heard already"),
        )
        if count
    ]
    without = f"; of {found.looked_at:,} looked at, left out {', '.join(left_out)}" if left_out else ""
    if not found.found:
        nearest = f": the nearest has {found.nearest:.3g} hits a bar" if found.nearest is not None else ""
        return f"No pattern within these limits{nearest}{without}."
    anchored = [lane.name for lane in score.lanes if lane.anchored]
    kept = f" · {_listed(anchored)} anchored" if anchored else ""
    return f"{len(found.found):,} patterns, up to {distance} % away{kept}{without}"


def _listed(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


class _Onsets(NamedTuple):
    steps: Ticks
    hits: Ticks


def candidate_picture(score: Score, asked: Variation | None) -> CandidatePicture:
    """Return one candidate, or the start if none is asked for. Raises DocumentError as `candidate` does."""
    changes = candidate(score, asked.distance, asked.ways, asked.throw, asked.number) if asked else {}
    lanes = tuple(lane.model_copy(update=changes.get(lane.id, {})) for lane in score.lanes)
    there = score.model_copy(update={"lanes": lanes})
    bar = score.meter.bar_ticks
    end = (
        bar
        if all(
            lane_steps.clock.cycle_quarters <= score.meter.bar_quarters
            for lane_steps in steps_of_lanes(there, 0)
        )
        else 2 * bar
    )
    now, then = (_onsets(one, end) for one in (there, score))
    own, its = (measured(one, [{}]) for one in (score, there))
    moved = measured(score, [changes])
    point = FieldPoint(
        number=asked.number if asked else START,
        hits_a_bar=float(its.hits_a_bar[0]),
        syncopation=float(its.syncopation[0]),
        evenness=float(its.evenness[0]),
        distance=float(moved.distance[0]),
    )
    return CandidatePicture(
        patches={lane_id: _as_json(fields) for lane_id, fields in changes.items()},
        end_tick=end,
        threads=[
            ThreadBeside(
                id=lane.id,
                steps=here.steps.tolist(),
                hits=here.hits.tolist(),
                came=np.setdiff1d(here.hits, was.hits).tolist(),
                gone=np.setdiff1d(was.hits, here.hits).tolist(),
            )
            for lane, here, was in zip(lanes, now, then, strict=True)
        ],
        point=point,
        says=_beside(point, float(own.hits_a_bar[0]), float(own.syncopation[0])),
    )


def _beside(point: FieldPoint, hits: float, syncopation: float) -> str:
    said = [f"{point.hits_a_bar:.3g} hits a bar", f"{point.distance:.3g} of them elsewhere"]
    if round(point.hits_a_bar - hits, 6):
        said.append("busier than the start" if point.hits_a_bar > hits else "sparser than the start")
    if round(point.syncopation - syncopation, 6):
        said.append("more off the beat" if point.syncopation > syncopation else "more on the beat")
    return " · ".join(said)


def _onsets(score: Score, end: int) -> list[_Onsets]:
    rows = []
    for lane_steps in steps_of_lanes(score, 0):
        count = lane_steps.clock.first_at(end)
        starts = lane_steps.clock.starts(np.arange(count))
        rows.append(_Onsets(starts, starts[lane_steps.hits(0, count)]))
    return rows


_FIELDS = {name: TypeAdapter[Any](field.annotation or object) for name, field in Lane.model_fields.items()}


def _as_json(fields: dict[str, Any]) -> dict[str, Any]:
    return {name: _FIELDS[name].dump_python(value, mode="json") for name, value in fields.items()}
