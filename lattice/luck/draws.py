"""Luck that depends on where it is asked for, and on nothing else."""

import hashlib
from enum import IntEnum

import numpy as np
from numpy.typing import NDArray

__all__ = ["DRAW_BITS", "PLACES", "Purpose", "draws"]

DRAW_BITS = 53
PLACES = 256  # room for one draw at each place of the longest cycle: 128 steps there and back
_WORDS_PER_BLOCK = 4
_BLOCKS_PER_CYCLE = PLACES // _WORDS_PER_BLOCK
_CYCLES_AT_ONCE = 4096  # bounds the memory that a very long window takes to 8 MB


class Purpose(IntEnum):
    """What a draw is for. The numbers are part of what was heard: never change or reuse one."""

    CHANCE = 0
    THROW = 1  # with the throw's number in place of the dice
    ORDER = 2  # which step a lucky direction plays
    MOVE_FROM = 3  # which hits a throw moves; with its number in place of the dice
    MOVE_TO = 4  # and to which steps


def draws(
    dice: int, lane_id: str, purpose: Purpose, cycles: NDArray[np.int64], places: NDArray[np.int64]
) -> NDArray[np.uint64]:
    """Return one draw for each (cycle, place): whole numbers, uniform in 0 ... 2**53 - 1.

    *cycles*: running cycle numbers since the start, from 0. *places*: place in the cycle as played, 0-255, of the same
    shape. Each draw is a pure function of (dice, lane, purpose, cycle, place): the top 53 bits of a raw word of
    numpy's Philox 4x64-10 (Salmon et al., "Parallel Random Numbers: As Easy as 1, 2, 3", 2011), keyed by SHA-256 of
    dice and lane, with purpose, cycle and place as the counter.
    """
    result = np.empty(cycles.shape, np.uint64)
    if not cycles.size:
        return result
    key = int.from_bytes(hashlib.sha256(f"{dice}:{lane_id}".encode()).digest()[:16], "little")
    for low, high in _stretches(cycles):
        here = (cycles >= low) & (cycles < high)
        words = _words(key, purpose, low, high - low)
        result[here] = words[(cycles[here] - low) * PLACES + places[here]]
    return result >> np.uint64(64 - DRAW_BITS)


def _stretches(cycles: NDArray[np.int64]) -> list[tuple[int, int]]:
    """Return the stretches of cycles, first and end, that hold all of *cycles*, none longer than is made at once."""
    known = np.unique(cycles)
    firsts = known[np.diff(known, prepend=known[0] - 2) > 1].tolist()
    ends = (known[np.diff(known, append=known[-1] + 2) > 1] + 1).tolist()
    return [
        (low, min(low + _CYCLES_AT_ONCE, end))
        for first, end in zip(firsts, ends, strict=True)
        for low in range(first, end, _CYCLES_AT_ONCE)
    ]


def _words(key: int, purpose: Purpose, first_cycle: int, cycles: int) -> NDArray[np.uint64]:
    # numpy counts on before it makes a block, so the counter starts one below the block that is wanted.
    block = (purpose << 128) + first_cycle * _BLOCKS_PER_CYCLE
    philox = np.random.Philox(key=key, counter=(block - 1) % 2**256)
    return philox.random_raw(cycles * PLACES)
