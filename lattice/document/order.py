"""The running order of a piece: rows of patterns."""

from typing import Annotated

from pydantic import Field

from lattice.document.base import Document, Id, Row
from lattice.document.scale import Scale
from lattice.document.timing import MAX_BARS_OF_A_PATTERN

__all__ = [
    "MAX_BARS_OF_AN_ORDER",
    "MAX_BARS_OF_A_ROW",
    "MAX_REPEATS",
    "MAX_ROWS",
    "OrderRow",
    "PlacedRow",
    "RowPace",
]

MAX_ROWS = 500
MAX_REPEATS = 999
MAX_BARS_OF_AN_ORDER = 20_000
MAX_BARS_OF_A_ROW = MAX_BARS_OF_AN_ORDER


class RowPace(Document):
    """How many times as fast: *times* / *over*. 2 over 3 is two thirds of the pace: all takes half as long again."""

    times: Annotated[int, Field(ge=1, le=16)] = 1
    over: Annotated[int, Field(ge=1, le=16)] = 1


class OrderRow(Document):
    """A *pattern* by its id, *repeats* times. What is plain is as the pattern has it.

    *bars*: the length of one repeat. *degrees_up*, *semitones_up*: all that is melodic higher, before the scale and
    after it. *mutes*: the ids of lanes that are silent.
    """

    pattern: Id
    repeats: Annotated[int, Field(ge=1, le=MAX_REPEATS)] = 1
    bars: Annotated[int | None, Field(ge=1, le=MAX_BARS_OF_A_PATTERN, description="none: the pattern's")] = (
        None
    )
    degrees_up: Annotated[int, Field(ge=-28, le=28)] = 0
    semitones_up: Annotated[int, Field(ge=-48, le=48)] = 0
    scale: Annotated[Scale | None, Field(description="none: the pattern's, or the piece's")] = None
    pace: RowPace = RowPace()
    mutes: Annotated[Row[Id], Field(max_length=64)] = ()


class PlacedRow(Document):
    """A *row* at its *place*, from 0, in a running order."""

    row: OrderRow
    place: Annotated[int, Field(ge=0, lt=MAX_ROWS)]
