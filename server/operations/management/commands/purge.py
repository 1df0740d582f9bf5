"""Remove for good what was deleted long ago."""

from typing import Any

from accounts.attempts import forget_old_attempts
from accounts.stored import deleted_accounts, deleted_long_ago
from django.core.management import call_command
from django.core.management.base import BaseCommand


class Command(BaseCommand):
    """To be run once a day. Running it twice removes nothing more."""

    help = "Remove what was deleted so long ago that it cannot be brought back, and sign-ins that have ended."

    def handle(self, *args: Any, **options: Any) -> None:
        """Remove it, and say how much of what."""
        for rows in (deleted_accounts(), *deleted_long_ago()):
            number, _ = rows.delete()
            if number:
                self.stdout.write(f"Removed {rows.model._meta.verbose_name_plural}: {number:,} rows in all")
        forget_old_attempts()
        call_command("clearsessions")
