"""Melodic lanes to begin from: bass lines, sequences, arpeggios, pads and leads. Each follows scale and progression."""

from typing import Any

from lattice.document import (
    Accent,
    BarRestart,
    BarSpan,
    CycleRule,
    Free,
    Humanise,
    Lane,
    LaneSwing,
    LengthStrip,
    OctaveStrip,
    PitchStrip,
    RatchetStrip,
    Spread,
    StepValue,
    VelocityStrip,
)
from lattice.document.arpeggio import Arpeggio, ChordPool, NoteOrder, Pedal
from lattice.document.pitched import PITCHED
from lattice.document.strip import TIED, ChordStrip
from lattice.starters.rows import at, drawn, spread_over
from lattice.starters.starter import Starter

__all__ = ["MELODIES"]

_EIGHTH, _QUARTER, _HALF, _WHOLE = (StepValue(note=note) for note in (8, 4, 2, 1))
_TRIPLET = StepValue(note=8, kind="triplet")


def _line(*degrees: int | None) -> PitchStrip:
    """Degrees that are read one a hit, round and round."""
    return PitchStrip(values=degrees, free=Free(advance="hit"))


def _chords(order: NoteOrder, octaves: int = 1, **fields: Any) -> Arpeggio:
    """The chord of the progression, read one note a hit."""
    return Arpeggio(pool=ChordPool(), order=order, octaves=octaves, **fields)


def _tied(hits: int, steps: int, value: StepValue, **fields: Any) -> dict[str, Any]:
    """Hits that each sound until the next."""
    return spread_over(
        hits, steps, step_value=value, length_strip=LengthStrip(values=(TIED,) * steps), **fields
    )


