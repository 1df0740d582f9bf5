"""One of two servers is killed during a storm of edits: nothing that was acknowledged is lost."""

import os
import signal
import threading
import time
from collections import Counter
from uuid import uuid4

from tests.deploy.stage import Musician, Stage, until

MUSICIANS, SECONDS = 4, 6


class Hand(threading.Thread):
    """A musician who saves as fast as answers come, and asks again what failed: as the page does."""

    def __init__(self, stage: Stage, end: float) -> None:
        super().__init__()
        self.musician = Musician(stage.address)
        self.piece = self.musician.new_piece()
        self.acknowledged: list[int] = []
        self.tries: Counter[int] = Counter()
        self.wrong: list[str] = []
        self._end = end

    def run(self) -> None:
        velocity = 0
        while time.monotonic() < self._end:
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


def test_a_killed_server_loses_nothing_that_was_acknowledged(stage):
    hands = [Hand(stage, time.monotonic() + SECONDS) for _ in range(MUSICIANS)]
    for hand in hands:
        hand.start()
    (port, _), *_others = stage.running("server")
    before = stage.processes_on(port)
    time.sleep(SECONDS / 3)
    stage.kill_server(port)
    until(lambda: set(stage.processes_on(port)) - set(before), "it is started again")
    for hand in hands:
        hand.join(60)
    for hand in hands:
        assert hand.wrong == []
        assert max(hand.tries) <= 2, f"tried more than twice: {hand.tries}"
        assert len(hand.acknowledged) > 10
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
    hand = Hand(stage, time.monotonic() + SECONDS)
    hand.start()
    for port, _ in stage.running("server"):
        master, *workers = stage.processes_on(port)
        os.kill(master, signal.SIGHUP)
        until(
            lambda at=port, old=set(workers): not set(stage.processes_on(at)) & old, "others in their place"
        )
    hand.join(60)
    assert hand.wrong == []
    assert max(hand.tries) == 1
