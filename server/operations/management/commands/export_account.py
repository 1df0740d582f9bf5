"""Write all that is a musician's into one zip, however long it takes."""

from pathlib import Path

from accounts.models import User

from operations.bundle import write_bundle
from operations.of_musician import OfMusician


class Command(OfMusician):
    """See the help."""

    help = "Write all that is of a musician into one zip."

    def act(self, user: User, path: Path) -> None:
        """Write it."""
        with path.open("wb") as file:
            write_bundle(user, file)
