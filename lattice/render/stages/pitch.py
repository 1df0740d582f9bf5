"""Which pitches a melodic lane's hits have: degrees, followed chords, stacks, arpeggios; then all that moves them."""

from collections.abc import Callable
from functools import partial
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.document.arpeggio import HeldPool, LanePool
from lattice.document.lane import Lane
from lattice.document.strip import CHORD, OCTAVE, PITCH, Strip
from lattice.render.arpeggio import (
    Heard,
    Moments,
    hits_of_order,
    played_notes,
    pools_at,
    rounds_at,
    rounds_of,
)
from lattice.render.pitch_context import PitchContext
from lattice.render.stages.stage import NeverRepeatsError, Reading, Round, Stage, strip_rounds
from lattice.steps.lane_steps import LaneSteps
from lattice.steps.step_window import StepWindow
from lattice.steps.strip_luck import is_strip_lucky
from lattice.steps.strip_values import accidentals_at, extent, values_at, with_spread
from lattice.theory.following import along_tones, lowest_tones, nearest_tones, roots_near
from lattice.theory.scales import OCTAVE as SEMITONES
from lattice.theory.scales import scale_note_below, scale_steps
from lattice.units import Ticks

__all__ = [
    "PITCH_STAGE",
    "Pitched",
    "burst_pitches",
    "in_ratchets",
    "octaves_of",
    "pitched",
    "single_pitches",
    "takes_velocities",
    "unpitched",
]

_STACK = 2  # a stack takes every second degree


class Pitched(NamedTuple):
    """The notes of hits, one hit after the other. *counts*: how many each has; *firsts*: index of its first.

    *raised*: returns the pitches of single notes, by their index among all, that are so many degrees higher, before
    octaves and semitones act after the scale. *velocities*: those of keys, 0 where they have none. *after*: hit by
    hit, by how many semitones octaves and transposition move its notes.
    """

    counts: Ticks
    firsts: Ticks
    raised: Callable[[Ticks, Ticks], Ticks]
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


def pitched(step_window: StepWindow, steps: Ticks, context: PitchContext, heard: Heard) -> Pitched:
    """Return the notes of the hits at *steps*, indices in *step_window*. *heard*: see `lattice.render.arpeggio`."""
    lane = step_window.lane_steps.lane
    values = with_spread(degrees_of(step_window), lane.pitch_strip, PITCH, step_window)[steps]
    stacks = with_spread(
        values_at(lane.chord_strip, CHORD, step_window, 1), lane.chord_strip, CHORD, step_window
    )[steps]
    raised_by = accidentals_at(lane.pitch_strip, step_window)[steps]
    own_degrees, pattern_degrees, semitones_up = _higher(step_window, steps, context)
    degrees_up = own_degrees + pattern_degrees
    after = semitones_up + SEMITONES * octaves_of(step_window)[steps]
    if lane.arpeggio:
        rows = played_notes(step_window, steps, lane.arpeggio, context, stacks > 1, heard)
        counts = np.array([len(row) for row in rows], np.int64)
        notes = np.array([note for row in rows for note in row], np.int64).reshape(-1, 3)
        of = np.repeat(np.arange(counts.size), counts)
        raised = partial(
            _moved,
            notes[:, 0],
            values[of],
            raised_by[of],
            notes[:, 2] > 0,
            degrees_up[of],
            pattern_degrees[of],
            lane,
            context,
        )
        velocities = notes[:, 1]
    else:
        counts = stacks
        of = np.repeat(np.arange(counts.size), counts)
        above = np.arange(of.size) - np.repeat(np.cumsum(counts) - counts, counts)
        exact, denominator = step_window.lane_steps.clock.exact(step_window.counts[steps][of])
        raised = partial(
            _own_at,
            lane,
            exact,
            denominator,
            values[of],
            raised_by[of],
            above,
            counts[of] > 1,
            degrees_up[of],
            context,
        )
        velocities = np.zeros(of.size, np.int64)
    return Pitched(counts, np.cumsum(counts) - counts, raised, velocities, after)


def _higher(step_window: StepWindow, steps: Ticks, context: PitchContext) -> tuple[Ticks, Ticks, Ticks]:
    """Return by how much the hits at *steps* are higher: the lane's degrees, its pattern's, and all semitones."""
    degrees, semitones = step_window.own("degrees_up"), step_window.own("semitones_up")
    pattern_degrees: Ticks | int = 0
    if context.transposed:
        pattern_degrees = context.transposed.degrees_at(step_window.straights)
        semitones = semitones + context.transposed.semitones_at(step_window.straights)
    all_steps = step_window.counts.size
    own, pattern, after = (
        np.broadcast_to(one, all_steps)[steps] for one in (degrees, pattern_degrees, semitones)
    )
    return own, pattern, after


