"""Which pitches a melodic lane's hits have: degrees, followed chords, stacks, arpeggios; then all that moves them."""

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.clock.ticks import Ticks
from lattice.document.arpeggio import HeldPool, LanePool
from lattice.document.lane import Lane
from lattice.document.strip import CHORD, OCTAVE, PITCH
from lattice.pitch.following import along_tones, nearest_tones, roots_near
from lattice.pitch.scales import OCTAVE as SEMITONES
from lattice.pitch.scales import scale_note_below, scale_steps
from lattice.pitch.tune import Tune
from lattice.render.arpeggio import Heard, Moments, played_notes, pools_at, rounds_of
from lattice.rhythm.lane_line import LaneLine
from lattice.rhythm.stretch import Stretch
from lattice.strips.values import strayed, values_at

__all__ = [
    "MOST_NOTES",
    "Pitched",
    "burst_pitches",
    "octaves_of",
    "pitched",
    "takes_velocities",
    "turned_in_ratchets",
    "unpitched",
]

_STACK = 2  # a stack takes every second degree
MOST_NOTES = 64  # at once, which is more than hands and pools have


class Pitched(NamedTuple):
    """The notes of hits, one hit after the other. *counts*: how many each has; *firsts*: index of its first.

    *pitches*: before octaves and semitones that act after the scale; *velocities*: those of keys, 0 where they have
    none. *after*: hit by hit, by how many semitones octaves and transposition move its notes.
    """

    counts: Ticks
    firsts: Ticks
    pitches: Ticks
    velocities: Ticks
    after: Ticks


def takes_velocities(lane: Lane) -> bool:
    """Return whether the lane's notes are as hard as the keys, or the notes, that they come from."""
    arpeggio = lane.arpeggio if lane.is_melodic else None
    return (
        arpeggio is not None
        and arpeggio.velocity == "keys"
        and isinstance(arpeggio.pool, HeldPool | LanePool)
    )


def pitched(stretch: Stretch, steps: Ticks, tune: Tune, heard: Heard) -> Pitched:
    """Return the notes of the hits at *steps*, indices in *stretch*. *heard*: see `lattice.render.arpeggio`."""
    lane = stretch.line.lane
    values = strayed(degrees_of(stretch), lane.pitch_strip, PITCH, stretch)[steps]
    stacks = strayed(values_at(lane.chord_strip, CHORD, stretch, 1), lane.chord_strip, CHORD, stretch)[steps]
    after = lane.semitones_up + SEMITONES * octaves_of(stretch)[steps]
    if lane.arpeggio:
        rows = played_notes(stretch, steps, lane.arpeggio, tune, stacks > 1, heard)
        rows = [row[:MOST_NOTES] for row in rows]
        counts = np.array([len(row) for row in rows], np.int64)
        notes = np.array([note for row in rows for note in row], np.int64).reshape(-1, 2)
        of = np.repeat(np.arange(counts.size), counts)
        pitches, velocities = _moved(notes[:, 0], values[of], lane, tune), notes[:, 1]
    else:
        counts = stacks
        of = np.repeat(np.arange(counts.size), counts)
        above = np.arange(of.size) - np.repeat(np.cumsum(counts) - counts, counts)
        exact, denominator = stretch.line.course.exact(stretch.counts[steps][of])
        pitches = _own_at(lane, exact, denominator, values[of], above, tune)
        velocities = np.zeros_like(pitches)
    return Pitched(counts, np.cumsum(counts) - counts, pitches, velocities, after)


def degrees_of(stretch: Stretch) -> Ticks:
    """Return what the pitch strip says at each step, before it strays: degrees, or semitones."""
    return values_at(stretch.line.lane.pitch_strip, PITCH, stretch, 0)


def unpitched(stretch: Stretch, steps: Ticks) -> Pitched:
    """Return one note for each hit of a voice of the kit: 0, its own, by octaves higher where a strip says so."""
    none = np.zeros(steps.size, np.int64)
    return Pitched(none + 1, np.arange(steps.size), none, none, SEMITONES * octaves_of(stretch)[steps])


def octaves_of(stretch: Stretch) -> Ticks:
    """Return by how many octaves each step is higher."""
    strip = stretch.line.lane.octave_strip
    return strayed(values_at(strip, OCTAVE, stretch, 0), strip, OCTAVE, stretch)


def turned_in_ratchets(pitches: Ticks, notes: Ticks, lane: Lane, tune: Tune | None) -> Ticks:
    """Return *pitches* of the *notes*-th notes, from 0, of ratchets that climb by semitones, or by degrees."""
    strip = lane.ratchet_strip
    if strip is None or strip.climb == 0:
        return pitches
    if tune is None or strip.climb_unit == "semitones":
        return pitches + notes * strip.climb
    return scale_steps(pitches, notes * strip.climb, tune.scale.root, tune.scale.semitones)


def burst_pitches(line: LaneLine, starts: Ticks, tune: Tune, heard: Heard) -> tuple[Ticks, NDArray[np.bool_]]:
    """Return the pitch of each note of bursts at those ticks, and whether there is one.

    Degree 0; of an arpeggio its order's first note, and none where its pool is empty.
    """
    lane = line.lane
    zeros = np.zeros(starts.size, np.int64)
    if lane.arpeggio is None:
        return _own_at(lane, starts, 1, zeros, zeros, tune) + lane.semitones_up, np.ones(starts.size, bool)
    pools = pools_at(lane.arpeggio, tune, Moments(starts, 1, starts), heard)
    rounds = rounds_of(lane.arpeggio, pools)
    firsts = np.array([*(row[0].pitch if row else 0 for row in rounds), 0], np.int64)
    there = np.array([*(bool(row) for row in rounds), False])
    return _moved(firsts[pools.which], zeros, lane, tune) + lane.semitones_up, there[pools.which]


def _moved(notes: Ticks, values: Ticks, lane: Lane, tune: Tune) -> Ticks:
    """Return notes of a pool moved by the pitch strip and by what is higher before the scale."""
    root, degrees = tune.scale.root, tune.scale.semitones
    if lane.pitch_strip and lane.pitch_strip.unit == "semitones":
        return scale_steps(notes, np.full_like(notes, lane.degrees_up), root, degrees) + values
    return scale_steps(notes, values + lane.degrees_up, root, degrees)


def _own_at(
    lane: Lane, numerators: Ticks, denominator: int, values: Ticks, above: Ticks, tune: Tune
) -> Ticks:
    """Return pitches from the strip's *values*; *above*: the how-manieth of its stack each note is, from 0."""
    scale = tune.scale.root, tune.scale.semitones
    is_degrees = lane.pitch_strip is None or lane.pitch_strip.unit == "degrees"
    steps = values + lane.degrees_up if is_degrees else np.full_like(values, lane.degrees_up)
    semitones = np.zeros_like(values) if is_degrees else values
    chords = tune.chords
    which = chords.number_at(numerators, denominator) % len(chords.chords) if chords else values
    if chords and lane.follows == "tones":
        return along_tones(chords.chords, which, tune.note, steps + above) + semitones
    if chords and lane.follows == "root":
        base = roots_near(chords.chords, which, tune.note)
    else:
        base = scale_note_below(np.full(values.size, tune.note), *scale)
    own = scale_steps(scale_steps(base, steps, *scale) + semitones, _STACK * above, *scale)
    return nearest_tones(chords.chords, which, own) if chords and lane.follows == "nearest" else own
