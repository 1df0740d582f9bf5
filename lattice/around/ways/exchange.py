"""Two lanes of as many steps exchange their sources."""

from lattice.around.ways.way import Fields, Luck, Subject, Way

__all__ = ["EXCHANGE"]


def _change(subject: Subject, target: int, luck: Luck) -> dict[str, Fields]:
    """Exchange sources with one of its peers, however far that leads."""
    other = subject.peers[luck.among(len(subject.peers))]
    return {subject.lane.id: {"source": other.source}, other.id: {"source": subject.lane.source}}


EXCHANGE = Way("exchange", "Two lanes change places", lambda subject: bool(subject.peers), _change)
