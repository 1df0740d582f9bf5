"""What hands held on the keys, as pools of notes that change at ticks: sustain and latch taken into account."""

from bisect import bisect_right
from collections.abc import Iterator, Sequence
from itertools import groupby
from operator import itemgetter
from typing import NamedTuple

import numpy as np

from lattice.cache import MEGABYTE, cached
from lattice.document.arpeggio import MOST_AT_ONCE, Latch
from lattice.document.keys import HeldKey, Keys, Sustain
from lattice.render.note_orders import PoolNote
from lattice.units import Ticks

__all__ = ["HeldPools", "gathered", "held_pools"]

_BLOCK = 256  # moments that are reckoned, and remembered, together
_FREE, _LET_GO, _STRUCK = 0, 1, 2  # what happens at one tick happens in this order


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


class _Event(NamedTuple):
    """What a hand did: *kind* at *tick*, to the key that was struck as the *number*-th of all.

    *stays*: whether a key that is struck is still down after that tick.
    """

    tick: int
    kind: int
    number: int = 0
    note: PoolNote = PoolNote(0)
    stays: bool = True


class _Hands(NamedTuple):
    """What is held: the numbers of the strikes whose keys are *down*, and the *pool*, strike by strike."""

    down: frozenset[int] = frozenset()
    pool: tuple[tuple[int, PoolNote], ...] = ()


class _Reckoned(NamedTuple):
    changes: tuple[int, ...]
    pools: tuple[tuple[PoolNote, ...], ...]
    begins: tuple[int, ...]
    after: _Hands


@cached(24 * MEGABYTE)
def held_pools(keys: Keys, latch: Latch) -> HeldPools:
    """Return the pools that *keys* give.

    A key let go while the sustain pedal is down is held until that comes up. Latch replace: notes stay when let go,
    until a key is struck while none is held. Latch add: they stay until all is let go. What is let go at a tick is so
    before what is struck there; a key that is let go where it was struck is there for latches only. A key struck twice
    is there twice. A pool has the MOST_AT_ONCE notes that were struck last.

    The cost is linear in the keys; a performance that begins as one reckoned before is reckoned on from there.
    """
    hands = _Hands()
    parts: list[_Reckoned] = []
    for events in _blocks(_events(keys)):
        parts.append(_reckoned(hands, events, latch))
        hands = parts[-1].after
    return HeldPools(
        changes=np.array([tick for part in parts for tick in part.changes], np.int64),
        pools=tuple(pool for part in parts for pool in part.pools),
        begins=np.array([tick for part in parts for tick in part.begins], np.int64),
    )


def gathered(keys: Keys, latch: Latch, at: int | None = None, begin: int = 0) -> Keys:
    """Return keys that sound as *keys* do from the tick *at* on, where that comes at *begin*, and nothing of before.

    What is held then is struck at *begin*: held on where its key is still down, let go at once where a latch alone
    keeps it. *at*: None for after all that hands did.
    """
    last = max((event.tick for event in _events(keys)), default=0)
    at = last if at is None else at
    hands = _Hands()
    for events in _blocks([event for event in _events(keys) if event.tick <= at]):
        hands = _reckoned(hands, events, latch).after
    moved = begin - at

    def later(tick: int | None) -> int | None:
        return None if tick is None else max(begin, tick + moved)

    held = []
    for number, note in hands.pool:
        end = later(keys.held[number].end) if number in hands.down else begin
        held.append(HeldKey(start=begin, end=end, key=note.pitch, velocity=note.velocity))
    held += [
        one.model_copy(update={"start": one.start + moved, "end": later(one.end)})
        for one in keys.held
        if one.start > at
    ]
    pedals = [
        Sustain(start=max(begin, start + moved), end=later(end))
        for start, end in _joined(keys.sustained)
        if end is None or end > at
    ]
    return Keys(
        held=tuple(held),
        sustained=tuple(pedals),
        let_go=tuple(tick + moved for tick in keys.let_go if tick > at),
    )


def _events(keys: Keys) -> list[_Event]:
    """Return all that hands did, in the order of time."""
    pedals = _joined(keys.sustained)
    ups = [start for start, _ in pedals]
    events = [_Event(tick, _LET_GO) for tick in keys.let_go]
    for number, one in enumerate(keys.held):
        free = one.end
        if one.end is not None and (place := bisect_right(ups, one.end) - 1) >= 0:
            up = pedals[place][1]
            free = up if up is None or one.end < up else one.end
        stays = free is None or free > one.start
        events.append(_Event(one.start, _STRUCK, number, PoolNote(one.key, one.velocity), stays))
        if free is not None and stays:
            events.append(_Event(free, _FREE, number))
    return sorted(events)


def _blocks(events: list[_Event]) -> Iterator[tuple[_Event, ...]]:
    """Yield *events* in blocks: what happens at one tick is never parted."""
    first = 0
    while first < len(events):
        end = first + _BLOCK
        while end < len(events) and events[end].tick == events[end - 1].tick:
            end += 1
        yield tuple(events[first:end])
        first = end


def _joined(sustained: Sequence[Sustain]) -> list[tuple[int, int | None]]:
    """Return when the pedal was down, from and to, ascending; none of these touches another."""
    rows: list[tuple[int, int | None]] = []
    for pedal in sorted(sustained, key=lambda one: one.start):
        if rows and (rows[-1][1] is None or pedal.start <= rows[-1][1]):
            start, end = rows[-1]
            rows[-1] = start, None if end is None or pedal.end is None else max(end, pedal.end)
        elif pedal.end is None or pedal.end > pedal.start:
            rows.append((pedal.start, pedal.end))
    return rows


# Remembered, so that one more key costs a block of keys and not all that were played before it.
@cached(24 * MEGABYTE)
def _reckoned(hands: _Hands, events: tuple[_Event, ...], latch: Latch) -> _Reckoned:
    down, pool = set(hands.down), dict(hands.pool)
    changes: list[int] = []
    pools: list[tuple[PoolNote, ...]] = []
    begins: list[int] = []
    last = tuple(pool.values())
    for tick, together in groupby(events, itemgetter(0)):
        is_first = True
        for event in together:
            if event.kind == _FREE:
                down.discard(event.number)
                if latch == "off":
                    pool.pop(event.number, None)
            elif event.kind == _LET_GO:
                pool = {number: note for number, note in pool.items() if number in down}
            else:
                if is_first and not down:
                    begins.append(tick)
                    pool = {} if latch == "replace" else pool
                is_first = False
                if event.stays:
                    down.add(event.number)
                if event.stays or latch != "off":
                    pool[event.number] = event.note
                if len(pool) > MOST_AT_ONCE:
                    del pool[next(iter(pool))]
        now = tuple(pool.values())
        if now != last:
            changes.append(tick)
            pools.append(now)
            last = now
    return _Reckoned(
        tuple(changes), tuple(pools), tuple(begins), _Hands(frozenset(down), tuple(pool.items()))
    )
