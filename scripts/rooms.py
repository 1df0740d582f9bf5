"""Which browser tests say something of which room: `./test changed` runs them, and a broken page is tried with them.

`python -m scripts.rooms [REV]` prints them for what is changed since REV (HEAD).
"""

import subprocess
import sys
from pathlib import Path

__all__ = ["ROOMS", "browser_tests", "changed_files"]

ROOT = Path(__file__).resolve().parent.parent

# Rooms of the page (`web/src/`) and of the server; engine rooms have tests of their own, which are nearer.
ROOMS = {
    "web/src/account": ["account", "tab_stops"],
    "web/src/api": ["waiting", "shelf"],
    "web/src/app": ["history", "first_minutes", "patterns", "account", "tab_stops"],
    "web/src/around": ["around"],
    "web/src/bench": ["bench", "strips", "chosen_steps"],
    "web/src/clips": ["clips", "clip_editor", "keeping", "library"],
    "web/src/engine": ["asking", "late_answers", "waiting", "ahead_of_answers", "rhythm"],
    "web/src/field": ["around"],
    "web/src/hands": ["hands", "rhythm", "chosen_steps", "ahead_of_answers"],
    "web/src/help": ["first_minutes"],
    "web/src/keyboard": ["keys"],
    "web/src/kit": ["library", "voices"],
    "web/src/lattice": ["hands", "rhythm", "bench", "walks", "tab_stops"],
    "web/src/order": ["order"],
    "web/src/page": ["tab_stops", "hands", "waiting"],
    "web/src/perform": ["moves", "controllers"],
    "web/src/playing": ["moves", "keeping", "patterns", "order", "around", "keys"],
    "web/src/ports": ["ports", "controllers"],
    "web/src/progression": ["melody"],
    "web/src/sentence": ["hands", "rhythm", "bench"],
    "web/src/sheet": ["clip_editor", "takes"],
    "web/src/shelf": ["shelf", "first_minutes", "library"],
    "web/src/sound": ["crossing", "voices", "schedule", "ports", "keeping"],
    "web/src/starters": ["library", "first_minutes"],
    "web/src/takes": ["takes"],
    "web/src/tape": ["keeping", "crossing", "without_server"],
    "web/src/theme": ["views"],
    "web/src/work": ["history", "waiting", "without_server", "late_answers", "ahead_of_answers", "patterns"],
    "server/accounts": ["account"],
    "server/clips": ["clips", "clip_editor"],
    "server/config": ["policy", "waiting"],
    "server/demo": ["shelf", "first_minutes"],
    "server/library": ["library"],
    "server/operations": ["account"],
    "server/pieces": ["history", "waiting", "asking"],
    "server/ports": ["controllers"],
    "server/sounds": ["library"],
    "server/takes": ["takes"],
    "lattice": ["crossing"],
}


def browser_tests(paths: list[str]) -> list[str]:
    """Return the files of browser tests for changed files, in the order of the rooms' table.

    >>> browser_tests(["web/src/takes/TakesView.vue", "tests/browser/test_keys.py"])
    ['test_takes.py', 'test_keys.py']
    """
    tests = [
        f"test_{name}.py"
        for room, names in ROOMS.items()
        for name in names
        if any(path.startswith(f"{room}/") for path in paths)
    ]
    tests += [Path(path).name for path in paths if path.startswith("tests/browser/test_")]
    return list(dict.fromkeys(tests))


def changed_files(since: str) -> list[str]:
    """Return what is not as it was in a revision, files that git does not know yet among it."""
    listed = [["git", "diff", "--name-only", since], ["git", "ls-files", "-o", "--exclude-standard"]]
    return [
        name
        for command in listed
        for name in subprocess.run(
            command, cwd=ROOT, capture_output=True, text=True, check=True
        ).stdout.split()
    ]


if __name__ == "__main__":
    files = changed_files(*sys.argv[1:] or ["HEAD"])
    looks = ["test_views.py"] if any(name.endswith((".vue", ".css")) for name in files) else []
    print(*(f"tests/browser/{name}" for name in dict.fromkeys(browser_tests(files) + looks)))
