"""Search at random for what is wrong, as long as asked: properties, the API, MIDI files, hands, changed engines.

Prints what reproduces each find; a find becomes an example of the default tests. A change of the engine that no test
notices (a survivor) is named too, and is no failure.
"""

import random
import sys
import time

from scripts.mutants import ROOT, chosen, run, try_out

PYTEST = [str(ROOT / ".venv/bin/pytest"), "-q", "-x", "--no-header", "-p", "no:cacheprovider"]
MINUTES = 20


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
    broken = try_out(chosen({"engine": 10}, luck), until)
    survivors = [one for one in broken if one.noticed_by == ""]
    print(f"\n{rounds} rounds, {len(found)} finds, {len(survivors)} changed lines that no test noticed")
    print(*survivors, sep="\n")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
