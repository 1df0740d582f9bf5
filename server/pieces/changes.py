"""What an edit changed of a piece, as JSON Patch says it (RFC 6902): saving sends that, and not the whole piece."""

from collections.abc import Sequence
from typing import Annotated, Any, Literal

import jsonpatch
from config.bodies import Body
from jsonpointer import JsonPointerException
from pydantic import Field, JsonValue, StringConstraints

from lattice.document import DocumentError, Piece, read

__all__ = ["MAX_OPERATIONS", "Operation", "Operations", "changed"]

MAX_OPERATIONS = 2_000  # the page sends the whole document where it would be more than a few hundred


class Operation(Body):
    """One operation. Those that would make much of little, copying and moving, are not taken."""

    op: Literal["add", "remove", "replace"]
    path: Annotated[str, StringConstraints(max_length=400)]
    value: JsonValue = None

    def plain(self) -> dict[str, Any]:
        """Return it as JSON Patch writes it."""
        said: dict[str, Any] = {"op": self.op, "path": self.path}
        return said if self.op == "remove" else said | {"value": self.value}


Operations = Annotated[list[Operation], Field(max_length=MAX_OPERATIONS)]


def changed(piece: Piece, operations: Sequence[Operation]) -> Piece:
    """Return *piece* after *operations*. Raises DocumentError where they do not fit it, or make no piece."""
    if not operations:
        return piece
    document = piece.model_dump(mode="json")
    for operation in operations:
        try:
            document = jsonpatch.apply_patch(document, [operation.plain()], in_place=True)
        except (
            jsonpatch.JsonPatchException,
            JsonPointerException,
            TypeError,
            KeyError,
            ValueError,
        ) as reason:
            said = f"cannot {operation.op} what is at “{operation.path}”: {reason}"
            raise DocumentError.of("changes", said) from None
    return read(Piece, document)
