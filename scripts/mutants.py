"""Break the code on purpose, one place at a time, and say which test notices it.

    ./test mutants                               the changes in searches/mutants.json again, one after the other
    ./test mutants --seed 7 --engine 4 --page 2  so many new changes in each part, chosen by that seed

Each change is made in a copy of the checkout and tried against the tests of its own part, nearest first, which stop at
the first failure: `lattice/` against the engine's tests, `server/` against the server's, `web/src/` against the unit
tests of the page and then those in the browser. *--out FILE* writes what was found; *--only REGEX* tries the changes
whose file matches.
Exit code 1: a change that a test noticed when the list was written is not noticed any more.
"""

import argparse
import ast
import json
import os
import random
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from dataclasses import asdict, dataclass, replace
from pathlib import Path

from scripts.rooms import browser_tests

ROOT = Path(__file__).resolve().parent.parent
LIST = ROOT / "searches/mutants.json"
FILES = {
    "engine": ("lattice", "**/*.py"),
    "server": ("server", "**/*.py"),
    "page": ("web/src", "**/*.[tv][su]*"),
}
# Tests and what is generated; and tables of taste, where another number is another sound and not a fault.
LEFT_OUT = re.compile(
    r"/migrations/|\.test\.ts$|/testing\w*\.ts$|schema\.d\.ts$|\.json$|server/manage\.py"
    r"|lattice/starters/(lanes|progressions|patterns)\.py|document/pitched\.py|server/demo/|config/examples\.py"
)
# A change may make a test run for ever: that it hangs is noticed too.
HANGS = ["-o", "faulthandler_timeout=400", "-o", "faulthandler_exit_on_timeout=true"]

COMPARISONS = {ast.Lt: "<=", ast.LtE: "<", ast.Gt: ">=", ast.GtE: ">", ast.Eq: "!=", ast.NotEq: "=="}
ARITHMETIC = {ast.Add: "-", ast.Sub: "+", ast.Mult: "//", ast.FloorDiv: "*", ast.Mod: "//"}
SCRIPT_OPERATORS = {
    "===": "!==", "!==": "===", "<": "<=", "<=": "<", ">": ">=", ">=": ">",
    "+": "-", "-": "+", "*": "/", "/": "*", "&&": "||", "||": "&&",
}  # fmt: skip
SCRIPT_PLACE = re.compile(
    r" (" + "|".join(re.escape(one) for one in sorted(SCRIPT_OPERATORS, key=len, reverse=True)) + r") "
    r"|(?<![\w.#'\"$-])(\d+)(?![\w.'\"%])"
)


@dataclass(frozen=True)
class Mutant:
    """One change: *before* and *after* are the whole line. *noticed_by*: a test; "": none; None: not tried yet."""

    part: str
    path: str
    line: int
    before: str
    after: str
    noticed_by: str | None = None

    def __str__(self) -> str:
        return f"{self.path}:{self.line}\n    {self.before.strip()}\n  → {self.after.strip()}"


def python_places(source: str) -> Iterator[tuple[int, int, int, str]]:
    """Return what may be changed in a Python file: its line, first and last column in bytes, what to write there."""
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Compare) and type(node.ops[0]) in COMPARISONS:
            left, right, new = node.left, node.comparators[0], COMPARISONS[type(node.ops[0])]
        elif isinstance(node, ast.BinOp) and type(node.op) in ARITHMETIC:
            left, right, new = node.left, node.right, ARITHMETIC[type(node.op)]
        elif isinstance(node, ast.Constant) and type(node.value) is int and node.end_col_offset is not None:
            yield node.lineno, node.col_offset, node.end_col_offset, str(node.value + 1)
            continue
        else:
            continue
        if left.end_lineno == right.lineno and left.end_col_offset is not None:
            yield right.lineno, left.end_col_offset, right.col_offset, f" {new} "


def script_places(source: str) -> Iterator[tuple[int, int, int, str]]:
    """Return the same of a TypeScript file, or of a component's script: laid out by a tool, it needs no parser."""
    is_script = "<script" not in source
    for number, line in enumerate(source.splitlines(), 1):
        if line.startswith(("<script", "</script")):
            is_script = line.startswith("<script")
        elif is_script and not re.match(
            r"\s*(//|/?\*|import |export (type|interface)|type |interface )", line
        ):
            for place in SCRIPT_PLACE.finditer(line.partition(" // ")[0]):
                if any(line[: place.start()].count(quote) % 2 for quote in "'\"`"):
                    continue
                operator, digits = place.groups()
                new = f" {SCRIPT_OPERATORS[operator]} " if operator else str(int(digits) + 1)
                start, end = (len(line[:at].encode()) for at in place.span())
                yield number, start, end, new


def all_mutants(part: str) -> list[Mutant]:
    """Return every change that may be made in a part."""
    folder, pattern = FILES[part]
    mutants = []
    for path in sorted((ROOT / folder).glob(pattern)):
        name = str(path.relative_to(ROOT))
        if LEFT_OUT.search(name):
            continue
        source = path.read_text()
        lines = source.splitlines()
        for number, start, end, new in (
            python_places(source) if path.suffix == ".py" else script_places(source)
        ):
            line = lines[number - 1].encode()
            after = (line[:start] + new.encode() + line[end:]).decode()
            if not set(b"()") & set(line[start:end]) and after != line.decode():
                mutants.append(Mutant(part, name, number, lines[number - 1], after))
    return mutants


def apply(mutant: Mutant, folder: Path) -> bool:
    """Make the change in a copy; False where its line is not there any more."""
    path = folder / mutant.path
    lines = path.read_text().splitlines() if path.exists() else []
    places = [at for at, line in enumerate(lines) if line == mutant.before]
    if not places:
        return False
    lines[min(places, key=lambda at: abs(at - mutant.line + 1))] = mutant.after
    path.write_text("\n".join(lines) + "\n")
    return True


