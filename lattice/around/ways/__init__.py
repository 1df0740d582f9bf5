"""The ways from a lane to one beside it, a module each."""

from lattice.around.ways.accents import ACCENTS
from lattice.around.ways.beside import BESIDE
from lattice.around.ways.busy import BUSY
from lattice.around.ways.count import COUNT
from lattice.around.ways.exchange import EXCHANGE
from lattice.around.ways.throw import THROW
from lattice.around.ways.turn import TURN
from lattice.around.ways.way import Fields, Luck, Subject, Way
from lattice.document.detour import WAY_NAMES, WayName

__all__ = ["WAYS", "WAY_NAMES", "Fields", "Luck", "Subject", "Way", "WayName"]

# In the order in which luck chooses among them: part of what a throw means.
WAYS: dict[str, Way] = {way.name: way for way in (BESIDE, THROW, BUSY, TURN, COUNT, EXCHANGE, ACCENTS)}
