"""Luck that depends on where it is asked for, and on nothing else."""

import hashlib
from enum import IntEnum

import numpy as np
from numpy.typing import NDArray

__all__ = [
    "DEVIATION_DRAWS",
    "DRAW_BITS",
    "PLACES",
    "Purpose",
    "deviations",
    "draws",
    "draws_each",
    "whole_numbers",
]

DRAW_BITS = 53
DEVIATION_DRAWS = 12
PLACES = 256  # room for one draw at each place of the longest cycle: 128 steps there and back
_WORDS_PER_BLOCK = 4
_BLOCKS_PER_CYCLE = PLACES // _WORDS_PER_BLOCK
_BLOCKS_AT_ONCE = 4096 * _BLOCKS_PER_CYCLE  # bounds the memory that a very long window takes to 8 MB


class Purpose(IntEnum):
    """What a draw is for. The numbers are part of what was heard: never change or reuse one."""

    CHANCE = 0
    THROW = 1  # with the throw's number in place of the dice
    ORDER = 2  # which step a lucky direction plays
    MOVE_FROM = 3  # which hits a throw moves; with its number in place of the dice
    MOVE_TO = 4  # and to which steps
    STRIP_ORDER = 5  # which of its values a strip of lucky direction reads
    SPREAD = 6  # how far a value strays
    LINK = 7  # whether linked steps sound
    DEVIATION_IN_TIME = 8
    DEVIATION_IN_VELOCITY = 9
    BURST = 10  # whether a burst sounds
    THROW_STRIP = 11  # the values of a strip; with the number of a throw in place of the dice
    # Of a clip's notes, by their place in it; with the number of a throw in place of the dice.
    NOTE_IN_TIME = 12
    NOTE_IN_VELOCITY = 13
    SCATTER_FROM = 14
    SCATTER_TO = 15
    NOTE_ORDER = 16  # how an arpeggio's notes are shuffled
    NOTE_OF_POOL = 17  # which of them a hit plays at random
    CONTOUR = 18  # a thrown or wandering row of pitches; with the number of a throw in place of the dice

    CANDIDATE = 19  # how far a candidate goes, and which way each lane; with the number of a throw in place of the dice

    def of(self, which: int) -> int:
        """Return the purpose for one of several things in the lane that need luck of their own, by its number."""
        return self + (which << 8)


def draws(
    dice: int, lane_id: str, purpose: int, cycles: NDArray[np.int64], places: NDArray[np.int64]
) -> NDArray[np.uint64]:
    """Return one draw for each (cycle, place): whole numbers, uniform in 0 ... 2**53 - 1.

    *purpose*: a Purpose, or one `of` several. *cycles*: running cycle numbers since the start, from 0. *places*: place
    in the cycle as played, 0-255, of the same shape. Each draw is a pure function of (dice, lane, purpose, cycle,
    place): the top 53 bits of a raw word of numpy's Philox 4x64-10 (Salmon et al., "Parallel Random Numbers: As Easy
    as 1, 2, 3", 2011), keyed by SHA-256 of dice and lane, with purpose, cycle and place as the counter.
    """
    return draws_each(dice, lane_id, purpose, cycles, places, 1)[..., 0]


def draws_each(
    dice: int, lane_id: str, purpose: int, cycles: NDArray[np.int64], places: NDArray[np.int64], count: int
) -> NDArray[np.uint64]:
    """Return *count* draws for each (cycle, place), along a last axis: as `draws`, with a counter so much wider.

    One purpose always asks for the same count.
    """
    result = np.empty((*cycles.shape, count), np.uint64)
    if not cycles.size:
        return result
    key = int.from_bytes(hashlib.sha256(f"{dice}:{lane_id}".encode()).digest()[:16], "little")
    at_once = _BLOCKS_AT_ONCE // (_BLOCKS_PER_CYCLE * count)
    low, end = int(cycles.min()), int(cycles.max()) + 1
    if end - low <= min(at_once, cycles.size):  # nearly always: one stretch without large gaps
        words = _words(key, purpose, low * count, (end - low) * count).reshape(-1, count)
        result[...] = words[(cycles - low) * PLACES + places]
        return result >> np.uint64(64 - DRAW_BITS)
    for low, high in _stretches(cycles, at_once):
        here = (cycles >= low) & (cycles < high)
        words = _words(key, purpose, low * count, (high - low) * count).reshape(-1, count)
        result[here] = words[(cycles[here] - low) * PLACES + places[here]]
    return result >> np.uint64(64 - DRAW_BITS)


def deviations(drawn: NDArray[np.uint64]) -> NDArray[np.int64]:
    """Return by how many spreads something strays, in 1/2**53, for rows of DEVIATION_DRAWS draws.

    Twelve uniform draws less six: normally distributed, cut to two either way.

    >>> deviations(np.full((1, 12), 2**52, np.uint64)).tolist()
    [0]
    """
    cut = 2 << DRAW_BITS
    result: NDArray[np.int64] = np.clip(drawn.astype(np.int64).sum(axis=-1) - (6 << DRAW_BITS), -cut, cut)
    return result


def whole_numbers(drawn: NDArray[np.uint64], low: int, high: int) -> NDArray[np.int64]:
    """Return draws as whole numbers from *low* to *high*, each as likely; `high - low` below 2,000.

    >>> whole_numbers(np.array([0, 2**52, 2**53 - 1], np.uint64), -1, 1).tolist()
    [-1, 0, 1]
    """
    # floor(draw x count / 2**53): 2,000 x 2**53 fits into 64 bits.
    picked = (drawn * np.uint64(high - low + 1)) >> np.uint64(DRAW_BITS)
    return picked.astype(np.int64) + low


def _stretches(cycles: NDArray[np.int64], at_once: int) -> list[tuple[int, int]]:
    """Return the stretches of cycles, first and end, that hold all of *cycles*, none longer than is made *at_once*."""
    known = np.unique(cycles)
    firsts = known[np.diff(known, prepend=known[0] - 2) > 1].tolist()
    ends = (known[np.diff(known, append=known[-1] + 2) > 1] + 1).tolist()
    return [
        (low, min(low + at_once, end))
        for first, end in zip(firsts, ends, strict=True)
        for low in range(first, end, at_once)
    ]


def _words(key: int, purpose: int, first_cycle: int, cycles: int) -> NDArray[np.uint64]:
    # numpy counts on before it makes a block, so the counter starts one below the block that is wanted.
    block = (purpose << 128) + first_cycle * _BLOCKS_PER_CYCLE
    philox = np.random.Philox(key=key, counter=(block - 1) % 2**256)
    return philox.random_raw(cycles * PLACES)
