"""The application as it runs for others: servers behind nginx, with a database of their own."""

import os
import signal
import subprocess
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest

from tests.deploy.stage import PATIENCE, Stage

ROOT = Path(__file__).resolve().parents[2]
# The database's own user has to get in: no private folder.
STATE = Path("/var/lib/jolly-lattice") if os.geteuid() == 0 else Path.home() / ".local/state/jolly-lattice"


@contextmanager
def staged(**settings: str) -> Iterator[Stage]:
    """Run a stage with its settings, JOLLY_ before their names."""
    STATE.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(prefix="stage.", dir=STATE) as folder:
        environment = {name: value for name, value in os.environ.items() if not name.startswith("JOLLY_")}
        log = Path(folder) / "stage.log"
        with log.open("wb") as out:
            process = subprocess.Popen(
                [ROOT / "deploy/stage"],
                stdout=out,
                stderr=subprocess.STDOUT,
                env=environment
                | {f"JOLLY_{name}": value for name, value in settings.items()}
                | {"JOLLY_STAGE": folder},
                start_new_session=True,
            )
        stage = Stage(Path(folder), process)
        try:
            stage.wait_until_running()
            yield stage
        finally:
            process.send_signal(signal.SIGTERM)
            process.wait(PATIENCE)


@pytest.fixture(scope="session")
def whole_stage() -> Iterator[Stage]:
    with staged(WORKERS="1", DB_SECONDS="2") as stage:
        yield stage


@pytest.fixture
def stage(whole_stage: Stage) -> Stage:
    """The stage, with all of it running."""
    whole_stage.wait_until_ready()
    return whole_stage
