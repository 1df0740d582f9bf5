"""What commands about one musician and a file have in common."""

from abc import abstractmethod
from pathlib import Path
from typing import Any

from accounts.models import User
from django.core.management.base import BaseCommand, CommandError, CommandParser

from lattice.document import DocumentError

__all__ = ["OfMusician"]


class OfMusician(BaseCommand):
    """The same as on the account's page, without a time limit."""

    def add_arguments(self, parser: CommandParser) -> None:
        """Whose, and the file."""
        parser.add_argument("name", help="the musician's name")
        parser.add_argument("file", type=Path, help="the zip")

    def handle(self, *args: Any, **options: Any) -> None:
        """Do it, or say in a sentence why not."""
        user = User.objects.filter(username=options["name"]).first()
        if user is None:
            raise CommandError(f"There is nobody called “{options['name']}”.")
        try:
            self.act(user, options["file"])
        except (OSError, DocumentError) as problem:
            raise CommandError(str(problem)) from None

    @abstractmethod
    def act(self, user: User, path: Path) -> None:
        """Do it for *user*, with the file at *path*."""
