"""Where hits come from, in words."""

from typing import Any

from lattice.around.next_number import AIMS, next_number
from lattice.document.ground import Before, GroundSource, Source
from lattice.document.lane import CLOCK_FIELDS, Lane
from lattice.document.limits import limits
from lattice.document.problems import DocumentError
from lattice.document.source import (
    MAX_EVERY,
    MAX_STEPS,
    Computed,
    Drawn,
    Echo,
    Euclidean,
    Made,
    Numbered,
    Reply,
    Rests,
    Thrown,
)
from lattice.edits.ground import free_parts, put_on_ground
from lattice.sentence.setting import Speech
from lattice.sentence.words import Choice, Offer, Word, act, choice, choices, digits, number, ordinal, text
from lattice.steps.numbered import number_of, ways
from lattice.steps.settle import settled
from lattice.steps.source_hits import source_hits
from lattice.theory.grounds import GROUNDS, ground_text
from lattice.units import TICKS_PER_QUARTER

__all__ = [
    "could_follow",
    "followed_choices",
    "ground_choices",
    "next_number_choices",
    "offer_replies",
    "part_choices",
    "say_source",
    "source_choices",
]

_MADE_SAID = {"rests": "rests of", "echo": "echo of", "reply": "reply to"}


def say_source(speech: Speech) -> list[Word]:
    """Return the words of a lane's source. The first or middle one opens the other kinds."""
    source = speech.lane.source
    match source:
        case Drawn(steps=steps):
            said = " step" if steps == 1 else " steps"
            return [
                choice("drawn", "source"),
                text(", "),
                number("steps", "source.steps", steps, 1, MAX_STEPS),
                text(said),
            ]
        case Computed(hits=hits, placed=placed, steps=steps):
            return [
                number("hits", "source.hits", placed, 0, steps, stored=hits),
                text(" "),
                choice("in", "source"),
                text(" "),
                number("steps", "source.steps", steps, 1, MAX_STEPS),
                *([text(f" ({hits} asked for)")] if hits > placed else []),
                *_which(source),
            ]
        case GroundSource():
            return _say_ground(source)
        case Made():
            name = speech.lane_steps.followed.lane.name if speech.lane_steps.followed else ""
            made = [choice(_MADE_SAID[source.kind], "source"), text(" "), choice(name, "lane")]
            return made + _how(source)


def _say_ground(source: GroundSource) -> list[Word]:
    words = [
        choice(source.part, "part"),
        text(" "),
        choice("on", "source"),
        text(" "),
        choice(ground_text(source.ground).name, "ground"),
        text(", "),
        number("across", "source.x", source.x, *limits(GroundSource, "x")),
        text(" across, "),
        number("up", "source.y", source.y, *limits(GroundSource, "y")),
        text(" up"),
    ]
    if source.pinned:
        free = {"source": source.model_dump(mode="json") | {"pinned": False}}
        words += [text(", "), act("pinned", "free to move with the others", free)]
    if source.was:
        said = f"was {_said_before(source.was)}"
        words += [
            text(", "),
            act(said, "off the ground, back to what it was", source.was.model_dump(mode="json")),
        ]
    return words


def _said_before(was: Before) -> str:
    match was.source:
        case Computed(placed=hits, steps=steps):
            return f"{hits} in {steps}"
        case Made() as made:
            return f"{_MADE_SAID[made.kind]} another lane"
        case _:
            return "drawn"


def _which(source: Computed) -> list[Word]:
    match source:
        case Numbered(placed=hits, steps=steps):
            count = ways(hits, steps)
            which = digits("number", "source.number", int(source.number) % count, count - 1)
            return [text(", no. "), which, text(" "), choice(f"of {count:,}", "next number")]
        case Thrown(throw=throw, was=was):
            words = [text(", throw "), number("throw", "source.throw", throw, *limits(Thrown, "throw"))]
            if was is None:
                return words
            said = f"was {was.placed} in {was.steps}"
            return [
                *words,
                text(", "),
                act(said, "back to what it was", {"source": was.model_dump(mode="json")}),
            ]
        case _:
            return []


def _how(source: Made) -> list[Word]:
    match source:
        case Echo(shift=shift):
            return [
                text(", "),
                number("steps later", "source.shift", shift, 0, MAX_STEPS - 1),
                text(" later"),
            ]
        case Reply(every=every) if every > 1:
            each = number("each", "source.every", every, 1, MAX_EVERY)
            return [text(", each "), each, text(f"{ordinal(every)} hit")]
        case _:
            return []


def offer_replies(speech: Speech) -> list[Offer]:
    """Offer what a reply may answer, where it answers every hit."""
    source = speech.lane.source
    if not isinstance(source, Reply) or source.every > 1:
        return []
    said = "each 2nd hit"
    patch = {"source": Reply(of=source.of, every=2).model_dump()}
    return [Offer(setting=said, text=said, explains="It answers only every nth hit.", patch=patch)]


