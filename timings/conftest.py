"""How figures are taken and told."""

import statistics
import time
from collections.abc import Callable

import pytest

pytest_plugins = ["tests.browser.conftest"]


@pytest.fixture
def is_calm() -> bool:
    return False


@pytest.fixture(scope="session")
def tempo() -> None:
    """Pieces are played as fast as they are written."""


def milliseconds(act: Callable[[], object], times: int = 15) -> float:
    """Return the median time that *act* takes, after one run to warm up."""
    act()
    taken = []
    for _ in range(times):
        start = time.perf_counter()
        act()
        taken.append((time.perf_counter() - start) * 1000)
    return statistics.median(taken)


def tell(what: str, figure: str, aim: str) -> None:
    """Print a figure beside its aim. A miss fails nothing: machines differ, right answers do not."""
    print(f"FIGURE  {what}: {figure}  (aim: {aim})")
