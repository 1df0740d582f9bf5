"""The demo musician with all that is theirs, for tests that need it and do not ask how it is made."""

from accounts.models import User
from clips.models import Clip, ClipMoment
from demo.services import DEMO_NAME, demo_musician
from django.db import connection
from pieces.models import Moment, Piece
from takes.models import Take, TakeSheet

__all__ = ["KeptDemo"]


class KeptDemo:
    """The demo musician with all that is theirs, made once: row by row as the database holds it.

    *tempo*: of all pieces, in quarters a minute; None: each has its own.
    """

    def __init__(self, tempo: int | None = None) -> None:
        self.tempo = tempo
        self.rows: list[tuple[str, bytes]] = []
        self.pieces: dict[str, int] = {}

    def lay_down(self) -> User:
        """Put it into a database in which it is not."""
        if not self.rows:
            user = demo_musician()
            if self.tempo is not None:
                for one in (*Piece.objects.all(), *Moment.objects.exclude(document=None)):
                    one.document = one.document | {"tempo": self.tempo}
                    one.save(update_fields=["document"])
            self._remember()
            return user
        with connection.cursor() as cursor:
            for table, rows in self.rows:
                with cursor.copy(f'COPY "{table}" {self._columns(table)} FROM STDIN') as copy:
                    copy.write(rows)
                cursor.execute(
                    f"SELECT setval(pg_get_serial_sequence('{table}', 'id'), (SELECT max(id) FROM \"{table}\"))"
                )
        return User.objects.get(username=DEMO_NAME)

    def _columns(self, table: str) -> str:
        """Return the columns that are stored; generated ones make themselves."""
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT column_name FROM information_schema.columns WHERE table_name = %s"
                " AND is_generated = 'NEVER' ORDER BY ordinal_position",
                [table],
            )
            return "(" + ", ".join(f'"{name}"' for (name,) in cursor.fetchall()) + ")"

    def _remember(self) -> None:
        # In the order in which one needs the other.
        models = (User, Piece, Moment, Clip, ClipMoment, TakeSheet, Take)
        with connection.cursor() as cursor:
            for table in (model._meta.db_table for model in models):
                with cursor.copy(
                    f'COPY (SELECT {self._columns(table)[1:-1]} FROM "{table}") TO STDOUT'
                ) as copy:
                    rows = b"".join(bytes(part) for part in copy)
                if rows:
                    self.rows.append((table, rows))
        self.pieces = {str(piece.name): piece.pk for piece in Piece.objects.all()}
