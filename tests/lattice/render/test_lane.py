"""Whatever is combined, every note lies and sounds as the definitions say, worked out one by one."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lattice.document import (
    DOCKSIDE,
    Arpeggio,
    Burst,
    ChordStrip,
    Drawn,
    Euclidean,
    Free,
    Humanise,
    Lane,
    LengthStrip,
    Link,
    Pedal,
    PitchStrip,
    Score,
    Spread,
    TypedPool,
    VelocityStrip,
)
from lattice.document.pitched import PITCHED
from lattice.document.strip import STRIPS
from lattice.render.feel import feel_of
from lattice.render.pipeline import play
from lattice.render.pitch_context import pitch_context_of
from lattice.steps.lane_steps import steps_of_lanes
from lattice.units import ticks
from tests.lattice.lane_fields import progressions, strips
from tests.lattice.playing import Note
from tests.lattice.scores import dice, scores
from tests.lattice.singing import walked_of

STEPS = 150


def checked(score, dice):
    """Compare what each lane plays with its definitions; return how many notes were compared.

    Kept clips are notes, and have tests of their own; so has luck that repeats where it also decides the order of steps.
    """
    unwalked = ("shuffled", "random", "wander")
    lanes = tuple(
        one.model_copy(
            update={"clip": None, "luck_bars": None if one.direction in unwalked else one.luck_bars}
        )
        for one in score.lanes
    )
    score = score.model_copy(update={"lanes": lanes})
    compared = 0
    for lane, lane_steps in zip(score.lanes, steps_of_lanes(score, dice), strict=True):
        walked = walked_of(score, dice, lane, STEPS)
        # All that begins before the steps at the end have a say: late ones are not walked.
        late = walked.length * 3 + score.quarters_per_minute / 60 * 2
        end = ticks(max(walked.steps[STEPS - 1].at - late, walked.length / 8))
        try:
            expected = [note for note in walked.notes() if note.start < end]
        except LookupError:
            continue
        notes = play(lane_steps, feel_of(lane, score), pitch_context_of(lane, score, dice), 0, end).notes
        columns = (notes.starts, notes.ends, notes.velocities, notes.intervals, notes.tunes)
        found = sorted(Note(*row) for row in zip(*(column.tolist() for column in columns), strict=True))
        assert found == expected
        compared += len(found)
    return compared


@given(scores(min_lanes=1), dice)
@settings(max_examples=60)
def test_every_note_is_what_the_definitions_say(score, dice):
    checked(score, dice)


MELODIC = st.fixed_dictionaries(
    {
        "voice": st.sampled_from(sorted(PITCHED)),
        "follows": st.sampled_from([None, "root", "tones", "nearest"]),
        "pitch_strip": strips(
            PitchStrip,
            STRIPS["pitch"],
            unit=st.sampled_from(["degrees", "semitones"]),
            accidentals=st.lists(st.integers(-3, 3), min_size=1, max_size=9).map(tuple),
        ),
        "chord_strip": st.none() | strips(ChordStrip, STRIPS["chord"]),
        "degrees_up": st.integers(-28, 28),
    }
)


@given(scores(min_lanes=1, made=False), st.lists(MELODIC, min_size=4, max_size=4), progressions, dice)
def test_every_note_of_melodies_is_what_the_definitions_say(score, melodies, progression, dice):
    """Each lane has pitches, accidentals among them, most have stacks: seldom enough among all that a lane can have."""
    lanes = tuple(
        one.model_copy(update={"arpeggio": None, "note": None, **fields})
        for one, fields in zip(score.lanes, melodies, strict=False)
    )
    checked(score.model_copy(update={"lanes": lanes, "progression": progression}), dice)


@pytest.mark.parametrize("bars", [1, 2, 3])
def test_luck_that_repeats_is_drawn_by_the_steps_begun_since_its_bars_began(bars):
    lane = Lane(
        id="a",
        name="A",
        voice="thud",
        source=Euclidean(hits=9, steps=11),
        chance_percent=50,
        luck_bars=bars,
        links=(Link(step=0), Link(step=4)),
        humanise=Humanise(ms=9, velocity=12),
        bursts=(Burst(notes=5, chance_percent=50),),
    )
    assert checked(Score(tempo=112.0, kit=DOCKSIDE, bars=4, lanes=(lane,)), 7) > 40


@pytest.mark.parametrize("direction", ["shuffled", "random", "wander"])
@pytest.mark.parametrize("advance", ["step", "hit"])
@pytest.mark.parametrize(
    "pedal", [None, Pedal(every=4, first=2), Pedal(every=5, again=True)], ids=["none", "counted", "again"]
)
def test_orders_of_strips_and_notes_repeat_with_their_luck(direction, advance, pedal):
    lane = Lane(
        id="a",
        name="A",
        voice="low-reed",
        source=Euclidean(hits=7, steps=11),
        luck_bars=1,
        velocity_strip=VelocityStrip(
            values=(20, 40, 60, 80, 100), free=Free(direction=direction, advance=advance)
        ),
        arpeggio=Arpeggio(
            pool=TypedPool(notes=(50, 53, 57, 60)),
            order="random" if direction == "random" else "shuffled",
            pedal=pedal,
        ),
    )
    score = Score(tempo=112.0, kit=DOCKSIDE, bars=4, lanes=(lane,))
    assert checked(score, 7) > 40
    lane_steps = steps_of_lanes(score, 7)[0]
    assert (
        play(lane_steps, feel_of(lane, score), pitch_context_of(lane, score, 7), 1, 2).notes.starts.size == 0
    )


def test_lengths_up_to_the_longest_that_hands_make_stray_as_others_do():
    """A value beyond 400 %, with a spread: found at random, and told here on its own."""
    strip = LengthStrip(values=(780,), spread=Spread(by=56))
    lane = Lane(id="a", name="A", voice="thud", source=Drawn(steps=4, hits=(0, 2)), length_strip=strip)
    score = Score(tempo=112.0, kit=DOCKSIDE, bars=1, lanes=(lane,))
    walked = walked_of(score, 7, lane, 64)
    lane_steps = steps_of_lanes(score, 7)[0]
    notes = play(lane_steps, feel_of(lane, score), None, 0, 8 * 53_760).notes
    lengths = [note.end - note.start for note in walked.notes()][:20]
    assert (notes.ends - notes.starts).tolist()[:20] == lengths
    assert len(set(lengths)) > 8
