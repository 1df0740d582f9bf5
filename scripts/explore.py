"""Search at random for what is wrong, as long as asked: properties, the API, MIDI files, hands, changed engines.

Prints what reproduces each find; a find becomes an example of the default tests. A change of the engine that no test
notices (a survivor) is named too, and is no failure.
"""

import ast
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

ROOT = Path(__file__).parent.parent
PYTEST = [str(ROOT / ".venv/bin/pytest"), "-q", "-x", "--no-header", "-p", "no:cacheprovider"]
MINUTES = 20

COMPARED = {ast.Lt: "<=", ast.LtE: "<", ast.Gt: ">=", ast.GtE: ">", ast.Eq: "!=", ast.NotEq: "=="}
RECKONED = {ast.Add: "-", ast.Sub: "+", ast.Mult: "//", ast.FloorDiv: "*", ast.Mod: "//"}


def run(command: list[str], folder: Path, until: float) -> tuple[int | None, str]:
    """Run a command until it ends or its time is over; return its exit code (None: stopped) and what it printed."""
    with tempfile.TemporaryFile("w+") as said:
        child = subprocess.Popen(command, cwd=folder, stdout=said, stderr=said, start_new_session=True)
        try:
            code: int | None = child.wait(max(1, until - time.monotonic()))
        except subprocess.TimeoutExpired:
            code = None
        finally:
            if child.poll() is None:
                os.killpg(child.pid, signal.SIGKILL)
                child.wait()
        said.seek(0)
        return code, said.read()


def changes(source: str) -> list[tuple[int, int, int, str]]:
    """Return what may be changed in a file: for each its line, first and last column, and what to write there."""
    found = []
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Compare) and type(node.ops[0]) in COMPARED:
            between, new = (node.left, node.comparators[0]), COMPARED[type(node.ops[0])]
        elif isinstance(node, ast.BinOp) and type(node.op) in RECKONED:
            between, new = (node.left, node.right), RECKONED[type(node.op)]
        elif isinstance(node, ast.Constant) and type(node.value) is int and node.end_col_offset is not None:
            found.append((node.lineno, node.col_offset, node.end_col_offset, str(node.value + 1)))
            continue
        else:
            continue
        left, right = between
        if left.end_lineno == right.lineno and left.end_col_offset is not None:
            found.append((right.lineno, left.end_col_offset, right.col_offset, f" {new} "))
    return found


def changed(folder: Path, luck: random.Random) -> tuple[Path, str] | None:
    """Change one line of an engine's copy; return its file and what was done, or None where it became no program."""
    path = luck.choice([one for one in sorted(folder.glob("lattice/**/*.py")) if changes(one.read_text())])
    source = path.read_text()
    line, start, end, new = luck.choice(changes(source))
    lines = source.splitlines(keepends=True)
    # Columns are counted in bytes of UTF-8.
    before = lines[line - 1].encode()
    after = before[:start] + new.encode() + before[end:]
    brackets = before[start:end]
    if b"(" in brackets or b")" in brackets or before == after:
        return None
    lines[line - 1] = after.decode()
    path.write_text("".join(lines))
    told = f"{path.relative_to(folder)}:{line}\n    {before.decode().strip()}\n  → {after.decode().strip()}"
    return path, told


def mutants(count: int, luck: random.Random, until: float) -> list[str]:
    """Change *count* random lines of the engine, one at a time; return those that no test noticed."""
    survivors = []
    with tempfile.TemporaryDirectory() as name:
        copy = Path(name)
        for part in ("lattice", "tests", "docs", "pyproject.toml", "CONTRIBUTING.md"):
            source = ROOT / part
            (shutil.copytree if source.is_dir() else shutil.copy)(source, copy / part)
        shutil.rmtree(copy / "tests/browser")
        shutil.rmtree(copy / "tests/server")
        for part in ("server", "web", "scripts"):
            (copy / part).symlink_to(ROOT / part)
        done = 0
        while done < count and time.monotonic() < until:
            made = changed(copy, luck)
            if made is None:
                continue
            done += 1
            path, told = made
            print(f"changed {told}", flush=True)
            code, _ = run([*PYTEST, "-n", "2", "tests/lattice"], copy, until)
            original = ROOT / path.relative_to(copy)
            shutil.copy(original, path)
            print("  " + {0: "SURVIVED", None: "not decided: no time left"}.get(code, "noticed"), flush=True)
            if code == 0:
                survivors.append(told)
    return survivors


def main() -> int:
    minutes = float(sys.argv[1]) if len(sys.argv) > 1 else MINUTES
    seed = random.randrange(2**32)
    luck = random.Random(seed)
    print(f"Searching for {minutes:g} minutes; seed of the changed lines: {seed}", flush=True)
    begun = time.monotonic()
    until = begun + 60 * minutes
    searches = {
        "the API": ["searches/test_api.py"],
        "MIDI files": ["searches/test_files.py"],
        "a night of random hands": ["searches/test_night.py", "-rP"],
        "properties": ["-n", "2", "-m", "hypothesis", "tests/lattice", "tests/server"],
    }
    found: list[str] = []
    rounds = 0
    # Three quarters of the time for searching, the last for changed lines.
    while time.monotonic() < begun + 45 * minutes:
        rounds += 1
        for what, asked in searches.items():
            code, said = run([*PYTEST, *asked], ROOT, begun + 45 * minutes)
            print(f"{what}, round {rounds}: {'found something' if code else 'nothing found'}", flush=True)
            print(
                *(line for line in said.splitlines() if line.startswith("FIGURE")),
                sep="\n",
                end="",
                flush=True,
            )
            if code:
                found.append(f"== {what} ==\n{said[-8000:]}")
                print(found[-1], flush=True)
    survivors = mutants(10, luck, until)
    print(f"\n{rounds} rounds, {len(found)} finds, {len(survivors)} changed lines that no test noticed")
    for told in survivors:
        print(told)
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