def degrees_of(step_window: StepWindow) -> Ticks:
    """Return what the pitch strip says at each step, before it strays: degrees, or semitones."""
    return values_at(step_window.lane_steps.lane.pitch_strip, PITCH, step_window, 0)


def unpitched(step_window: StepWindow, steps: Ticks) -> Pitched:
    """Return one note for each hit of a voice of the kit: 0, its own, by octaves higher where a strip says so."""
    none = np.zeros(steps.size, np.int64)
    octaves = SEMITONES * octaves_of(step_window)[steps]
    return Pitched(none + 1, np.arange(steps.size), lambda notes, _: np.zeros_like(notes), none, octaves)


def octaves_of(step_window: StepWindow) -> Ticks:
    """Return by how many octaves each step is higher."""
    strip = step_window.lane_steps.lane.octave_strip
    return with_spread(values_at(strip, OCTAVE, step_window, 0), strip, OCTAVE, step_window)


def single_pitches(pitches: Pitched, of: Ticks) -> tuple[Ticks, Ticks]:
    """Return, for each single pitch, the place of the note that it sounds in, and its own among *pitches*.

    *of*: the hit that each note is of.
    """
    each = pitches.counts[of]
    row = np.repeat(np.arange(of.size), each)
    within = np.arange(row.size) - np.repeat(np.cumsum(each) - each, each)
    return row, pitches.firsts[of[row]] + within


def in_ratchets(pitches: Pitched, notes: Ticks, numbers: Ticks, lane: Lane) -> tuple[Ticks, Ticks]:
    """Return the pitches of single *notes*, by their index, that the *numbers*-th notes, from 0, of ratchets play.

    And by how many semitones their sound is tuned higher: a voice of the kit climbs so, since another MIDI note would
    be another voice.
    """
    strip = lane.ratchet_strip
    none = np.zeros_like(notes)
    climb = numbers * strip.climb if strip else none
    if not lane.is_melodic:
        return pitches.raised(notes, none), climb
    if strip and strip.climb_unit == "degrees":
        return pitches.raised(notes, climb), none
    return pitches.raised(notes, none) + climb, none


def burst_pitches(
    lane_steps: LaneSteps, starts: Ticks, context: PitchContext, heard: Heard
) -> tuple[Ticks, NDArray[np.bool_]]:
    """Return the pitch of each note of bursts at those ticks, and whether there is one.

    Degree 0; of an arpeggio its order's first note, and none where its pool is empty.
    """
    lane = lane_steps.lane
    all_of_them, zeros = np.arange(starts.size), np.zeros(starts.size, np.int64)
    degrees_up, semitones_up = zeros + lane.degrees_up, zeros + lane.semitones_up
    if context.transposed:
        degrees_up = degrees_up + context.transposed.degrees_at(starts)
        semitones_up = semitones_up + context.transposed.semitones_at(starts)
    if lane.arpeggio is None:
        single = np.zeros(starts.size, bool)
        own = _own_at(lane, starts, 1, zeros, zeros, zeros, single, degrees_up, context, all_of_them, zeros)
        return own + semitones_up, np.ones(starts.size, bool)
    pools = pools_at(lane.arpeggio, context, Moments(starts, 1, starts), heard)
    rounds = rounds_of(lane.arpeggio, pools)
    firsts = np.array([*(row[0].pitch if row else 0 for row in rounds), 0], np.int64)[pools.which]
    there = np.array([*(bool(row) for row in rounds), False])[pools.which]
    no_pedal = np.zeros(starts.size, bool)
    moved = _moved(firsts, zeros, zeros, no_pedal, degrees_up, zeros, lane, context, all_of_them, zeros)
    return moved + semitones_up, there


def _moved(
    notes: Ticks,
    values: Ticks,
    raised_by: Ticks,
    is_pedal: NDArray[np.bool_],
    degrees_up: Ticks,
    pedal_up: Ticks,
    lane: Lane,
    context: PitchContext,
    which: Ticks,
    up: Ticks,
) -> Ticks:
    """Return *which* of the notes of a pool, moved by the pitch strip and by what is higher before the scale.

    *raised_by*: accidentals. *up*: degrees beside those. A pedal note is moved by *pedal_up* alone: the
    degrees by which all of its pattern is higher.
    """
    root, degrees = context.scale.root, context.scale.semitones
    chosen, by = notes[which], values[which]
    is_semitones = lane.pitch_strip is not None and lane.pitch_strip.unit == "semitones"
    steps = degrees_up[which] + up + (0 if is_semitones else by)
    moved = scale_steps(chosen, steps, root, degrees) + (by if is_semitones else raised_by[which])
    pedal = scale_steps(chosen, pedal_up[which], root, degrees) if is_pedal.any() else chosen
    result: Ticks = np.where(is_pedal[which], pedal, moved)
    return result


