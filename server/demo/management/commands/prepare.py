"""Bring the database up to date, and the demo into it."""

from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand

from demo.services import demo_musician


class Command(BaseCommand):
    """What has to be done before the server is started."""

    help = "Migrate the database, and make the demo if it is asked for."

    def handle(self, *args: Any, **options: Any) -> None:
        """Do all of it; doing it again changes nothing."""
        call_command("migrate", interactive=False, verbosity=0)
        if settings.DEMO:
            demo_musician()
