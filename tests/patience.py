"""No answer depends on how fast a machine is: nothing that is tested is hurried, and what never comes is missed late."""

import pytest
from config import middleware
from django.conf import settings

__all__ = ["PATIENCE_MS", "django_db_modify_db_settings"]

PATIENCE_MS = 120_000
middleware.SECONDS = PATIENCE_MS // 1000


@pytest.fixture(scope="session")
def django_db_modify_db_settings(django_db_modify_db_settings_parallel_suffix: None) -> None:
    """No statement is hurried either."""
    settings.DATABASES["default"]["OPTIONS"] |= {
        "options": f"-c statement_timeout={PATIENCE_MS}",
        "connect_timeout": PATIENCE_MS // 1000,
    }
