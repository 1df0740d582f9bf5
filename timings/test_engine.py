"""The engine's figures, as ratios of two times taken in one run."""

from io import BytesIO
from itertools import combinations, count, cycle, islice
from typing import Any

import mido
import numpy as np

from lattice.clips import keep_bars, make_clip, undisturbed
from lattice.document import (
    DOCKSIDE,
    Accent,
    BarRestart,
    BarSpan,
    Burst,
    ChanceStrip,
    ControlStrip,
    CycleRule,
    Drawn,
    Echo,
    Edit,
    Euclidean,
    Free,
    Humanise,
    Lane,
    LengthStrip,
    Link,
    NudgeStrip,
    Numbered,
    OctaveStrip,
    Once,
    RatchetStrip,
    Reply,
    Rests,
    Score,
    Spread,
    StepRange,
    StepRule,
    StepValue,
    Swing,
    Thin,
    Thrown,
    VelocityStrip,
)
from lattice.document.timing import DIRECTIONS
from lattice.formats.midi import midi_file
from lattice.render import Events, Window, render
from lattice.screen import picture, sounds
from lattice.steps.numbered import number_of, numbered, ways
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


# 32 lanes with every source, turn and direction, every kind of timing, and luck of every kind.
DIRECTION_OF = dict(enumerate(DIRECTIONS))


