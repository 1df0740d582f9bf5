"""Steps copied from one place to another, also into other lanes: hits, the values of their strips, their letters."""

from collections.abc import Mapping
from typing import Annotated, Any

from pydantic import Field

from lattice.document.base import Document, Row
from lattice.document.chance import CycleRule, Letter
from lattice.document.lane import Lane
from lattice.document.problems import DocumentError, read
from lattice.document.strip import STRIPS, PitchStrip, RatchetStrip
from lattice.document.strip_places import strips_of
from lattice.edits.chosen import MAX_CHOSEN, is_hit, numbers_from, turned
from lattice.steps.lane_steps import LaneSteps, steps_as

__all__ = ["Copied", "CopiedStep", "copied", "paste", "pasted", "with_values"]

# Control strips stay with their lane: another lane's controllers are another instrument's.
COPIED_STRIPS = tuple(name for name in STRIPS if name != "control")


class CopiedStep(Document):
    """One step: whether it is a hit, the values that its strips have of their own, its letter, its cycle rule."""

    hit: bool
    values: dict[str, int] = {}
    accidental: Annotated[int, Field(ge=-11, le=11)] = 0
    letter: Letter | None = None
    rule: CycleRule | None = None


class Copied(Document):
    """Steps in the order in which they were played."""

    steps: Annotated[Row[CopiedStep], Field(min_length=1, max_length=MAX_CHOSEN)]
    ratchet: Annotated[
        RatchetStrip | None,
        Field(description="how ratchets fade and climb; its values are those of the steps"),
    ] = None


def copied(lane_steps: LaneSteps, numbers: list[int]) -> Copied:
    """Return the steps of those *numbers*. Raises DocumentError if there are none."""
    if not numbers:
        raise DocumentError.of("", "no step begins there", lane=lane_steps.lane.name)
    hits = is_hit(lane_steps)
    letters = {link.step: link.letter for link in lane_steps.lane.links}
    rules = {row.step: row.rule for row in lane_steps.lane.step_rules}
    strips = [
        at for at in strips_of(lane_steps.lane) if at.name in COPIED_STRIPS and at.strip and not at.strip.free
    ]
    ratchet = lane_steps.lane.ratchet_strip
    return Copied(
        ratchet=ratchet.model_copy(update={"values": (), "free": None, "spread": None}) if ratchet else None,
        steps=tuple(
            CopiedStep(
                hit=hits[number],
                values={
                    at.name: value
                    for at in strips
                    if number < len(at.present.values) and (value := at.present.values[number]) is not None
                },
                accidental=lane_steps.lane.pitch_strip.accidental(number)
                if lane_steps.lane.pitch_strip
                else 0,
                letter=letters.get(number),
                rule=rules.get(number),
            )
            for number in numbers
        ),
    )


def paste(lane_steps: LaneSteps, tick: int, steps: Copied) -> dict[str, Any]:
    """Return the fields of the lane after the copied *steps* were laid down as played, from *tick* on."""
    return pasted(lane_steps, numbers_from(lane_steps, tick, len(steps.steps)), steps)


def pasted(lane_steps: LaneSteps, numbers: list[int], steps: Copied) -> dict[str, Any]:
    """Return the fields of the lane after the copied *steps* were laid on those *numbers*, one after the other.

    Strips of their own length keep their values: they do not belong to steps. Raises DocumentError for a value that its
    strip cannot have.
    """
    laid = dict(zip(numbers, steps.steps, strict=False))
    patch = turned(lane_steps, {number: step.hit for number, step in laid.items()})
    for name in COPIED_STRIPS:
        values = {number: step.values.get(name) for number, step in laid.items()}
        raised = {number: step.accidental for number, step in laid.items()}
        shaped = (
            _shaped(lane_steps, name, steps)
            if any(value is not None for value in values.values())
            else lane_steps
        )
        patch |= with_values(shaped, name, values, raised if name == "pitch" else {})
    letters = {link.step: link.letter for link in lane_steps.lane.links if link.step not in laid}
    letters |= {number: step.letter for number, step in laid.items() if step.letter}
    patch["links"] = [{"step": step, "letter": letter} for step, letter in sorted(letters.items())]
    rules = {row.step: row.rule for row in lane_steps.lane.step_rules if row.step not in laid}
    rules |= {number: step.rule for number, step in laid.items() if step.rule}
    patch["step_rules"] = [
        {"step": step, "rule": rule.model_dump(mode="json")} for step, rule in sorted(rules.items())
    ]
    read(Lane, lane_steps.lane.model_dump(mode="json") | patch)
    return patch


def _shaped(lane_steps: LaneSteps, name: str, steps: Copied) -> LaneSteps:
    """Return *lane_steps* with a ratchet strip that fades and climbs as the copied steps do, if it has none."""
    if name != "ratchet" or lane_steps.lane.ratchet_strip is not None or steps.ratchet is None:
        return lane_steps
    return steps_as(lane_steps, lane_steps.lane.model_copy(update={"ratchet_strip": steps.ratchet}))


def with_values(
    lane_steps: LaneSteps,
    name: str,
    values: dict[int, int | None],
    accidentals: Mapping[int, int] | None = None,
) -> dict[str, Any]:
    """Return the fields that give steps, by their numbers, values of a strip; None: plain.

    *accidentals*: of degrees, by step; those that are not named have none then.
    Nothing for a free strip, and for one that the lane's voice has no use for.
    """
    at = next((at for at in strips_of(lane_steps.lane) if at.name == name), None)
    if at is None or at.present.free:
        return {}
    row = [*at.present.values, *(None,) * lane_steps.steps][: max(lane_steps.steps, len(at.present.values))]
    for number, value in values.items():
        row[number] = value
    while row and row[-1] is None:
        row.pop()
    if not row and at.present.spread is None:
        return {at.kind.field: None} if at.strip else {}
    changed: dict[str, Any] = {"values": row}
    if isinstance(at.present, PitchStrip):
        raised = [at.present.accidental(place) for place in range(max(lane_steps.steps, len(row)))]
        for number in values:
            raised[number] = (accidentals or {}).get(number, 0)
        changed["accidentals"] = raised if any(raised) else []
    return {at.kind.field: at.present.model_dump(mode="json") | changed}
