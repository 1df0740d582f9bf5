"""What was heard of scores with every kind of luck: a file for each, and how they are made.

Kept takes are a score and its dice alone, so what these files hold has to stay. Where a rule of luck has to change,
pieces get a new version, the old one goes on being rendered, and `python -m tests.lattice.golden.heard` writes files
of the new one beside the old: it never writes over one.
"""

import json
from pathlib import Path
from typing import Any

from lattice.clips.take import varied
from lattice.document import Score
from lattice.formats.upgrade import VERSION
from lattice.render import Window
from lattice.screen import sounds
from tests.lattice.golden.lucky import SCORES

FOLDER = Path(__file__).parent
DICE = 20_417
WINDOW = Window(first_bar=3, bars=2)
FAR = Window(first_bar=100_003, bars=1)
PERCENT, THROW = 40, 7


def heard(score: Score) -> dict[str, Any]:
    """Return what is heard of the window, far out, and of the score with its hits thrown, as JSON holds it."""
    return {
        "as it stands": _told(score, WINDOW, {"events", "controls", "held"}),
        "far out": _told(score, FAR, {"events"}),
        "thrown": _told(varied(score, PERCENT, THROW), WINDOW, {"events"}),
    }


def _told(score: Score, window: Window, what: set[str]) -> dict[str, Any]:
    """Return notes and controls; which built-in voice strikes a note, and how, is no part of what was heard."""
    told = sounds(score, DICE, window).model_dump(include=what)
    for column in ("voices", "semitones", "settings"):
        del told["events"][column]
    return told


def main() -> None:
    """Write files of the version of pieces as it is now, unless there are some."""
    folder = FOLDER / f"version_{VERSION}"
    folder.mkdir()
    for name, fields in SCORES.items():
        score = Score.model_validate_json(json.dumps(fields))
        document = {"score": fields, "heard": heard(score)}
        (folder / f"{name}.json").write_text(json.dumps(document, separators=(",", ":")) + "\n")


if __name__ == "__main__":
    main()
