"""Whatever is combined, every note lies and sounds as the definitions say, worked out one by one."""

from hypothesis import given, settings

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
