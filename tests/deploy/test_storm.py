"""One of two servers is killed during a storm of edits: nothing that was acknowledged is lost."""

import os
import signal
import threading
import time
from collections import Counter
from uuid import uuid4

from tests.deploy.stage import PATIENCE, Musician, Stage, until

MUSICIANS = 4


class Hand(threading.Thread):
    """A musician who saves as fast as answers come, and asks again what failed: as the page does."""

    def __init__(self, stage: Stage) -> None:
        super().__init__()
        self.musician = Musician(stage.address)
        self.piece = self.musician.new_piece()
        self.acknowledged: list[int] = []
        self.tries: Counter[int] = Counter()
        self.wrong: list[str] = []
        self._rest = threading.Event()

    def run(self) -> None:
        velocity = 0
        while not self._rest.is_set():
            velocity = velocity % 127 + 1
            attempt = str(uuid4())
            tries = 0
            while True:
                tries += 1
                reply = self.musician.save(self.piece, velocity, attempt)
                if reply.ok or tries == 20:
                    break
                if reply.status_code != 503 or "Retry-After" not in reply.headers:
                    self.wrong.append(f"{reply.status_code} {reply.text[:200]}")
                time.sleep(0.3)
            self.tries[tries] += 1
            self.piece |= reply.json()
            self.acknowledged.append(velocity)

    def go_on(self, saves: int) -> None:
        """Wait until so many more saves are acknowledged."""
        enough = len(self.acknowledged) + saves
        until(lambda: len(self.acknowledged) >= enough or not self.is_alive(), f"{enough} saves")

    def stop(self) -> None:
        """Let it end what it does, and no more."""
        self._rest.set()
        self.join(PATIENCE)
        assert not self.is_alive()


def test_a_killed_server_loses_nothing_that_was_acknowledged(stage):
    hands = [Hand(stage) for _ in range(MUSICIANS)]
    for hand in hands:
        hand.start()
    (port, _), *_others = stage.running("server")
    before = stage.processes_on(port)
    for hand in hands:
        hand.go_on(10)
    stage.kill_server(port)
    until(lambda: set(stage.processes_on(port)) - set(before), "it is started again")
    for hand in hands:
        hand.go_on(10)
    for hand in hands:
        hand.stop()
    for hand in hands:
        assert hand.wrong == []
        assert max(hand.tries) <= 2, f"tried more than twice: {hand.tries}"
        assert len(hand.acknowledged) >= 20
        opened = hand.musician.ask("GET", f"/pieces/{hand.piece['id']}").json()
        assert opened["revision"] == len(hand.acknowledged) + 1
        assert opened["document"]["patterns"][0]["lanes"][0]["velocity"] == hand.acknowledged[-1]
        trail = hand.musician.ask("GET", f"/pieces/{hand.piece['id']}/moments").json()
        assert [line["label"] for line in trail[1:]] == [f"velocity {one}" for one in hand.acknowledged]


def test_a_killed_worker_is_replaced_and_hardly_anybody_sees_it(stage):
    musician = Musician(stage.addresses()[0])
    piece = musician.new_piece()
    (port, _), *_others = stage.running("server")
    master, *workers = stage.processes_on(port)
    for pid in workers:
        os.kill(pid, 9)
    until(lambda: set(stage.processes_on(port)) - {master, *workers}, "another worker")
    assert Musician(stage.address).ask("GET", "/pieces").status_code == 200
    assert musician.ask("GET", f"/pieces/{piece['id']}").status_code == 200


def test_servers_are_replaced_one_after_the_other_without_a_stop(stage):
    """An upgrade: each server in turn gets other workers while somebody works."""
    hand = Hand(stage)
    hand.start()
    for port, _ in stage.running("server"):
        master, *workers = stage.processes_on(port)
        os.kill(master, signal.SIGHUP)
        until(
            lambda at=port, old=set(workers): not set(stage.processes_on(at)) & old, "others in their place"
        )
    hand.go_on(10)
    hand.stop()
    assert hand.wrong == []
    assert max(hand.tries) == 1