def _own_at(
    lane: Lane,
    numerators: Ticks,
    denominator: int,
    values: Ticks,
    raised_by: Ticks,
    above: Ticks,
    in_stack: NDArray[np.bool_],
    degrees_up: Ticks,
    context: PitchContext,
    which: Ticks,
    up: Ticks,
) -> Ticks:
    """Return *which* of the pitches that come from the strip's *values* and accidentals, *up* degrees higher.

    *raised_by*: the accidentals. *numerators* / *denominator*: when each sounds, in ticks. *above*: its place in a
    stack, from 0; *in_stack*: whether there are more notes in it.
    """
    values, above, numerators = values[which], above[which], numerators[which]
    scale = context.scale.root, context.scale.semitones
    is_degrees = lane.pitch_strip is None or lane.pitch_strip.unit == "degrees"
    steps = degrees_up[which] + up + (values if is_degrees else 0)
    # An accidental is of its own note: of a stack, of the lowest.
    semitones = np.where(above == 0, raised_by[which], 0) if is_degrees else values
    chords = context.chords
    chord = chords.number_at(numerators, denominator) % len(chords.chords) if chords else values
    if chords and lane.follows == "tones":
        roots = roots_near(chords.chords, chord, context.note)
        if chords.is_led:  # a stack lies as the progression's chords do: from their lowest note up
            led_roots, lowest = lowest_tones(chords.chords, chords.voicings(context.note))
            stacked = in_stack[which]
            roots = np.where(stacked, led_roots[chord], roots)
            steps = steps + np.where(stacked, lowest[chord], 0)
        return along_tones(chords.chords, chord, roots, steps + above) + semitones
    base = np.full(values.size, context.note)
    if chords and lane.follows == "root":
        base = roots_near(chords.chords, chord, context.note)
    elif is_degrees:
        base = scale_note_below(base, *scale)
    own = scale_steps(scale_steps(base, steps, *scale) + semitones, _STACK * above, *scale)
    return nearest_tones(chords.chords, chord, own) if chords and lane.follows == "nearest" else own


def _most(lane_steps: LaneSteps) -> int:
    """The notes of a stack; those of a pool are the pool's."""
    return extent(lane_steps.lane.chord_strip, CHORD, 1).high if lane_steps.lane.is_melodic else 1


def _strips(lane: Lane) -> tuple[Strip | None, ...]:
    return (lane.octave_strip, *((lane.pitch_strip, lane.chord_strip) if lane.is_melodic else ()))


def _repeats(reading: Reading) -> Round:
    """Chords repeat with their progression; an arpeggio's order where it is not begun again for ever."""
    lane_steps, context = reading.lane_steps, reading.context
    whole = strip_rounds(lane_steps, *_strips(lane_steps.lane))
    if context and context.chords:
        whole = whole.met(Round(quarters=(context.chords.total,)))
    arpeggio = lane_steps.lane.arpeggio if context else None
    if arpeggio is None or context is None:
        return whole
    if arpeggio.order in ("shuffled", "random") and not lane_steps.lane.luck_bars:
        raise NeverRepeatsError("luck decides the order of its notes")
    with_chords = context.chords is not None and not isinstance(arpeggio.pool, HeldPool)
    if arpeggio.restart == "cycle" or (arpeggio.restart == "chord" and with_chords):
        return whole
    sizes = [len(row) for row in rounds_at(arpeggio, context, reading.tick, reading.heard)]
    return whole.met(Round(hits=hits_of_order(arpeggio, sizes)))


def _is_lucky(lane_steps: LaneSteps) -> bool:
    lane = lane_steps.lane
    orders = lane.is_melodic and lane.arpeggio is not None and lane.arpeggio.order in ("random", "shuffled")
    return orders or any(map(is_strip_lucky, _strips(lane)))


PITCH_STAGE = Stage(
    "pitch",
    frozenset(
        {"voice", "note", "scale", "follows", "pitch_strip", "degrees_up", "semitones_up", "arpeggio", "keys"}
        | {"octave_strip", "chord_strip"}
    ),
    notes=_most,
    repeats=_repeats,
    taken_by_step=lambda _lane: frozenset({"degrees_up", "semitones_up"}),
    is_moved_by_luck=_is_lucky,
)
