"""What one caller can cost: memory of a worker over many scores, and the dearest request that is accepted."""

import os
import subprocess
import sys
import time
from pathlib import Path

from lattice.document import DOCKSIDE, Arpeggio, DocumentError, Lane, Score
from lattice.render import MAX_NOTES_AT_ONCE, Window
from lattice.screen import picture
from timings.conftest import tell

FEW = 1_000
MOST_MEGABYTES = 700


def memory_over(count: int) -> int:
    """Return the most megabytes that a process has while it renders so many scores."""
    asked = [sys.executable, "-m", "timings.many_scores", str(count)]
    done = subprocess.run(asked, cwd=Path(__file__).parent.parent, capture_output=True, text=True, check=True)
    return int(done.stdout)


def test_memory_stays_within_a_bound_however_many_scores_are_rendered():
    count = int(os.environ.get("JOLLY_SCORES", FEW))
    most = memory_over(count)
    tell(f"memory of a process over {count:,} scores", f"{most} MB", f"below {MOST_MEGABYTES} MB")
    assert most < MOST_MEGABYTES


def test_the_dearest_request_that_is_accepted():
    def asked(bars: int) -> tuple[Score, Window]:
        pool = {"kind": "typed", "notes": [40 + note for note in range(16)]}
        arpeggio = Arpeggio.model_validate({"pool": pool, "order": "all", "octaves": 4})
        lane = Lane.model_validate(
            {
                "id": "glass",
                "name": "Glass",
                "voice": "low-reed",
                "source": {"kind": "euclidean", "hits": 16, "steps": 16},
                "arpeggio": arpeggio.model_dump(),
            }
        )
        return Score(tempo=120, kit=DOCKSIDE, lanes=(lane,), bars=64), Window(bars=bars)

    accepted, cost = 0, 0.0
    for bars in range(1, 65):
        score, window = asked(bars)
        begun = time.process_time()
        try:
            seen = picture(score, 1, window)
        except DocumentError:
            # It is refused before anything is computed.
            assert time.process_time() - begun < 5 * max(cost, 0.2)
            break
        cost = time.process_time() - begun
        accepted = sum(len(row) for row in seen.lanes[0].pitches)
    score, window = asked(bars - 1)
    size = len(picture(score, 1, window).model_dump_json()) / 2**20
    tell("the dearest request", f"{accepted:,} notes, {cost:.1f} CPU s, {size:.1f} MB answered", "1 s, 5 MB")
    assert MAX_NOTES_AT_ONCE * 0.6 < accepted <= MAX_NOTES_AT_ONCE