# name, tags, voice, fields
_ROWS: tuple[tuple[str, str, str, dict[str, Any]], ...] = (
    # Bass lines: on the root of each chord, and about it
    ("Mooring post", "bass steady", "undertow",
        spread_over(8, 16, follows="root", velocity=104, length_percent=70, accent=Accent(velocity=118, every=4))),
    ("Low water", "bass sparse", "undertow",
        _tied(2, 4, _QUARTER, follows="root", velocity=100, pitch_strip=_line(0, 0, 0, 4))),
    ("Hull and keel", "bass octave", "low-reed",
        spread_over(8, 16, follows="root", velocity=92, length_percent=80,
                    octave_strip=OctaveStrip(values=(0, 1), free=Free(advance="hit")))),
    ("Walk to the pier", "bass walking", "low-reed",
        spread_over(4, 4, step_value=_QUARTER, follows="root", velocity=94, length_percent=90,
                    pitch_strip=_line(0, 2, 4, 5), swing=LaneSwing(percent=58))),
    ("Engine room", "bass busy", "low-reed",
        spread_over(11, 16, follows="root", velocity=84, length_percent=50, accent=Accent(velocity=112, every=3),
                    pitch_strip=_line(0, 0, 7, 0, 4), glide_ms=40)),
    ("Two against the tide", "bass syncopated", "low-reed",
        drawn("x..x..x...x..x..", follows="root", velocity=98, length_percent=120, pitch_strip=_line(0, 0, 4, 6))),
    # Sequences: a few degrees over lengths of their own
    ("Signal lamps", "sequence steady", "halyard",
        spread_over(8, 8, follows="nearest", velocity=72, length_percent=60,
                    pitch_strip=PitchStrip(values=(0, 4, 2, 7, 4, 9, 7, 2)))),
    ("Five flags", "sequence drift odd", "buoy",
        spread_over(7, 16, follows="tones", velocity=70, pitch_strip=_line(0, 1, 2, 4, 3))),
    ("Chart table", "sequence drift", "halyard",
        spread_over(5, 12, follows="root", velocity=68, length_percent=80, pitch_strip=_line(0, 2, 4, 6, 4, 2, 1))),
    ("Rope ladder", "sequence busy climbing", "lantern",
        spread_over(16, 16, follows="tones", velocity=56, length_percent=50, accent=Accent(velocity=92, every=5),
                    pitch_strip=PitchStrip(values=tuple(range(8)), free=Free(direction="to-and-fro", advance="hit")))),
    ("Wake", "sequence chance", "buoy",
        spread_over(9, 16, follows="nearest", velocity=66, chance_percent=70,
                    pitch_strip=PitchStrip(values=(0, 2, 4, 6), free=Free(advance="hit"), spread=Spread(by=3)))),
    ("Three in the hold", "sequence triplet", "halyard",
        spread_over(5, 6, step_value=_TRIPLET, follows="tones", velocity=74, length_percent=70,
                    pitch_strip=_line(0, 2, 1, 3))),
    # Arpeggios: the chord of the progression, one note a hit
    ("Lantern row", "arpeggio steady", "lantern",
        spread_over(8, 8, step_value=_EIGHTH, arpeggio=_chords("up", 2, restart="chord"), velocity=76)),
    ("Up the mast", "arpeggio busy", "halyard",
        spread_over(16, 16, arpeggio=_chords("up-and-down", 2), velocity=60, length_percent=60,
                    accent=Accent(velocity=94, every=3))),
    ("Inner light", "arpeggio odd", "glass-harbour",
        spread_over(9, 14, arpeggio=_chords("inward", 2, restart="chord"), velocity=64, chance_percent=85)),
    ("Bell rope", "arpeggio pedal", "buoy",
        spread_over(7, 16, arpeggio=_chords("down", 2, pedal=Pedal(every=3)), velocity=74, length_percent=90)),
    ("Scattered shells", "arpeggio luck", "lantern",
        spread_over(11, 16, arpeggio=_chords("shuffled", 3), velocity=58, length_percent=50, luck_bars=4,
                    velocity_strip=VelocityStrip(spread=Spread(by=18)))),
    ("Rain on the deck", "arpeggio ratchet", "halyard",
        drawn("x.x..x.xx.x..x..", arpeggio=_chords("outward", 2), velocity=62, length_percent=50,
              ratchet_strip=RatchetStrip(values=at({8: 3, 13: 2}), fade_from=100, fade_to=50))),
    ("Slow compass", "arpeggio sparse polyrhythm", "glass-harbour",
        spread_over(5, 5, span=BarSpan(bars=2), arpeggio=_chords("up", 3), velocity=62, length_percent=150)),
    # Pads: the chord whole, and long
    ("Fog bank", "pad sparse", "foghorn",
        _tied(1, 1, _WHOLE, arpeggio=_chords("all", restart="chord"), velocity=62, attack_ms=300, room=30)),
    ("Harbour glow", "pad steady", "glass-harbour",
        _tied(2, 2, _HALF, arpeggio=_chords("all"), velocity=52, room=35)),
    ("Breathing water", "pad pulse", "foghorn",
        spread_over(3, 8, step_value=_EIGHTH, arpeggio=_chords("all"), velocity=58, length_percent=140, attack_ms=60)),
    ("Two horns", "pad odd", "foghorn",
        spread_over(2, 5, span=BarSpan(bars=2), follows="nearest", velocity=60, length_percent=180,
                    pitch_strip=_line(0, 2, 4), chord_strip=ChordStrip(values=(2,) * 5))),
    ("Lit windows", "pad offbeat", "lantern",
        spread_over(4, 16, rotate=2, arpeggio=_chords("all"), velocity=64, length_percent=120)),
    # Leads: few notes that answer the chords
    ("Gull over the stern", "lead sparse", "lantern",
        drawn("x.....x..x......", follows="nearest", velocity=88, length_percent=200,
              octave_strip=OctaveStrip(values=(1,) * 16), pitch_strip=_line(4, 6, 2, 7, 4),
              humanise=Humanise(ms=6, velocity=6))),
    ("Call and answer", "lead phrase", "buoy",
        drawn("x.x.x...........x.xx..x.........", follows="nearest", velocity=86, length_percent=150,
              pitch_strip=_line(2, 4, 7, 6, 4, 2, 0))),
    ("Sliding mast", "lead glide", "halyard",
        _tied(5, 16, StepValue(), follows="nearest", velocity=84, glide_ms=90, pitch_strip=_line(7, 4, 9, 6))),
    ("Night radio", "lead chance", "glass-harbour",
        spread_over(6, 13, follows="tones", velocity=78, length_percent=130, chance_percent=65, luck_bars=8,
                    pitch_strip=_line(2, 3, 5, 4, 6), restart=BarRestart(bars=4))),
    ("Once a watch", "lead sparse cycle", "lantern",
        drawn("..x..x..x.x.....", follows="nearest", velocity=90, length_percent=180, cycle_rule=CycleRule(nth=2, of=2),
              pitch_strip=_line(9, 7, 4, 6))),
)  # fmt: skip

MELODIES: tuple[Starter, ...] = tuple(
    Starter(
        name=name,
        tags=tuple(tags.split()),
        lane=Lane(id=voice, name=PITCHED[voice].name, voice=voice, **fields),
    )
    for name, tags, voice, fields in _ROWS
)
