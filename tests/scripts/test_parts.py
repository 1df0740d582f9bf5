"""How ./test runs its parts: what fails, is missing or is interrupted is said, and nothing that was started goes on."""

import os
import re
import signal
import subprocess
import time
from pathlib import Path

ROOT = Path(__file__).parents[2]
PATIENCE = 60  # seconds
START = """
set -euo pipefail
say() { echo "$*"; }
die() { echo "$*" >&2; exit 1; }
cd SCRIPTS
. ./parts.sh
at_the_end() { echo "database stopped"; }
trap end_parts EXIT
trap 'exit 130' INT TERM
""".replace("SCRIPTS", str(ROOT / "scripts"))


def started(script: str) -> subprocess.Popen[str]:
    """Start *script*, which hears Ctrl+C even where these tests run in the background and do not."""
    return subprocess.Popen(
        ["env", "--default-signal=INT", "bash", "-c", START + script], stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
        text=True, start_new_session=True,
    )  # fmt: skip


def ended(script: str) -> tuple[int, list[str]]:
    child = started(script)
    printed, _ = child.communicate(timeout=PATIENCE)
    return child.returncode, printed.splitlines()


def test_parts_that_pass_are_summed_up_after_the_database_has_stopped():
    code, lines = ended("NOT_RUN=(core); core() { echo $1; }; run_part core -x; exit $FAILED")
    assert code == 0
    assert lines[:4] == ["== core ==", "-x", "database stopped", "== Summary =="]
    assert re.fullmatch(r"core     passed in 0:\d\d", lines[4])
    assert len(lines) == 5


def test_a_part_that_fails_does_not_keep_the_next_from_running():
    code, lines = ended(
        "NOT_RUN=(core server); core() { false; }; server() { :; };"
        " run_part core; run_part server; exit $FAILED"
    )
    assert code == 1
    assert [line[:15] for line in lines[-2:]] == ["core     FAILED", "server   passed"]


def test_a_part_whose_needs_cannot_be_had_is_said_not_to_have_run():
    code, lines = ended(
        'NOT_RUN=(browser core); needs_browser() { die "no browser to be had"; }; needs_core() { :; };'
        " core() { :; }; prepared browser && run_part browser; prepared core && run_part core; exit $FAILED"
    )
    assert code == 1
    assert "no browser to be had" in lines
    assert "browser  did not run to its end" in lines
    assert any(line.startswith("core     passed") for line in lines)


def test_no_room_on_the_disk_is_said_before_anything_runs():
    code, lines = ended("NOT_RUN=(core); room_on_disk / 999999999; echo never")
    assert code == 1
    assert re.match(r"No room: \d+ MB are free at /, and the tests need 999999999 MB\.", lines[0])
    assert lines[-1] == "core     did not run to its end"
    assert "never" not in lines


def test_a_part_beside_another_prints_when_it_is_joined_and_its_failure_counts():
    code, lines = ended(
        "NOT_RUN=(deploy server); deploy() { echo from deploy; return 3; }; server() { echo from server; };"
        " begin_beside deploy; run_part server; join deploy; exit $FAILED"
    )
    assert code == 1
    assert lines.index("from server") < lines.index("== deploy ==") < lines.index("from deploy")
    assert [line[:15] for line in lines[-2:]] == ["server   passed", "deploy   FAILED"]


def test_what_is_interrupted_ends_all_that_it_started_and_says_what_did_not_run(tmp_path):
    child = started(
        f"NOT_RUN=(deploy core browser); deploy() {{ echo $BASHPID > {tmp_path}/beside; sleep 300; }};"
        f" core() {{ echo $BASHPID > {tmp_path}/front; exec sleep 300; }};"
        " begin_beside deploy; run_part core; exit $FAILED"
    )
    numbers = [tmp_path / "beside", tmp_path / "front"]
    until = time.monotonic() + PATIENCE
    while not all(path.exists() and path.read_text().strip() for path in numbers):
        assert time.monotonic() < until
        time.sleep(0.05)
    os.killpg(child.pid, signal.SIGINT)  # as Ctrl+C does
    printed, _ = child.communicate(timeout=PATIENCE)
    assert child.returncode == 130
    assert "database stopped" in printed
    unfinished = [line.split()[0] for line in printed.splitlines() if line.endswith("did not run to its end")]
    assert unfinished == ["deploy", "core", "browser"]
    until = time.monotonic() + PATIENCE
    while any(Path(f"/proc/{path.read_text().strip()}").exists() for path in numbers):
        assert time.monotonic() < until
        time.sleep(0.05)
