"""Feel of a clip: notes quantised, swung, humanised, and their velocities."""

from fractions import Fraction
from typing import Annotated, Literal, NamedTuple

import numpy as np
from pydantic import Field

from lattice.clips.clip import MAX_TRACKS
from lattice.clips.edits.action import ClipAction, Percent, Velocity, said_notes
from lattice.clips.sheet import Sheet, step_parts
from lattice.document.base import Row
from lattice.document.feel import Swing
from lattice.document.notes import MAX_NOTES
from lattice.document.problems import DocumentError
from lattice.document.source import MAX_THROW
from lattice.document.step_value import StepValue
from lattice.luck.draws import DEVIATION_DRAWS, DRAW_BITS, PLACES, Purpose, deviations, draws_each
from lattice.steps.groove import SWING_PARTS, swung
from lattice.units import TICKS_PER_QUARTER, Ticks, half_up

__all__ = ["HUMANISED_MS", "HUMANISED_VELOCITY", "Harder", "Humanised", "Paint", "Quantise", "Ramp", "Swung"]

HUMANISED_MS = 15  # the spreads of humanising by 100 %
HUMANISED_VELOCITY = 12


class Quantise(ClipAction):
    """*percent* of the way to the nearest *step* of the grid. A note that comes to the clip's end begins it."""

    kind: Literal["quantise"] = "quantise"
    percent: Percent = 100
    step: StepValue = StepValue()

    def apply(self, sheet: Sheet) -> Sheet:
        meant = sheet.meant
        starts = sheet.starts[meant]
        numerator, denominator = step_parts(self.step)
        nearest = half_up(half_up(starts * denominator, numerator) * numerator, denominator)
        moved = half_up(100 * starts + self.percent * (nearest - starts), 100)
        return sheet.at(meant, starts=moved % sheet.clip.length_ticks)

    def label(self, sheet: Sheet) -> str:
        return f"{said_notes(sheet.meant_count)} quantised by {self.percent} %"


class Swung(ClipAction):
    """Puts *swing* in, or takes it *out* of notes that have it. Bars are those of the clip's first meter."""

    kind: Literal["swing"] = "swing"
    swing: Swing
    out: bool = False

    def apply(self, sheet: Sheet) -> Sheet:
        meant = sheet.meant
        bar = sheet.clip.meter.bar_ticks
        lines, into = np.divmod(sheet.starts[meant], bar)
        moved = (
            unswung(into, self.swing, bar)
            if self.out
            else half_up(swung(into, 1, self.swing.unit.quarters, self.swing.percent, bar), SWING_PARTS)
        )
        starts = np.minimum(lines * bar + moved, sheet.clip.length_ticks - 1)
        return sheet.at(meant, starts=starts)

    def label(self, sheet: Sheet) -> str:
        return f"swing {self.swing.percent} % {'out' if self.out else 'in'}"


def unswung(positions: Ticks, swing: Swing, bar_ticks: int) -> Ticks:
    """Return the straight positions, in ticks, of notes that swing put at *positions* in a bar: its inverse.

    >>> unswung(np.array([0, 4032, 6720]), Swing(percent=60), 53760).tolist()
    [0, 3360, 6720]
    """
    unit = int(swing.unit.quarters * TICKS_PER_QUARTER)
    into = positions % (2 * unit)
    percent = swing.percent
    first = half_up(into * 50, percent)
    second = half_up(2 * unit * (100 - percent) + into * 100 - 2 * unit * percent, 2 * (100 - percent))
    straight = positions - into + np.where(100 * into < 2 * unit * percent, first, second)
    paired = bar_ticks // (2 * unit) * (2 * unit)
    result: Ticks = np.where(positions < paired, straight, positions)
    return result


class Humanised(ClipAction):
    """Loosened by a *throw*: at 100 % strays as a lane does with 15 ms and 12 of velocity, cut at twice that."""

    kind: Literal["humanise"] = "humanise"
    percent: Percent
    throw: Annotated[int, Field(ge=1, le=MAX_THROW)]

    def apply(self, sheet: Sheet) -> Sheet:
        meant = sheet.meant
        tempo = Fraction(round(sheet.clip.tempo * 100), 100)
        spread = Fraction(HUMANISED_MS * self.percent, 100 * 60_000) * tempo * TICKS_PER_QUARTER
        harder = Fraction(HUMANISED_VELOCITY * self.percent, 100)
        starts = sheet.starts + self._strayed(sheet, Purpose.NOTE_IN_TIME, spread)
        hard = sheet.velocities + self._strayed(sheet, Purpose.NOTE_IN_VELOCITY, harder)
        return sheet.at(
            meant,
            starts=np.clip(starts, 0, sheet.clip.length_ticks - 1)[meant],
            velocities=np.clip(hard, 1, 127)[meant],
        )

    def label(self, sheet: Sheet) -> str:
        return f"{said_notes(sheet.meant_count)} humanised by {self.percent} %"

    def _strayed(self, sheet: Sheet, purpose: Purpose, spread: Fraction) -> Ticks:
        """Return by how much each note strays, rounded: as with a lane's humanise, for one throw."""
        cycles, places = np.divmod(np.arange(len(sheet)), PLACES)
        by = deviations(draws_each(self.throw, "clip", purpose, cycles, places, DEVIATION_DRAWS)).astype(
            object
        )
        return half_up(by * spread.numerator, spread.denominator << DRAW_BITS).astype(np.int64)


class Harder(ClipAction):
    """Raises or lowers every velocity by the same amount, within 1-127."""

    kind: Literal["harder"] = "harder"
    by: Annotated[int, Field(ge=-126, le=126)]

    def apply(self, sheet: Sheet) -> Sheet:
        meant = sheet.meant
        return sheet.at(meant, velocities=np.clip(sheet.velocities[meant] + self.by, 1, 127))

    def label(self, sheet: Sheet) -> str:
        return f"{said_notes(sheet.meant_count)} {'harder' if self.by > 0 else 'softer'}"


class Ramp(ClipAction):
    """Velocities in a straight line through time, from *first* to *last*."""

    kind: Literal["ramp"] = "ramp"
    first: Velocity
    last: Velocity

    def apply(self, sheet: Sheet) -> Sheet:
        meant = sheet.meant
        starts = sheet.starts[meant]
        if not starts.size:
            return sheet
        into = starts - starts.min()
        lasts = max(1, int(into.max()))
        return sheet.at(
            meant, velocities=half_up(self.first * lasts + (self.last - self.first) * into, lasts)
        )

    def label(self, sheet: Sheet) -> str:
        return f"velocity ramp from {self.first} to {self.last}"


class Painted(NamedTuple):
    """The *velocity* that a *note* of a *track* has now."""

    track: Annotated[int, Field(ge=0, lt=MAX_TRACKS)]
    note: Annotated[int, Field(ge=0)]
    velocity: Velocity


class Paint(ClipAction):
    """Velocities as a hand painted them."""

    kind: Literal["paint"] = "paint"
    values: Annotated[Row[Painted], Field(max_length=MAX_NOTES)]

    def apply(self, sheet: Sheet) -> Sheet:
        firsts = np.cumsum([0, *(len(track.notes) for track in sheet.clip.tracks)])
        velocities = sheet.velocities.copy()
        for track, note, velocity in self.values:
            if track >= len(firsts) - 1 or firsts[track] + note >= firsts[track + 1]:
                raise DocumentError.of("values", f"track {track + 1} has no note {note + 1}")
            velocities[firsts[track] + note] = velocity
        return sheet.at(np.ones(len(sheet), bool), velocities=velocities)

    def label(self, sheet: Sheet) -> str:
        return "velocities painted"
