"""Searches in the browser have its fixtures."""

pytest_plugins = ["tests.browser.conftest"]
