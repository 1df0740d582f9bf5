"""Candidates: patterns near one, each a function of its number."""

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from lattice.around.measured import Measured, measured
from lattice.around.ways import WAYS, Fields, Luck, Subject, Way, WayName
from lattice.document.piece import Score
from lattice.document.problems import DocumentError
from lattice.document.source import Made
from lattice.luck.draws import PLACES, Purpose, draws
from lattice.steps.source_hits import source_hits

__all__ = ["MAX_CANDIDATES", "Candidate", "Candidates", "candidate", "candidates"]

MAX_CANDIDATES = 1000
_LOOKED_AT = (
    64,
    4,
)  # so many are tried at most, and so many for each that is asked for, however few are within the limits
_MAX_MADE = 8_000  # lanes made from others, in all candidates: each is worked out by itself
Changes = dict[str, Fields]


class Candidate(NamedTuple):
    """A pattern beside another: its *number*, the fields that make it by lane id, and its measures.

    *hits_a_bar*; *syncopation* and *evenness*: 0-1; *distance*: hits a bar that moved, came or went.
    """

    number: int
    changes: Changes
    hits_a_bar: float
    syncopation: float
    evenness: float
    distance: float


class Candidates(NamedTuple):
    """What was *found*, of how many *looked_at*; how many were left out because they had too few or too many hits,
    or were heard already. *start*: the measures of the pattern itself. *nearest*: the hits a bar, outside the limits,
    that are nearest to them; None if none was left out for its hits."""

    found: list[Candidate]
    start: Candidate
    looked_at: int
    too_few: int
    too_many: int
    heard_already: int
    nearest: float | None


def candidate(score: Score, distance: int, ways: Sequence[WayName], throw: int, number: int) -> Changes:
    """Return the fields, by lane id, that make candidate *number*, from 0, of those that `candidates` looks at.

    Raises DocumentError as that does.
    """
    subjects = _subjects(score)
    return _changes(subjects, _ways_of(subjects, ways, distance), distance, throw, number, 1)[0]


def candidates(
    score: Score,
    count: int,
    distance: int,
    ways: Sequence[WayName],
    throw: int,
    least: float = 0,
    most: float = float("inf"),
) -> Candidates:
    """Return up to *count* patterns near *score*, of *least* to *most* hits a bar, no two of which are heard as one.

    Each has a target of its own, 1 to *distance* %, and goes for every lane that is free (neither anchored, nor made
    from another, nor played by a clip) one of the *ways* that fit it. Candidate i is the same whatever the limits and
    however many are asked for; dice have no part in it.
    Raises DocumentError if nothing can change, the limits exclude everything, or it would take too long.
    """
    if not 1 <= count <= MAX_CANDIDATES:
        raise DocumentError.of("count", f"ask for 1 to {MAX_CANDIDATES:,} at once, got {count:,}")
    if least > most:
        message = f"the least hits a bar ({least:g}) are more than the most ({most:g})"
        raise DocumentError.of("least", message)
    made = sum(isinstance(lane.source, Made) for lane in score.lanes)
    if count * made > _MAX_MADE:
        message = (
            f"{made} lanes are made from others, which takes its time: ask for at most {_MAX_MADE // made:,}"
        )
        raise DocumentError.of("count", message)
    subjects = _subjects(score)
    fitting = _ways_of(subjects, ways, distance)
    own = measured(score, [{}])
    start = _candidate(-1, {}, own, 0)
    found: list[Candidate] = []
    known = {own.heard[0]}
    looked_at = too_few = too_many = heard_already = 0
    nearest: list[tuple[float, float]] = []
    furthest = _LOOKED_AT[0] + _LOOKED_AT[1] * count
    while len(found) < count and looked_at < furthest:
        batch = min(furthest - looked_at, max(16, (count - len(found)) * 5 // 4))
        changes = _changes(subjects, fitting, distance, throw, looked_at, batch)
        measures = measured(score, changes)
        for at, change in enumerate(changes):
            if len(found) == count:
                break
            number, hits = looked_at, float(measures.hits_a_bar[at])
            looked_at += 1
            if measures.heard[at] in known:
                heard_already += 1
                continue
            known.add(measures.heard[at])
            if least <= hits <= most:
                found.append(_candidate(number, change, measures, at))
            else:
                too_few += hits < least
                too_many += hits > most
                nearest.append((max(least - hits, hits - most), hits))
    return Candidates(
        found, start, looked_at, too_few, too_many, heard_already, min(nearest)[1] if nearest else None
    )


def _candidate(number: int, changes: Changes, measures: Measured, at: int) -> Candidate:
    return Candidate(
        number,
        changes,
        *(
            float(column[at])
            for column in (measures.hits_a_bar, measures.syncopation, measures.evenness, measures.distance)
        ),
    )


def _subjects(score: Score) -> list[Subject]:
    free = [
        lane
        for lane in score.lanes
        if not lane.anchored and not isinstance(lane.source, Made) and lane.clip is None
    ]
    if not score.lanes:
        raise DocumentError.of("lanes", "there is nothing to look around from: add a lane first")
    if not free:
        message = "every lane is anchored, made from another or played by a clip: free one of them first"
        raise DocumentError.of("lanes", message)
    steps = {lane.id: lane.source.steps for lane in free if not isinstance(lane.source, Made)}
    return [
        Subject(
            lane,
            source_hits(lane.source, lane.id),
            steps[lane.id],
            tuple(
                other
                for other in free
                if other.id != lane.id and steps[other.id] == steps[lane.id] and other.source != lane.source
            ),
        )
        for lane in free
    ]


def _ways_of(subjects: Sequence[Subject], ways: Sequence[WayName], distance: int) -> list[list[Way]]:
    """Return the ways that each lane may go."""
    if not 1 <= distance <= 100:
        raise DocumentError.of("distance", f"the distance is 1 to 100 %, got {distance}")
    chosen = [way for name, way in WAYS.items() if name in ways]
    if not chosen:
        raise DocumentError.of("ways", "no way is chosen: choose at least one")
    fitting = [[way for way in chosen if way.fits(subject)] for subject in subjects]
    if not any(fitting):
        message = f"no free lane can go {' or '.join(way.name for way in chosen)}: choose another way as well"
        raise DocumentError.of("ways", message)
    return fitting


def _changes(
    subjects: Sequence[Subject],
    ways: Sequence[Sequence[Way]],
    distance: int,
    throw: int,
    first: int,
    count: int,
) -> list[Changes]:
    """Return what candidates *first*, *first* + 1 ... change."""
    targets = [Luck(row).up_to(distance) for row in _drawn(throw, "", first, count)]
    lucks = [_drawn(throw, subject.lane.id, first, count) for subject in subjects]
    result: list[Changes] = []
    for at, target in enumerate(targets):
        changes: Changes = {}
        for subject, fitting, rows in zip(subjects, ways, lucks, strict=True):
            if not fitting or subject.lane.id in changes:  # one that a lane before it has changed places with
                continue
            luck = Luck(rows[at])
            peers = tuple(peer for peer in subject.peers if peer.id not in changes)
            here = subject._replace(peers=peers)
            can = [way for way in fitting if way.fits(here)]
            if can:
                changes |= can[luck.among(len(can))].change(here, target, luck)
        result.append(changes)
    return result


def _drawn(throw: int, lane_id: str, first: int, count: int) -> NDArray[np.uint64]:
    numbers = np.broadcast_to(np.arange(first, first + count)[:, None], (count, PLACES))
    places = np.broadcast_to(np.arange(PLACES), (count, PLACES))
    return draws(throw, lane_id, Purpose.CANDIDATE, numbers, places)