def _full_lane(number: int) -> Lane:
    made = number % 4 == 3
    followed = f"lane-{number - 1}"
    hits, steps = STEPS[number % 8] // 2 + 1, STEPS[number % 8]
    sources = {
        0: Euclidean(hits=hits, steps=steps),
        1: Numbered(hits=hits, steps=steps, number=str(number * 7)),
        2: Thrown(hits=hits, steps=steps, throw=number)
        if number % 8 == 2
        else Drawn(steps=steps, hits=(0, 2, 3)),
        3: (Rests(of=followed), Echo(of=followed, shift=3), Reply(of=followed))[number // 4 % 3],
    }
    clock: dict[str, Any] = {"direction": DIRECTION_OF[number % 7]}
    clock |= {
        0: {"restart": BarRestart(bars=2)},
        1: {"span": BarSpan(bars=1)},
        2: {"step_range": StepRange(first=1, last=steps - 2)},
        3: {"step_value": StepValue(note=2, divisor=7)},
        4: {"once": Once(count=number % 4)},
    }.get(number % 6, {})
    return Lane(
        id=f"lane-{number}",
        name=f"Lane {number + 1}",
        voice=DOCKSIDE.voices[number % 12].id,
        source=sources[number % 4],
        rotate=number % 5 - 2,
        complement=number % 9 == 0,
        thin=Thin(keeps="without", every=3 + number % 4) if number % 2 else None,
        edits=(Edit(step=number % steps, hit=True),) if number % 3 == 0 else (),
        chance_percent=60 + number,
        chance_strip=ChanceStrip(values=(None, 50)) if number % 4 == 1 else None,
        luck_bars=4 if number % 5 == 0 else None,
        **({} if made else clock),
    )


FULL = Score(tempo=112.0, kit=DOCKSIDE, bars=8, lanes=tuple(_full_lane(number) for number in range(32)))


def _expressive(number: int, lane: Lane) -> Lane:
    """The same lane with every strip, spread, ratchets and feel."""
    by_hit = Free(advance="hit", direction=DIRECTION_OF[number % 7])
    fields: dict[str, Any] = {
        "velocity_strip": VelocityStrip(values=(110, 60, 84, 72, 98), free=by_hit, spread=Spread(by=9)),
        "chance_strip": ChanceStrip(values=(100, 90, 70), free=Free()),
        "ratchet_strip": RatchetStrip(values=(1, 2, 1, 3, 1), free=Free(), fade_to=50, climb=number % 3),
        "nudge_strip": NudgeStrip(values=(0, 6, -4), spread=Spread(by=3, shape="middle")),
        "length_strip": LengthStrip(values=(80, 0, 120, 60), free=Free()),
        "octave_strip": OctaveStrip(values=(0, 1)),
        "control_strips": (ControlStrip(controller=74, values=(64,), free=by_hit, spread=Spread(by=40)),),
        "accent": Accent(every=3 + number % 4),
        "beat_weight": 30,
        "evened": 20,
        "swing": Swing(percent=54 + number % 9),
        "humanise": Humanise(ms=5, velocity=6),
        "links": (Link(step=0), Link(step=2)),
        "step_rules": (StepRule(step=1, rule=CycleRule(nth=1, of=2)),),
        "bursts": (Burst(count=2 + number % 5, length=2, notes=5, chance_percent=80),),
        "channel": 1 + number % 16,
    }
    return lane.model_copy(update=fields)


EXPRESSIVE = FULL.model_copy(
    update={"lanes": tuple(_expressive(number, lane) for number, lane in enumerate(FULL.lanes))}
)


def as_midi_notes(score: Score, bars: int) -> list[tuple[int, mido.Message]]:
    events = render(score, 7081, Window(bars=bars))
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


def saved(changes: list[tuple[int, mido.Message]]) -> bytes:
    track, now = mido.MidiTrack(), 0
    for tick, message in changes:
        track.append(message.copy(time=tick - now))
        now = tick
    written = BytesIO()
    mido.MidiFile(type=1, ticks_per_beat=13440, tracks=[track]).save(file=written)
    return written.getvalue()


dice = count(1)


def fresh(score: Score, window: Window) -> Events:
    """Render with dice that were never asked for: nothing is known of the answer yet."""
    return render(score, next(dice), window)


def beside_saving(score: Score, bars: int) -> tuple[str, int]:
    """Return the time of `render` over that of mido saving the same notes, said, and how many notes that were."""
    changes = as_midi_notes(score, bars)
    rendering = milliseconds(lambda: fresh(score, Window(bars=bars)))
    saving = milliseconds(lambda: saved(changes), times=5)
    messages = mido.MidiFile(file=BytesIO(saved(changes))).tracks[0]
    notes = sum(message.type == "note_on" for message in messages)
    assert notes == len(render(score, 7081, Window(bars=bars)))
    return f"{rendering / saving:.3f} ({rendering:.1f} ms / {saving:.1f} ms, {notes} notes)", notes


def test_everything_at_once_beside_saving_the_same_notes():
    """Timed: `render` of 8 bars of 32 lanes that use all there is; mido saving ready messages, made before."""
    kinds = {lane.source.kind for lane in FULL.lanes}
    assert kinds == {"euclidean", "numbered", "thrown", "drawn", "rests", "echo", "reply"}
    assert {lane.direction for lane in FULL.lanes} == set(DIRECTIONS)
    figure, notes = beside_saving(FULL, 8)
    tell("32 lanes with everything x 8 bars, rendering / saving with mido", figure, "below 2")
    assert notes > 500


def test_everything_at_once_is_linear_in_notes():
    """Timed: `render` of 64 bars and of 16 bars of 32 lanes that use all there is, for each note."""
    costs, notes = [], []
    for bars in (16, 64):
        notes.append(len(render(FULL, 7081, Window(bars=bars))))
        costs.append(milliseconds(lambda bars=bars: fresh(FULL, Window(bars=bars)), 9) / notes[-1])
    tell(
        "32 lanes with everything, a note of 64 bars / a note of 16",
        f"{costs[1] / costs[0]:.2f}",
        "at most 1.2",
    )
    parts = [len(render(FULL, 7081, Window(first_bar=first, bars=16))) for first in (0, 16, 32, 48)]
    assert (sum(parts), parts[0]) == (notes[1], notes[0])


def test_everything_far_out_beside_the_start():
    """Timed: `render` of 8 bars of 32 lanes that use all there is, from bar 100,001 and from bar 1."""
    near, far = Window(bars=8), Window(first_bar=100_000, bars=8)
    ratio = milliseconds(lambda: fresh(FULL, far), 21) / milliseconds(lambda: fresh(FULL, near), 21)
    tell("32 lanes with everything, bars 100,001 on / bars 1 on", f"{ratio:.2f}", "at most 1.2")
    halves = [render(FULL, 7081, Window(first_bar=first, bars=4)).starts for first in (100_000, 100_004)]
    assert np.array_equal(np.concatenate(halves), render(FULL, 7081, far).starts)


def test_rendering_beside_saving_the_same_notes():
    """Timed: `render` of 16 lanes x 64 bars; mido saving ready messages, made before."""
    figure, notes = beside_saving(SCORE, 64)
    tell("16 lanes x 64 bars, rendering / saving with mido", figure, "below 1")
    assert notes > 5000


def test_every_strip_and_feel_beside_saving_the_same_notes():
    """Timed: `render` of 8 bars of 32 lanes with every strip, spread, ratchet and feel; and of 32 such bars."""
    figure, notes = beside_saving(EXPRESSIVE, 8)
    tell("32 lanes with every strip and feel x 8 bars, rendering / saving with mido", figure, "below 3")
    assert notes > 1000
    few, many = (Window(bars=bars) for bars in (8, 32))
    took = [milliseconds(lambda window=window: fresh(EXPRESSIVE, window), 5) for window in (few, many)]
    counts = [len(render(EXPRESSIVE, 7081, window)) for window in (few, many)]
    ratio = (took[1] / counts[1]) / (took[0] / counts[0])
    tell("a note of 32 such bars / a note of 8", f"{ratio:.2f}", "at most 1.2")
    parts = [render(EXPRESSIVE, 7081, Window(first_bar=bar, bars=8)).starts for bar in range(0, 32, 8)]
    assert np.array_equal(np.concatenate(parts), render(EXPRESSIVE, 7081, many).starts)


def test_bar_100_000_beside_bar_1():
    """Timed: `render` of 8 bars, far out and at the start."""
    near = Window(first_bar=0, bars=8)
    far = Window(first_bar=99_999, bars=8)
    ratio = milliseconds(lambda: fresh(SCORE, far), 41) / milliseconds(lambda: fresh(SCORE, near), 41)
    tell("bars 100,000-100,008 / bars 1-8", f"{ratio:.2f}", "at most 1.2")
    halves = [render(SCORE, 7081, Window(first_bar=first, bars=4)).starts for first in (99_999, 100_003)]
    assert np.array_equal(np.concatenate(halves), render(SCORE, 7081, far).starts)


def test_the_picture_that_a_screen_waits_for():
    """Timed: `picture` of 8 bars of 16 lanes and its JSON, once all anew and once with one lane moved."""
    window = Window(bars=8)
    taken = milliseconds(lambda: picture(SCORE, next(dice), window).model_dump_json())
    velocities = cycle(range(1, 128))

    def move() -> str:
        moved = SCORE.lanes[8].model_copy(update={"velocity": next(velocities)})
        lanes = (*SCORE.lanes[:8], moved, *SCORE.lanes[9:])
        return picture(SCORE.model_copy(update={"lanes": lanes}), 7081, window).model_dump_json()

    moving = milliseconds(move, 41)
    tell(
        "picture of 16 lanes x 8 bars as JSON",
        f"{taken:.1f} ms, one lane moved {moving:.1f} ms",
        "under 20 ms",
    )
    assert sounds(SCORE, 7081, window).events.starts == render(SCORE, 7081, window).starts.tolist()


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
