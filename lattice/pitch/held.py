"""What hands held on the keys, as pools of notes that change at ticks: sustain and latch taken into account."""

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from lattice.clock.ticks import Ticks
from lattice.document.arpeggio import Latch
from lattice.document.keys import HeldKey, Keys, Sustain
from lattice.pitch.orders import PoolNote

__all__ = ["HeldPools", "held_pools"]


class HeldPools(NamedTuple):
    """*changes*: ticks at which the pool changes, ascending; *pools*: what it is from each on, in the order of playing.

    *begins*: ticks at which held keys go from none to some.
    """

    changes: Ticks
    pools: tuple[tuple[PoolNote, ...], ...]
    begins: Ticks

    def which_at(self, ticks: Ticks) -> Ticks:
        """Return the index of the pool at each of *ticks*; -1 before the first."""
        result: Ticks = np.searchsorted(self.changes, ticks, side="right") - 1
        return result


@lru_cache(maxsize=64)
def held_pools(keys: Keys, latch: Latch) -> HeldPools:
    """Return the pools that *keys* give.

    A key let go while the sustain pedal is down is held until that comes up. Latch replace: notes stay when let go,
    until a key is struck while none is held. Latch add: they stay until all is let go. What is let go at a tick is so
    before what is struck there; a key that is let go where it was struck is there for latches only.
    """
    struck: dict[int, list[HeldKey]] = {}
    for one in keys.held:
        struck.setdefault(one.start, []).append(
            one.model_copy(update={"end": _released(one, keys.sustained)})
        )
    ends = {one.end for those in struck.values() for one in those if one.end is not None}
    moments = sorted(struck.keys() | ends | set(keys.let_go))
    holding: dict[int, HeldKey] = {}
    pool: dict[int, PoolNote] = {}
    changes: list[int] = []
    pools: list[tuple[PoolNote, ...]] = []
    begins: list[int] = []
    for tick in moments:
        holding = {key: one for key, one in holding.items() if one.end is None or one.end > tick}
        if tick in keys.let_go or latch == "off":
            pool = {key: note for key, note in pool.items() if key in holding}
        fresh = struck.get(tick, [])
        if fresh and not holding:
            begins.append(tick)
            pool = {} if latch == "replace" else pool
        for one in fresh:
            pool.pop(one.key, None)  # struck again: the last one played
            pool[one.key] = PoolNote(one.key, one.velocity)
            if one.end is None or one.end > tick:
                holding[one.key] = one
        if latch == "off":
            pool = {key: note for key, note in pool.items() if key in holding}
        now = tuple(pool.values())
        if now != (pools[-1] if pools else ()):
            changes.append(tick)
            pools.append(now)
    return HeldPools(np.array(changes, np.int64), tuple(pools), np.array(begins, np.int64))


def _released(key: HeldKey, sustained: Sequence[Sustain]) -> int | None:
    """Return when a key falls silent: where the pedal is down as it is let go, when that comes up."""
    if key.end is None:
        return None
    for pedal in sustained:
        if pedal.start <= key.end and (pedal.end is None or key.end < pedal.end):
            return pedal.end
    return key.end
