"""What must be right before the server starts, in plain sentences; where it runs for others: `check --deploy`."""

from typing import Any

from django.conf import settings
from django.core.checks import CheckMessage, Error, Warning, register

from config import environment

__all__ = ["problems"]

_LEAST_SECRET = 32


def problems() -> list[str]:
    """Return what keeps the server from starting: nothing if it may."""
    found = list(environment.misunderstood)
    secret = environment.text("SECRET")
    if not secret:
        found.append(
            "JOLLY_SECRET is not set: it signs cookies and links, and every server of yours needs the same. "
            "Make one with: python -c 'import secrets; print(secrets.token_urlsafe(48))'"
        )
    elif len(secret) < _LEAST_SECRET:
        found.append(f"JOLLY_SECRET is too short: it needs {_LEAST_SECRET} signs at least.")
    if not settings.DATABASES["default"]["PASSWORD"]:
        found.append("JOLLY_DB_PASSWORD is not set: the database asks for one.")
    return found


@register()
def understood(**_of: Any) -> list[CheckMessage]:
    """What was said wrongly is wrong for every command."""
    return [Error(one, id="jolly.E001") for one in environment.misunderstood]


@register(deploy=True)
def for_others(**_of: Any) -> list[CheckMessage]:
    """What is missing where it runs for others."""
    found: list[CheckMessage] = [Error(one, id="jolly.E002") for one in problems()]
    if settings.DEMO:
        found.append(
            Warning(
                "JOLLY_DEMO is 1: anybody comes in as the demo musician, into one account.", id="jolly.W001"
            )
        )
    if not settings.HTTPS:
        found.append(
            Warning(
                "JOLLY_HTTPS is not 1: passwords travel unencrypted beyond this machine.", id="jolly.W002"
            )
        )
    if settings.HTTPS and not settings.PROXIES:
        found.append(
            Warning(
                "JOLLY_PROXIES is 0: all who sign in seem to come from the proxy's address, "
                "and share its limit of attempts.",
                id="jolly.W003",
            )
        )
    if not settings.EMAIL_HOST:
        found.append(
            Warning(
                f"JOLLY_MAIL_HOST is not set: mail is written into {settings.MAIL_FOLDER} and reaches nobody.",
                id="jolly.W004",
            )
        )
    return found
