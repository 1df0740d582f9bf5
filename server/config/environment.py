"""What differs from machine to machine, as the environment says it: README.md and docs/operations.md name it all."""

import os

__all__ = ["flag", "names", "number", "one_of", "text"]

# What was said and could not be understood; `config.checks` says so, and nothing starts.
misunderstood: list[str] = []


def text(name: str, default: str = "") -> str:
    """Return what JOLLY_*name* says; *default* if it says nothing."""
    return os.environ.get(f"JOLLY_{name}", "").strip() or default


def flag(name: str, default: bool = False) -> bool:
    """Return whether JOLLY_*name* is 1."""
    said = text(name, "1" if default else "0")
    if said not in ("0", "1"):
        misunderstood.append(f"JOLLY_{name} is 1 or 0, not “{said}”.")
    return said == "1"


def one_of(name: str, *offered: str) -> str:
    """Return which of *offered* JOLLY_*name* says; the first if it says nothing."""
    said = text(name, offered[0])
    if said in offered:
        return said
    misunderstood.append(f"JOLLY_{name} is {' or '.join(offered)}, not “{said}”.")
    return offered[0]


def number(name: str, default: int, least: int = 0) -> int:
    """Return the whole number that JOLLY_*name* says."""
    said = text(name, str(default))
    if not said.isdecimal() or int(said) < least:
        misunderstood.append(f"JOLLY_{name} is a whole number from {least} on, not “{said}”.")
        return default
    return int(said)


def names(name: str) -> list[str]:
    """Return the names that JOLLY_*name* lists, separated by commas."""
    return [one.strip() for one in text(name).split(",") if one.strip()]
