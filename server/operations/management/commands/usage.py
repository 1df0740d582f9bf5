"""Say who uses how much."""

from typing import Any

from accounts.models import User
from accounts.stored import use_of
from django.core.management.base import BaseCommand


class Command(BaseCommand):
    """A line for each musician, who uses most first."""

    help = "Print how much is stored of each musician: bytes in all, and rows of each kind."

    def handle(self, *args: Any, **options: Any) -> None:
        """Print it."""
        used = {user: use_of(user) for user in User.objects.order_by("pk")}
        for user in sorted(used, key=lambda one: -sum(use.bytes for use in used[one].values())):
            size = sum(use.bytes for use in used[user].values())
            rows = ", ".join(f"{use.rows:,} {kind}" for kind, use in used[user].items() if use.rows)
            self.stdout.write(f"{size / 2**20:10,.1f} MB  {user.get_username()}: {rows or 'nothing'}")
