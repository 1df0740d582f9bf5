"""Documents of earlier versions, made into what is written now."""

from typing import Any

__all__ = ["VERSION", "upgraded", "upgraded_lane", "upgraded_rhythm"]

VERSION = 3
_MOST_NOTES = 64  # of a pool, octaves included, since version 3


def upgraded(document: Any) -> Any:
    """Return a piece as JSON holds it, of version 1 or 2, as one of version 3; any other document as it is.

    What is wrong with it is left for the reader of documents to say.
    """
    if not isinstance(document, dict) or document.get("version", 1) not in (1, 2):
        return document
    patterns = document.get("patterns")
    if not isinstance(patterns, list):
        return {**document, "version": VERSION}
    return {**document, "version": VERSION, "patterns": [upgraded_rhythm(pattern) for pattern in patterns]}


def upgraded_rhythm(rhythm: Any) -> Any:
    """Return a pattern, or a score, of an earlier version as one of version 3.

    What was held on the keys belonged to the pattern: now each lane whose pool it filled has it.
    """
    if not isinstance(rhythm, dict) or not isinstance(rhythm.get("lanes"), list):
        return rhythm
    lanes = [upgraded_lane(lane) for lane in rhythm["lanes"]]
    keys = rhythm.get("keys")
    if keys is not None:
        lanes = [lane | {"keys": keys} if _listens(lane) and "keys" not in lane else lane for lane in lanes]
    kept = {field: value for field, value in rhythm.items() if field != "keys"}
    return {**kept, "lanes": lanes}


def upgraded_lane(lane: Any) -> Any:
    """Return a lane of version 1 or 2 as one of version 3.

    Chances of single steps are a chance strip. A pool has no more octaves than can sound together.
    """
    if not isinstance(lane, dict):
        return lane
    return _with_fewer_octaves(_with_chance_strip(lane))


def _with_chance_strip(lane: dict[str, Any]) -> dict[str, Any]:
    if "step_chances" not in lane:
        return lane
    kept = {field: value for field, value in lane.items() if field != "step_chances"}
    try:
        percents = {row["step"]: row["percent"] for row in lane["step_chances"]}
        values = [percents.get(step) for step in range(max(percents, default=-1) + 1)]
    except (KeyError, TypeError):
        return lane  # its reader says what is wrong
    return kept | {"chance_strip": {"values": values}} if values else kept


def _with_fewer_octaves(lane: dict[str, Any]) -> dict[str, Any]:
    arpeggio: Any = lane.get("arpeggio")
    try:
        pool, octaves = arpeggio["pool"], arpeggio.get("octaves", 1)
        size = len(pool.get("notes", ())) if pool["kind"] == "typed" else 1
        size = pool.get("high", 7) - pool.get("low", 0) + 1 if pool["kind"] == "scale" else size
        fewer = min(octaves, max(1, _MOST_NOTES // max(1, size)))
    except (KeyError, TypeError, AttributeError):
        return lane
    return lane if fewer == octaves else lane | {"arpeggio": arpeggio | {"octaves": fewer}}


def _listens(lane: Any) -> bool:
    try:
        return bool(lane["arpeggio"]["pool"]["kind"] == "held")
    except (KeyError, TypeError):
        return False