def run(command: list[str], folder: Path, until: float = float("inf")) -> tuple[int | None, str]:
    """Run a command until it ends or its time is over; return its exit code (None: stopped) and what it printed."""
    with tempfile.TemporaryFile("w+") as printed:
        plain = os.environ | {"NO_COLOR": "1"}
        child = subprocess.Popen(
            command, cwd=folder, stdout=printed, stderr=printed, start_new_session=True, env=plain
        )
        try:
            code: int | None = child.wait(min(max(1, until - time.monotonic()), 10**6))
        except subprocess.TimeoutExpired:
            code = None
        finally:
            if child.poll() is None:
                os.killpg(child.pid, signal.SIGKILL)
                child.wait()
        printed.seek(0)
        return code, printed.read()


def pytest_command(*paths: str) -> list[str]:
    return [
        str(ROOT / ".venv/bin/pytest"), "-q", "-x", "--no-header", "-p", "no:cacheprovider", *HANGS,
        "-n", "2", *dict.fromkeys(paths),
    ]  # fmt: skip


def commands(mutant: Mutant, folder: Path) -> Iterator[list[str]]:
    """Return what tries a change, nearest first, and the whole of its part last."""
    rooms = mutant.path.split("/")
    if mutant.part == "page":
        yield ["npm", "--prefix", "web", "test", "--silent", "--", "--bail", "1"]
        yield ["npm", "--prefix", "web", "run", "--silent", "build", "--", "--logLevel", "error"]
        near = [f"tests/browser/{name}" for name in browser_tests([mutant.path])]
        if near:
            yield pytest_command(*near)
        yield pytest_command("tests/browser")
        return
    tests = "tests/lattice" if mutant.part == "engine" else "tests/server"
    near = [one for one in (f"{tests}/{rooms[1]}",) if (folder / one).is_dir()]
    yield pytest_command(*near, tests, *(["lattice"] if mutant.part == "engine" else []))


def noticed_by(mutant: Mutant, folder: Path, until: float = float("inf")) -> str | None:
    """Return the test that notices a change made in *folder*, "" where none does, None where time was over."""
    for command in commands(mutant, folder):
        code, printed = run(command, folder, until)
        if code is None:
            return None
        if code == 0:
            continue
        if "INTERNALERROR" in printed:
            raise RuntimeError(f"the tests themselves broke down:\n{printed[-2000:]}")
        failed_test = re.search(r"^ *(?:FAILED|ERROR|FAIL) +(.+?)(?: - .*)?$", printed, re.M)
        return failed_test[1] if failed_test else f"exit code {code}: {printed.strip()[-100:]}"
    return ""


def copy_checkout(folder: Path) -> None:
    """Copy all that git knows of; what is installed is shared."""
    listed = subprocess.run(
        ["git", "ls-files", "-co", "--exclude-standard"], cwd=ROOT, capture_output=True, text=True, check=True
    )
    for name in listed.stdout.splitlines():
        if (ROOT / name).is_file():
            (folder / name).parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(ROOT / name, folder / name)
    for shared in (".venv", "web/node_modules"):
        (folder / shared).symlink_to(ROOT / shared)
    if (ROOT / "web/dist").exists():
        shutil.copytree(ROOT / "web/dist", folder / "web/dist")


def try_out(mutants: list[Mutant], until: float = float("inf")) -> Iterator[Mutant]:
    """Try changes one after the other; return each with what noticed it."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        folder.chmod(0o755)
        copy_checkout(folder)
        for mutant in mutants:
            if time.monotonic() > until:
                return
            if not apply(mutant, folder):
                print(
                    f"{mutant.path}:{mutant.line} is not there any more: {mutant.before.strip()}", flush=True
                )
                continue
            begun = time.monotonic()
            print(mutant, flush=True)
            done = replace(mutant, noticed_by=noticed_by(mutant, folder, until))
            outcome = {"": "NOBODY NOTICES", None: "no time left"}.get(done.noticed_by, done.noticed_by)
            print(f"  {outcome} ({time.monotonic() - begun:.0f} s)", flush=True)
            shutil.copy2(ROOT / mutant.path, folder / mutant.path)
            yield done


def chosen(counts: dict[str, int], luck: random.Random) -> list[Mutant]:
    """Return so many changes of each part, each place as likely as any other."""
    return [one for part, count in counts.items() for one in luck.sample(all_mutants(part), count)]


def main() -> int:
    parser = argparse.ArgumentParser(prog="./test mutants", usage=__doc__)
    parser.add_argument("--seed", type=int)
    parser.add_argument("--only", default="")
    parser.add_argument("--out", type=Path)
    for part in FILES:
        parser.add_argument(f"--{part}", type=int, default=0)
    options = parser.parse_args()
    if options.seed is None:
        mutants = [Mutant(**one) for one in json.loads(LIST.read_text())]
    else:
        mutants = chosen({part: getattr(options, part) for part in FILES}, random.Random(options.seed))
    mutants = [one for one in mutants if re.search(options.only, one.path)]
    done: list[Mutant] = []
    for one in try_out(mutants):
        done.append(one)
        if options.out:
            options.out.write_text(json.dumps([asdict(each) for each in done], indent=1) + "\n")
    before = {(one.path, one.line, one.after): one.noticed_by for one in mutants}
    unnoticed = [one for one in done if one.noticed_by == ""]
    lost = [one for one in unnoticed if before[one.path, one.line, one.after]]
    print(f"\n{len(done)} changes, {len(unnoticed)} that nobody notices, {len(lost)} noticed before")
    print(*unnoticed, sep="\n")
    return 1 if lost else 0


if __name__ == "__main__":
    sys.exit(main())
