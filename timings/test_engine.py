"""The engine's figures, as ratios of two times taken in one run."""

from io import BytesIO
from itertools import combinations, islice

import mido
import numpy as np

from lattice.clips import keep_bars, make_clip, undisturbed
from lattice.document import DOCKSIDE, Euclidean, Lane, Score, StepValue
from lattice.formats.midi import midi_file
from lattice.render import Window, picture, render
from lattice.rhythm.numbered import number_of, numbered, ways
from timings.conftest import milliseconds, tell

STEPS = (16, 7, 12, 11, 5, 13, 9, 15)
SCORE = Score(
    tempo=112.0,
    kit=DOCKSIDE,
    lanes=tuple(
        Lane(
            id=f"lane-{number}",
            name=f"Lane {number + 1}",
            voice=DOCKSIDE.voices[number % 12].id,
            source=Euclidean(hits=STEPS[number % 8] // 2 + 1, steps=STEPS[number % 8]),
            step_value=StepValue(note=2, divisor=7) if number % 5 == 4 else None,
            chance_percent=80 if number % 3 else 100,
        )
        for number in range(16)
    ),
)


def as_midi_notes() -> list[tuple[int, mido.Message]]:
    events = render(SCORE, 7081, Window(bars=64))
    changes = []
    for start, length, pitch, velocity in zip(
        events.starts.tolist(),
        events.lengths.tolist(),
        events.pitches.tolist(),
        events.velocities.tolist(),
        strict=True,
    ):
        changes.append((start, 1, mido.Message("note_on", channel=9, note=pitch, velocity=velocity)))
        changes.append((start + length, 0, mido.Message("note_off", channel=9, note=pitch)))
    changes.sort(key=lambda change: change[:2])
    return [(tick, message) for tick, _, message in changes]


def test_rendering_beside_saving_the_same_notes():
    """Timed: `render` of 16 lanes x 64 bars; mido saving ready messages. Excluded: making them."""
    changes = as_midi_notes()

    def save() -> bytes:
        track, now = mido.MidiTrack(), 0
        for tick, message in changes:
            track.append(message.copy(time=tick - now))
            now = tick
        written = BytesIO()
        mido.MidiFile(type=1, ticks_per_beat=13440, tracks=[track]).save(file=written)
        return written.getvalue()

    rendering = milliseconds(lambda: render(SCORE, 7081, Window(bars=64)))
    saving = milliseconds(save, times=5)
    tell(
        "16 lanes x 64 bars, rendering / saving with mido",
        f"{rendering / saving:.3f} ({rendering:.1f} ms / {saving:.1f} ms)",
        "below 1",
    )
    onsets = [
        message for message in mido.MidiFile(file=BytesIO(save())).tracks[0] if message.type == "note_on"
    ]
    assert len(onsets) == len(render(SCORE, 7081, Window(bars=64))) > 5000


def test_bar_100_000_beside_bar_1():
    """Timed: `render` of 8 bars, far out and at the start."""
    near = Window(first_bar=0, bars=8)
    far = Window(first_bar=99_999, bars=8)
    ratio = milliseconds(lambda: render(SCORE, 7081, far), 41) / milliseconds(
        lambda: render(SCORE, 7081, near), 41
    )
    tell("bars 100,000-100,008 / bars 1-8", f"{ratio:.2f}", "at most 1.2")
    halves = [render(SCORE, 7081, Window(first_bar=first, bars=4)).starts for first in (99_999, 100_003)]
    assert np.array_equal(np.concatenate(halves), render(SCORE, 7081, far).starts)


def test_the_picture_that_a_screen_waits_for():
    """Timed: `picture` of 8 bars of 16 lanes and its JSON."""
    window = Window(bars=8)
    taken = milliseconds(lambda: picture(SCORE, 7081, window).model_dump_json())
    tell("picture of 16 lanes x 8 bars as JSON", f"{taken:.1f} ms", "under 20 ms")
    assert picture(SCORE, 7081, window).events.starts == render(SCORE, 7081, window).starts.tolist()


def test_a_clip_of_64_bars_as_a_file():
    """Timed: `midi_file` of 64 bars of 16 lanes."""
    tape = undisturbed(SCORE, 7081, Window(bars=64))
    clip = make_clip(keep_bars(tape, 0, 64, most=64), tape, SCORE, 7081, piece="Night Ferry", pattern="A")
    taken = milliseconds(lambda: midi_file(clip), times=3)
    tell("64 bars of 16 lanes as a MIDI file", f"{taken:.0f} ms", "under half a second")
    midi = mido.MidiFile(file=BytesIO(midi_file(clip)))
    onsets = sum(message.type == "note_on" for track in midi.tracks for message in track)
    assert onsets == sum(len(track.notes) for track in clip.tracks)


def test_a_rhythm_by_its_number():
    """Timed: number 9.2e17 of C(64, 32); and a middle number of C(28, 14) beside listing up to it."""
    number = 920_000_000_000_000_000
    taken = milliseconds(lambda: numbered(32, 64, number))
    tell("number 9.2e17 of C(64, 32)", f"{taken:.3f} ms", "under 1 ms")
    assert number_of(numbered(32, 64, number), 64) == number

    middle = ways(14, 28) // 2
    listing = milliseconds(lambda: next(islice(combinations(range(28), 14), middle, None)), times=1)
    computing = milliseconds(lambda: numbered(14, 28, middle))
    tell("middle number of C(28, 14), listing / computing", f"{listing / computing:,.0f}", "at least 1,000")
    assert numbered(14, 28, middle) == next(islice(combinations(range(28), 14), middle, None))
