"""What a lane plays, by the definitions taken literally: one step after the other, in exact fractions.

Beside `walking`, and like it slow. Shared with the engine: the draws, and how a lucky order is made of them.
"""

from bisect import bisect_left
from fractions import Fraction
from functools import cached_property
from math import floor
from typing import NamedTuple

import numpy as np

from lattice.document import GroundSource, Lane, Made, Score, Strip, Swing
from lattice.document.strip import STRIPS, TIED, StripKind
from lattice.luck.draws import PLACES, Purpose, draws, draws_each
from lattice.steps.direction import RANDOM_DIRECTIONS, cycle_length, random_order, steady_order
from lattice.steps.ground import place_on
from tests.lattice.walking import Step, ordinals, walk

QUARTER = 13440


class Note(NamedTuple):
    start: int
    end: int
    velocity: int
    climb: int
    tune: int = 0


def half_up(value: Fraction) -> int:
    return floor(value + Fraction(1, 2))


class Walked:
    """The first *count* played steps of a lane, and what they sound like."""

    def __init__(self, score: Score, dice: int, lane: Lane, count: int) -> None:
        self.score, self.dice, self.lane = score, dice, lane
        self.clock_lane = lane
        while isinstance(self.clock_lane.source, Made):
            self.clock_lane = score.lane(self.clock_lane.source.of)
        self.steps = walk(score, dice, lane, count + 500)
        self.times = [step.at for step in self.steps]  # ascending
        self.count = count
        self.bar = score.meter.bar_quarters
        self.length = self.steps[1].at - self.steps[0].at if len(self.steps) > 1 else Fraction(1)
        bar, own = self.bar, self.clock_lane.step_value or score.step_value
        self.length = (
            self.clock_lane.span.quarters(bar) / self.clock_lane.source.steps
            if self.clock_lane.span
            else own.quarters
        )
        lucky = self.clock_lane.direction in RANDOM_DIRECTIONS
        told = self.clock_lane is lane and lane.direction == "shuffled" and not (lane.thin and lane.edits)
        self.before = ordinals(self.steps, [step.hit for step in self.steps], lucky and not told)
        self.in_run = []
        for at, step in enumerate(self.steps):
            same = at and self.steps[at - 1].run == step.run
            self.in_run.append(self.in_run[-1] + 1 if same else 0)

    # ---- Luck ----
    def drawn(self, at: int, purpose: int, count: int) -> list[int]:
        step = self.steps[at]
        where = self.key(step, step.cycle, step.place)
        return draws_each(self.dice, self.lane.id, purpose, *where, count)[0].tolist()

    def key(self, step: Step, cycle: int, place: int) -> tuple[np.ndarray, np.ndarray]:
        """Under what a step's luck is drawn: with luck that repeats, the steps begun since the last multiple of its bars."""
        if self.lane.luck_bars:
            return self.at_place(self.since_repeat(step))
        return np.array([cycle]), np.array([place])

    def since_repeat(self, step: Step) -> int:
        """How many steps began since the last multiple of the bars after which luck repeats."""
        every = self.lane.luck_bars * self.bar
        multiple = step.at // every * every
        return bisect_left(self.times, step.at) - bisect_left(self.times, multiple)

    def round_begin(self, at: int, advance: str, place: int) -> Step:
        """The step at which the strip's round began that has come to *place*."""
        if advance == "step":
            return self.steps[at - place]
        while place or not self.steps[at].hit:
            at -= 1
            place -= self.steps[at].hit
        return self.steps[at]

    @staticmethod
    def at_place(number: int) -> tuple[np.ndarray, np.ndarray]:
        """A running number, as draws are laid out: so many places to a cycle."""
        return np.array([number // PLACES]), np.array([number % PLACES])

    # ---- Strips ----
    def value(self, at: int, kind: StripKind, plain: int) -> int:
        strip: Strip | None = getattr(self.lane, kind.field)
        if strip is None:
            return plain
        place = self.steps[at].number
        if strip.free:
            moved = self.in_run[at] if strip.free.advance == "step" else self.before[at]
            count = len(strip.values)
            cycle, place = divmod(moved, cycle_length(strip.free.direction, count))
            if strip.free.direction == "random" and self.lane.luck_bars:
                drawn = self.drawn(at, Purpose.STRIP_ORDER.of(kind.draw_number), 1)[0]
                place = drawn * count // 2**53
            elif strip.free.direction in RANDOM_DIRECTIONS:
                number = self.steps[at].run * 2**32 + cycle
                if self.lane.luck_bars:
                    number = self.since_repeat(self.round_begin(at, strip.free.advance, place))
                cycles = np.full((1, count), number)
                places = np.arange(count)[None, :]
                luck = draws(
                    self.dice, self.lane.id, Purpose.STRIP_ORDER.of(kind.draw_number), cycles, places
                )
                place = int(random_order(strip.free.direction, luck)[0, place])
            else:
                place = int(steady_order(strip.free.direction, count)[place])
        value = strip.values[place] if place < len(strip.values) else None
        return plain if value is None else value

    def deviation(self, at: int, kind: StripKind) -> int:
        strip = getattr(self.lane, kind.field)
        if strip is None or strip.spread is None:
            return 0
        by = strip.spread.by
        two = [
            floor(Fraction(one, 2**53) * (2 * by + 1)) - by
            for one in self.drawn(at, Purpose.SPREAD.of(kind.draw_number), 2)
        ]
        return two[0] if strip.spread.shape == "even" else half_up(Fraction(sum(two), 2))

    def with_spread(self, at: int, name: str, plain: int) -> int:
        kind = STRIPS[name]
        strip = getattr(self.lane, kind.field)
        value = self.value(at, kind, plain)
        if (
            strip is None
            or strip.spread is None
            or (name == "length" and (value == TIED or value > kind.high))
        ):
            return value
        return self.within(value + self.deviation(at, kind), name, strip)

    def within(self, value, name: str, strip: Strip):
        low, high = STRIPS[name].low, STRIPS[name].high
        low = max(low, 1) if name == "length" else low
        spread = strip.spread
        least = low if spread.low is None else min(max(spread.low, low), high)
        most = high if spread.high is None else max(min(spread.high, high), low)
        return min(max(value, least), most)

    # ---- Chance ----
    def chance(self, at: int) -> Fraction:
        return Fraction(self.lane.chance_percent * self.with_spread(at, "chance", 100), 10_000)

    def sounds(self, at: int) -> bool:
        step = self.steps[at]
        letters = {link.step: link.letter for link in self.lane.links}
        if letter := letters.get(step.number):
            mates = [
                other
                for other, one in enumerate(self.steps)
                if one.cycle == step.cycle and letters.get(one.number) == letter and one.hit
            ]
            chance = min((self.chance(other) for other in mates), default=Fraction(1))
            place = "abcdefgh".index(letter)
            first = next(one for one in self.steps if one.cycle == step.cycle)
            where = self.key(first, step.cycle, 0)
            luck = int(draws(self.dice, self.lane.id, Purpose.LINK.of(place), *where)[0])
        else:
            chance, luck = self.chance(at), self.drawn(at, Purpose.CHANCE, 1)[0]
        rules = [self.lane.cycle_rule] if self.lane.cycle_rule else []
        rules += [row.rule for row in self.lane.step_rules if row.step == step.number]
        ruled = all((step.cycle + 1 - rule.nth) % rule.of == 0 for rule in rules)
        return step.hit and Fraction(luck, 2**53) < chance and ruled and not self.in_burst(step)

    # ---- Time ----
    @property
    def swing(self) -> Swing:
        return self.lane.swing or self.score.swing

    def swung(self, time: Fraction, length: Fraction) -> Fraction:
        unit = self.swing.unit.quarters
        ratio = (length / unit).denominator
        if self.lane.swing and self.lane.swing.own_steps:
            unit = self.length
        elif ratio & (ratio - 1):
            return time
        bars, into = divmod(time, self.bar)
        pair, within = divmod(into, 2 * unit)
        if (pair + 1) * 2 * unit > self.bar:
            return time
        long = 2 * unit * Fraction(self.swing.percent, 100)
        first, second = min(within, unit), max(within - unit, Fraction(0))
        return bars * self.bar + pair * 2 * unit + (first * long + second * (2 * unit - long)) / unit

    def strays(self, at: int, purpose: Purpose) -> Fraction:
        total = sum(Fraction(one, 2**53) for one in self.drawn(at, purpose, 12)) - 6
        return min(max(total, Fraction(-2)), Fraction(2))

    def moved(self, at: int) -> Fraction:
        """How much later than its grid the step is."""
        late = self.length * self.with_spread(at, "nudge", 0) / 100
        if self.lane.humanise:
            minutes = Fraction(self.lane.humanise.ms, 60_000) * self.strays(at, Purpose.DEVIATION_IN_TIME)
            late += minutes * Fraction(round(self.score.tempo * 100), 100)
        return late

    def first_start(self, at: int) -> int:
        grid = self.swung(self.steps[at].at, self.length)
        return max(0, half_up((grid + self.moved(at)) * QUARTER))

    # ---- Velocity ----
    def velocity(self, at: int, by_keys: int | None = None) -> Fraction:
        lane = self.lane
        kind = STRIPS["velocity"]
        value = Fraction(self.value(at, kind, by_keys or self.struck(self.steps[at].number)))
        if lane.accent and (self.before[at] + 1 - lane.accent.first) % lane.accent.every == 0:
            value = Fraction(lane.accent.velocity)
        value *= self.weight(self.steps[at].at)
        if lane.velocity_strip and lane.velocity_strip.spread:
            value = self.within(value + self.deviation(at, kind), "velocity", lane.velocity_strip)
        if lane.humanise and lane.humanise.velocity:
            value += lane.humanise.velocity * self.strays(at, Purpose.DEVIATION_IN_VELOCITY)
        strip = lane.velocity_strip
        steps = self.clock_lane.source.steps
        count = len(strip.values) if strip and strip.free else steps
        own = [64 if by_keys else self.struck(step % steps) for step in range(count)]
        for step, one in enumerate(strip.values[:count] if strip else ()):
            own[step] = own[step] if one is None else one
        mean = Fraction(sum(own), len(own))
        return value + (mean - value) * Fraction(lane.evened, 100)

    def struck(self, step: int) -> int:
        """How hard a step number is struck that says nothing of its own."""
        if not isinstance(self.lane.source, GroundSource):
            return self.lane.velocity
        place = place_on(self.lane.source)
        merit = Fraction(place.merits[(step - self.lane.rotate) % len(place.merits)], place.unit)
        return max(1, min(127, half_up((12 + 36 * merit) * Fraction(self.lane.velocity, 100))))

    def weight(self, time: Fraction) -> Fraction:
        meter, depth = self.score.meter, Fraction(self.lane.beat_weight, 100)
        beat = Fraction(4, meter.denominator)
        if meter.numerator in (6, 9, 12) and meter.denominator <= 8:
            beat *= 3
        into = time % beat
        if into == 0:
            return Fraction(1)
        return 1 - depth / 4 if into == beat / 2 else 1 - depth / 2

    # ---- Notes ----
    def notes(self) -> list[Note]:
        found = []
        lane = self.lane
        strip = lane.ratchet_strip
        for at, step in enumerate(self.steps[: self.count]):
            if not step.hit or not self.sounds(at):
                continue
            count = self.with_spread(at, "ratchet", 1)
            percent = self.with_spread(at, "length", lane.length_percent)
            begin = self.swung(step.at, self.length)
            share = (self.swung(step.at + self.length, self.length) - begin) / count
            late = self.moved(at)
            kept = [
                note
                for note in range(count)
                if note == 0 or (end := self.run_end(step)) is None or begin + note * share < end
            ]
            for note in kept:
                start = half_up((begin + note * share + late) * QUARTER)
                lasts = share * (100 if percent == TIED else percent) / 100
                end = half_up((begin + note * share + lasts + late) * QUARTER)
                if start < 0:
                    start, end = 0, end - start
                if percent == TIED and note == kept[-1]:
                    end = min(self.tied_end(at), start + int(64 * self.bar * QUARTER))
                fade = Fraction(1)
                if strip:
                    along = Fraction(note, count - 1) if count > 1 else Fraction(0)
                    fade = (strip.fade_from + (strip.fade_to - strip.fade_from) * along) / Fraction(100)
                for climb, by_keys in self.climbs(at, note):
                    hard = min(127, max(1, half_up(self.velocity(at, by_keys) * fade)))
                    found.append(Note(start, max(end, start + 1), hard, climb, self.tune(note)))
        return sorted(found + self.burst_notes())

    def climbs(self, at: int, note: int) -> list[tuple[int, int | None]]:
        """Semitones above the lane's note of what a ratchet's *note* sounds, each with the velocity of its key, if any."""
        return [(12 * self.with_spread(at, "octave", 0), None)]

    def tune(self, note: int) -> int:
        """Semitones by which a ratchet's *note* sounds higher, while it stays the same MIDI note."""
        return note * self.lane.ratchet_strip.climb if self.lane.ratchet_strip else 0

    def burst_climb(self, _tick: int) -> int | None:
        """Semitones above the lane's note of a burst's note; None where it has none."""
        return 0

    def run_end(self, step: Step) -> Fraction | None:
        lane = self.clock_lane
        if lane.once or (lane.restart and lane.restart.kind == "pass"):
            return (step.run + 1) * self.score.bars * self.bar
        return (step.run + 1) * lane.restart.bars * self.bar if lane.restart else None

    def tied_end(self, at: int) -> int:
        step = self.steps[at]
        after = next((later for later in range(at + 1, len(self.steps)) if self.steps[later].hit), None)
        if after is None:
            if self.steps[-1].at - step.at < 65 * self.bar:
                raise LookupError("too few steps walked")
            return self.first_start(at) + 10**9  # too far off: a tie ends by itself
        if self.clock_lane.once and self.steps[after].run > step.run:
            return int(self.run_end(step) * QUARTER)
        return self.first_start(after)

    # ---- Bursts ----
    def bursts(self):
        """Yield (burst, begin, end, length of what it comes once in), those that lie within that."""
        cycle = self.length * self.cycle_steps()
        for burst in self.lane.bursts:
            begin, end = burst.quarters(self.bar)
            whole = {"bars": lambda burst=burst: burst.comes.bars * self.bar, "cycle": lambda: cycle}.get(
                burst.comes.kind if burst.comes else "", lambda: self.score.bars * self.bar
            )()
            if end <= whole:
                yield burst, begin, end, whole

    def cycle_steps(self) -> int:
        """How many steps a whole cycle has."""
        chosen = self.clock_lane.step_range
        count = len(chosen.within(self.clock_lane.source.steps)) if chosen else self.clock_lane.source.steps
        return cycle_length(self.clock_lane.direction, count)

    @cached_property
    def cycles(self) -> dict[int, tuple[Fraction, int]]:
        """When each cycle begins, and in which run."""
        found: dict[int, tuple[Fraction, int]] = {}
        for step in self.steps:
            found.setdefault(step.cycle, (step.at, step.run))
        return found

    def in_burst(self, step: Step) -> bool:
        return any(
            begin <= (step.at - self.cycles[step.cycle][0] if self.by_cycle(burst) else step.at % whole) < end
            for burst, begin, end, whole in self.bursts()
        )

    @staticmethod
    def by_cycle(burst) -> bool:
        return burst.comes is not None and burst.comes.kind == "cycle"

    def burst_notes(self) -> list[Note]:
        found = []
        last = self.steps[self.count - 1].at
        for burst, begin, end, whole in self.bursts():
            length = burst.value.quarters
            if self.by_cycle(burst):
                begins = {
                    number: (at, self.run_end(Step(at, run, number, 0, 0)))
                    for number, (at, run) in self.cycles.items()
                }
            else:
                begins = {number: (number * whole, None) for number in range(floor(last / whole) + 1)}
            for number, (from_time, cut) in begins.items():
                purpose, key = Purpose.BURST.of(half_up(begin * QUARTER)), number
                if self.lane.luck_bars:
                    repeats = int(self.lane.luck_bars * self.bar * QUARTER)
                    key = (floor(from_time * QUARTER) + half_up(begin * QUARTER)) % repeats
                luck = int(draws(self.dice, self.lane.id, purpose, *self.at_place(key))[0])
                if Fraction(luck, 2**53) >= Fraction(burst.chance_percent, 100):
                    continue
                here = self.swung(from_time + begin, length)
                share = (self.swung(from_time + end, length) - here) / burst.notes
                for note in range(burst.notes):
                    start = here + note * share
                    if cut is not None and start >= cut:
                        continue
                    fade = Fraction(note, max(1, burst.notes - 1))
                    percent = burst.fade_from + (burst.fade_to - burst.fade_from) * fade
                    hard = min(127, max(1, half_up(self.lane.velocity * percent / 100)))
                    stop = half_up((start + share * self.lane.length_percent / 100) * QUARTER)
                    tick = half_up(start * QUARTER)
                    if (climb := self.burst_climb(tick)) is not None:
                        found.append(Note(tick, max(stop, tick + 1), hard, climb))
        return found
