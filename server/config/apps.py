"""What is looked at when Django starts."""

from importlib import import_module

from django.apps import AppConfig


class Config(AppConfig):
    """The server as a whole."""

    name = "config"

    def ready(self) -> None:
        """Have the checks registered."""
        import_module("config.checks")
