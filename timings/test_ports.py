"""What ports are sent and when: scheduled against exact times, messages that come late, the clock out and in."""

from typing import Any

import numpy as np
from accounts.models import User
from demo.services import DEMO_NAME
from pieces import services

from lattice.document import DOCKSIDE, Euclidean, Lane, Pattern, Piece
from lattice.document.port import SIMULATED
from timings.conftest import tell

QUARTER = 13440
LANES, TEMPO = 64, 200.0


def many_lanes() -> Piece:
    voices = [voice.id for voice in DOCKSIDE.voices]
    lanes = tuple(
        Lane(
            id=f"lane-{number}",
            name=f"Lane {number}",
            voice=voices[number % len(voices)],
            note=30 + number,
            port=SIMULATED,
            source=Euclidean(hits=3 + number % 5, steps=8 + number % 9),
        )
        for number in range(LANES)
    )
    return Piece(name="All hands", tempo=TEMPO, patterns=(Pattern(id="a", name="A", bars=16, lanes=lanes),))


def percentiles(values: list[float]) -> str:
    p50, p99 = np.percentile(values, [50, 99])
    return f"p50 {p50:.3f}, p99 {p99:.3f} ms"


def test_sixty_four_lanes_at_two_hundred_and_the_clock(musician: Any) -> None:
    """Twelve seconds of all of them, into the simulated instrument, with the clock beside them."""
    stored = services.create(User.objects.get(username=DEMO_NAME), many_lanes())
    page = musician.page
    page.goto(f"{musician.address}/ports/{stored.pk}?latency=0.1")
    page.get_by_role("checkbox", name="clock").check()
    page.get_by_role("button", name="Play from bar 1").click()
    page.wait_for_function(f"jolly.log().at(-1)?.nowTick > {12 * TEMPO / 60 * QUARTER}")
    page.keyboard.press(" ")
    page.wait_for_function(f"jolly.handed()['{SIMULATED}'].sounding === 0")
    handed = page.evaluate(f"jolly.handed()['{SIMULATED}']")
    sent = page.evaluate(
        "jolly.sent().map(({message, time, handed}) => [message[0], message[1] ?? 0, time, handed])"
    )
    # What was handed over when it stopped could not be taken back: it was ended as it began.
    told = musician.log()[-1]
    notes = [note for note in told["notes"] if note["start"] < told["nowTick"] - QUARTER]
    begun = sorted((pitch, time, ahead) for status, pitch, time, ahead in sent if status & 0xF0 == 0x90)
    last = max(note["time"] for note in notes) + 1e-6
    begun = [one for one in begun if one[1] <= last]
    wanted = sorted((note["pitch"], note["start"]) for note in notes)
    assert [one[0] for one in begun] == [one[0] for one in wanted], "each note once, none besides"
    seconds = np.array([time for _, time, _ in begun])
    exact = np.array([start for _, start in wanted]) * 60 / TEMPO / QUARTER
    off = seconds - exact
    in_time = off - np.median(off)
    jitter = np.abs(in_time) * 1000
    assert np.median(jitter) < 10, "each in its place among the others"
    tell(
        f"{LANES} lanes at {TEMPO:g}, {len(begun):,} notes: scheduled against exact",
        percentiles(list(jitter)),
        "under 1 ms",
    )
    tell("messages handed over after their times", f"{handed['late']} of {handed['handed']:,}", "none")
    pulses = np.array(sorted(time for status, _, time, _ in sent if status == 0xF8))
    apart = np.abs(np.diff(pulses) - 60 / TEMPO / 24) * 1000
    assert len(pulses) > 11 * TEMPO / 60 * 24
    tell(f"clock out, {len(pulses):,} pulses", percentiles(list(apart)), "under 1 ms")


def test_the_tempo_of_a_clock_with_jitter(musician: Any) -> None:
    """Eight beats at each tempo, each pulse 3 ms early or late at most."""
    page = musician.page
    musician.open("Night Ferry")
    page.get_by_role("link", name="Ports").click()
    page.get_by_role("button", name="obeys").wait_for()  # there is audio now
    worst = 0.0
    for tempo in (74.3, 120.0, 163.1):
        # Each begins anew: their pulses are stamped as if they had come all along.
        page.get_by_label("Where the clock comes from").select_option("")
        page.wait_for_function("jolly.score().score.tempo === 112")
        page.get_by_label("Where the clock comes from").select_option("simulated controller")
        page.evaluate(
            "(tempo) => { const c = jolly.controller(), each = 60000 / tempo / 24, count = 8 * 24"
            "; const began = performance.now() - count * each; let seed = 7"
            "; for (let at = 0; at <= count; at++) {"
            " seed = (seed * 1103515245 + 12345) % 2147483648"
            "; c.send([0xf8], began + at * each + 3 * (seed / 1073741824 - 1)) } }",
            tempo,
        )
        page.wait_for_function(f"Math.abs(jolly.score().score.tempo - {tempo}) < 1")
        found = page.evaluate("jolly.score().score.tempo")
        worst = max(worst, abs(found - tempo))
    assert worst < 0.2
    tell("clock in: tempo after 8 beats with 3 ms of jitter", f"{worst:.2f} BPM off at most", "0.1 BPM")
