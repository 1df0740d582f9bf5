"""Bring the database up to date, and the demo into it."""

from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import connections

from demo.services import demo_musician


class Command(BaseCommand):
    """What has to be done before the server is started."""

    help = "Create the database if it is new, migrate it, and make the demo if it is asked for."

    def handle(self, *args: Any, **options: Any) -> None:
        """Do all of it; doing it again changes nothing."""
        self._create_database()
        call_command("migrate", interactive=False, verbosity=0)
        if settings.DEMO:
            demo_musician()

    def _create_database(self) -> None:
        name = connections["default"].settings_dict["NAME"]
        connection = connections["default"].copy()
        connection.settings_dict = {**connection.settings_dict, "NAME": "postgres"}
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1 FROM pg_database WHERE datname = %s", [name])
            if cursor.fetchone() is None:
                cursor.execute(f"CREATE DATABASE {connection.ops.quote_name(name)}")
        connection.close()
