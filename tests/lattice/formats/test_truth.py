"""What is drawn, what is scheduled, a take, a clip, a file written and a file read again are the same notes."""

from math import ceil

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from lattice.clips import take, take_clip
from lattice.document import Score
from lattice.formats.midi import RESOLUTIONS, Export, midi_file
from lattice.formats.midi_reader import read_midi
from lattice.render import Window, render
from lattice.render.overlaps import Events, resolve_overlaps
from lattice.screen import sounds
from lattice.steps.lane_steps import steps_of_lanes
from tests.lattice.formats.readers import by_midicsv, by_mido, by_pretty_midi
from tests.lattice.scores import dice, scores

FINEST = 13440


def rows(starts, lengths, pitches, velocities, channels):
    return sorted(zip(starts, lengths, pitches, velocities, channels, strict=True))


def rows_of(clip):
    return sorted((*note[:4], track.channel) for track in clip.tracks for note in track.notes)


def in_file_ticks(notes, resolution, end):
    """By the definition, one by one: floor(tick x resolution / 13440 + 1/2), merged where they coincide, cut at the end."""
    columns = np.array(list(notes), np.int64).reshape(-1, 5).T
    times = (columns[0], columns[0] + columns[1])
    starts, ends = ((2 * time * resolution + FINEST) // (2 * FINEST) for time in times)
    file_end = (2 * end * resolution + FINEST) // (2 * FINEST)
    events = Events(
        np.arange(starts.size),
        starts,
        np.maximum(1, ends - starts),
        columns[2],
        columns[3],
        np.zeros_like(starts),
        columns[4],
        starts,
    )
    kept = resolve_overlaps(events)
    kept = kept.take(kept.starts < file_end)
    ends = np.minimum(kept.starts + kept.lengths, file_end)
    return rows(
        *(column.tolist() for column in (kept.starts, ends, kept.pitches, kept.velocities, kept.channels))
    )


@st.composite
def heard_scores(draw) -> Score:
    """Any score, some lane of which is heard, in a meter that a file can say exactly."""
    score = draw(scores(min_lanes=1))
    return score.model_copy(
        update={"lanes": tuple(one.model_copy(update={"mute": False, "solo": False}) for one in score.lanes)}
    )


@given(heard_scores(), dice, st.integers(0, 5), st.integers(1, 2))
@settings(max_examples=30)
def test_everything_is_the_same_notes(score, dice, first_bar, bars):
    window = Window(first_bar=first_bar, bars=bars)
    events = render(score, dice, window)
    begin, end = window.ticks(score.meter.bar_ticks)

    heard = sounds(score, dice, window).events
    scheduled = rows(
        events.starts.tolist(),
        events.lengths.tolist(),
        events.pitches.tolist(),
        events.velocities.tolist(),
        events.channels.tolist(),
    )
    assert rows(heard.starts, heard.lengths, heard.pitches, heard.velocities, heard.channels) == scheduled

    taken = take(score, dice, window)
    clip = take_clip(taken, "Night Ferry", "A")
    # A clip holds the hits of its bars, also those that came early, and what of them came late.
    # No note is further from its step than the longest step that there is, and a second.
    longest = max(lane_steps.clock.step for lane_steps in steps_of_lanes(score, dice))
    bars_around = ceil((longest + 2) / score.meter.bar_quarters)
    before = min(bars_around, first_bar)
    around = render(score, dice, Window(first_bar=first_bar - before, bars=before + bars + bars_around))
    own = around.take((around.straights >= begin) & (around.straights < end))
    starts = np.maximum(0, own.starts - begin)
    columns = (starts, own.lengths, own.pitches, own.velocities, own.channels)
    assert rows_of(clip) == rows(*(column.tolist() for column in columns))

    for resolution in RESOLUTIONS:
        data = midi_file(clip, Export(resolution=resolution))
        expected = in_file_ticks(rows_of(clip), resolution, clip.length_ticks)
        assert by_mido(data) == expected
        if resolution == FINEST:
            again = read_midi(data, clip.name).clip
            assert again.length_ticks == clip.length_ticks
            assert [(s, s + length, p, v, c) for s, length, p, v, c in rows_of(again)] == expected
            # What it writes again, it reads again: nothing is lost on the way.
            assert rows_of(read_midi(midi_file(again, Export(resolution=FINEST)), "x").clip) == rows_of(again)


@given(heard_scores(), dice, st.sampled_from(RESOLUTIONS), st.sampled_from([0, 1]))
def test_readers_that_are_not_ours_read_the_same(score, dice, resolution, kind):
    clip = take_clip(take(score, dice, Window(bars=2)), "Night Ferry", "A")
    data = midi_file(clip, Export(resolution=resolution, type=kind))
    expected = by_mido(data)
    assert by_midicsv(data) == expected
    if resolution < FINEST:  # it reckons in seconds, in floating point: a tick of 13440 is too fine for it
        assert by_pretty_midi(data) == sorted(row[:4] for row in expected)
