"""A backup made while everybody works is whole: restored, it is what it was at one moment."""

import subprocess
import threading
from pathlib import Path

from tests.deploy.stage import PATIENCE, Musician, until

ROOT = Path(__file__).resolve().parents[2]


def command(stage, *words):
    said = subprocess.run(
        [ROOT / "deploy" / words[0], *words[1:]],
        env=stage.environment(),
        capture_output=True,
        text=True,
        check=False,
    )
    assert said.returncode == 0, said.stderr
    return said.stdout.strip()


def test_a_backup_under_load_is_restored_whole(stage, tmp_path):
    musician, other = Musician(stage.address), Musician(stage.address)
    steady = musician.new_piece()
    steady |= musician.save(steady, 77).json()
    busy = other.new_piece()
    stop = threading.Event()

    def work():
        nonlocal busy
        while not stop.is_set():
            busy |= other.save(busy, busy["revision"] % 127 + 1).json()

    worker = threading.Thread(target=work)
    worker.start()
    until(lambda: busy["revision"] > 5, "somebody works")
    file = command(stage, "backup", str(tmp_path))
    until(lambda at=busy["revision"]: busy["revision"] > at + 3, "they go on")
    stop.set()
    worker.join(PATIENCE)
    later = musician.new_piece()

    command(stage, "restore", file)
    until(lambda: musician.ask("GET", "/pieces").ok, "it answers again")
    assert musician.ask("GET", f"/pieces/{later['id']}").status_code == 404
    opened = musician.ask("GET", f"/pieces/{steady['id']}").json()
    assert (opened["revision"], opened["document"]["patterns"][0]["lanes"][0]["velocity"]) == (2, 77)
    # What was being worked on is as it was between two saves: the trail ends where the piece stands.
    then = musician.ask("GET", f"/pieces/{busy['id']}").json()
    assert 5 < then["revision"] < busy["revision"]
    trail = musician.ask("GET", f"/pieces/{busy['id']}/moments").json()
    assert len(trail) == then["revision"]
    last = musician.ask("GET", f"/pieces/{busy['id']}/moments/{len(trail)}").json()
    assert last["document"] == then["document"]
    # And it can be worked on.
    assert musician.save(then, 33).ok


def test_as_many_backups_as_are_wanted_stay(stage, tmp_path):
    for day in range(20):
        (tmp_path / f"jolly-lattice-202601{day + 1:02}T000000Z.dump").touch()
    command(stage, "backup", str(tmp_path))
    kept = sorted(one.name for one in tmp_path.iterdir())
    assert len(kept) == 14
    assert kept[0] == "jolly-lattice-20260108T000000Z.dump"
