"""All that the engine answers is the same, to the byte, in every process."""

import os
import subprocess
import sys


def test_answers_are_the_same_in_every_process():
    asking = [
        subprocess.Popen(
            [sys.executable, "-m", "tests.lattice.golden.answers"],
            env=os.environ | {"PYTHONHASHSEED": seed},
            stdout=subprocess.PIPE,
            text=True,
        )
        for seed in ("1", "2")
    ]
    said = [one.communicate()[0].splitlines() for one in asking]
    assert len(said[0]) > 1000
    assert [one for one, other in zip(*said, strict=True) if one != other] == []
