"""Whatever is combined, every note lies and sounds as the definitions say, worked out one by one."""

from hypothesis import given, settings

from lattice.document import DOCKSIDE, Drawn, Lane, LengthStrip, Score, Spread
from lattice.render.feel import feel_of
from lattice.render.pipeline import play
from lattice.render.pitch_context import pitch_context_of
from lattice.steps.lane_steps import lines_of
from lattice.units import ticks
from tests.lattice.playing import Note
from tests.lattice.scores import dice, scores
from tests.lattice.singing import walked_of

STEPS = 150


@given(scores(min_lanes=1), dice)
@settings(max_examples=60)
def test_every_note_is_what_the_definitions_say(score, dice):
    score = score.model_copy(
        update={
            "lanes": tuple(one.model_copy(update={"luck_bars": None, "clip": None}) for one in score.lanes)
        }
    )
    for lane, line in zip(score.lanes, lines_of(score, dice), strict=True):
        walked = walked_of(score, dice, lane, STEPS)
        # All that begins before the steps at the end have a say: late ones are not walked.
        late = walked.length * 3 + score.quarters_per_minute / 60 * 2
        end = ticks(max(walked.steps[STEPS - 1].at - late, walked.length / 8))
        try:
            expected = [note for note in walked.notes() if note.start < end]
        except LookupError:
            continue
        notes = play(line, feel_of(lane, score), pitch_context_of(lane, score, dice), 0, end).notes
        columns = (notes.starts, notes.ends, notes.velocities, notes.intervals, notes.tunes)
        found = sorted(Note(*row) for row in zip(*(column.tolist() for column in columns), strict=True))
        assert found == expected


def test_lengths_up_to_the_longest_that_hands_make_stray_as_others_do():
    """A value beyond 400 %, with a spread: found at random, and told here on its own."""
    strip = LengthStrip(values=(780,), spread=Spread(by=56))
    lane = Lane(id="a", name="A", voice="thud", source=Drawn(steps=4, hits=(0, 2)), length_strip=strip)
    score = Score(tempo=112.0, kit=DOCKSIDE, bars=1, lanes=(lane,))
    walked = walked_of(score, 7, lane, 64)
    line = lines_of(score, 7)[0]
    notes = play(line, feel_of(lane, score), None, 0, 8 * 53_760).notes
    lengths = [note.end - note.start for note in walked.notes()][:20]
    assert (notes.ends - notes.starts).tolist()[:20] == lengths
    assert len(set(lengths)) > 8
