"""Many players at once, and servers that are killed again and again."""

import random
import statistics
import threading
import time
from pathlib import Path
from uuid import uuid4

import pytest

from load.players import Player
from tests.deploy.conftest import staged
from tests.deploy.stage import Musician, Stage, until
from timings.conftest import tell

SECONDS, LANES = 24, 10


def memory_of(pid: int) -> float:
    """Return how many MB of memory a process has."""
    status = Path(f"/proc/{pid}/status").read_text()
    return int(next(line for line in status.splitlines() if line.startswith("VmRSS")).split()[1]) / 1024


def play(stage: Stage, count: int) -> tuple[list[float], list[Player], float]:
    """Have *count* players play; return how long each window took, the players, and windows a second."""
    musicians = [Musician(stage.address) for _ in range(count)]
    players = [Player(one, number, time.monotonic() + SECONDS, LANES) for number, one in enumerate(musicians)]
    began = time.monotonic()
    for player in players:
        player.start()
    for player in players:
        player.join(SECONDS * 4)
    waited = [one for player in players for one in (*player.edited, *player.waited)]
    return waited, players, len(waited) / (time.monotonic() - began)


@pytest.mark.parametrize("workers", [1, 2])
def test_players(workers):
    with staged(WORKERS=str(workers), SERVERS="1", SECONDS_A_MINUTE="100000") as stage:
        stage.wait_until_ready()
        Musician(stage.address)
        for count in (10, 25, 50, 100):
            waited, players, rate = play(stage, count)
            wrong = [one for player in players for one in player.wrong]
            p50, p95 = (
                1000 * one for one in (statistics.median(waited), sorted(waited)[int(len(waited) * 0.95)])
            )
            tell(
                f"{count} players, {workers} workers, {LANES} lanes: a window",
                f"p50 {p50:.0f} ms, p95 {p95:.0f} ms; {rate:.0f} windows a second, errors {len(wrong)}",
                "p95 150 ms, errors 0",
            )
            assert wrong == []
        (port, _), *_ = stage.running("server")
        each = [memory_of(pid) for pid in stage.processes_on(port)[1:]]
        tell(
            f"memory of a worker then, {workers} workers", ", ".join(f"{one:.0f} MB" for one in each), "none"
        )


def test_fifty_kills(whole_stage):
    """A server is killed fifty times while four musicians save: what was acknowledged is there."""
    stage, luck, stop = whole_stage, random.Random(50), threading.Event()
    musicians = [Musician(stage.address) for _ in range(4)]
    pieces = [one.new_piece() for one in musicians]
    acknowledged: list[list[str]] = [[] for _ in musicians]
    retried = [0]

    def work(at: int) -> None:
        number = 0
        while not stop.is_set():
            number, attempt = number + 1, str(uuid4())
            while not (reply := musicians[at].save(pieces[at], number % 127 + 1, attempt)).ok:
                assert reply.status_code == 503, reply.text
                retried[0] += 1
                time.sleep(0.2)
            pieces[at] |= reply.json()
            acknowledged[at].append(f"velocity {number % 127 + 1}")

    hands = [threading.Thread(target=work, args=[at]) for at in range(len(musicians))]
    for hand in hands:
        hand.start()
    for _ in range(50):
        port, _pid = luck.choice(stage.running("server"))
        before = stage.processes_on(port)
        stage.kill_server(port)
        until(lambda at=port, old=set(before): set(stage.processes_on(at)) - old, "it is started again")
        time.sleep(luck.random())
    stop.set()
    for hand in hands:
        hand.join(60)
    lost = 0
    for at, musician in enumerate(musicians):
        trail = musician.ask("GET", f"/pieces/{pieces[at]['id']}/moments").json()
        stored = [line["label"] for line in trail[1:]]
        lost += len(set(enumerate(acknowledged[at])) - set(enumerate(stored)))
    edits = sum(map(len, acknowledged))
    tell("50 kills: acknowledged edits lost", f"{lost} of {edits:,}, asked again {retried[0]} times", "0")
    assert lost == 0
