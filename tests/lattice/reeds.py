"""Lanes of a low reed in D dorian, and what is heard of them."""

from lattice.document import BarSpan, Euclidean, Lane, PlacedChord, Progression, Scale
from lattice.render import Window, render
from lattice.render.overlaps import Events
from tests.lattice.scores import lane, score

D_DORIAN = Scale(root=2, name="dorian")
FOUR_CHORDS = Progression(
    chords=tuple(PlacedChord(chord=chord, lasts=BarSpan(bars=1)) for chord in ("i", "IV", "♭II", "v"))
)


def reed(lane_id: str = "reed", **fields) -> Lane:
    return lane(lane_id, **{"voice": "low-reed", "note": 50, "source": Euclidean(hits=8, steps=8)} | fields)


def heard(*lanes: Lane, bars: int = 2, dice: int = 1, **fields) -> Events:
    return render(score(*lanes, **{"scale": D_DORIAN} | fields), dice, Window(bars=bars))


def pitches(*lanes: Lane, count: int = 8, **fields) -> list[int]:
    return heard(*lanes, **fields).pitches.tolist()[:count]
