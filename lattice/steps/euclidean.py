"""Hits spread as evenly as possible over a cycle."""

__all__ = ["euclidean"]


def euclidean(hits: int, steps: int) -> tuple[int, ...]:
    """Return the 0-based steps on which *hits* of *steps* fall, beginning on a hit.

    Raises ValueError unless 0 <= hits <= steps and steps >= 1.
    Source: Bjorklund's algorithm as published by Toussaint, "The Euclidean Algorithm Generates
    Traditional Musical Rhythms" (2005). Groups are dealt together until at most one remainder group
    is left; the rests are always dealt out at least once, so (3, 4) is `x.xx`.

    >>> euclidean(3, 8)
    (0, 3, 6)
    >>> euclidean(5, 6)
    (0, 2, 3, 4, 5)
    """
    if not 0 <= hits <= steps or steps < 1:
        raise ValueError(f"need 0 <= hits <= steps and at least one step, got {hits=}, {steps=}")
    if hits in (0, steps):
        return tuple(range(hits))

    # Two kinds of group are left at any time, `head` and `tail`, as in the paper's columns.
    head, heads = [True], hits
    tail, tails = [False], steps - hits
    while True:
        pairs = min(heads, tails)
        paired, left_over = head + tail, (head if heads > tails else tail)
        heads, tails = pairs, abs(heads - tails)
        head, tail = paired, left_over
        if tails <= 1:
            break
    row = head * heads + tail * tails
    return tuple(step for step, is_hit in enumerate(row) if is_hit)
