"""What a melodic lane plays, by the definitions taken literally: beside `playing`, and like it slow.

Shared with the engine: draws, and what the names of scales and chords mean, which have tables of their own.
"""

from fractions import Fraction
from functools import cached_property
from math import ceil

import numpy as np

from lattice.document import HeldPool, Lane, LanePool, LaneSwing, ScalePool, Score, TypedPool
from lattice.document.pitched import PITCHED
from lattice.document.strip import STRIPS
from lattice.luck.draws import Purpose, draws
from lattice.theory.chords import Chord, parse_chord
from tests.lattice.playing import QUARTER, Walked, half_up

Pool = list[tuple[int, int]]  # (pitch, velocity; 0 for none), in the order of playing


class PedalNote(tuple):
    """The pedal note of an arpeggio, which degrees do not move."""


def nearest(pitches, to: int) -> int:
    return min(pitches, key=lambda pitch: (abs(pitch - to), pitch))


def folded(pitch: int) -> int:
    while pitch < 0:
        pitch += 12
    while pitch > 127:
        pitch -= 12
    return pitch


class Sung(Walked):
    """The first *count* played steps of a melodic lane, and what they sound like."""

    def __init__(self, score: Score, dice: int, lane: Lane, count: int) -> None:
        super().__init__(score, dice, lane, count)
        scale = lane.scale or score.scale
        self.scale = [pitch for pitch in range(-200, 400) if (pitch - scale.root) % 12 in scale.semitones]
        roots = [pitch for pitch in range(128) if pitch % 12 == scale.root]
        self.note = nearest(roots, PITCHED[lane.voice].home) if lane.note is None else lane.note
        self.degree_0 = max(pitch for pitch in self.scale if pitch <= self.note)
        self.known_source: list | None = None

    # ---- Scale and chords ----
    def up(self, pitch: int, steps: int) -> int:
        if pitch in self.scale:
            return self.scale[self.scale.index(pitch) + steps]
        if steps > 0:
            return [one for one in self.scale if one > pitch][steps - 1]
        return [one for one in self.scale if one < pitch][steps] if steps < 0 else pitch

    def chord_number(self, time: Fraction) -> tuple[int, Fraction]:
        """The running number of the chord at a time, and when it began."""
        lengths = self.chord_lengths
        rounds = time // sum(lengths)
        begin = rounds * sum(lengths)
        for place, length in enumerate(lengths):
            if time < begin + length:
                return rounds * len(lengths) + place, begin
            begin += length
        raise AssertionError

    @cached_property
    def chord_lengths(self) -> list[Fraction]:
        return [chord.lasts.quarters(self.bar) for chord in self.score.progression.chords]

    def written(self, text: str) -> Chord:
        return parse_chord(text, self.score.scale.root, self.score.scale.semitones)

    def chord_at(self, time: Fraction) -> Chord | None:
        if self.score.progression is None:
            return None
        chords = self.score.progression.chords
        return self.written(chords[self.chord_number(time)[0] % len(chords)].chord)

    def root_near(self, chord: Chord) -> int:
        return nearest([pitch for pitch in range(-30, 160) if pitch % 12 == chord.root], self.note)

    def voiced(self, chord: Chord, inversion: int) -> list[int]:
        pitches = [self.root_near(chord) + tone for tone in chord.tones]
        return sorted(
            pitch + 12 if place < inversion else pitch for place, pitch in enumerate(sorted(pitches))
        )

    def voicings(self) -> list[list[int]]:
        progression, found = self.score.progression, []
        for place in progression.chords:
            chord = self.written(place.chord)
            if not found or progression.leading == "as-written":
                found.append(self.voiced(chord, place.inversion))
                continue
            ways = [place.inversion] if place.inversion else range(len(chord.tones))
            positions = [
                [pitch + 12 * octave for pitch in self.voiced(chord, way)]
                for way in ways
                for octave in range(-6, 7)
            ]
            found.append(min(positions, key=lambda one: (self.distance(one, found[-1]), one)))
        return found

    @staticmethod
    def distance(one: list[int], other: list[int]) -> int:
        there = sum(min(abs(a - b) for b in other) for a in one)
        return there + sum(min(abs(a - b) for b in one) for a in other)

    # ---- Its own pitches ----
    def degrees(self, at: int) -> int:
        """Steps along the scale above where counting begins."""
        value = 0 if self.counts_semitones() else self.with_spread(at, "pitch", 0)
        return self.lane.degrees_up + value

    def counts_semitones(self) -> bool:
        return self.lane.pitch_strip is not None and self.lane.pitch_strip.unit == "semitones"

    def semitones(self, at: int) -> int:
        """What a strip of semitones says."""
        return self.with_spread(at, "pitch", 0) if self.counts_semitones() else 0

    def accidental(self, at: int) -> int:
        strip = self.lane.pitch_strip
        if strip is None or strip.unit == "semitones":
            return 0
        # Where each value stands is where its accidental does: looked up by a strip of the places themselves.
        places = strip.model_copy(update={"values": tuple(range(len(strip.values))), "spread": None})
        beside = type(self).__new__(type(self))
        beside.__dict__ = self.__dict__ | {"lane": self.lane.model_copy(update={"pitch_strip": places})}
        place = beside.value(at, STRIPS["pitch"], -1)
        has_one = 0 <= place < len(strip.accidentals) and strip.values[place] is not None
        return strip.accidentals[place] if has_one else 0

    def own(self, time: Fraction, degrees: int, semitones: int, stack: int, size: int = 1) -> int:
        """The pitch of a note, counted from 0, of a stack of that size, without its accidental."""
        chord, follows = self.chord_at(time), self.lane.follows
        if chord and follows == "tones":
            if size > 1 and self.score.progression.leading == "nearest":
                number = self.chord_number(time)[0] % len(self.score.progression.chords)
                lowest = self.voicings()[number][0]
                classes = {(chord.root + tone) % 12 for tone in chord.tones}
                tones = [pitch for pitch in range(-300, 500) if pitch % 12 in classes]
                return tones[tones.index(lowest) + degrees + stack] + semitones
            tones = sorted({tone % 12 for tone in chord.tones})
            octaves, place = divmod(degrees + stack, len(tones))
            return self.root_near(chord) + 12 * octaves + tones[place] + semitones
        base = self.note if self.counts_semitones() else self.degree_0
        if chord and follows == "root":
            base = self.root_near(chord)
        return self.up(self.up(base, degrees) + semitones, 2 * stack)

    def with_accidental(self, at: int, degrees: int, stack: int, size: int) -> int:
        """The same as it sounds: an accidental raises the lowest note of a stack alone, before it looks for a chord's."""
        time = self.steps[at].at
        pitch = self.own(time, degrees, self.semitones(at), stack, size)
        if stack == 0:
            pitch += self.accidental(at)
        return self.near_a_tone(time, pitch)

    def near_a_tone(self, time: Fraction, pitch: int) -> int:
        chord = self.chord_at(time)
        if chord and self.lane.follows == "nearest":
            classes = {(chord.root + tone) % 12 for tone in chord.tones}
            return nearest([one for one in range(-200, 400) if one % 12 in classes], pitch)
        return pitch

    # ---- Arpeggio ----
    def pool(self, time: Fraction, tick: int) -> Pool:
        pool = self.lane.arpeggio.pool
        if isinstance(pool, HeldPool):
            return self.held(time * QUARTER)
        if isinstance(pool, LanePool):
            return self.of_lane(tick)
        pitches: list[int] = []
        if isinstance(pool, ScalePool):
            pitches = [self.up(self.degree_0, step) for step in range(pool.low, pool.high + 1)]
        elif isinstance(pool, TypedPool):
            pitches = self.voiced(self.written(pool.chord), 0) if pool.chord else list(pool.notes)
        elif self.score.progression:
            number = self.chord_number(time)[0] % len(self.score.progression.chords)
            pitches = self.voicings()[number]
        return [(pitch, 0) for pitch in pitches]

    def moments(self) -> list[tuple[int, int | None, int, int]]:
        """Of every key: when it is struck, when it falls silent, its note, its velocity."""
        found = []
        for one in self.lane.keys.held:
            up = one.end
            for pedal in sorted(self.lane.keys.sustained, key=lambda pedal: pedal.start):
                if up is not None and pedal.start <= up and (pedal.end is None or up < pedal.end):
                    up = pedal.end
            # Pedals that touch are one: what it comes up at may be held by the next.
            found.append((one.start, up, one.key, one.velocity))
        return found

    def held(self, tick: Fraction) -> Pool:
        latch, keys = self.lane.arpeggio.pool.latch, self.moments()
        pool: list[int] = []
        changes = sorted({one[0] for one in keys} | {one[1] for one in keys if one[1] is not None})

        def down(number: int, now: int) -> bool:
            start, end, *_ = keys[number]
            return start < now and (end is None or end > now)

        for now in sorted({*changes, *self.lane.keys.let_go}):
            if now > tick:
                break
            still = [number for number in range(len(keys)) if down(number, now)]
            if latch == "off" or now in self.lane.keys.let_go:
                pool = [number for number in pool if number in still]
            struck = [number for number, one in enumerate(keys) if one[0] == now]
            if latch == "replace" and struck and not still:
                pool = []
            pool += [
                number
                for number in struck
                if latch != "off" or keys[number][1] is None or keys[number][1] > now
            ]
        return [(keys[number][2], keys[number][3]) for number in pool[-64:]]

    def begins(self) -> list[int]:
        keys = self.moments()
        return [
            now
            for now in sorted({one[0] for one in keys})
            if not any(one[0] < now and (one[1] is None or one[1] > now) for one in keys)
        ]

    def of_lane(self, tick: int) -> Pool:
        if self.known_source is None:
            lane = self.score.lane(self.lane.arpeggio.pool.of).model_copy(
                update={"nudge_strip": None, "humanise": None, "swing": LaneSwing()}
            )
            lanes = tuple(lane if one.id == lane.id else one for one in self.score.lanes)
            walked = walked_of(self.score.model_copy(update={"lanes": lanes}), self.dice, lane, 1)
            furthest = self.steps[self.count].at
            steps = ceil(furthest / walked.length) + 60
            if steps > 600:
                raise LookupError("too many steps to walk")
            walked = walked_of(walked.score, self.dice, lane, steps)
            note = walked.note if isinstance(walked, Sung) else kit_note(self.score, lane)
            heard = [(one, folded(note + one.climb)) for one in walked.notes()]
            self.known_source = sorted(heard, key=lambda row: row[0].start)
        # Of one pitch the note that began last sounds, the loudest of those that begin together, as long as any of them.
        pool: dict[int, tuple[int, int, int]] = {}
        for one, pitch in self.known_source:
            if one.start > tick:
                break
            begun, end, hard = pool.get(pitch, (-1, 0, 0))
            if begun == one.start:
                pool[pitch] = (begun, max(end, one.end), max(hard, one.velocity))
            else:
                pool.pop(pitch, None)
                pool[pitch] = (one.start, one.end, one.velocity)
        return [(pitch, hard) for pitch, (_, end, hard) in pool.items() if tick < end]

    def round(self, pool: Pool) -> Pool:
        """One round of the order, octaves added."""
        arpeggio = self.lane.arpeggio
        row = [(pitch + 12 * octave, hard) for octave in range(arpeggio.octaves) for pitch, hard in pool]
        if arpeggio.order == "as-played":
            return row
        rising = sorted({pitch: (pitch, hard) for pitch, hard in row}.values())
        inward = []
        rest = list(rising)
        while rest:
            inward.append(rest.pop(0))
            if rest:
                inward.append(rest.pop())
        return {
            "down": rising[::-1],
            "up-and-down": rising + rising[::-1][1:-1],
            "up-and-down-twice": rising + rising[::-1],
            "inward": inward,
            "outward": inward[::-1],
        }.get(arpeggio.order, rising)

    def begun(self, at: int) -> int:
        """The step at which counting last began."""
        step = self.steps[at]
        told = self.clock_lane is self.lane and not (self.lane.thin and self.lane.edits)
        lucky = self.clock_lane.direction in ("random", "wander")
        each_cycle = lucky or (self.clock_lane.direction == "shuffled" and not told)
        arpeggio = self.lane.arpeggio
        first = next(i for i, one in enumerate(self.steps) if one.run == step.run)
        if each_cycle or arpeggio.restart == "cycle":
            first = next(i for i, one in enumerate(self.steps) if one.cycle == step.cycle)
        since: Fraction | None = None
        if arpeggio.restart == "chord" and isinstance(arpeggio.pool, HeldPool):
            earlier = [tick for tick in self.begins() if tick <= step.at * QUARTER]
            since = Fraction(earlier[-1], QUARTER) if earlier else None
        elif arpeggio.restart == "chord" and self.score.progression:
            since = self.chord_number(step.at)[1]
        if since is None:
            return first
        return max(first, next(i for i, one in enumerate(self.steps) if one.at >= since))

    def arpeggiated(self, at: int) -> Pool:
        arpeggio, step = self.lane.arpeggio, self.steps[at]
        pool = self.pool(step.at, half_up(step.at * QUARTER))
        row, begun = self.round(pool), self.begun(at)
        used, since_pedal, pedals = 0, 0, 0
        pedal = arpeggio.pedal
        noted = []  # the hits before it that played notes of the order
        for number in [i for i in range(begun, at + 1) if self.steps[i].hit]:
            returns = (
                pedal is not None and (used + 1 - pedal.first) % pedal.every == 0 and used + 1 >= pedal.first
            )
            if number == at:
                break
            used += 1
            noted += [] if returns else [number]
            pedals += returns
            since_pedal = 0 if returns else since_pedal + 1
        at_once = arpeggio.order == "all" or self.with_spread(at, "chord", 1) > 1
        chord = sorted(set(row))[:64] if at_once else []
        if returns:
            return [PedalNote((self.note if pedal.note is None else pedal.note, 0)), *chord]
        if at_once or not row:
            return chord
        place = used if pedal is None else (since_pedal if pedal.again and pedals else used - pedals)
        if arpeggio.order == "random":
            return [row[self.drawn(at, Purpose.NOTE_OF_POOL, 1)[0] * len(row) // 2**53]]
        turn, place = divmod(place, len(row))
        if arpeggio.order == "shuffled":
            number = begun * 2**20 + turn
            if self.lane.luck_bars:
                number = self.since_repeat(self.steps[noted[-place] if place else at])
            where = np.full(len(row), number), np.arange(len(row))
            luck = draws(self.dice, self.lane.id, Purpose.NOTE_ORDER, *where).tolist()
            return [row[sorted(range(len(row)), key=lambda one: luck[one])[place]]]
        return [row[place]]

    # ---- What sounds ----
    def climbs(self, at: int, note: int) -> list[tuple[int, int | None]]:
        lane = self.lane
        degrees, semitones = self.degrees(at), self.semitones(at) + self.accidental(at)
        after = lane.semitones_up + 12 * self.with_spread(at, "octave", 0) - self.note
        keyed = bool(lane.arpeggio and lane.arpeggio.velocity == "keys")
        keyed = keyed and isinstance(lane.arpeggio.pool, HeldPool | LanePool)
        strip = lane.ratchet_strip
        climb = note * strip.climb if strip else 0
        by_degrees = bool(strip and strip.climb_unit == "degrees")
        if by_degrees:
            degrees += climb
        if lane.arpeggio:
            notes = [
                (
                    one[0] if isinstance(one, PedalNote) else self.up(one[0], degrees) + semitones,
                    one[1] * keyed,
                )
                for one in self.arpeggiated(at)
            ]
        else:
            size = self.with_spread(at, "chord", 1)
            notes = [(self.with_accidental(at, degrees, above, size), 0) for above in range(size)]
        after += 0 if by_degrees else climb
        return [(pitch + after, hard or None) for pitch, hard in notes]

    def tune(self, note: int) -> int:
        return 0

    def burst_climb(self, tick: int) -> int | None:
        lane, time = self.lane, Fraction(tick, QUARTER)
        if lane.arpeggio is None:
            burst = self.near_a_tone(time, self.own(time, lane.degrees_up, 0, 0))
            return burst + lane.semitones_up - self.note
        row = self.round(self.pool(time, tick))
        return self.up(row[0][0], lane.degrees_up) + lane.semitones_up - self.note if row else None


def kit_note(score: Score, lane: Lane) -> int:
    return score.kit.voice(lane.voice).pitch if lane.note is None else lane.note


def walked_of(score: Score, dice: int, lane: Lane, steps: int) -> Walked:
    """Return the walk of a lane, melodic or not."""
    return (Sung if lane.is_melodic else Walked)(score, dice, lane, steps)
