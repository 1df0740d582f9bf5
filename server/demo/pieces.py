"""The demo's pieces: music for the night crossing of a harbour ferry."""

from demo.lantern_quay import LANTERN_QUAY
from demo.night_ferry import NIGHT_FERRY
from demo.slack_water import SLACK_WATER

__all__ = ["LANTERN_QUAY", "NIGHT_FERRY", "PIECES", "SLACK_WATER"]

PIECES = (SLACK_WATER, LANTERN_QUAY, NIGHT_FERRY)  # the last one made lies first on the shelf
