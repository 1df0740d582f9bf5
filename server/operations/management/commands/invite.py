"""Invite somebody from the command line: the first one, above all."""

from typing import Any

from accounts.invitations import DAYS, invite
from django.core.management.base import BaseCommand, CommandParser


class Command(BaseCommand):
    """Prints a link that one person makes an account with."""

    help = "Print a link that lets one person make an account."

    def add_arguments(self, parser: CommandParser) -> None:
        """Whom it is for, how long it holds, and where they find us."""
        parser.add_argument("--note", default="", help="whom it is for")
        parser.add_argument("--days", type=int, default=DAYS, help=f"how long it holds ({DAYS})")
        parser.add_argument("--address", default="http://127.0.0.1:8020/", help="where they find us")

    def handle(self, *args: Any, **options: Any) -> None:
        """Print it."""
        _, secret = invite(note=options["note"], days=options["days"])
        self.stdout.write(f"{options['address'].rstrip('/')}/account/welcome/{secret}")
