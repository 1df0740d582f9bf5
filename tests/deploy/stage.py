"""What `deploy/stage` runs, as tests and the load see it: who is where, musicians at it, and ways to break it."""

import os
import shlex
import signal
import subprocess
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any
from uuid import uuid4

import psycopg
import requests

__all__ = ["PATIENCE", "Musician", "Stage", "as_its_user", "until"]

# How long anything is waited for, in seconds: much more than a busy machine needs.
PATIENCE = 120


def until(true: Callable[[], Any], what: str, seconds: float = PATIENCE) -> Any:
    """Return what *true* returns as soon as that is true."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        found = true()
        if found:
            return found
        time.sleep(0.1)
    raise AssertionError(f"not within {seconds} s: {what}")


class Stage:
    """A running `deploy/stage` whose folder is *folder*."""

    def __init__(self, folder: Path, process: subprocess.Popen[bytes]) -> None:
        self.folder = folder
        self._process = process

    def wait_until_running(self) -> None:
        """Wait until all of it runs."""

        def runs() -> bool:
            assert self._process.poll() is None, (self.folder / "stage.log").read_text()
            return (self.folder / "running").exists()

        until(runs, "the stage runs", 2 * PATIENCE)

    def running(self, kind: str) -> list[tuple[int, int]]:
        """Return port and process of each of a *kind*: proxy, database or server."""
        lines = [line.split() for line in (self.folder / "running").read_text().splitlines()]
        return [(int(port), int(pid)) for name, port, pid in lines if name == kind]

    @property
    def address(self) -> str:
        """Where nginx listens."""
        return f"http://127.0.0.1:{self.running('proxy')[0][0]}"

    def addresses(self) -> list[str]:
        """Where each server listens, behind it."""
        return [f"http://127.0.0.1:{port}" for port, _ in self.running("server")]

    def wait_until_ready(self) -> None:
        """Wait until every server can work."""
        for address in self.addresses():
            until(lambda at=address: _status(f"{at}/ready") == 200, f"{address} is ready")

    def processes_on(self, port: int) -> list[int]:
        """Return the server's own processes, the master first."""
        said = subprocess.run(
            ["pgrep", "-f", f"gunicorn .*--bind 127.0.0.1:{port}"],
            capture_output=True,
            text=True,
            check=False,
        )
        return sorted(map(int, said.stdout.split()))

    def kill_server(self, port: int) -> None:
        """End a server with its workers as a machine ends that loses its power."""
        for pid in self.processes_on(port):
            os.kill(pid, signal.SIGKILL)

    def database(self, *, superuser: bool = False) -> psycopg.Connection[Any]:
        """Return a connection to the database, as the application or as its superuser."""
        name = "password" if superuser else "password-lattice"
        return psycopg.connect(
            host="127.0.0.1",
            port=self.running("database")[0][0],
            dbname="jolly",
            user="jolly" if superuser else "lattice",
            password=(self.folder / "database" / name).read_text().strip(),
            autocommit=True,
        )

    def environment(self) -> dict[str, str]:
        """Return what a command needs to reach the database."""
        return os.environ | {
            "JOLLY_DB_PORT": str(self.running("database")[0][0]),
            "JOLLY_DB_USER": "lattice",
            "JOLLY_DB_NAME": "jolly",
            "JOLLY_DB_HOST": "127.0.0.1",
            "JOLLY_DB_PASSWORD": (self.folder / "database/password-lattice").read_text().strip(),
            "JOLLY_SECRET": "of a test and nobody else, long enough for it",
        }

    def control_database(self, *what: str, data: Path | None = None) -> None:
        """Start or stop a database server: the stage's own, or the one with its data at *data*."""
        as_its_user("pg_ctl", "-D", str(data or self.folder / "database/data"), "-w", "-s", *what)

    def stop_database(self) -> None:
        """Stop the database server at once."""
        self._options = (self.folder / "database/data/postmaster.opts").read_text()
        self.control_database("-m", "immediate", "stop")

    def start_database(self) -> None:
        """Start the database server as it was."""
        options = shlex.join(shlex.split(self._options)[3:])  # without the program and its folder
        self.control_database("-l", str(self.folder / "database/run/log"), "-o", options, "start")


def as_its_user(program: str, *arguments: str) -> None:
    """Run a program of the database's as the user whose its files are."""
    command = [str(sorted(Path("/usr/lib/postgresql").glob(f"*/bin/{program}"))[-1]), *arguments]
    if os.geteuid() == 0:
        command = ["runuser", "-u", "postgres", "--", *command]
    subprocess.run(command, check=True, cwd="/", stdout=subprocess.DEVNULL)


def _status(address: str) -> int:
    try:
        return requests.get(address, timeout=10).status_code
    except requests.RequestException:
        return 0


class Musician:
    """The demo musician at a stage, by way of nginx or at one server."""

    def __init__(self, address: str) -> None:
        self.address = address
        self.session = requests.Session()
        self.session.get(f"{address}/", timeout=PATIENCE)
        assert self.ask("POST", "/session/demo").status_code == 200

    def ask(self, method: str, path: str, body: Any = None, **of: Any) -> requests.Response:
        """Send a request to the API."""
        headers = {"X-CSRFToken": self.session.cookies.get("csrftoken") or ""}
        return self.session.request(
            method, f"{self.address}/api{path}", json=body, headers=headers, timeout=PATIENCE, **of
        )

    def new_piece(self) -> dict[str, Any]:
        """Return a new piece of one lane."""
        lane = {
            "id": "thud",
            "name": "Thud",
            "voice": "thud",
            "source": {"kind": "euclidean", "hits": 4, "steps": 16},
        }
        document = {"version": 3, "name": "Storm", "patterns": [{"id": "a", "name": "A", "lanes": [lane]}]}
        reply = self.ask("POST", "/pieces", {"name": "Storm", "document": document})
        assert reply.status_code == 201, reply.text
        made: dict[str, Any] = reply.json()
        return made

    def save(self, piece: dict[str, Any], velocity: int, attempt: str = "") -> requests.Response:
        """Save another velocity, as the revision after the one that *piece* says."""
        change = {"op": "replace", "path": "/patterns/0/lanes/0/velocity", "value": velocity}
        body = {
            "attempt": attempt or str(uuid4()),
            "revision": piece["revision"],
            "moments": [
                {"number": piece["revision"] + 1, "label": f"velocity {velocity}", "changes": [change]}
            ],
        }
        return self.ask("PUT", f"/pieces/{piece['id']}", body)
