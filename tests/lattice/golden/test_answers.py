"""All that the engine answers is the same, to the byte, in every process.

It fails where an answer depends on what differs between processes: the order of a set or of memory, a seed, a clock. It
does not say that an answer is right; the definitions and the figures beside them do.
"""

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
    first, second = (one.communicate()[0].splitlines() for one in asking)
    assert [one.returncode for one in asking] == [0, 0]
    assert len(first) == len(second) > 1000
    assert [one for one, other in zip(first, second, strict=True) if one != other] == []


def test_what_hangs_on_the_process_would_be_noticed():
    """The same comparison over something that does: the order of a set of words."""
    program = "print(*{'thud', 'chain', 'bottle', 'clink', 'hiss', 'shell', 'winch', 'bell'})"
    outputs = {
        subprocess.run(
            [sys.executable, "-c", program],
            env=os.environ | {"PYTHONHASHSEED": seed},
            capture_output=True,
            check=True,
        ).stdout
        for seed in ("1", "2")
    }
    assert len(outputs) == 2
