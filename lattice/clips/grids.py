"""Which steps notes lie on: straight or swung, and perhaps cut off by the clip's end."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from statistics import median

from lattice.clips.clip import Clip, Note
from lattice.document.feel import LaneSwing
from lattice.document.problems import DocumentError, read
from lattice.document.source import MAX_STEPS
from lattice.document.step_value import KINDS, NOTES, StepValue
from lattice.units import TICKS_PER_QUARTER

__all__ = ["Grid", "best_grid"]

_CLOSE_PERCENT = 12  # of a step: notes that lie so near to a grid are meant to be on it
_LOOSE_PERCENT = 35  # those that are swung or loosened may still be
_EXACT_PERCENT = 3
_FINEST_COUNTED = Fraction(1, 12)  # a triplet 1/32
_SWUNG_NOTES = (8, 16)
_LEAST_SWING, _MOST_SWING = 52, 70  # %: beyond it a pair is a dotted note and a short one
_LEAST_RUN = 5  # so many steps that the clip's end cuts off are no chance any more


@dataclass(frozen=True)
class Grid:
    """Notes on steps. *count*: steps in the clip; the last is cut off by its end where they are not *whole*.

    *numbers*: of each note's step; *offs*: how much later than it the note begins, and *lengths*: how long that step
    is after swing, both in steps. *swing*: none for straight steps.
    """

    step: StepValue
    count: int
    whole: bool
    numbers: tuple[int, ...]
    offs: tuple[Fraction, ...]
    lengths: tuple[Fraction, ...]
    swing: LaneSwing | None = None

    @property
    def worst(self) -> Fraction:
        """How far off the farthest note lies, in steps."""
        return max((abs(off) for off in self.offs), default=Fraction(0))

    @property
    def mean(self) -> Fraction:
        """How far off the notes lie, in steps."""
        return sum(map(abs, self.offs), Fraction(0)) / max(1, len(self.offs))

    @property
    def is_single(self) -> bool:
        """Whether no step has two notes."""
        return len(set(self.numbers)) == len(self.numbers)

    @property
    def is_run(self) -> bool:
        """Whether every step has its note, exactly, and there are enough of them."""
        everywhere = self.numbers == tuple(range(self.count))
        return everywhere and _LEAST_RUN <= self.count <= MAX_STEPS and self.is_within(_EXACT_PERCENT)

    def is_within(self, percent: int) -> bool:
        """Return whether no note lies further off than *percent* of a step."""
        return self.worst * 100 <= percent


def best_grid(clip: Clip, name: str, notes: Sequence[Note]) -> Grid:
    """Return the longest step that gives each of *notes*, in order, one of its own, and that all lie close to.

    Steps as musicians count them come first, straight or swung: those that the notes lie on, those that they lie close
    to, halved ones that loosened notes belong to; then finer ones.
    Raises DocumentError, with the *name* of the lane, if no step does.
    """
    fits: list[Grid] = []
    for step in _STEPS:
        straight = _straight(clip, step, notes)
        swung = _swung(clip, step, notes, straight)
        if swung:
            fits.append(swung)
        if straight.is_single and (straight.whole or straight.is_run):
            fits.append(straight)
    counted = [grid for grid in fits if grid.step.quarters >= _FINEST_COUNTED]
    halved = [grid for grid in counted if grid.step.divisor == 1]
    for some, percent in (
        (halved, _EXACT_PERCENT),
        (counted, _CLOSE_PERCENT),
        (halved, _LOOSE_PERCENT),
        (fits, _CLOSE_PERCENT),
    ):
        for grid in some:
            if grid.is_within(percent):
                return grid
    if not fits:
        message = "no step value holds each of its notes: quantise the clip, or crop it to whole bars"
        raise DocumentError.of("clip", message, lane=name)
    return min(fits, key=lambda grid: grid.worst)


def _straight(clip: Clip, step: StepValue, notes: Sequence[Note]) -> Grid:
    length = step.quarters * TICKS_PER_QUARTER
    exact = clip.length_ticks / length
    count = -int(-exact // 1)
    numbers, offs = [], []
    for note in notes:
        place = note.start / length
        # What lies nearest to the end is late on the last step: early on the first it would sound twice in one pass.
        number = min(count - 1, int(place + Fraction(1, 2)))
        numbers.append(number)
        offs.append(place - number)
    ones = (Fraction(1),) * len(numbers)
    return Grid(step, count, exact.denominator == 1, tuple(numbers), tuple(offs), ones)


def _swung(clip: Clip, step: StepValue, notes: Sequence[Note], straight: Grid) -> Grid | None:
    """Return the notes on swung steps, where all that lie halfway between the beats come late by as much."""
    bar = clip.meter.bar_quarters
    if step.kind != "plain" or step.divisor != 1 or step.note not in _SWUNG_NOTES:
        return None
    if not straight.whole or (bar / (2 * step.quarters)).denominator != 1:
        return None
    pair = 2 * step.quarters * TICKS_PER_QUARTER
    places = [note.start / pair for note in notes]  # in pairs
    late = [place % 1 for place in places if Fraction(1, 4) < place % 1 < Fraction(7, 8)]
    if len(late) < 2:
        return None
    percent = round(100 * median(late))
    if not _LEAST_SWING <= percent <= _MOST_SWING:
        return None
    second = Fraction(percent, 100)
    numbers, offs, lengths = [], [], []
    for place in places:
        number, into = divmod(place, 1)
        is_next = into >= Fraction(7, 8) and 2 * number + 2 < straight.count
        is_late = into > Fraction(1, 4) and not is_next
        numbers.append(2 * int(number + is_next) + is_late)
        offs.append(2 * (into - is_next - second * is_late))
        lengths.append(2 * (1 - second if is_late else second))
    swing = read(LaneSwing, {"percent": percent, "note": step.note})
    grid = Grid(step, straight.count, True, tuple(numbers), tuple(offs), tuple(lengths), swing)
    is_better = grid.is_single and grid.is_within(_CLOSE_PERCENT) and grid.mean < straight.mean / 2
    return grid if is_better else None


def _steps() -> Iterator[StepValue]:
    plain = [read(StepValue, {"note": note, "kind": kind}) for note in NOTES for kind in KINDS]
    shared = [read(StepValue, {"note": note, "divisor": divisor}) for note in NOTES for divisor in (5, 7)]
    by_length = {step.quarters: step for step in [*shared, *plain]}
    for length in sorted(by_length, reverse=True):
        yield by_length[length]


_STEPS = tuple(_steps())
