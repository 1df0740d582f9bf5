"""Where hits come from, in words."""

from typing import Any

from lattice.document.source import MAX_STEPS, MAX_THROW, Computed, Drawn, Euclidean, Numbered, Source, Thrown
from lattice.rhythm.numbered import number_of, ways
from lattice.rhythm.source_hits import source_hits
from lattice.sentence.setting import Speech
from lattice.sentence.words import Choice, Word, choice, digits, number, text

__all__ = ["say_source"]

# A drawn source holds all that was done to the hits: the turns are taken back with it.
_PLAIN_TURNS: dict[str, Any] = {"rotate": 0, "complement": False, "thin": None, "edits": []}


def say_source(speech: Speech) -> list[Word]:
    """Return the words of a lane's source. The one in the middle opens the other kinds."""
    source = speech.lane.source
    match source:
        case Drawn():
            steps = number("steps", "source.steps", source.steps, 1, MAX_STEPS)
            said = " step" if source.steps == 1 else " steps"
            return [choice("drawn", "source", _kinds(speech)), text(", "), steps, text(said)]
        case Computed():
            words = [
                number("hits", "source.hits", source.hits, 0, source.steps),
                text(" "),
                choice("in", "source", _kinds(speech)),
                text(" "),
                number("steps", "source.steps", source.steps, max(1, source.hits), MAX_STEPS),
            ]
            return words + _which(source)


def _which(source: Computed) -> list[Word]:
    match source:
        case Numbered():
            count = ways(source.hits, source.steps)
            which = digits("number", "source.number", int(source.number) % count, count - 1)
            return [text(", no. "), which, text(f" of {count:,}")]
        case Thrown():
            return [text(", throw "), number("throw", "source.throw", source.throw, 1, MAX_THROW)]
        case _:
            return []


def _kinds(speech: Speech) -> list[Choice]:
    source, settled = speech.lane.source, speech.settled
    hits = source_hits(source, speech.lane.id)
    count, steps = len(hits), source.steps
    said = f"{count} in {steps}"
    kinds: list[tuple[str, Source, dict[str, Any]]] = [
        (f"{said}, spread evenly", Euclidean(hits=count, steps=steps), {}),
        (f"{said}, by number", Numbered(hits=count, steps=steps, number=str(number_of(hits, steps))), {}),
        (f"{said}, thrown", Thrown(hits=count, steps=steps), {}),
        (f"drawn, {settled.steps} steps as they stand", settled, _PLAIN_TURNS),
    ]
    return [
        Choice(
            text=text,
            patch={} if kind.kind == source.kind else {"source": kind.model_dump(mode="json")} | turns,
            chosen=kind.kind == source.kind,
        )
        for text, kind, turns in kinds
    ]
