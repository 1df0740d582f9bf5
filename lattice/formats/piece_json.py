"""The piece as JSON: written, read with a clear refusal, and its published JSON Schema."""

import json
from typing import Any

from pydantic import BaseModel

from lattice.document.controllers import BEND, CONTROLLERS, controller_name, neutral
from lattice.document.lane import Lane
from lattice.document.movement import CONTROLS, PATTERN_CONTROLS, MovementControl, control_limits
from lattice.document.piece import Piece, Score
from lattice.document.problems import DocumentError, read
from lattice.formats.upgrade import upgraded
from lattice.sentence import say_value, step_rates

__all__ = ["MAX_PIECE_BYTES", "controls", "piece_json", "piece_schema", "plain_values", "read_piece"]

MAX_PIECE_BYTES = 8 * 2**20


def piece_json(piece: Piece) -> bytes:
    """Return *piece* as JSON text in UTF-8, to be read by people too."""
    return (json.dumps(piece.model_dump(mode="json"), ensure_ascii=False, indent=1) + "\n").encode()


def read_piece(data: bytes) -> Piece:
    """Return the piece that *data*, a JSON text, holds. Raises DocumentError naming line, or lane and field."""
    if len(data) > MAX_PIECE_BYTES:
        raise DocumentError.of("", f"a piece has at most {MAX_PIECE_BYTES // 2**20} MB")
    try:
        document = json.loads(data.decode("utf-8-sig"), parse_constant=_refuse_constant)
    except UnicodeDecodeError as problem:
        raise DocumentError.of("", f"it is no text in UTF-8: byte {problem.start + 1}") from None
    except json.JSONDecodeError as problem:
        where = f"line {problem.lineno}, column {problem.colno}"
        raise DocumentError.of(where, f"it is no JSON: {problem.msg.lower()}") from None
    except (RecursionError, ValueError) as problem:
        raise DocumentError.of("", f"it cannot be read: {problem}") from None
    return read(Piece, upgraded(document))


def piece_schema() -> dict[str, Any]:
    """Return the JSON Schema (2020-12) of a piece. What spans several fields is checked beyond it."""
    schema = Piece.model_json_schema(mode="validation")
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Jolly Lattice piece",
        **{key: value for key, value in schema.items() if key != "title"},
    }


def plain_values() -> dict[str, Any]:
    """Return the value that each setting of a lane has while nothing is said of it, as JSON holds it."""
    fields = {name: field for name, field in Lane.model_fields.items() if not field.is_required()}
    plain = Lane.model_construct(**{name: field.get_default() for name, field in fields.items()})
    return plain.model_dump(mode="json", include=set(fields))


def controls() -> dict[str, Any]:
    """Return what can be moved while it plays, of a lane and of a pattern: what it is called, and between what it goes.

    *options*: of what is no number, from low to high. *names*, *neutral*: of MIDI controllers, what the built-in sounds
    answer to, and the values that change nothing where those are not 0.
    """
    return {
        "lane": [_control(one, Lane) for one in CONTROLS.values()],
        "pattern": [_control(one, Score) for one in PATTERN_CONTROLS.values()],
        "names": {str(number): controller_name(number) for number in CONTROLLERS},
        "neutral": {str(number): value for number in range(BEND + 1) if (value := neutral(number))},
    }


def _control(control: MovementControl, whole: type[BaseModel]) -> dict[str, Any]:
    options: list[Any] = list(control.words)
    if control.is_step_value:
        options = [rate.model_dump(mode="json") for rate in step_rates()]
    low, high = (0, len(options) - 1) if options else control_limits(control, whole)
    return {
        "field": control.field, "name": control.name, "unit": control.unit, "low": low, "high": high,
        "options": [{"value": value, "says": say_value(said, control.field)} for value, said in
                    zip(options, step_rates() if control.is_step_value else options, strict=True)],
    }  # fmt: skip


def _refuse_constant(name: str) -> None:
    raise ValueError(f"{name} is no number")
