"""A second database server that has all that the first one has, and takes over when that is gone."""

import shutil
import socket
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from tests.deploy.conftest import staged
from tests.deploy.stage import Musician, Stage, as_its_user, until
from tests.deploy.test_database import RENDER, told


def free_port() -> int:
    """Return a port on which nobody listens."""
    with socket.socket() as one:
        one.bind(("127.0.0.1", 0))
        return int(one.getsockname()[1])


@contextmanager
def standby(stage: Stage, port: int) -> Iterator[Path]:
    """Run a standby of the stage's database at *port*, and return where its data are."""
    home = stage.folder / "standby"
    home.mkdir(mode=0o755)
    data = home / "data"
    if shutil.which("runuser"):
        shutil.chown(home, "postgres")
    (first, _), *_ = stage.running("database")
    password = (stage.folder / "database/password").read_text().strip()
    from_first = f"host=127.0.0.1 port={first} user=jolly password={password}"
    as_its_user("pg_basebackup", "-d", from_first, "-D", str(data), "-R", "-X", "stream", "-c", "fast")
    options = f"-p {port} -c listen_addresses=127.0.0.1 -c unix_socket_directories={home} -c fsync=off"
    stage.control_database("-l", str(home / "log"), "-o", options, "start", data=data)
    try:
        yield data
    finally:
        stage.control_database("-m", "immediate", "stop", data=data)


def test_another_database_server_takes_over_and_nothing_acknowledged_is_lost():
    port = free_port()
    with staged(SERVERS="1", STANDBY=str(port), DB_SECONDS="5") as stage, standby(stage, port) as data:
        stage.wait_until_ready()
        with stage.database(superuser=True) as first:
            # What is acknowledged is at both from here on.
            first.execute("ALTER SYSTEM SET synchronous_standby_names = '*'")
            first.execute("SELECT pg_reload_conf()")
            until(
                lambda: first.execute("SELECT sync_state FROM pg_stat_replication").fetchone() == ("sync",),
                "the standby is told of each change before that is acknowledged",
            )
        musician = Musician(stage.address)
        piece = musician.new_piece()
        for velocity in (90, 91, 92):
            piece |= musician.save(piece, velocity).json()

        stage.stop_database()
        # The standby may not be written yet: it is not taken for the first.
        told(musician.save(piece, 93))
        assert musician.ask("POST", "/render", RENDER).status_code == 200
        stage.control_database("promote", data=data)

        until(lambda: musician.ask("GET", f"/pieces/{piece['id']}").ok, "it is asked instead")
        opened = musician.ask("GET", f"/pieces/{piece['id']}").json()
        assert opened["revision"] == piece["revision"]
        assert opened["document"]["patterns"][0]["lanes"][0]["velocity"] == 92
        assert musician.save(piece, 94).json()["revision"] == piece["revision"] + 1
