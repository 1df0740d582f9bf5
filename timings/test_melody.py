"""Figures of melody: cascades beside saving the same notes, and from a key to its sound in the browser."""

import statistics
from typing import Any

from lattice.document import (
    Arpeggio,
    ChordPool,
    Euclidean,
    Free,
    LanePool,
    Pedal,
    PitchStrip,
    PlacedChord,
    Progression,
    Scale,
    Score,
)
from lattice.document.pitched import PITCHED
from lattice.render import Window, render
from tests.lattice.scores import lane, score
from timings.conftest import tell
from timings.test_engine import beside_saving

VOICES = [voice for voice in PITCHED if voice != "whole-kit"]


def melodic(number: int) -> Any:
    """A quarter of the lanes has pitches, a quarter plays chords, and half of them what sounds in those."""
    fields: dict[str, Any] = [
        {"pitch_strip": PitchStrip(values=(0, 2, 4, 1, 6), free=Free(advance="hit")), "follows": "root"},
        {"arpeggio": Arpeggio(pool=ChordPool(), order="up-and-down", octaves=2, restart="chord")},
        {"arpeggio": Arpeggio(pool=LanePool(of=f"lane-{number - 1}"), order="shuffled", octaves=2)},
        {"arpeggio": Arpeggio(pool=LanePool(of=f"lane-{number - 1}"), pedal=Pedal(every=5), order="down")},
    ][number % 4]
    return lane(
        f"lane-{number}",
        voice=VOICES[number % len(VOICES)],
        source=Euclidean(hits=7 + number % 9, steps=16),
        length_percent=80 + 20 * (number % 5),
        channel=1 + number,
        **fields,
    )


CASCADES: Score = score(
    *(melodic(number) for number in range(16)),
    scale=Scale(root=2, name="dorian"),
    progression=Progression(
        chords=tuple(PlacedChord(chord=chord) for chord in ("i", "IV", "VII", "v")), leading="nearest"
    ),
)


def test_cascades_beside_saving_the_same_notes() -> None:
    """Timed: `render` of 8 bars of 16 melodic lanes, half of them cascades; mido saving ready messages, made before."""
    figure, notes = beside_saving(CASCADES, 8)
    tell("16 melodic lanes with cascades x 8 bars, rendering / saving with mido", figure, "below 3")
    assert notes > 800
    pitches = render(CASCADES, 1, Window(bars=8)).pitches
    assert len(set(pitches.tolist())) > 12


def test_from_a_key_to_the_sound_of_its_arpeggio(musician: Any) -> None:
    """Timed: from a key struck while it plays to the first note of the pool that it fills, in ticks of the music."""
    page = musician.open("Lantern Quay").page
    page.locator("[data-lane=glass] .place").click()
    page.keyboard.press("j")
    page.get_by_role("button", name="clear the held notes").click()
    page.get_by_role("button", name="off", exact=True).click()
    page.keyboard.press("Space")
    musician.wait_for_bars(1, 47040)
    tick_ms = 60_000 / 96 / 13440
    counts, sounds = [], []
    for code in ("KeyC", "KeyV", "KeyB", "KeyN") * 5:
        struck = page.evaluate("jolly.now()")
        page.keyboard.down(code)
        page.wait_for_timeout(700)
        page.keyboard.up(code)
        page.wait_for_timeout(180)
        key = page.evaluate("jolly.score().score.lanes[0].keys.held.at(-1).start")
        notes = [note["start"] for note in musician.log()[-1]["notes"] if note["laneId"] == "glass"]
        first = min((start for start in notes if start >= key), default=None)
        counts.append((key - struck) * tick_ms)
        if first is not None:
            sounds.append((first - struck) * tick_ms)
    page.keyboard.press("Space")
    assert len(sounds) >= 15

    def said(taken: list[float]) -> str:
        ordered = sorted(taken)
        return f"p50 {statistics.median(ordered):.0f} ms, p95 {ordered[int(len(ordered) * 0.95)]:.0f} ms"

    tell("from a key to where it counts", said(counts), "within 125 ms")
    tell(
        "from a key to the first note of its arpeggio, steps of 156 ms",
        said(sounds),
        "one step, 156 ms, on top",
    )
