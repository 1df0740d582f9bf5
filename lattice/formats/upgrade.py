"""Documents of earlier versions, made into what is written now."""

from typing import Any

__all__ = ["upgraded", "upgraded_lane"]


def upgraded(document: Any) -> Any:
    """Return a piece as JSON holds it, of version 1, as one of version 2; any other document as it is.

    What is wrong with it is left for the reader of documents to say.
    """
    if not isinstance(document, dict) or document.get("version", 1) != 1:
        return document
    patterns = document.get("patterns")
    if not isinstance(patterns, list):
        return {**document, "version": 2}
    return {**document, "version": 2, "patterns": [_upgraded_pattern(pattern) for pattern in patterns]}


def upgraded_lane(lane: Any) -> Any:
    """Return a lane of version 1 as one of version 2: chances of single steps are a chance strip."""
    if not isinstance(lane, dict) or "step_chances" not in lane:
        return lane
    kept = {field: value for field, value in lane.items() if field != "step_chances"}
    try:
        percents = {row["step"]: row["percent"] for row in lane["step_chances"]}
        values = [percents.get(step) for step in range(max(percents, default=-1) + 1)]
    except (KeyError, TypeError):
        return lane  # its reader says what is wrong
    return kept | {"chance_strip": {"values": values}} if values else kept


def _upgraded_pattern(pattern: Any) -> Any:
    if not isinstance(pattern, dict) or not isinstance(pattern.get("lanes"), list):
        return pattern
    return {**pattern, "lanes": [upgraded_lane(lane) for lane in pattern["lanes"]]}