def source_choices(speech: Speech) -> list[Choice]:
    """Return the other sources that a lane could have, as near as can be to what it plays."""
    lane, lane_steps = speech.lane, speech.lane_steps
    drawn = settled(lane_steps)
    of_drawn = drawn["source"]
    if lane_steps.followed:
        hits, steps = of_drawn["hits"], of_drawn["steps"]
    else:
        hits, steps = source_hits(lane.source, lane.id), lane_steps.steps
    said = f"{len(hits)} in {steps}"
    # What was on another lane's clock goes on in its time.
    clock = {field: drawn[field] for field in CLOCK_FIELDS} if lane_steps.followed else {}
    rules: dict[str, tuple[str, Source]] = {
        "euclidean": (f"{said}, spread evenly", Euclidean(hits=len(hits), steps=steps)),
        "numbered": (
            f"{said}, by number",
            Numbered(hits=len(hits), steps=steps, number=str(number_of(hits, steps))),
        ),
        "thrown": (f"{said}, thrown", Thrown(hits=len(hits), steps=steps)),
    }
    patches: dict[str, tuple[str, dict[str, Any]]] = {
        key: (text, {"source": source.model_dump(mode="json")} | clock)
        for key, (text, source) in rules.items()
    }
    patches["drawn"] = (f"drawn, {of_drawn['steps']} steps as they stand", drawn)
    if isinstance(lane.source, GroundSource):
        patches["ground"] = f"on {ground_text(lane.source.ground).name}", {}
    else:
        patches |= _grounds(speech)
    if followed := _nearest(speech):
        for key, made in _made_from(followed, lane.source).items():
            patches[key] = (f"{_MADE_SAID[key]} {followed.name}", _following(made))
    return choices(
        [(key, text) for key, (text, _) in patches.items()], lane.source.kind, lambda key: patches[key][1]
    )


def _grounds(speech: Speech) -> dict[str, tuple[str, dict[str, Any]]]:
    """Return the ground that the lane could stand on: the first of as many steps, or else the first of all."""
    if speech.score is None:
        return {}
    near = sorted(GROUNDS, key=lambda ground: ground_text(ground).steps != speech.lane_steps.steps)
    try:
        patch = put_on_ground(speech.score, speech.score.kit, speech.lane.id, near[0], None)
    except DocumentError:  # every part of it is played
        return {}
    return {"ground": (f"on a ground: {patch['source']['part']} on {ground_text(near[0]).name}", patch)}


def next_number_choices(speech: Speech) -> list[Choice]:
    """Return the next rhythms of a numbered lane that are more even, or more syncopated."""
    source, lane_steps = speech.lane.source, speech.lane_steps
    if not isinstance(source, Numbered):
        return []
    hits = source_hits(source, speech.lane.id)
    step_ticks = max(1, int(lane_steps.clock.step * TICKS_PER_QUARTER))
    fields: dict[str, Any] = {}
    said = [("here", f"no. {number_of(hits, source.steps) + 1:,}")]
    for aim in AIMS:
        number_there = next_number(hits, source.steps, aim, speech.frame.meter, step_ticks)
        if number_there is not None:
            fields[aim] = {
                "source": source.model_copy(update={"number": str(number_there)}).model_dump(mode="json")
            }
            said.append((aim, f"the next {aim}: no. {number_there + 1:,}"))
    return choices(said, "here", fields.__getitem__)


def ground_choices(speech: Speech) -> list[Choice]:
    """Return the grounds that a lane could stand on instead, at the same place."""
    source, score = speech.lane.source, speech.score
    if not isinstance(source, GroundSource) or score is None:
        return []
    fields: dict[str, dict[str, Any]] = {}
    for ground in GROUNDS:
        free = free_parts(score, ground, speech.lane.id)
        if ground == source.ground or not free:
            continue
        part = source.part if source.part in free else None
        fields[ground] = put_on_ground(score, score.kit, speech.lane.id, ground, part, source.x, source.y)
    offered = [ground for ground in GROUNDS if ground == source.ground or ground in fields]
    return choices(
        [(ground, ground_text(ground).name) for ground in offered], source.ground, fields.__getitem__
    )


def part_choices(speech: Speech) -> list[Choice]:
    """Return the parts of its ground that no other lane plays."""
    source, score = speech.lane.source, speech.score
    if not isinstance(source, GroundSource) or score is None:
        return []
    free = free_parts(score, source.ground, speech.lane.id)
    parts = [part for part in ground_text(source.ground).parts if part in free or part == source.part]
    return choices(
        [(part, part) for part in parts],
        source.part,
        lambda part: {"source": source.model_dump(mode="json") | {"part": part}},
    )


def followed_choices(speech: Speech) -> list[Choice]:
    """Return the lanes that a made lane could follow."""
    source = speech.lane.source
    if not isinstance(source, Made):
        return []
    return choices(
        [(other.id, other.name) for other in could_follow(speech)],
        source.of,
        lambda of: {"source": source.model_dump() | {"of": of}},
    )


def _following(made: Made) -> dict[str, Any]:
    plain = {field: Lane.model_fields[field].default for field in CLOCK_FIELDS}
    return {
        "source": made.model_dump(),
        "rotate": 0,
        "complement": False,
        "busy": 0,
        "thin": None,
        "edits": [],
    } | plain


def _made_from(followed: Lane, now: Source) -> dict[str, Made]:
    shift = now.shift if isinstance(now, Echo) else 3
    return {
        "rests": Rests(of=followed.id),
        "echo": Echo(of=followed.id, shift=shift),
        "reply": Reply(of=followed.id),
    }


def could_follow(speech: Speech) -> list[Lane]:
    """Return the lanes that do not follow this one, over however many others: in the pattern's order."""
    by_id = {lane.id: lane for lane in speech.lanes}
    return [lane for lane in speech.lanes if speech.lane.id not in _way(lane, by_id)]


def _way(lane: Lane, by_id: dict[str, Lane]) -> set[str]:
    return {lane.id}.union(*(_way(by_id[of], by_id) for of in lane.reads))


def _nearest(speech: Speech) -> Lane | None:
    """Return the lane that it follows; else the nearest one above that it could; else the nearest below."""
    if speech.lane_steps.followed:
        return speech.lane_steps.followed.lane
    could = could_follow(speech)
    ids = [lane.id for lane in speech.lanes]
    above = [lane for lane in could if ids.index(lane.id) < ids.index(speech.lane.id)]
    return above[-1] if above else could[0] if could else None
