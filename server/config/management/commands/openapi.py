"""Write the API's schema."""

from typing import Any

import orjson
from django.core.management.base import BaseCommand

from config.api import api


class Command(BaseCommand):
    """What the front end's types are made from."""

    help = "Write the API's OpenAPI schema to standard output."

    def handle(self, *args: Any, **options: Any) -> None:
        """Write it, the same way every time."""
        self.stdout.write(schema_text())


def schema_text() -> str:
    """Return the schema as JSON with sorted keys."""
    options = orjson.OPT_INDENT_2 | orjson.OPT_SORT_KEYS | orjson.OPT_NON_STR_KEYS
    return orjson.dumps(api.get_openapi_schema(), option=options).decode()
