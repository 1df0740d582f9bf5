"""What is bound on a musician's controllers: read, and put in place of what was."""

from collections.abc import Sequence
from contextlib import suppress

from accounts.models import User

from lattice.document import DocumentError, read
from lattice.document.binding import ControllerTable
from ports.models import Controllers

__all__ = ["bind", "tables_of"]


def tables_of(owner: User) -> list[ControllerTable]:
    """Return the tables of *owner*, one for each controller: one that cannot be read any more hides no other."""
    stored = Controllers.objects.filter(owner=owner).first()
    tables = []
    for table in stored.tables if stored else ():
        with suppress(DocumentError):
            tables.append(read(ControllerTable, table))
    return tables


def bind(owner: User, tables: Sequence[ControllerTable]) -> None:
    """Put *tables* in place of those that *owner* had."""
    Controllers.objects.update_or_create(
        owner=owner, defaults={"tables": [table.model_dump(mode="json") for table in tables]}
    )
