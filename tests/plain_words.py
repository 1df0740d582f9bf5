"""Words that the interface does not use, each with what it says instead: where the trade has a plain word, it is that one."""

import re
from collections.abc import Iterable

__all__ = ["NOT_SAID", "unplain"]

NOT_SAID: dict[str, str] = {
    r"\brolls? on\b|\brolls\b": "ratchet",
    r"^take (it |this |these |all |“.*” )?away\b|\bdownload\b": "Export",
    r"^leave it$": "Cancel",
    r"^do (it )?again$": "Redo",
    r"\bround and round\b|^goes$|\bgoes round\b": "loops",
    r"\ball alike\b": "set all",
    r"^closer$": "compress",
    r"^wider$": "expand",
    r"\beach as likely\b": "even odds",
    r"\bgoes with the lane\b": "one value a step",
    r"^free$|, free$": "own length",
    r"^steady$": "no spread",
    r"\bstrays\b": "spread",
    r"\bfresh for ever\b": "new luck each time",
    r"\bluck again\b": "luck repeats",
    r"^(all )?moved$": "distance from the start",
    r"\bled closely\b": "nearest voicing",
    r"\bmake it fit\b": "fit the pool to the hits",
    r"let the pattern['’]s go": "clear the held notes",
    r"\bstanding free\b": "not anchored",
    r"\bplays itself\b": "plays its own notes",
    r"\bswing (in|out)\b": "swing, straighten",
    r"\bturned (once|twice)\b": "1st inversion, 2nd inversion",
    r"\b\d+\.\d+ bars?\b": "2 1/2 bars, or a note value",
    r"\b\d+ % off\b": "50 % different",
    r"^keys$": "Keyboard, or Shortcuts",
}
"""Patterns, whatever the case, and what is said instead."""


def unplain(texts: Iterable[str]) -> list[str]:
    """Return what of *texts* says something that is not said here, and what to say."""
    return [
        f"“{text}”: say “{instead}”"
        for text in dict.fromkeys(" ".join(text.split()) for text in texts)
        for pattern, instead in NOT_SAID.items()
        if re.search(pattern, text, re.IGNORECASE)
    ]
