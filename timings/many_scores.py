"""Render so many different scores in one process and print how much memory it took at its largest, in MB."""

import random
import sys
from pathlib import Path

from hypothesis import HealthCheck, Phase, given, settings

from lattice.document import Score
from lattice.render import Window
from lattice.screen import picture
from tests.lattice.scores import scores

BASES = 100


def bases() -> list[Score]:
    """Return scores that hold everything at once, from small to large."""
    found: list[Score] = []

    @settings(
        max_examples=BASES,
        database=None,
        deadline=None,
        derandomize=True,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @given(scores(min_lanes=1))
    def gather(score: Score) -> None:
        found.append(score)

    gather()
    return found


def main(count: int) -> None:
    luck = random.Random(count)
    known = bases()
    for number in range(count):
        score = known[number % len(known)]
        # Another velocity of every lane is another lane: nothing of it is known yet.
        lanes = tuple(one.model_copy(update={"velocity": luck.randint(1, 127)}) for one in score.lanes)
        changed = score.model_copy(update={"lanes": lanes, "tempo": 60 + luck.random() * 100})
        seen = picture(changed, number, Window(first_bar=luck.randrange(500), bars=2))
        assert len(seen.lanes) == len(lanes)
    # Of this program alone: what getrusage says begins with what its parent had.
    status = Path("/proc/self/status").read_text()
    print(next(int(line.split()[1]) // 1024 for line in status.splitlines() if line.startswith("VmHWM")))


if __name__ == "__main__":
    main(int(sys.argv[1]))
