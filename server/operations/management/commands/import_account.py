"""Store what such a zip holds as a musician's, however long it takes."""

from pathlib import Path

from accounts.models import User

from operations.bundle import read_bundle
from operations.of_musician import OfMusician


class Command(OfMusician):
    """See the help."""

    help = "Store what an export holds as a musician's, beside what is there."

    def act(self, user: User, path: Path) -> None:
        """Store it, and say how much of each kind."""
        with path.open("rb") as file:
            stored = read_bundle(user, file)
        for kind, number in stored.items():
            self.stdout.write(f"{number:,} {kind}")
